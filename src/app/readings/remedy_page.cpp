#include "app/readings/remedy_page.hpp"

#include "app/readings/clashes_page.hpp"
#include "app/readings/sweep_view.hpp"
#include "app/readings/tolerance_view.hpp"
#include "core/assess/clash.hpp"
#include "core/assess/pairing.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>

namespace undisona {

namespace {

enum Wanted { everyClash, clearMode, aboveMode, belowMode };

QString text(const std::string& words)
{
    return QString::fromStdString(words);
}

/// "+0.02", "−1.30", "0.00".
QString signedPercent(double share)
{
    const double percent = std::round(1e4 * share) / 100.0;
    return (percent > 0.0 ? "+" : percent < 0.0 ? "−" : "") + QString::number(std::abs(percent), 'f', 2);
}

/// Read as a person types it; nothing, said, where it is no such quantity. An empty field is the fallback.
std::optional<double> typed(QLineEdit* field, QuantityKind kind, double fallback, Session& session)
{
    if (field->text().trimmed().isEmpty()) return fallback;
    const auto read = readQuantity(field->text().toStdString(), kind, NumberStyle::typed);
    if (const auto* quantity = std::get_if<Quantity>(&read)) return quantity->si;
    session.say(text(std::get<QuantityProblem>(read).what));
    field->setFocus();
    field->selectAll();
    return std::nullopt;
}

} // namespace

RemedyPage::RemedyPage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    QWidget* question = makeQuestion();
    answer_ = richLabel("remedyAnswer", this);
    table_ = new ReadingTable(this);
    table_->setObjectName("remedyTable");
    table_->setWordWrap(true);
    table_->setHeads({"", tr("change"), "", tr("mode to Hz")});
    table_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
    take_ = new QPushButton(tr("Solve it as a take"), this);
    take_->setObjectName("takeRemedy");
    take_->setToolTip(tr("The chosen change as sentences of a take beside the model, solved in full; a double click on "
                         "its row does it too"));
    promises_ = richLabel("remedyPromises", this);
    wordsAbove_ = richLabel("wordsAbove", this);
    everyWord_ = new QPushButton(tr("Find it for every word"), this);
    everyWord_->setObjectName("everyWord");
    connect(everyWord_, &QPushButton::clicked, this, [this] {
        auto asked = order();
        if (!asked) return;
        asked->everyWord = true;
        session_.findRemedies(*asked);
    });
    words_ = new ReadingTable(this);
    words_->setObjectName("wordsTable");
    words_->setWordWrap(true);
    words_->setHeads({tr("word"), tr("now"), tr("Hz per 1 %")});
    words_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    sweep_ = new SweepView(session_, this);
    tolerances_ = new ToleranceView(session_, this);
    auto* every = new QWidget(this);
    auto* everyRow = new QHBoxLayout(every);
    everyRow->setContentsMargins(12, 2, 8, 6);
    everyRow->addWidget(everyWord_);
    everyRow->addStretch();
    auto* below = new QWidget(this);
    auto* row = new QHBoxLayout(below);
    row->setContentsMargins(12, 6, 8, 2);
    row->addWidget(take_);
    row->addStretch();
    clashes_ = new ClashesPage(session_, this);
    connect(clashes_, &Page::sentenceWanted, this, &Page::sentenceWanted);
    makeParts("clashParts",
              {{tr("Clashes"), clashes_},
               {tr("Remedy"), stacked({{question, 0}, {answer_, 0}, {table_, 1}, {below, 0}, {promises_, 0}})},
               {tr("Words"), stacked({{wordsAbove_, 0}, {every, 0}, {words_, 1}})},
               {tr("Over a range"), sweep_},
               {tr("Tolerances"), tolerances_}});
    for (auto* each : {table_, words_})
        connect(each, &ReadingTable::told, &session_, &Session::told);
    connect(table_, &ReadingTable::keyChosen, this, &RemedyPage::preview);
    connect(table_, &ReadingTable::cellDoubleClicked, this, [this](int at, int) {
        preview(table_->keyOfRow(at));
        take();
    });
    connect(words_, &ReadingTable::keyActivated, this, [this](int key) {
        if (!shown_) return;
        emit sentenceWanted(shown_->words[static_cast<std::size_t>(key)].said.sentence);
        sweep_->choose(shown_->words[static_cast<std::size_t>(key)].said);
    });
    connect(take_, &QPushButton::clicked, this, &RemedyPage::take);
    connect(&session_, &Session::remedyMoved, this, &RemedyPage::renew);
}

