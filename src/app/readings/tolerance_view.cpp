#include "app/readings/tolerance_view.hpp"

#include "app/readings/reading_table.hpp"
#include "core/base/number_text.hpp"
#include "core/io/tolerance_table.hpp"

#include <QPainter>
#include <QPushButton>
#include <QSpinBox>

#include <numeric>

namespace undisona {

namespace {

constexpr std::size_t mostBars = 8;

QString hertzText(double value)
{
    return QString::fromStdString(rounded(value));
}

QString rangeText(double low, double high)
{
    if (std::isnan(low) || std::isnan(high)) return QString();
    return QString("%1 – %2").arg(hertzText(low), hertzText(high));
}

} // namespace

CauseBars::CauseBars(QWidget* parent) : QWidget(parent)
{
    setObjectName("causeBars");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void CauseBars::show(const QString& title, std::vector<Bar> bars)
{
    title_ = title;
    bars_ = std::move(bars);
    QString told = title_;
    for (const Bar& bar : bars_)
        told += QString("; %1: %2 Hz at %3, %4 Hz at %5")
                    .arg(bar.word, hertzText(bar.atLow), bar.low, hertzText(bar.atHigh), bar.high);
    setAccessibleName(told);
    setVisible(!bars_.empty());
    updateGeometry();
    update();
}

QSize CauseBars::sizeHint() const
{
    const int line = fontMetrics().height();
    return {240, line + 12 + int(bars_.size()) * (2 * line + 10)};
}

void CauseBars::paintEvent(QPaintEvent*)
{
    const Theme& theme = Theme::now();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double line = fontMetrics().height(), left = 12.0, right = width() - 12.0;
    painter.setPen(theme.quiet);
    painter.drawText(QRectF(left, 2.0, right - left, line), Qt::AlignLeft | Qt::AlignVCenter,
                     fontMetrics().elidedText(title_, Qt::ElideRight, int(right - left)));
    double most = 0.0;
    for (const Bar& bar : bars_)
        most = std::max({most, std::abs(bar.atLow), std::abs(bar.atHigh)});
    if (!(most > 0.0)) return;
    // Room for the two values beside the longest bar.
    const double words = fontMetrics().horizontalAdvance("+00.00 Hz") + 6.0, middle = (left + right) / 2.0;
    const double each = std::max(10.0, (right - left) / 2.0 - words) / most;
    double top = line + 8.0;
    for (const Bar& bar : bars_) {
        painter.setPen(theme.ink);
        painter.drawText(QRectF(left, top, right - left, line), Qt::AlignLeft | Qt::AlignVCenter,
                         fontMetrics().elidedText(bar.word, Qt::ElideMiddle, int(right - left)));
        const double at = top + line + 1.0, tall = line - 4.0;
        for (const auto& [effect, deep] : {std::pair(bar.atLow, false), {bar.atHigh, true}}) {
            if (effect == 0.0) continue;
            QColor colour = theme.accent;
            colour.setAlphaF(deep ? 0.9f : 0.45f); // the high end is the full one
            const double x = middle + each * effect;
            painter.fillRect(
                QRectF(std::min(x, middle), at + (deep ? tall / 2.0 : 0.0), std::abs(x - middle), tall / 2.0), colour);
        }
        const auto tell = [&](double effect, bool toTheRight) {
            if (effect == 0.0) return;
            const double x = middle + each * effect;
            painter.setPen(theme.quiet);
            const QString text =
                (effect > 0.0 ? "+" : "−") + QString::fromStdString(rounded(std::abs(effect), 2)) + " Hz";
            painter.drawText(toTheRight ? QRectF(x + 4.0, at - 2.0, right - x, line)
                                        : QRectF(left, at - 2.0, x - 4.0 - left, line),
                             (toTheRight ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, text);
        };
        tell(std::max({0.0, bar.atLow, bar.atHigh}), true);
        tell(std::min({0.0, bar.atLow, bar.atHigh}), false);
        painter.setPen(QPen(theme.quiet, 1.0));
        painter.drawLine(QPointF(middle, at - 1.0), QPointF(middle, at + tall + 1.0));
        top += 2.0 * line + 10.0;
    }
}

ToleranceView::ToleranceView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = richLabel("toleratedWords", this);
    answer_ = richLabel("toleranceAnswer", this);
    samples_ = new QSpinBox(this);
    samples_->setObjectName("toleranceSamples");
    samples_->setAccessibleName(tr("runs with all values drawn at once"));
    samples_->setToolTip(tr("Beside the runs with each value alone at its ends: runs in full with all of them drawn at "
                            "once, which show how far the sum of the single ones is off"));
    samples_->setRange(0, 10000);
    samples_->setSpecialValueText(tr("no runs drawn"));
    samples_->setSuffix(tr(" runs drawn"));
    run_ = new QPushButton(this);
    run_->setObjectName("toleranceButton");
    table_ = new ReadingTable(this);
    table_->setObjectName("toleranceTable");
    table_->setHeads({tr("mode"), tr("Hz"), tr("nine of ten"), tr("at its worst")});
    table_->setPrinted(tr("Frequencies within the tolerances"));
    bars_ = new CauseBars(this);
    auto* rows = new QVBoxLayout;
    rows->setContentsMargins(12, 8, 8, 2);
    rows->setSpacing(5);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(run_);
    row->addWidget(samples_);
    row->addStretch();
    rows->addLayout(row);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addLayout(rows);
    column->addWidget(answer_);
    column->addWidget(table_, 1);
    column->addWidget(bars_);
    column->addStretch(0); // takes the room while there is no table
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    connect(table_, &ReadingTable::keyChosen, this,
            [this](int mode) { session_.showMode(session_.shownStave(), mode); });
    connect(run_, &QPushButton::clicked, this, [this] {
        if (session_.tolerating()) return session_.stop();
        session_.followTolerances({true, samples_->value(), 1});
    });
    connect(&session_, &Session::tolerancesMoved, this, [this] {
        if (isVisible()) fill();
    });
}

void ToleranceView::fill()
{
    const Theme& theme = Theme::now();
    const auto line = [](const QColor& colour, const QString& text) {
        return QString("<div style='color:%1'>%2</div>").arg(colour.name(), text.toHtmlEscaped());
    };
    const auto said = toleratedWords(session_.shown().model);
    QString words;
    if (said.empty())
        words = line(theme.quiet,
                     tr("No word of the model carries a tolerance. Write it behind a value that is not known exactly, "
                        "in the sentence itself: 38 kg +- 10 %, 2.5 mm +- 0.1, or 20 kN/mm 12..35."));
    for (const auto& word : said)
        words += line(theme.ink, QString::fromStdString(word.said.name + ", " + word.said.text));
    words_->setText(words);
    const bool under = session_.tolerating();
    run_->setText(under ? tr("Stop") : tr("Find the ranges"));
    run_->setEnabled(under || (!said.empty() && session_.shown().solution && !session_.shown().stale));
    const auto known = session_.tolerances();
    shown_.reset();
    QString text;
    if (known && *known) {
        shown_ = **known;
        for (const auto& finding : shown_->findings)
            text += line(finding.severity == Severity::error     ? theme.red
                         : finding.severity == Severity::warning ? theme.amber
                                                                 : theme.quiet,
                         QString::fromStdString(oneLine(finding)));
        for (const auto& chance : shown_->clashes)
            text +=
                line(chance.likelihood >= 0.5 ? theme.red : theme.amber, QString::fromStdString(chanceWords(chance)));
        if (shown_->clashes.empty() && !session_.shown().excitations.empty() && !shown_->modes.empty())
            text += line(theme.quiet, tr("Nothing that shakes meets a mode that it drives, within these tolerances."));
        if (shown_->samples > 0)
            text += line(theme.quiet, tr("Single effects added up miss the %1 runs drawn by %2 % at most.")
                                          .arg(shown_->samples)
                                          .arg(QString::fromStdString(rounded(100.0 * shown_->missed, 2))));
    } else if (known) {
        for (const auto& finding : known->findings())
            text += line(theme.red, QString::fromStdString(oneLine(finding)));
    } else if (!said.empty()) {
        text = line(theme.quiet, under ? tr("Solving with the first of the values …")
                                       : tr("Solves with each value alone at its ends, and with all of them at their "
                                            "worst: how far each frequency goes, and how likely a clash is."));
    }
    answer_->setText(text);
    table_->setVisible(shown_ && !shown_->modes.empty());
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    if (shown_)
        for (const auto& mode : shown_->modes) {
            ReadingTable::Cell usual{rangeText(mode.usualLow, mode.usualHigh), mode.usualLow};
            const bool solved = !std::isnan(mode.solvedLow);
            ReadingTable::Cell worst{solved ? rangeText(mode.solvedLow, mode.solvedHigh)
                                            : rangeText(mode.low, mode.high),
                                     solved ? mode.solvedLow : mode.low};
            worst.tip = solved ? tr("solved in full; single effects added up: %1").arg(rangeText(mode.low, mode.high))
                               : tr("single effects added up");
            if (mode.sampled > 0)
                usual.tip =
                    tr("of %1 runs drawn: %2").arg(mode.sampled).arg(rangeText(mode.sampledLow, mode.sampledHigh));
            usual.numeric = worst.numeric = true;
            rows.push_back({{QString::number(mode.mode), mode.mode, {}, false, true, {}},
                            ReadingTable::number(mode.hertz, 4),
                            usual,
                            worst});
            keys.push_back(mode.mode);
        }
    table_->setRows(rows, keys);
    select();
}

void ToleranceView::select()
{
    table_->selectKey(session_.shownMode());
    fillBars();
}

void ToleranceView::fillBars()
{
    std::vector<CauseBars::Bar> bars;
    const FrequencyRange* range = nullptr;
    if (shown_)
        for (const auto& mode : shown_->modes)
            if (mode.mode == session_.shownMode()) range = &mode;
    if (!range) return bars_->show({}, {});
    std::vector<std::size_t> order(shown_->words.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto widest = [&](std::size_t word) {
        return std::max(std::abs(range->atLow[word]), std::abs(range->atHigh[word]));
    };
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return widest(a) > widest(b); });
    for (const std::size_t word : order) {
        if (bars.size() == mostBars || !(widest(word) > 1e-6 * range->hertz)) break;
        const auto& of = shown_->words[word];
        bars.push_back({QString::fromStdString(of.said.name), QString::fromStdString(textAnew(of.said, of.range.low)),
                        QString::fromStdString(textAnew(of.said, of.range.high)), range->atLow[word],
                        range->atHigh[word]});
    }
    bars_->show(
        tr("mode %1, %2 Hz: pale by the low end, full by the high").arg(range->mode).arg(hertzText(range->hertz)),
        std::move(bars));
}

} // namespace undisona
