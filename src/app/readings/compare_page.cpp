#include "app/readings/compare_page.hpp"
#include "app/readings/matrix_view.hpp"
#include "app/readings/takes_view.hpp"
#include "core/assess/interval.hpp"
#include "core/model/differences.hpp"

namespace undisona {

ComparePage::ComparePage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    words_ = new PageLabel({12, 8, 8, 4}, this);
    words_->setTextFormat(Qt::RichText);
    words_->setObjectName("compareWords");
    words_->setWordWrap(true);
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("compareTable");
    matrix_ = new MatrixView(session, this);
    takes_ = new TakesView(session, this);
    makeParts(
        "compareParts",
        {{tr("Modes"), stacked({{words_, 0}, {table_, 1}})}, {tr("All against all"), matrix_}, {tr("Takes"), takes_}});
    connect(table_, &ReadingTable::keyChosen, this, [this](int mode) { session_.showMode(0, mode); });
}

namespace {

/// The kilograms and the sentences that one stave's model has otherwise than another's.
QString differencesInWords(const Stave& was, const Stave& now, const DisplayUnits& units)
{
    constexpr std::size_t most = 5;
    QStringList lines;
    const double more = now.mass - was.mass;
    if (std::abs(more) > 1e-9 * std::max(now.mass, was.mass))
        lines << ComparePage::tr("%1 %2").arg(QString::fromStdString(units.text(std::abs(more), QuantityKind::mass, 3)),
                                              more > 0.0 ? ComparePage::tr("more") : ComparePage::tr("less"));
    const auto all = differences(was.model, now.model);
    for (std::size_t at = 0; at < std::min(all.size(), most); ++at)
        lines << QString::fromStdString(all[at]);
    if (all.size() > most) lines << ComparePage::tr("and %1 more").arg(all.size() - most);
    QString text;
    for (const QString& line : lines)
        text += QString("<div style='color:%1'>%2</div>").arg(Theme::now().quiet.name(), line.toHtmlEscaped());
    return text;
}

} // namespace

std::size_t ComparePage::other() const
{
    return session_.shownStave() > 0 ? session_.shownStave() : 1;
}

void ComparePage::fill()
{
    fillPart(shownPart());
}

void ComparePage::fillPart(int part)
{
    const auto& staves = session_.staves();
    if (part == 0) fillModes();
    if (part == 1) matrix_->fill(&staves[0], other() < staves.size() ? &staves[other()] : nullptr);
    if (part == 2) takes_->fill();
}

void ComparePage::fillModes()
{
    const auto& staves = session_.staves();
    const std::size_t other = this->other();
    if (other >= staves.size()) return fillIntervals();
    const Stave &now = staves[0], &before = staves[other];
    if (!now.solution || !before.solution) {
        words_->setText(tr("Both must be solved to be compared."));
        table_->setRows({}, {});
        return;
    }
    words_->setText(tr("<b>%1</b> against <b>%2</b>, paired by shape (modal assurance 0.6 or more)")
                        .arg(now.name.toHtmlEscaped(), before.name.toHtmlEscaped()));
    words_->setText(words_->text() + differencesInWords(before, now, session_.units()));
    table_->setHeads({tr("mode"), tr("Hz"), tr("was"), tr("Hz"), tr("shift"), tr("alike"), tr("shape")});
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    const auto pairs = other == 1 ? session_.pairsWithNext(0) : pairModes(*now.solution, *before.solution);
    for (const auto& pair : pairs) {
        const auto& own = now.solution->modes[static_cast<std::size_t>(pair.first - 1)];
        std::vector<ReadingTable::Cell> cells{{QString::number(pair.first), pair.first, {}, false, true, {}},
                                              number(own.frequency)};
        if (pair.second > 0) {
            const auto& old = before.solution->modes[static_cast<std::size_t>(pair.second - 1)];
            const double shift = old.frequency > 0.0 ? own.frequency / old.frequency - 1.0 : 0.0;
            cells.push_back({QString::number(pair.second), pair.second, {}, false, true, {}});
            cells.push_back(number(old.frequency));
            cells.push_back({QString("%1%2 %").arg(shift >= 0 ? "+" : "−").arg(100 * std::abs(shift), 0, 'f', 1),
                             shift,
                             {},
                             std::abs(shift) > 0.05,
                             true,
                             {}});
            cells.push_back({QString::number(pair.assurance, 'f', 2), pair.assurance, Theme::now().quiet, false, true,
                             tr("modal assurance criterion")});
        } else {
            cells.push_back({"–", 1e9, Theme::now().quiet, false, true, {}});
            cells.push_back({"–", {}, Theme::now().quiet, false, true, {}});
            cells.push_back({tr("no partner"), {}, Theme::now().quiet, false, true, {}});
            cells.push_back({"–", {}, Theme::now().quiet, false, true, {}});
        }
        cells.push_back({now.nameOf(own), {}, {}, false, false, {}});
        rows.push_back(std::move(cells));
        keys.push_back(pair.first);
    }
    table_->setRows(rows, keys);
}

void ComparePage::fillIntervals()
{
    words_->setText(
        tr("Keep the model as a take (Ctrl+T), change it, and both stand here side by side: which mode became "
           "which, and by how much. Until then: the modes against the one that is shown, as ratios and as "
           "musical intervals."));
    const auto* own = solution();
    const Mode* shown = session_.mode();
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    table_->setHeads({tr("mode"), tr("Hz"), tr("ratio"), tr("interval"), tr("shape")});
    for (std::size_t at = 0; own && shown && shown->frequency > 0.0 && at < own->modes.size(); ++at) {
        const Mode& mode = own->modes[at];
        if (mode.rigid || mode.mechanism || mode.frequency <= 0.0) continue;
        const double ratio = mode.frequency / shown->frequency;
        rows.push_back({{QString::number(mode.number), mode.number, {}, false, true, {}},
                        number(mode.frequency),
                        {QString::number(ratio, 'f', 3), ratio, {}, false, true, {}},
                        {QString::fromStdString(intervalWords(ratio)), ratio, {}, false, false, {}},
                        {session_.shown().nameOf(mode), {}, {}, false, false, {}}});
        keys.push_back(mode.number);
    }
    table_->setRows(rows, keys);
}

void ComparePage::select()
{
    if (shownPart() == 1) matrix_->select();
    if (shownPart() != 0) return;
    if (session_.staves().size() < 2) fillIntervals();
    if (session_.shownStave() == 0) table_->selectKey(session_.shownMode());
}

} // namespace undisona
