#include "app/readings/values_view.hpp"

#include "core/units/amplitude_text.hpp"

#include <QPushButton>

namespace undisona {

ValuesView::ValuesView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = richLabel("valuesWords", this);
    table_ = new ReadingTable(this);
    table_->setObjectName("valuesTable");
    table_->setAccessibleName(tr("values at places"));
    table_->setHeads({tr("place"), tr("size"), "x", "y", "z", tr("as large as said")});
    table_->foldLastColumns();
    table_->cutShort(0, 110);
    drop_ = new QPushButton(tr("Let it go"), this);
    drop_->setObjectName("dropValue");
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
    for (const auto signal : {&Session::valuesMoved, &Session::stressesMoved})
        connect(&session_, signal, this, [this] {
            if (isVisible()) fill();
        });
}

void ValuesView::fill()
{
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
        cells.push_back(std::move(line));
        keys.push_back(static_cast<int>(at));
    }
    table_->setVisible(!values.empty());
    drop_->setVisible(!values.empty());
    chosen_ = std::min(chosen_, static_cast<int>(values.size()) - 1);
    table_->setRows(cells, keys);
}

} // namespace undisona
