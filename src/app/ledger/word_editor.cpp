#include "app/ledger/word_editor.hpp"

#include "app/ledger/section_drawing.hpp"
#include "app/ledger/word_kinds.hpp"
#include "app/session/own_materials.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"
#include "core/model/meant_targets.hpp"
#include "core/model/rename.hpp"
#include "core/model/section_text.hpp"
#include "core/picks/pick.hpp"

#include <QKeyEvent>
#include <QVBoxLayout>

namespace undisona {

namespace {

constexpr int moreLikeRole = Qt::UserRole + 1; // a choice made from what was clicked in the scene

} // namespace

WordEditor::WordEditor(Session& session, QWidget* parent) : QFrame(parent), session_(session)
{
    setObjectName("wordEditor");
    setFrameShape(QFrame::NoFrame);
    setAutoFillBackground(true);
    line_ = new QLineEdit(this);
    line_->setObjectName("wordLine");
    line_->setAccessibleName(tr("word"));
    hint_ = new QLabel(this);
    hint_->setObjectName("wordHint");
    hint_->setWordWrap(true);
    choices_ = new QListWidget(this);
    choices_->setObjectName("wordChoices");
    choices_->setFocusPolicy(Qt::NoFocus);
    choices_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    drawing_ = new SectionDrawing(this);
    drawing_->hide();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(4, 3, 4, 4);
    layout->setSpacing(3);
    layout->addWidget(line_);
    layout->addWidget(hint_);
    layout->addWidget(drawing_);
    layout->addWidget(choices_);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textEdited, this, &WordEditor::typed);
    connect(choices_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        line_->setText(item->data(Qt::UserRole).toString());
        if (accept()) emit left(0);
    });
    connect(&session_, &Session::picked, this, &WordEditor::takePicked);
    connect(&session_, &Session::draftTold, this, [this] {
        if (!isOpen() || !session_.draft() || session_.draft()->words.isEmpty()) return;
        hint_->setText(session_.draft()->words);
        hint_->show();
        place();
    });
    hide();
}

void WordEditor::open(const std::string& sentence, const QString& field, const QRect& word)
{
    const auto said = session_.model().sentence(sentence);
    if (!said) return;
    const Field* grammar = said->kind->field(field.toStdString());
    if (!grammar) return;
    sentence_ = sentence;
    field_ = field;
    word_ = word;
    original_ = q(textOf(said->value(field.toStdString())));
    if (original_.isEmpty()) original_ = q(grammar->fallback);
    setStyleSheet(QString("#wordEditor { background: %1; border: 1px solid %2; border-radius: 5px; }")
                      .arg(Theme::now().panel.name(), Theme::now().accent.name()));
    line_->setText(original_);
    line_->selectAll();
    fillChoices();
    typed();
    if (!choices_->isHidden()) line_->selectAll();
    show();
    raise();
    line_->setFocus();
    session_.setPicking(pickingFor(*said, *grammar));
}

Session::Picking WordEditor::pickingFor(const Sentence& sentence, const Field& field)
{
    // Where a point stands, unless it is measured from another, is a place too.
    const bool stands = field.type == FieldType::vector && sentence.kind->key == "point" && !sentence.has("from");
    return {meantTargets(sentence, field), field.type == FieldType::place || stands};
}

std::variant<Value, QuantityProblem> WordEditor::read(const QString& text) const
{
    const auto said = session_.model().sentence(sentence_);
    const Field* grammar = said ? said->kind->field(field_.toStdString()) : nullptr;
    if (!grammar) return QuantityProblem{"this sentence is gone", {}};
    const std::string plain = text.toStdString();
    if (text == original_) return readValue(*grammar, plain, NumberStyle::file);
    if (grammar->type == FieldType::section && looksLikeSection(plain)) {
        auto section = readSection(plain, NumberStyle::typed);
        if (auto* problem = std::get_if<QuantityProblem>(&section)) return *problem;
    }
    return readValue(*grammar, plain, NumberStyle::typed);
}

void WordEditor::fillChoices()
{
    choices_->clear();
    const auto said = session_.model().sentence(sentence_);
    for (const auto& [text, shown] : offersFor(session_, *said, *said->kind->field(field_.toStdString()))) {
        auto* item = new QListWidgetItem(shown.isEmpty() ? text : shown, choices_);
        item->setData(Qt::UserRole, text);
    }
    choices_->setVisible(choices_->count() > 0);
}