QWidget* RemedyPage::makeQuestion()
{
    auto* question = new QWidget(this);
    const auto field = [&](const char* name, const QString& hint, const QString& tip) {
        auto* edit = new QLineEdit(question);
        edit->setObjectName(name);
        edit->setPlaceholderText(hint);
        edit->setToolTip(tip);
        edit->setAccessibleName(tip);
        connect(edit, &QLineEdit::returnPressed, this, &RemedyPage::find);
        return edit;
    };
    way_ = new QComboBox(question);
    way_->setObjectName("remedyWay");
    way_->setAccessibleName(tr("what is wanted"));
    way_->addItems({"", "", "", ""});
    hertz_ = field("remedyHertz", tr("31 Hz"), tr("the frequency that the mode is wanted above or below"));
    find_ = new QPushButton(tr("Find what does it"), question);
    find_->setObjectName("findRemedies");
    most_ = field("remedyMost", tr("at most 20 kg"),
                  tr("the mass that a change may add; a quarter of what there is "
                     "unless said"));
    notOn_ = field("remedyNotOn", tr("nothing on …"), tr("what nothing may be put on or fastened to, such as Deck"));
    sections_ = field("remedySections", tr("sections: any"),
                      tr("the only sections for members and struts, with semicolons between them"));
    const auto tick = [&](const char* name, const QString& label) {
        auto* box = new QCheckBox(label, question);
        box->setObjectName(name);
        box->setChecked(true);
        return box;
    };
    masses_ = tick("remedyMasses", tr("masses"));
    props_ = tick("remedyProps", tr("props"));
    struts_ = tick("remedyStruts", tr("struts"));
    said_ = tick("remedyWords", tr("what is said"));
    said_->setToolTip(tr("Other sizes, thicknesses, sections, stiffnesses and masses in the model's own sentences"));
    auto* rows = new QVBoxLayout(question);
    rows->setContentsMargins(12, 8, 8, 2);
    rows->setSpacing(5);
    const auto row = [&](std::initializer_list<std::pair<QWidget*, int>> widgets) {
        auto* line = new QHBoxLayout;
        line->setSpacing(6);
        for (const auto& [widget, stretch] : widgets)
            line->addWidget(widget, stretch);
        rows->addLayout(line);
    };
    row({{way_, 1}, {hertz_, 1}});
    row({{most_, 1}, {notOn_, 1}, {sections_, 1}});
    row({{masses_, 0}, {props_, 0}, {struts_, 0}, {said_, 1}});
    auto* last = new QHBoxLayout;
    last->addWidget(find_);
    last->addStretch();
    auto* maps = new PageLabel({0, 0, 0, 0}, question);
    maps->setObjectName("remedyMaps");
    maps->setTextFormat(Qt::RichText);
    maps->setText(tr("map: <a href='mass'>a kilogram</a> · <a href='spring'>a spring</a>"));
    maps->setToolTip(tr("Colours the scene by what a kilogram, or a spring to ground, does to the mode in each place"));
    connect(maps, &QLabel::linkActivated, this, [this](const QString& link) {
        if (link == "mass")
            emit massMapWanted();
        else
            emit springMapWanted();
    });
    last->addWidget(maps);
    rows->addLayout(last);
    connect(find_, &QPushButton::clicked, this, [this] {
        if (session_.findingRemedies())
            session_.stop();
        else
            find();
    });
    connect(way_, &QComboBox::currentIndexChanged, this,
            [this](int way) { hertz_->setEnabled(way == aboveMode || way == belowMode); });
    return question;
}

int RemedyPage::modeAsked() const
{
    return session_.shownMode();
}

std::optional<RemedyOrder> RemedyPage::order()
{
    RemedyOrder order;
    const int way = way_->currentIndex();
    order.way = way == aboveMode ? RemedyWay::above : way == belowMode ? RemedyWay::below : RemedyWay::clear;
    order.mode = way == everyClash ? 0 : modeAsked();
    if (order.way != RemedyWay::clear) {
        if (hertz_->text().trimmed().isEmpty()) {
            hertz_->setFocus();
            session_.say(tr("Which frequency is mode %1 wanted %2? Write it, such as 31 Hz.")
                             .arg(order.mode)
                             .arg(way_->currentIndex() == aboveMode ? tr("above") : tr("below")));
            return std::nullopt;
        }
        const auto hertz = typed(hertz_, QuantityKind::frequency, 0.0, session_);
        if (!hertz) return std::nullopt;
        order.hertz = *hertz;
    }
    const auto most = typed(most_, QuantityKind::mass, 0.0, session_);
    if (!most) return std::nullopt;
    order.mostMass = *most;
    order.notOn = notOn_->text().toStdString();
    for (const QString& section : sections_->text().split(';', Qt::SkipEmptyParts))
        order.sections.push_back(section.trimmed().toStdString());
    order.masses = masses_->isChecked();
    order.props = props_->isChecked();
    order.struts = struts_->isChecked();
    order.words = said_->isChecked();
    return order;
}

