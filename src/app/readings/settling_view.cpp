#include "app/readings/settling_view.hpp"

#include "app/readings/plot.hpp"

#include <QPushButton>

namespace undisona {

namespace {

/// "12 480"
QString whole(Eigen::Index count)
{
    return QString::fromStdString(rounded(double(count), static_cast<int>(std::to_string(count).size())));
}

} // namespace

SettlingView::SettlingView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = new PageLabel({12, 4, 8, 4}, this);
    words_->setTextFormat(Qt::RichText);
    words_->setObjectName("settlingWords");
    words_->setWordWrap(true);
    run_ = new QPushButton(this);
    run_->setFocusPolicy(Qt::TabFocus);
    run_->setObjectName("settleButton");
    connect(run_, &QPushButton::clicked, this, [this] {
        if (session_.settlingNow())
            session_.stop();
        else
            session_.settleFrequencies();
    });
    plot_ = new Plot(this);
    plot_->setObjectName("settlingPlot");
    plot_->setLogarithmic();
    connect(plot_, &Plot::told, &session_, &Session::told);
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("settlingTable");
    auto* row = new QHBoxLayout;
    row->setContentsMargins(12, 0, 8, 4);
    row->addWidget(run_);
    row->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addLayout(row);
    column->addWidget(plot_, 3);
    column->addWidget(table_, 4);
    column->addStretch(0);
    connect(table_, &ReadingTable::keyChosen, this,
            [this](int mode) { session_.showMode(session_.shownStave(), mode); });
    connect(&session_, &Session::settlingMoved, this, [this] {
        if (isVisible()) fill();
    });
}

void SettlingView::fill()
{
    const auto settling = session_.settling();
    const bool any = settling && (settling->rounds.size() > 1 || session_.settlingNow());
    run_->setText(session_.settlingNow() ? tr("Stop") : any ? tr("Solve them again") : tr("Solve on other meshes"));
    run_->setEnabled(session_.shown().solution && !session_.shown().stale);
    plot_->setVisible(any);
    table_->setVisible(any);
    if (!any) {
        words_->setText(tr("The same model with elements twice and 1.4 times as large, then 0.7 times: how each "
                           "frequency goes on, and where it would end."));
        return;
    }
    QString words = session_.settlingNow()
                        ? tr("%1 of %2 meshes are solved.").arg(settling->rounds.size()).arg(1 + settlingFactors.size())
                        : tr("<b>%1 meshes</b>, of %2 to %3 unknowns.")
                              .arg(settling->rounds.size())
                              .arg(whole(settling->rounds.front().unknowns), whole(settling->rounds.back().unknowns));
    for (const auto& remark : settling->remarks)
        words += "<br>" + QString("<span style='color:%1'>▲ </span>").arg(Theme::now().amber.name()) +
                 QString::fromStdString(remark.what).toHtmlEscaped();
    words_->setText(words);
    fillTable(*settling);
    select();
}

void SettlingView::select()
{
    const auto settling = session_.settling();
    if (!settling || table_->isHidden()) return;
    table_->selectKey(session_.shownMode());
    fillPlot(*settling);
}

