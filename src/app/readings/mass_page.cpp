#include "app/readings/mass_page.hpp"

#include "app/readings/book_view.hpp"
#include "app/readings/plot.hpp"
#include "app/readings/weight_view.hpp"

#include <QHeaderView>

namespace undisona {

MassPage::MassPage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    words_ = richLabel("massWords", this);
    plot_ = new Plot(this);
    connect(plot_, &Plot::told, &session_, &Session::told);
    plot_->setObjectName("massPlot");
    plot_->setFixedHeight(158);
    plot_->setTitles(tr("Hz"), tr("running sum, %"));
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("massTable");
    table_->setHeads({tr("mode"), tr("Hz"), "X", "Y", "Z", tr("about x"), tr("y"), tr("z"), tr("shape")});
    table_->foldLastColumns();
    remark_ = new PageLabel({12, 4, 8, 8}, this);
    remark_->setWordWrap(true);
    book_ = new BookView(session_, this);
    weight_ = new WeightView(session_, this);
    makeParts("massParts", {{tr("Taking part"), stacked({{words_, 0}, {plot_, 0}, {table_, 0}, {remark_, 0}})},
                            {tr("Where it comes from"), book_},
                            {tr("At rest on its supports"), weight_}});
    connect(book_, &BookView::sentenceWanted, this, &Page::sentenceWanted);
    connect(weight_, &WeightView::sentenceWanted, this, &Page::sentenceWanted);
    connect(&session_, &Session::massMoved, this, [this] {
        if (isVisible()) fill();
    });
    connect(table_, &ReadingTable::keyChosen, this,
            [this](int mode) { session_.showMode(session_.shownStave(), mode); });
}

namespace {

double targetOf(const Ask& ask, int axis)
{
    return ask.until == Ask::Until::massShare ? ask.target(axis) : 0.9;
}

/// A line for each target, from 0 to the highest frequency, Hz.
std::vector<Plot::Line> targetLines(const Ask& ask, double highest)
{
    const Theme& theme = Theme::now();
    const bool one = targetOf(ask, 0) == targetOf(ask, 1) && targetOf(ask, 1) == targetOf(ask, 2);
    std::vector<Plot::Line> lines;
    for (int axis = 0; axis < (one ? 1 : 3); ++axis) {
        if (!one && !ask.directions[static_cast<std::size_t>(axis)]) continue;
        const double target = 100.0 * targetOf(ask, axis);
        lines.push_back({one ? MassPage::tr("target %1 %").arg(target, 0, 'f', 0)
                             : MassPage::tr("target %1 %2 %").arg("XYZ"[axis]).arg(target, 0, 'f', 0),
                         {{0, target}, {highest, target}},
                         one ? theme.accent : theme.axis[axis],
                         false,
                         true,
                         1.2});
    }
    return lines;
}

} // namespace

/// What a run has found so far, while it goes on.
void MassPage::fillSoFar()
{
    const MassSoFar& mass = session_.massSoFar();
    const Ask& ask = session_.structure().ask;
    const Theme& theme = Theme::now();
    const double highest = std::max(1e-9, mass.hertz.back() * 1.02);
    const Eigen::Index last = mass.sums.rows() - 1;
    std::vector<Plot::Line> lines = targetLines(ask, highest);
    QString text = tr("So far, with %1 modes:").arg(mass.hertz.size());
    for (int axis = 0; axis < 3; ++axis) {
        Plot::Line line{QString("XYZ"[axis]), {{0, 0}}, theme.axis[axis], true};
        for (Eigen::Index mode = 0; mode <= last; ++mode)
            line.points.push_back({mass.hertz[static_cast<std::size_t>(mode)], 100.0 * mass.sums(mode, axis)});
        line.points.push_back({highest, 100.0 * mass.sums(last, axis)});
        lines.push_back(std::move(line));
        text += QString("<div><b style='color:%1'>%2 %3 %</b></div>")
                    .arg(theme.axis[axis].name())
                    .arg("XYZ"[axis])
                    .arg(100.0 * mass.sums(last, axis), 0, 'f', 0);
    }
    words_->setText(text);
    plot_->setRange(0, highest, 0, 105);
    plot_->show(std::move(lines));
    table_->setRows({}, {});
    table_->horizontalHeader()->hide();
    remark_->clear();
}

void MassPage::fillPart(int part)
{
    if (part == 1) book_->fill();
    if (part == 2) weight_->fill();
}