void WordEditor::offerMoreLike(const std::string& name)
{
    for (int row = choices_->count() - 1; row >= 0; --row)
        if (choices_->item(row)->data(moreLikeRole).toBool()) delete choices_->takeItem(row);
    const Frame& frame = session_.structure().frame;
    const Targets wanted = session_.picking().targets;
    const Picked picked = pick(frame, quotedName(name), wanted);
    if (picked.size() != 1) return;
    std::vector<std::string> rules;
    for (const int at : picked.points)
        rules = rulesLikePoint(frame, at);
    for (const int at : picked.members)
        rules = rulesLikeMember(frame, at);
    for (const int at : picked.edges)
        rules = rulesLikeEdge(frame, at);
    for (const int at : picked.faces)
        rules = rulesLikeFace(frame, at);
    if (rules.empty()) return;
    for (std::size_t at = 0; at < rules.size(); ++at) {
        auto* item = new QListWidgetItem(tr("more like this: %1").arg(q(rules[at])));
        item->setData(Qt::UserRole, q(rules[at]));
        item->setData(moreLikeRole, true);
        choices_->insertItem(static_cast<int>(at), item);
    }
    choices_->setVisible(choices_->count() > 0);
}

void WordEditor::typed()
{
    if (!isOpen()) return;
    const QString text = line_->text();
    const auto result = read(text);
    suggestion_.clear();
    const Theme& theme = Theme::now();
    if (const auto* problem = std::get_if<QuantityProblem>(&result)) {
        QString words = q(problem->what);
        if (!problem->suggestions.empty()) {
            suggestion_ = q(problem->suggestions.front());
            words += tr("  Enter takes %1").arg(suggestion_);
            for (std::size_t other = 1; other < problem->suggestions.size() && other < 3; ++other)
                words += tr("; or write %1").arg(q(problem->suggestions[other]));
        }
        hint_->setText(words);
        hint_->setStyleSheet(QString("color: %1").arg(theme.amber.name()));
        session_.setDraft({});
    } else {
        const auto said = session_.model().sentence(sentence_);
        hint_->setText(
            understoodAs(session_, *said, *said->kind->field(field_.toStdString()), std::get<Value>(result)));
        hint_->setStyleSheet(QString("color: %1").arg(theme.quiet.name()));
        session_.setDraft(said->with(field_.toStdString(), std::get<Value>(result)));
    }
    hint_->setVisible(!hint_->text().isEmpty());
    const auto section = readSection(text.toStdString(), NumberStyle::file);
    const auto said = session_.model().sentence(sentence_);
    const bool draws = std::holds_alternative<Section>(section) && said &&
                       said->kind->field(field_.toStdString())->type == FieldType::section;
    drawing_->setVisible(draws);
    if (draws) drawing_->show(std::get<Section>(section));
    if (choices_->count() > 0 && text != original_)
        for (int row = 0; row < choices_->count(); ++row)
            choices_->item(row)->setHidden(
                !choices_->item(row)->data(moreLikeRole).toBool() &&
                !choices_->item(row)->text().contains(text.section(',', -1).trimmed(), Qt::CaseInsensitive));
    place();
}

void WordEditor::place()
{
    const QFontMetrics metrics(line_->font());
    const int room = parentWidget()->width() - 8;
    int wide = std::max(metrics.horizontalAdvance(line_->text()) + 40, 120);
    if (!hint_->isHidden()) wide = std::max(wide, std::min(room, metrics.horizontalAdvance(hint_->text()) + 24));
    if (!choices_->isHidden()) {
        wide = std::max(wide, std::min(room, choices_->sizeHintForColumn(0) + 34));
        int rows = 0;
        for (int row = 0; row < choices_->count(); ++row)
            rows += !choices_->item(row)->isHidden();
        choices_->setFixedHeight(std::clamp(rows, 1, 8) * choices_->sizeHintForRow(0) + 4);
    }
    wide = std::min(wide, room);
    setFixedWidth(wide);
    const int hintHeight = hint_->isHidden() ? 0 : hint_->heightForWidth(wide - 8) + 3;
    const int tall = line_->sizeHint().height() + 9 + hintHeight + (choices_->isHidden() ? 0 : choices_->height() + 3) +
                     (drawing_->isHidden() ? 0 : drawing_->height() + 3);
    setFixedHeight(tall);
    int y = word_.top() - 4;
    if (y + tall > parentWidget()->height() - 4) y = std::max(2, parentWidget()->height() - tall - 4);
    move(std::clamp(word_.left() - 8, 4, std::max(4, room - wide + 4)), y);
}