/// Every mode against what it is on the mesh of the solution; the shown one with its limit.
void SettlingView::fillPlot(const Settling& settling)
{
    const Solution& own = *session_.shown().solution;
    const Theme& theme = Theme::now();
    const auto shown = static_cast<std::size_t>(std::max(1, session_.shownMode()) - 1);
    const double first = double(settling.rounds.front().unknowns), last = double(settling.rounds.back().unknowns);
    double lowest = 0.0, highest = 0.0; // of the shown mode, which is to be read
    double spread = 0.0;                // of all
    std::vector<Plot::Line> lines;
    std::vector<Plot::Mark> marks;
    const auto lineOf = [&](std::size_t mode) {
        Plot::Line line;
        const double now = own.modes[mode].frequency;
        for (const auto& round : settling.rounds) {
            if (std::isnan(round.hertz[mode])) continue;
            const double off = 100.0 * (round.hertz[mode] / now - 1.0);
            line.points.emplace_back(double(round.unknowns), off);
            spread = std::max(spread, std::abs(off));
            if (mode != shown) continue;
            lowest = std::min(lowest, off);
            highest = std::max(highest, off);
        }
        return line;
    };
    for (std::size_t mode = 0; mode < own.modes.size(); ++mode) {
        if (mode == shown) continue;
        auto line = lineOf(mode);
        line.colour = theme.quiet;
        line.colour.setAlphaF(0.45);
        line.width = 1.0;
        lines.push_back(std::move(line));
    }
    auto line = lineOf(shown);
    line.colour = theme.accent;
    line.width = 2.2;
    const double now = own.modes[shown].frequency;
    for (const auto& round : settling.rounds) {
        if (std::isnan(round.hertz[shown])) continue;
        QString tip = tr("%1 unknowns · %2 Hz")
                          .arg(whole(round.unknowns), QString::fromStdString(rounded(round.hertz[shown], 6)));
        if (!std::isnan(round.meshError[shown]))
            tip += tr(" · estimated %1 % off").arg(100.0 * round.meshError[shown], 0, 'g', 2);
        marks.push_back({{double(round.unknowns), 100.0 * (round.hertz[shown] / now - 1.0)}, theme.accent, false, tip});
    }
    lines.push_back(std::move(line));
    if (const auto& settled = settling.settled[shown]) {
        const double off = 100.0 * (settled->hertz / now - 1.0);
        lowest = std::min(lowest, off);
        highest = std::max(highest, off);
        lines.push_back({settled->order > 0.0
                             ? tr("limit %1 Hz").arg(QString::fromStdString(rounded(settled->hertz, 5)))
                             : tr("finest, no steady course"),
                         {{0.8 * first, off}, {1.25 * last, off}},
                         theme.ink,
                         false,
                         true,
                         1.2});
    }
    const double room = std::max({0.12 * (highest - lowest), 0.05 * spread, 1e-4});
    plot_->setTitles(tr("unknowns"), tr("mode %1 and the others, % against now").arg(shown + 1));
    plot_->setRange(0.8 * first, 1.25 * last, lowest - room, highest + room);
    plot_->show(std::move(lines), {}, std::move(marks));
}

void SettlingView::fillTable(const Settling& settling)
{
    const Solution& own = *session_.shown().solution;
    const Theme& theme = Theme::now();
    QStringList heads{tr("mode"), tr("limit Hz"), tr("now off %"), tr("estimated %")};
    for (const auto& round : settling.rounds)
        heads << tr("Hz at %1").arg(whole(round.unknowns));
    table_->setHeads(heads);
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    for (std::size_t mode = 0; mode < own.modes.size(); ++mode) {
        std::vector<ReadingTable::Cell> row{
            {QString::number(own.modes[mode].number), own.modes[mode].number, {}, false, true, {}}};
        const ReadingTable::Cell unknown{"·", -1e9, theme.quiet, false, true, tr("three meshes have to know it")};
        if (const auto& settled = settling.settled[mode]) {
            const QString either = QString::fromStdString(rounded(settled->either, 1));
            if (settled->order > 0.0) {
                auto cell = ReadingTable::number(settled->hertz, 5);
                cell.tip = tr("give or take %1 Hz; the error falls with the unknowns to the power %2")
                               .arg(either)
                               .arg(-settled->order, 0, 'f', 2);
                row.push_back(std::move(cell));
                const double off = settled->off(own.modes[mode]);
                row.push_back({QString::fromStdString(rounded(100.0 * off, 2)), off, {}, false, true, {}});
            } else {
                const QString tip =
                    tr("It goes up and down, or its steps do not get smaller: no limit is drawn from it. On the "
                       "last three meshes it lies within %1 Hz.")
                        .arg(either);
                row.push_back({tr("± %1").arg(either), settled->hertz, theme.quiet, false, true, tip});
                row.push_back({"·", -1e9, theme.quiet, false, true, tip});
            }
        } else {
            row.insert(row.end(), 2, unknown);
        }
        const Mode& its = own.modes[mode];
        row.push_back(
            {its.lambda > 0.0 && its.judged() ? QString::fromStdString(rounded(100.0 * its.meshError, 2)) : "·",
             its.judged() ? its.meshError : -1e9,
             {},
             false,
             true,
             QString::fromStdString(meshErrorText(its))});
        for (const auto& round : settling.rounds) {
            auto cell = ReadingTable::number(round.hertz[mode], 5);
            if (std::isnan(round.hertz[mode]))
                cell = {"·", -1.0, theme.quiet, false, true, tr("no mode of this shape there")};
            cell.bold = round.factor == 1.0;
            row.push_back(std::move(cell));
        }
        rows.push_back(std::move(row));
        keys.push_back(its.number);
    }
    table_->setRows(rows, keys);
}

} // namespace undisona
