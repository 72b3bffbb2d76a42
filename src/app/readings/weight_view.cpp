#include "app/readings/weight_view.hpp"

#include "core/io/rest_table.hpp"

#include <QCompleter>
#include <QLineEdit>
#include <QPushButton>

namespace undisona {

WeightView::WeightView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = new PageLabel({12, 10, 8, 4}, this);
    words_->setTextFormat(Qt::RichText);
    words_->setObjectName("weightWords");
    words_->setWordWrap(true);
    weigh_ = new QPushButton(tr("Let it rest under its own weight"), this);
    weigh_->setObjectName("weighButton");
    weigh_->setFocusPolicy(Qt::TabFocus);
    weigh_->setToolTip(tr("Gravity along −z on all mass, from the shape as it is drawn (Ctrl+G)"));
    connect(weigh_, &QPushButton::clicked, &session_, [this] { session_.weigh(); });
    stiffAt_ = new QLineEdit(this);
    stiffAt_->setObjectName("stiffAt");
    stiffAt_->setPlaceholderText(tr("how stiff at: a point"));
    stiffAt_->setToolTip(tr("Force over movement for unit loads at a point of that name, several with commas; or rest "
                            "the pointer on a point in the scene and press Ctrl+Shift+G"));
    connect(stiffAt_, &QLineEdit::returnPressed, this, [this] { askStiffness(stiffAt_->text()); });
    table_ = new ReadingTable(this);
    table_->setObjectName("weightTable");
    table_->foldLastColumns();
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    connect(table_, &ReadingTable::keyActivated, this,
            [this](int key) { emit sentenceWanted(sentences_[static_cast<std::size_t>(key)]); });
    auto* row = new QHBoxLayout;
    row->setContentsMargins(12, 0, 8, 6);
    row->addWidget(weigh_);
    row->addWidget(stiffAt_, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addLayout(row);
    column->addWidget(table_, 1);
    column->addStretch(0);
    connect(&session_, &Session::weightMoved, this, [this] {
        if (isVisible()) fill();
    });
}

void WeightView::fill()
{
    const auto known = session_.selfWeight();
    const bool under = session_.weighing();
    weigh_->setEnabled(!under && !session_.structure().frame.empty());
    stiffAt_->setEnabled(!session_.structure().frame.points.empty());
    table_->setVisible(known && *known);
    if (known && *known) return fillFrom(**known);
    QString text = tr("What each support carries of the weight, and how far the structure sinks. Reactions that do not "
                      "look like the loads on the drawing show a wrong unit, a missing support or a mass said twice.");
    if (under) text = tr("Coming to rest …");
    if (known)
        for (const auto& finding : known->findings())
            text = QString("<span style='color:%1'>✕ </span>").arg(Theme::now().red.name()) +
                   QString::fromStdString(oneLine(finding)).toHtmlEscaped();
    words_->setText(text);
}

void WeightView::askStiffness(const QString& point)
{
    if (point.isEmpty()) {
        QStringList names;
        for (const auto& own : session_.structure().frame.points)
            names.append(QString::fromStdString(own.name));
        auto* completer = new QCompleter(names, stiffAt_);
        completer->setFilterMode(Qt::MatchContains);
        completer->setCaseSensitivity(Qt::CaseInsensitive);
        stiffAt_->setCompleter(completer);
        return stiffAt_->setFocus();
    }
    stiffAt_->setText(point);
    std::vector<std::string> names;
    for (const QString& name : point.split(',', Qt::SkipEmptyParts))
        names.push_back(name.trimmed().toStdString());
    session_.weigh(names);
}

/// "motor gives way by X 12.3, Y 4.2, Z 80 N/mm and turns by ..."
QString WeightView::stiffnessWords(const PointStiffness& at) const
{
    const DisplayUnits units = session_.units();
    const auto three = [&](const Eigen::Vector3d& values, QuantityKind kind) {
        QStringList list;
        for (int axis = 0; axis < 3; ++axis) {
            const double own = units.value(values[axis], kind);
            list.append(QString("%1 %2").arg(
                QChar("XYZ"[axis]), values[axis] > 0.0 ? QString::fromStdString(rounded(own, 4)) : tr("held")));
        }
        return list.join(", ") + " " + QString::fromStdString(units.unit(kind));
    };
    return tr("<div><b>k at %1</b> %2 <span style='color:%4'>· about %3</span></div>")
        .arg(QString::fromStdString(at.point).toHtmlEscaped(), three(at.along, QuantityKind::stiffness),
             three(at.about, QuantityKind::turningStiffness), Theme::now().quiet.name());
}

void WeightView::fillFrom(const SelfWeight& rest)
{
    const DisplayUnits units = session_.units();
    const Theme& theme = Theme::now();
    const auto in = [&](double si, QuantityKind kind) { return QString::fromStdString(units.text(si, kind)); };
    // Where lengths are in metres, a sag is read in millimetres.
    const auto sunk = [&](double metres) {
        return units.unit(QuantityKind::length) == "m" && metres < 0.1
                   ? QString::fromStdString(rounded(1000.0 * metres, 3)) + " mm"
                   : in(metres, QuantityKind::length);
    };
    QString text =
        tr("<b>%1</b> <span style='color:%3'>of weight, %2 at 9.80665 m/s²</span>")
            .arg(in(rest.weight, QuantityKind::force), in(rest.mass, QuantityKind::mass), theme.quiet.name());
    text += tr("<div><b>%1</b> <span style='color:%3'>is the most that it moves, at %2</span></div>")
                .arg(sunk(rest.sinks), QString::fromStdString(rest.where).toHtmlEscaped(), theme.quiet.name());
    const bool balanced = rest.unbalanced < 1e-6;
    text += QString("<div style='color:%1'>%2</div>")
                .arg((balanced ? theme.quiet : theme.amber).name(),
                     balanced ? tr("The supports carry all of it.")
                              : tr("▲ What they carry differs from the weight by %1 %: stiffnesses lie far apart.")
                                    .arg(QString::fromStdString(rounded(100.0 * rest.unbalanced, 2))));
    for (const auto& at : rest.stiffness)
        text += stiffnessWords(at);
    words_->setText(text);
    const QString force = QString::fromStdString(units.unit(QuantityKind::force));
    table_->setHeads(
        {tr("carried by"), tr("Z, %1").arg(force), tr("% of all"), tr("X, %1").arg(force), tr("Y, %1").arg(force)});
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    sentences_.clear();
    const auto number = [&](double newtons) {
        const bool nothing = std::abs(newtons) < 1e-6 * rest.weight;
        return nothing ? ReadingTable::Cell{"·", 0.0, theme.quiet, false, true, {}}
                       : ReadingTable::number(units.value(newtons, QuantityKind::force), 4);
    };
    for (const auto& load : rest.carried) {
        const QString place = QString::fromStdString(carrierName(session_.shown().model, load));
        rows.push_back({{place, {}, {}, false, false, place},
                        number(load.force.z()),
                        ReadingTable::number(100.0 * load.force.z() / rest.weight, 3),
                        number(load.force.x()),
                        number(load.force.y())});
        keys.push_back(static_cast<int>(sentences_.size()));
        sentences_.push_back(load.sentence);
    }
    table_->setRows(rows, keys);
}

} // namespace undisona