void RemedyPage::find()
{
    if (const auto asked = order()) session_.findRemedies(*asked);
}

void RemedyPage::fillPart(int part)
{
    stale_->setVisible(part != 0 && session_.shown().stale); // the clashes say it themselves
    if (part == 1 && table_->isVisible()) table_->fitRows(); // as wide as they are now
    if (part == 2 && words_->isVisible()) words_->fitRows();
    if (part == 3) sweep_->fill();
    if (part == 4) tolerances_->fill();
}

void RemedyPage::select()
{
    // What is wanted names the mode in view.
    const int mode = modeAsked();
    const QStringList items{tr("every clash cleared"), tr("mode %1 clear of what shakes").arg(mode),
                            tr("mode %1 above").arg(mode), tr("mode %1 below").arg(mode)};
    for (int at = 0; at < items.size(); ++at)
        way_->setItemText(at, items[at]);
    if (tolerances_->isVisible()) tolerances_->select();
}

void RemedyPage::hideEvent(QHideEvent* event)
{
    if (chosen_ >= 0) session_.tryOut(std::nullopt);
    chosen_ = -1;
    Page::hideEvent(event);
}

void RemedyPage::fill()
{
    const bool ready = solution() && !session_.shown().stale;
    find_->setEnabled(ready || session_.findingRemedies());
    find_->setText(session_.findingRemedies() ? tr("Stop") : tr("Find what does it"));
    hertz_->setEnabled(way_->currentIndex() == aboveMode || way_->currentIndex() == belowMode);
    const auto known = session_.remedy();
    if (chosen_ >= 0) session_.tryOut(std::nullopt);
    chosen_ = -1;
    take_->setEnabled(false);
    shown_.reset();
    if (known && *known) shown_ = **known;
    const Theme& theme = Theme::now();
    QString words;
    const auto say = [&](const Finding& finding) {
        const bool wrong = finding.severity == Severity::error;
        const QColor colour = wrong ? theme.red : finding.severity == Severity::warning ? theme.amber : theme.quiet;
        words += QString("<div style='color:%1'>%2%3</div>")
                     .arg(colour.name(),
                          wrong                                   ? "✕ "
                          : finding.severity == Severity::warning ? "▲ "
                                                                  : "",
                          text(finding.what + (finding.remedy.empty() ? "" : ". " + finding.remedy)).toHtmlEscaped());
    };
    if (session_.findingRemedies())
        words = tr("Trying masses, props, struts and other words …");
    else if (shown_) {
        if (!shown_->goal.empty()) {
            const auto doing = std::count_if(shown_->proposals.begin(), shown_->proposals.end(),
                                             [](const Proposal& one) { return one.reaches; });
            words =
                tr("<b>%1</b>: %2")
                    .arg(text(shown_->goal).toHtmlEscaped(), doing == 0   ? tr("nothing does it")
                                                             : doing == 1 ? tr("one change would do it")
                                                                          : tr("%1 changes would do it").arg(doing));
        }
        for (const auto& finding : shown_->findings)
            say(finding);
    } else if (known) {
        for (const auto& finding : known->findings())
            say(finding);
    } else {
        words = ready ? tr("Which single changes move a mode out of the way, how much of each is needed, and what "
                           "else moves: found from the modes at hand, exactly for masses, props and struts.")
                      : tr("Solve first: remedies start from modes.");
    }
    answer_->setText(words);
    const bool any = shown_ && !shown_->proposals.empty();
    table_->setVisible(any);
    take_->setVisible(any);
    if (any) fillProposals(*shown_);
    wordsAbove_->setText(shown_ && !shown_->words.empty()
                             ? tr("How far one per cent more of each word takes mode %1. A click goes to its sentence, "
                                  "and makes it the word that is swept.")
                                   .arg(shown_->wordsOf)
                             : tr("What each word is worth to a mode is found together with the changes."));
    everyWord_->setVisible(ready && solution()->system->size() > everyWordUpTo);
    everyWord_->setEnabled(!session_.findingRemedies());
    words_->setVisible(shown_ && !shown_->words.empty());
    if (shown_ && !shown_->words.empty()) fillWords(*shown_);
    fillPromises();
    fillPart(shownPart());
}