bool WordEditor::accept()
{
    if (!isOpen()) return true;
    QString text = line_->text().trimmed();
    auto result = read(text);
    if (std::holds_alternative<QuantityProblem>(result)) {
        if (suggestion_.isEmpty()) {
            typed();
            line_->setFocus();
            return false;
        }
        text = suggestion_;
        line_->setText(text);
        original_ = text; // written by the program, so it is unambiguous
        result = read(text);
        typed();
        return false; // shown first; the next Enter takes it
    }
    const auto said = session_.model().sentence(sentence_);
    const QString field = field_;
    close();
    if (said) {
        const Field& grammar = *said->kind->field(field.toStdString());
        Value value = std::get<Value>(result);
        if (grammar.type == FieldType::file) value = wholePath(session_, q(textOf(value))).toStdString();
        Model next = session_.model().replaced(said->with(grammar.key, value));
        if (grammar.type == FieldType::name) next = renamed(next, said->text(grammar.key), textOf(value));
        if (grammar.type == FieldType::material) next = withKeptMaterial(next, q(textOf(value)));
        session_.changeModel(tr("change %1").arg(q(grammar.label)), std::move(next));
    }
    return true;
}

void WordEditor::cancel()
{
    if (isOpen()) close();
}

void WordEditor::close()
{
    sentence_.clear();
    hide();
    session_.setDraft({});
    session_.setPicking({});
    emit closed();
}

void WordEditor::takePicked(const QString& name)
{
    if (!isOpen()) return;
    if (session_.picking().place) { // one place: a click takes the place of what was there
        const auto said = session_.model().sentence(sentence_);
        const Frame& frame = session_.structure().frame;
        const int point = frame.pointNamed(name.toStdString());
        const bool wantsNumbers = said->kind->field(field_.toStdString())->type == FieldType::vector;
        line_->setText(point < 0      ? name
                       : wantsNumbers ? q(placeText(frame.points[static_cast<std::size_t>(point)].place))
                                      : q(quotedName(name.toStdString())));
        typed();
        return line_->setFocus();
    }
    // The first click replaces what was there; further ones add, and a second click on the same takes it away.
    QStringList names = line_->text() == original_ ? QStringList{} : line_->text().split(", ", Qt::SkipEmptyParts);
    const QString quoted = q(quotedName(name.toStdString()));
    if (names.contains(quoted))
        names.removeAll(quoted);
    else
        names << quoted;
    line_->setText(names.join(", "));
    offerMoreLike(name.toStdString());
    typed();
    line_->setFocus();
}

bool WordEditor::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == line_ && event->type() == QEvent::FocusOut) {
        const auto reason = static_cast<QFocusEvent*>(event)->reason();
        if (reason == Qt::MouseFocusReason && session_.picking() == Session::Picking{} && isOpen()) {
            if (!accept()) line_->setFocus();
        }
    }
    if (watched != line_ || event->type() != QEvent::KeyPress) return QFrame::eventFilter(watched, event);
    auto* key = static_cast<QKeyEvent*>(event);
    const auto stepChoice = [&](int by) {
        int row = choices_->currentRow();
        do
            row += by;
        while (row >= 0 && row < choices_->count() && choices_->item(row)->isHidden());
        if (row < 0 || row >= choices_->count()) return;
        choices_->setCurrentRow(row);
        line_->setText(choices_->item(row)->data(Qt::UserRole).toString());
        typed();
        for (int other = 0; other < choices_->count(); ++other)
            choices_->item(other)->setHidden(false);
        place();
    };
    switch (key->key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (accept()) emit left(0);
        return true;
    case Qt::Key_Tab:
        if (accept()) emit left(1);
        return true;
    case Qt::Key_Backtab:
        if (accept()) emit left(-1);
        return true;
    case Qt::Key_Escape:
        cancel();
        return true;
    case Qt::Key_Down:
        if (choices_->isHidden()) return false;
        stepChoice(1);
        return true;
    case Qt::Key_Up:
        if (choices_->isHidden()) return false;
        stepChoice(-1);
        return true;
    default:
        return false;
    }
}

} // namespace undisona
