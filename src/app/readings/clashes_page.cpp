#include "app/readings/clashes_page.hpp"
#include "app/readings/plot.hpp"
#include "core/io/tolerance_table.hpp"

namespace undisona {

namespace {

QString markOf(Verdict verdict)
{
    return verdict == Verdict::clash ? "✕ clash" : verdict == Verdict::close ? "△ close" : "○ clear";
}

QColor colourOf(Verdict verdict)
{
    const Theme& theme = Theme::now();
    return verdict == Verdict::clash ? theme.red : verdict == Verdict::close ? theme.amber : theme.quiet;
}

} // namespace

ClashesPage::ClashesPage(Session& session, QWidget* parent) : Page(session, parent)
{
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("clashTable");
    table_->setHeads(
        {tr("source"), "×", tr("Hz"), tr("mode"), tr("apart"), tr("verdict"), tr("critical rpm"), tr("strength")});
    table_->foldLastColumns();
    head_ = new PageLabel({12, 8, 8, 0}, this);
    head_->setFont(textFont(0.0, true));
    head_->setWordWrap(true);
    why_ = new PageLabel({12, 2, 8, 6}, this);
    why_->setObjectName("clashWhy");
    why_->setWordWrap(true);
    plot_ = new Plot(this);
    connect(plot_, &Plot::told, &session_, &Session::told);
    plot_->setObjectName("speedPlot");
    plot_->setFixedHeight(180);
    plot_->setTitles(tr("rpm"), tr("Hz: modes level, orders rising"));
    layout()->addWidget(table_);
    layout()->addWidget(head_);
    layout()->addWidget(why_);
    layout()->addWidget(plot_);
    connect(table_, &ReadingTable::keyChosen, this, [this](int index) {
        const auto& pairs = session_.shown().clashes.pairs;
        if (index >= 0 && static_cast<std::size_t>(index) < pairs.size())
            session_.showMode(session_.shownStave(), pairs[static_cast<std::size_t>(index)].mode);
        explain();
    });
    connect(&session_, &Session::tolerancesMoved, this, [this] {
        if (isVisible()) explain();
    });
}

void ClashesPage::fill()
{
    const Stave& stave = session_.shown();
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    for (std::size_t at = 0; at < stave.clashes.pairs.size(); ++at) {
        const auto& pair = stave.clashes.pairs[at];
        const auto& excitation = stave.excitations[pair.excitation];
        const QColor colour = pair.weak ? Theme::now().quiet : QColor();
        rows.push_back(
            {{QString::fromStdString(excitation.name), {}, colour, false, false, {}},
             {QString::number(pair.order), pair.order, colour, false, true, {}},
             {QString::fromStdString(pair.low == pair.high ? rounded(pair.low, 4)
                                                           : rounded(pair.low, 3) + "–" + rounded(pair.high, 3)),
              pair.low,
              colour,
              false,
              true,
              {}},
             {QString::number(pair.mode), pair.mode, colour, false, true, {}},
             {QString("%1 %").arg(100.0 * pair.separation, 0, 'f', std::abs(pair.separation) < 0.1 ? 1 : 0),
              std::abs(pair.separation),
              colour,
              pair.verdict == Verdict::clash,
              true,
              {}},
             {pair.weak ? tr("%1 weak").arg(markOf(pair.verdict).left(1)) : markOf(pair.verdict),
              static_cast<int>(pair.verdict), pair.weak ? Theme::now().quiet : colourOf(pair.verdict), false, false,
              QString::fromStdString(pair.why)},
             {pair.criticalSpeedRpm > 0.0 ? QString::fromStdString(rounded(pair.criticalSpeedRpm, 4)) : QString("·"),
              pair.criticalSpeedRpm,
              colour,
              false,
              true,
              {}},
             {excitation.entry == Entry::unknown ? tr("not known")
                                                 : QString("%1 %").arg(100 * pair.strength, 0, 'f', 0),
              pair.strength,
              colour,
              false,
              true,
              {}}});
        keys.push_back(static_cast<int>(at));
    }
    table_->setRows(rows, keys);
    fillSpeedPlot();
    explain();
}

void ClashesPage::select()
{
    explain();
}

void ClashesPage::explain()
{
    const Stave& stave = session_.shown();
    const int index = table_->currentRow() >= 0     ? table_->keyOfRow(table_->currentRow())
                      : stave.clashes.pairs.empty() ? -1
                                                    : 0;
    if (index < 0 || static_cast<std::size_t>(index) >= stave.clashes.pairs.size()) {
        const bool ritz = stave.solution && stave.solution->ritz;
        head_->setText(stave.excitations.empty() ? tr("No excitation is stated")
                       : ritz                    ? tr("Ritz vectors meet nothing")
                                                 : tr("Nothing to compare yet"));
        why_->setText(
            ritz && !stave.excitations.empty()
                ? tr("They are not modes, so that no source is compared with them. Ask for modes to see clashes.")
            : stave.excitations.empty() ? tr("Add a running speed, a frequency or a band in the group Excitation.")
                                        : tr("Solve to see which mode meets which source."));
        return;
    }
    const auto& pair = stave.clashes.pairs[static_cast<std::size_t>(index)];
    const auto& excitation = stave.excitations[pair.excitation];
    const char* verb = pair.verdict == Verdict::clash   ? "meets"
                       : pair.verdict == Verdict::close ? "comes close to"
                                                        : "keeps clear of";
    head_->setText(tr("%1 %2 mode %3").arg(QString::fromStdString(excitation.name), verb).arg(pair.mode));
    QString text = QString::fromStdString(pair.why);
    text[0] = text[0].toUpper();
    text += tr(". To keep %1 % clear the mode must lie above %2 Hz or below %3 Hz.")
                .arg(100 * excitation.margin, 0, 'f', 0)
                .arg(QString::fromStdString(rounded(pair.high * (1 + excitation.margin), 4)),
                     QString::fromStdString(rounded(pair.low * (1 - excitation.margin), 4)));
    for (const auto& windows : stave.clashes.windows) {
        if (windows.excitation != pair.excitation) continue;
        text += windows.freeRpm.empty() ? tr(" No speed of its range is free.") : tr(" Free speeds: ");
        for (std::size_t at = 0; at < windows.freeRpm.size(); ++at)
            text += QString("%1%2–%3").arg(at ? ", " : "", QString::fromStdString(rounded(windows.freeRpm[at][0], 4)),
                                           QString::fromStdString(rounded(windows.freeRpm[at][1], 4)));
        if (!windows.freeRpm.empty()) text += tr(" rpm.");
    }
    if (const auto known = session_.tolerances(); known && *known && !stave.stale)
        for (const auto& chance : (**known).clashes)
            if (chance.sentence == excitation.sentence && chance.order == pair.order && chance.mode == pair.mode)
                text += tr(" Within what is not known exactly a clash is %1.")
                            .arg(QString::fromStdString(likelihoodWords(chance.likelihood)));
    why_->setText(text);
    why_->setStyleSheet(QString("color: %1").arg(Theme::now().quiet.name()));
}

void ClashesPage::fillSpeedPlot()
{
    const Stave& stave = session_.shown();
    const Theme& theme = Theme::now();
    const bool turning = std::any_of(stave.excitations.begin(), stave.excitations.end(),
                                     [](const Excitation& excitation) { return excitation.turns; });
    const bool modes = stave.solution && !stave.solution->ritz;
    plot_->setVisible(turning && modes);
    if (!turning || !modes) return;
    double fastest = 0.0, highest = 0.0;
    for (const auto& excitation : stave.excitations) {
        if (!excitation.turns) continue;
        fastest = std::max(fastest, 60.0 * excitation.high * 1.25);
        for (const double order : excitation.orders)
            highest = std::max(highest, order * excitation.high * 1.25);
    }
    std::vector<Plot::Line> lines;
    std::vector<Plot::Region> regions;
    std::vector<Plot::Mark> marks;
    for (const auto& mode : stave.solution->modes)
        if (mode.frequency > 0.0 && mode.frequency < highest)
            lines.push_back({{}, {{0, mode.frequency}, {fastest, mode.frequency}}, theme.quiet, false, false, 1.0});
    for (const auto& excitation : stave.excitations) {
        if (!excitation.turns) continue;
        regions.push_back({60 * excitation.low * 0.999 - 0.002 * fastest,
                           60 * excitation.high * 1.001 + 0.002 * fastest,
                           QColor(theme.amberGround.red(), theme.amberGround.green(), theme.amberGround.blue(), 150)});
        for (const double order : excitation.orders) {
            const double end = std::min(fastest, 60.0 * highest / order);
            lines.push_back({QString("%1 ×%2").arg(QString::fromStdString(excitation.name)).arg(order),
                             {{0, 0}, {end, order * end / 60.0}},
                             theme.accent,
                             false,
                             false,
                             1.4});
            for (const auto& mode : stave.solution->modes) {
                const double rpm = 60.0 * mode.frequency / order;
                if (mode.frequency <= 0.0 || rpm > fastest || mode.frequency > highest) continue;
                const bool inside = rpm > 60 * excitation.low * (1 - excitation.margin) &&
                                    rpm < 60 * excitation.high * (1 + excitation.margin);
                marks.push_back(
                    {{rpm, mode.frequency},
                     inside ? theme.red : theme.quiet,
                     inside,
                     tr("mode %1 at %2 rpm").arg(mode.number).arg(QString::fromStdString(rounded(rpm, 4)))});
            }
        }
    }
    plot_->setRange(0, fastest, 0, highest);
    plot_->show(std::move(lines), std::move(regions), std::move(marks));
}

} // namespace undisona