void RemedyPage::fillProposals(const Remedy& remedy)
{
    const DisplayUnits units = session_.units();
    const Theme& theme = Theme::now();
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    int rank = 0;
    for (const Proposal& one : remedy.proposals) {
        QString words = text(one.change.words);
        QString tip;
        for (const auto& effect : one.sideEffects)
            words += "\n▲ " + text(effect.words);
        tip = !one.reaches              ? tr("does not get there within these limits")
              : one.sideEffects.empty() ? tr("does it, and brings no other mode into a band")
                                        : tr("does it, but another mode comes into a band");
        const QColor colour = one.reaches ? one.sideEffects.empty() ? QColor() : theme.amber : theme.quiet;
        rows.push_back({{!one.reaches              ? "–"
                         : one.sideEffects.empty() ? "✓"
                                                   : "▲",
                         rank, colour, false, false, tip},
                        {words, words, one.reaches ? QColor() : theme.quiet, false, false, tip},
                        number(units.value(one.adds, QuantityKind::mass), 3, faintIf(!one.reaches)),
                        {tr("%1 → %2").arg(one.mode).arg(text(rounded(one.after, 4))), one.after, faintIf(!one.reaches),
                         false, true, tip}});
        keys.push_back(rank++);
    }
    table_->horizontalHeaderItem(2)->setText(text("+ " + units.unit(QuantityKind::mass)));
    table_->setRows(rows, keys);
    table_->setColumnWidth(0, 24);
    table_->fitRows();
}

void RemedyPage::fillWords(const Remedy& remedy)
{
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    for (const auto& word : remedy.words) {
        const QString name = text(word.said.name);
        rows.push_back(
            {{name, name, {}, false, false, word.remeshed ? tr("%1 (from two runs: its mesh moves)").arg(name) : name},
             {text(word.said.text), word.said.value, {}, false, true, {}},
             number(word.percent, 3)});
        keys.push_back(static_cast<int>(keys.size()));
    }
    words_->setRows(rows, keys);
    words_->fitRows();
}

void RemedyPage::preview(int proposal)
{
    if (!shown_ || proposal < 0 || proposal >= static_cast<int>(shown_->proposals.size())) return;
    chosen_ = proposal;
    const Proposal one = shown_->proposals[static_cast<std::size_t>(proposal)];
    take_->setEnabled(true);
    if (session_.shownMode() != one.mode) session_.showMode(session_.shownStave(), one.mode);
    if (session_.shownStave() == 0) session_.tryOut(QuickModes{one.promised, one.promised});
    Spotlight spot;
    const Frame& frame = session_.structure().frame;
    for (const auto& statement : one.change.statements) {
        if (!statement.sentence.empty()) spot = session_.spotlightOf(statement.sentence);
        for (const char* key : {"points", "from", "to"})
            if (const auto word = statement.words.find(key); word != statement.words.end())
                if (const int point = frame.pointNamed(word->second); point >= 0) spot.points.push_back(point);
    }
    session_.light(spot);
}

void RemedyPage::take()
{
    if (!shown_ || chosen_ < 0) return;
    const Proposal one = shown_->proposals[static_cast<std::size_t>(chosen_)];
    session_.tryOut(std::nullopt);
    session_.takeRemedy(one);
}

/// What was promised of takes beside what they came to.
void RemedyPage::fillPromises()
{
    QString words;
    const Theme& theme = Theme::now();
    for (const auto& [proposal, id] : session_.promises()) {
        const auto& staves = session_.staves();
        const auto stave = std::find_if(staves.begin(), staves.end(),
                                        [&, &wanted = id](const Stave& one) { return one.id == wanted; });
        if (stave == staves.end()) continue;
        QString came = tr("being solved …");
        if (!stave->failure.empty()) came = text(stave->failure.front().what);
        if (stave->solution && solution()) {
            double hertz = 0.0;
            const Solution& base = session_.live().solution ? *session_.live().solution : *solution();
            for (const auto& pair : pairModes(base, *stave->solution))
                if (pair.first == proposal.mode && pair.second > 0)
                    hertz = stave->solution->modes[static_cast<std::size_t>(pair.second - 1)].frequency;
            if (hertz == 0.0) // its shape has changed too much to be told: the nearest one
                for (const auto& mode : stave->solution->modes)
                    if (std::abs(mode.frequency - proposal.after) < std::abs(hertz - proposal.after))
                        hertz = mode.frequency;
            came = tr("solved <b>%1 Hz</b> (%2 %)")
                       .arg(text(rounded(hertz, 5)), signedPercent((hertz - proposal.after) / proposal.after));
        }
        words += QString("<div>%1 <span style='color:%4'>· %2 · %3</span></div>")
                     .arg(text(proposal.change.words).toHtmlEscaped(),
                          tr("mode %1 promised at %2 Hz").arg(proposal.mode).arg(text(rounded(proposal.after, 5))),
                          came, theme.quiet.name());
    }
    promises_->setVisible(!words.isEmpty());
    promises_->setText(words);
}

} // namespace undisona