void MassPage::fill()
{
    fillPart(shownPart());
    if (session_.solving() && session_.shownStave() == 0 && !session_.massSoFar().hertz.empty()) return fillSoFar();
    const auto* own = solution();
    table_->horizontalHeader()->show();
    const Theme& theme = Theme::now();
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    words_->setText(tr("Nothing has been solved yet."));
    remark_->clear();
    if (!own || own->modes.empty()) {
        plot_->show({});
        table_->setRows({}, {});
        return;
    }
    const auto& participation = own->participation;
    const Ask& ask = own->structure->ask;
    const bool aims = ask.until == Ask::Until::massShare;
    const auto last = static_cast<Eigen::Index>(own->modes.size()) - 1;
    QString text;
    const double highest = own->modes.back().frequency * 1.02;
    std::vector<Plot::Line> lines = targetLines(ask, highest);
    for (int axis = 0; axis < 3; ++axis) {
        const double target = targetOf(ask, axis);
        const double sum = participation.sumFor(ask, last, axis);
        int passed = 0;
        Plot::Line line{QString("XYZ"[axis]), {{0, 0}}, theme.axis[axis], true};
        for (Eigen::Index mode = 0; mode <= last; ++mode) {
            const double so = participation.sumFor(ask, mode, axis);
            if (passed == 0 && so >= target) passed = static_cast<int>(mode) + 1;
            line.points.push_back({own->modes[static_cast<std::size_t>(mode)].frequency, 100 * so});
        }
        line.points.push_back({highest, 100 * sum});
        lines.push_back(line);
        const bool asked = !aims || ask.directions[static_cast<std::size_t>(axis)];
        text += QString("<div><b style='color:%1'>%2 %3 %</b> <span style='color:%4'>")
                    .arg(theme.axis[axis].name())
                    .arg("XYZ"[axis])
                    .arg(100 * sum, 0, 'f', 0)
                    .arg(theme.quiet.name());
        text += ask.ofMovable ? tr("of what can move, %1\u00a0% of the total")
                                    .arg(100 * participation.sumOfTotal(last, axis), 0, 'f', 0)
                              : tr("of the total, %1\u00a0% of what can move")
                                    .arg(100 * participation.sumOfMovable(last, axis), 0, 'f', 0);
        if (passed > 0)
            text += (own->ritz ? tr("; passed\u00a0%1\u00a0% at\u00a0vector\u00a0%2")
                               : tr("; passed\u00a0%1\u00a0% at\u00a0mode\u00a0%2"))
                        .arg(100 * target, 0, 'f', 0)
                        .arg(passed);
        else if (asked)
            text += tr("; below %1\u00a0%").arg(100 * target, 0, 'f', 0);
        if (!asked) text += tr("; not asked for");
        text += "</span></div>";
    }
    words_->setText(text);
    plot_->setRange(0, highest, 0, 105);
    plot_->show(std::move(lines));
    int silent = 0;
    for (std::size_t at = 0; at < own->modes.size(); ++at) {
        const auto row = static_cast<Eigen::Index>(at);
        const Mode& mode = own->modes[at];
        std::vector<ReadingTable::Cell> cells{{QString::number(mode.number), mode.number, {}, false, true, {}},
                                              number(mode.frequency)};
        if (!mode.noMass.empty()) ++silent;
        if (session_.isFolded(session_.shownStave(), mode)) continue;
        for (int direction = 0; direction < 6; ++direction) {
            cells.push_back(percent(participation.ofTotal(row, direction), theme.axis[direction % 3]));
            cells.back().bold = mode.matters[static_cast<std::size_t>(direction)];
        }
        cells.push_back({session_.shown().nameOf(mode), {}, {}, false, false, {}});
        rows.push_back(std::move(cells));
        keys.push_back(mode.number);
    }
    table_->setRows(rows, keys);
    const DisplayUnits units = session_.units();
    remark_->setText(
        tr("Total %1; can move: X %2, Y %3, Z %4.%5")
            .arg(QString::fromStdString(units.text(own->mass.mass, QuantityKind::mass)),
                 QString::fromStdString(units.text(participation.movable[0], QuantityKind::mass)),
                 QString::fromStdString(units.text(participation.movable[1], QuantityKind::mass)),
                 QString::fromStdString(units.text(participation.movable[2], QuantityKind::mass)),
                 silent > 0 ? tr(" Modes that carry none: %1; why stands under Modes.").arg(silent) : QString()));
    remark_->setStyleSheet(QString("color: %1").arg(theme.quiet.name()));
}

void MassPage::askStiffness(const QString& point)
{
    weight_->askStiffness(point);
}

void MassPage::select()
{
    table_->selectKey(session_.shownMode());
}

} // namespace undisona
