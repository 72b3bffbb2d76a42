#include "app/readings/sweep_view.hpp"

#include "app/readings/plot.hpp"
#include "core/io/sweep_table.hpp"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>

namespace undisona {

SweepView::SweepView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    word_ = new QComboBox(this);
    word_->setObjectName("sweepWord");
    word_->setAccessibleName(tr("the word that is swept"));
    word_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    word_->setMinimumContentsLength(12);
    const auto field = [&](const char* name, const QString& hint) {
        auto* edit = new QLineEdit(this);
        edit->setObjectName(name);
        edit->setPlaceholderText(hint);
        edit->setAccessibleName(hint);
        connect(edit, &QLineEdit::returnPressed, this, &SweepView::run);
        return edit;
    };
    from_ = field("sweepFrom", tr("from"));
    to_ = field("sweepTo", tr("to"));
    steps_ = new QSpinBox(this);
    steps_->setObjectName("sweepSteps");
    steps_->setAccessibleName(tr("steps"));
    steps_->setRange(1, 200);
    steps_->setValue(12);
    steps_->setSuffix(tr(" steps"));
    run_ = new QPushButton(this);
    run_->setObjectName("sweepButton");
    words_ = richLabel("sweepWords", this);
    plot_ = new Plot(this);
    plot_->setObjectName("sweepPlot");
    connect(plot_, &Plot::told, &session_, &Session::told);
    auto* rows = new QVBoxLayout;
    rows->setContentsMargins(12, 8, 8, 2);
    rows->setSpacing(5);
    rows->addWidget(word_);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(from_, 1);
    row->addWidget(to_, 1);
    row->addWidget(steps_);
    rows->addLayout(row);
    auto* last = new QHBoxLayout;
    last->addWidget(run_);
    last->addStretch();
    rows->addLayout(last);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addLayout(rows);
    column->addWidget(words_);
    column->addWidget(plot_, 1);
    column->addStretch(0); // takes the room while there is no plot
    connect(word_, &QComboBox::activated, this, [this](int at) { rangeAbout(all_[static_cast<std::size_t>(at)]); });
    connect(run_, &QPushButton::clicked, this, [this] {
        if (session_.sweeping())
            session_.stop();
        else
            run();
    });
    connect(&session_, &Session::sweepMoved, this, [this] {
        if (isVisible()) fill();
    });
}

void SweepView::fillWords()
{
    auto words = saidQuantities(session_.shown().model);
    std::erase_if(words, [](const SaidQuantity& word) { return word.value == 0.0; });
    const auto same = [](const SaidQuantity& a, const SaidQuantity& b) { return a.name == b.name && a.text == b.text; };
    if (std::equal(words.begin(), words.end(), all_.begin(), all_.end(), same)) return;
    const QString kept = word_->currentText();
    all_ = std::move(words);
    word_->clear();
    for (const auto& word : all_)
        word_->addItem(QString::fromStdString(word.name + " (" + word.text + ")"));
    const int at = word_->findText(kept);
    if (at >= 0) return word_->setCurrentIndex(at);
    if (!all_.empty()) rangeAbout(all_.front());
}

/// From half of what is said to half more than it.
void SweepView::rangeAbout(const SaidQuantity& word)
{
    from_->setText(QString::fromStdString(textAnew(word, 0.5 * word.value)));
    to_->setText(QString::fromStdString(textAnew(word, 1.5 * word.value)));
}

void SweepView::choose(const SaidQuantity& word)
{
    fillWords();
    for (std::size_t at = 0; at < all_.size(); ++at)
        if (all_[at].name == word.name) {
            word_->setCurrentIndex(static_cast<int>(at));
            rangeAbout(all_[at]);
        }
}

void SweepView::run()
{
    if (all_.empty() || word_->currentIndex() < 0) return;
    SweepOrder order{all_[static_cast<std::size_t>(word_->currentIndex())]};
    for (const auto& [edit, value] : {std::pair(from_, &order.from), std::pair(to_, &order.to)}) {
        const auto read = readQuantity(edit->text().toStdString(), order.word.kind, NumberStyle::typed);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
            edit->setFocus();
            edit->selectAll();
            return session_.say(QString::fromStdString(problem->what));
        }
        *value = std::get<Quantity>(read).si;
    }
    order.steps = steps_->value();
    session_.sweepWord(order);
}

