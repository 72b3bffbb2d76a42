#include "app/readings/values_view.hpp"

#include "app/session/theme.hpp"
#include "core/units/amplitude_text.hpp"

#include <QPushButton>

namespace undisona {

ValuesView::ValuesView(Session& session, const QString& name, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = richLabel(qPrintable(name + "Words"), this);
    table_ = new ReadingTable(this);
    table_->setObjectName(name + "Table");
    table_->setAccessibleName(tr("values at places"));
    table_->foldLastColumns();
    table_->cutShort(0, 110);
    drop_ = new QPushButton(tr("Let it go"), this);
    drop_->setObjectName(name + "Drop");
    auto* row = new QHBoxLayout;
    row->setContentsMargins(12, 4, 8, 6);
    row->addWidget(drop_);
    row->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addWidget(table_, 1);
    column->addLayout(row);
    column->addStretch();
    connect(table_, &ReadingTable::keyChosen, this, [this](int key) { chosen_ = key; });
    connect(drop_, &QPushButton::clicked, this, [this] {
        if (chosen_ >= 0) session_.dropValuePlace(static_cast<std::size_t>(chosen_));
    });
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    for (const auto signal : {&Session::valuesMoved, &Session::stressesMoved, &Session::restMoved})
        connect(&session_, signal, this, [this] {
            if (isVisible()) fill();
        });
}

void ValuesView::fill()
{
    if (const auto* rest = session_.restShown(); rest && rest->factor == 0.0) return fillState();
    table_->setHeads({tr("place"), tr("size"), "x", "y", "z", tr("as large as said"), tr("stress")});
    const auto& places = session_.valuePlaces();
    const auto& values = session_.modeValues();
    const Mode* mode = session_.mode();
    words_->setText(
        !mode || values.empty()
            ? tr("With the cursor on a place in the scene Ctrl+Alt+V keeps its value in view, there and here, "
                 "in every mode; once more lets it go.")
            : tr("<b>Mode %1</b>: motion over the largest of any place. What it comes to when the mode moves "
                 "as strongly as part <i>Stress</i> says stands beside it.")
                  .arg(mode->number));
    const auto scale = session_.scaledMode();
    std::vector<std::vector<ReadingTable::Cell>> cells;
    std::vector<int> keys;
    for (std::size_t at = 0; at < values.size(); ++at) {
        const double size = values[at].share.head<3>().norm();
        std::vector<ReadingTable::Cell> line{{places[at].name, {}, {}, false, false, {}}};
        line.push_back({QString::number(size, 'f', 3), size, {}, true, true, {}});
        for (int along = 0; along < 3; ++along)
            line.push_back(
                {QString::number(values[at].share[along], 'f', 3), values[at].share[along], {}, false, true, {}});
        const bool known = scale && *scale;
        const double amplitude = known ? size * (*scale)->displacement : 0.0;
        line.push_back({known ? QString::fromStdString(amplitudeText(amplitude, QuantityKind::length, session_.units()))
                              : QString("–"),
                        amplitude,
                        {},
                        false,
                        true,
                        {}});
        const double stress = known && !session_.restShown() ? values[at].stress * (*scale)->factor : 0.0;
        line.push_back({stress > 0.0
                            ? QString::fromStdString(amplitudeText(stress, QuantityKind::stress, session_.units()))
                            : QString("–"),
                        stress,
                        {},
                        false,
                        true,
                        {}});
        cells.push_back(std::move(line));
        keys.push_back(static_cast<int>(at));
    }
    put(cells, keys);
}

void ValuesView::fillState()
{
    const DisplayUnits units = session_.units();
    table_->setHeads({tr("place"), tr("moves"), tr("stress"), "x", "y", "z"});
    const auto& places = session_.valuePlaces();
    const auto& values = session_.modeValues();
    const QString name = QString::fromStdString(session_.restShown()->state.name).toHtmlEscaped();
    words_->setText(
        values.empty() ? tr("With the cursor on a place in the scene Ctrl+Alt+V keeps in view how far it moves and the "
                            "stress there; once more lets it go.")
                       : tr("<b>State %1</b>: how far each place moves, and the largest equivalent stress of what "
                            "stands there.")
                             .arg(name));
    std::vector<std::vector<ReadingTable::Cell>> cells;
    std::vector<int> keys;
    for (std::size_t at = 0; at < values.size(); ++at) {
        const double moves = values[at].moves.head<3>().norm();
        const auto figure = [&](double si, QuantityKind kind, bool isThere) {
            const QString text = isThere ? QString::fromStdString(amplitudeText(si, kind, units)) : QString("·");
            return ReadingTable::Cell{text, si, isThere ? QColor() : Theme::now().quiet, false, true, {}};
        };
        std::vector<ReadingTable::Cell> line{{places[at].name, {}, {}, false, false, {}}};
        line.push_back(figure(moves, QuantityKind::length, moves > 0.0));
        line.push_back(figure(values[at].stress, QuantityKind::stress, values[at].stress > 0.0));
        for (int along = 0; along < 3; ++along) {
            const double own = values[at].moves[along];
            line.push_back(figure(own, QuantityKind::length, std::abs(own) > 1e-3 * moves)); // else rounding
        }
        cells.push_back(std::move(line));
        keys.push_back(static_cast<int>(at));
    }
    put(cells, keys);
}

void ValuesView::put(const std::vector<std::vector<ReadingTable::Cell>>& cells, const std::vector<int>& keys)
{
    table_->setVisible(!cells.empty());
    drop_->setVisible(!cells.empty());
    chosen_ = std::min(chosen_, static_cast<int>(cells.size()) - 1);
    table_->setRows(cells, keys);
}

} // namespace undisona