void SweepView::fill()
{
    fillWords();
    const bool under = session_.sweeping();
    run_->setText(under ? tr("Stop") : tr("Sweep it"));
    run_->setEnabled(under || !all_.empty());
    const auto known = session_.sweep();
    const Theme& theme = Theme::now();
    QString text;
    const auto say = [&](const QColor& colour, const std::string& line) {
        text +=
            QString("<div style='color:%1'>%2</div>").arg(colour.name(), QString::fromStdString(line).toHtmlEscaped());
    };
    if (known && *known) {
        const WordSweep& sweep = **known;
        say(theme.ink, sweep.word.name);
        for (const auto& finding : sweep.findings)
            say(finding.severity == Severity::error ? theme.red : theme.amber, oneLine(finding));
        for (const auto& meeting : sweep.meetings)
            say(theme.quiet, meetingWords(sweep, meeting));
        std::string bands;
        for (const auto& excitation : session_.shown().excitations)
            bands += (bands.empty() ? "" : ", ") + excitation.name;
        if (!bands.empty())
            say(theme.amber, tr("dashed: the margins of %1").arg(QString::fromStdString(bands)).toStdString());
        if (under) say(theme.quiet, tr("%1 values so far …").arg(sweep.steps.size()).toStdString());
    } else if (known) {
        for (const auto& finding : known->findings())
            say(theme.red, oneLine(finding));
    } else {
        say(theme.quiet,
            (under ? tr("Solving the first value …")
                   : tr("Lets one word go from a value to another: frequencies as lines, past the bands of "
                        "what shakes, with where they cross and where they veer."))
                .toStdString());
    }
    words_->setText(text);
    const bool any = known && *known && !(**known).steps.empty();
    plot_->setVisible(any);
    if (any) draw(**known);
}

void SweepView::draw(const WordSweep& sweep)
{
    const Theme& theme = Theme::now();
    // In the unit in which the word is typed.
    const auto typed = readNumberAndUnit(sweep.word.text, NumberStyle::file);
    const auto* own = std::get_if<NumberAndUnit>(&typed);
    const double scale = own && sweep.word.value != 0.0 ? own->value / sweep.word.value : 1.0;
    plot_->setTitles(own ? QString::fromStdString(own->unit) : QString(), tr("Hz"));
    const double first = scale * sweep.steps.front().value, last = scale * sweep.steps.back().value;
    const double left = std::min(first, last), right = std::max(std::max(first, last), left * (1.0 + 1e-9) + 1e-12);
    std::vector<Plot::Line> lines;
    double highest = 0.0;
    for (std::size_t line = 0; line < sweep.modes.size(); ++line) {
        Plot::Line drawn{QString::number(sweep.modes[line]), {}, theme.ink};
        drawn.width = sweep.modes[line] == session_.shownMode() ? 2.6 : 1.4;
        if (sweep.modes[line] == session_.shownMode()) drawn.colour = theme.accent;
        for (const auto& step : sweep.steps) {
            if (line >= step.hertz.size() || !(step.hertz[line] > 0.0)) continue;
            drawn.points.emplace_back(scale * step.value, step.hertz[line]);
            highest = std::max(highest, step.hertz[line]);
        }
        if (!drawn.points.empty()) lines.push_back(std::move(drawn));
    }
    for (const auto& excitation : session_.shown().excitations)
        for (const double order : excitation.orders) {
            const double low = order * excitation.low * (1.0 - excitation.margin),
                         high = order * excitation.high * (1.0 + excitation.margin);
            if (low > highest) continue;
            lines.push_back({{}, {{left, high}, {right, high}}, theme.amber, false, true, 1.0});
            lines.push_back({{}, {{left, low}, {right, low}}, theme.amber, false, true, 1.0});
        }
    std::vector<Plot::Mark> marks;
    for (const auto& meeting : sweep.meetings)
        marks.push_back({QPointF(scale * meeting.value, meeting.hertz), theme.accent, !meeting.veers,
                         QString::fromStdString(meetingWords(sweep, meeting))});
    plot_->setRange(left, right, 0.0, 1.05 * std::max(highest, 1e-9));
    plot_->show(std::move(lines), {}, std::move(marks));
}

} // namespace undisona
