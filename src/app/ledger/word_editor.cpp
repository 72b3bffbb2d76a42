#include "app/ledger/word_editor.hpp"

#include "app/ledger/section_drawing.hpp"
#include "app/session/own_materials.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"
#include "core/geometry/pick.hpp"
#include "core/model/material.hpp"
#include "core/model/rename.hpp"
#include "core/model/section_text.hpp"

#include <QKeyEvent>
#include <QVBoxLayout>

namespace undisona {

namespace {

QString q(const std::string& text)
{
    return QString::fromStdString(text);
}

constexpr int moreLikeRole = Qt::UserRole + 1; // a choice made from what was clicked in the scene

/// Constants in millimetres or inches, in which sections are thought of.
QString sectionWords(const Section& section, const DisplayUnits& units)
{
    return QString("area %1, Iy %2, Iz %3, J %4")
        .arg(q(units.text(section.area, QuantityKind::area, 4)),
             q(units.text(section.iy, QuantityKind::secondMoment, 4)),
             q(units.text(section.iz, QuantityKind::secondMoment, 4)),
             q(units.text(section.torsion, QuantityKind::secondMoment, 4)));
}

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
    switch (field.type) {
    case FieldType::points:
        return Session::Picking::points;
    case FieldType::members:
        return Session::Picking::members;
    case FieldType::place:
        return Session::Picking::place;
    case FieldType::vector: // where a point stands, unless it is measured from another
        if (sentence.kind->key == "point" && !sentence.has("from")) return Session::Picking::place;
        return Session::Picking::none;
    default:
        return Session::Picking::none;
    }
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

QString WordEditor::understood(const Value& value) const
{
    const auto said = session_.model().sentence(sentence_);
    const Field* grammar = said->kind->field(field_.toStdString());
    const DisplayUnits units = session_.units();
    const Frame& frame = session_.structure().frame;
    switch (grammar->type) {
    case FieldType::quantity: {
        const auto& quantity = std::get<Quantity>(value);
        if (grammar->kind == QuantityKind::frequency)
            return QString("= %1 Hz = %2 rpm").arg(q(rounded(quantity.si, 4)), q(rounded(60.0 * quantity.si, 4)));
        return "= " + q(grammar->kind == QuantityKind::number ? rounded(quantity.si, 5)
                                                              : units.text(quantity.si, grammar->kind, 5));
    }
    case FieldType::vector: {
        const auto& vector = std::get<Vector>(value);
        QString text = "= ";
        for (std::size_t axis = 0; axis < 3; ++axis)
            text += (axis ? ", " : "") + q(rounded(units.value(vector.si[axis], grammar->kind), 5));
        return text + " " + q(units.unit(grammar->kind));
    }
    case FieldType::points:
    case FieldType::members: {
        const auto picked = grammar->type == FieldType::points ? pickPoints(frame, std::get<std::string>(value))
                                                               : pickMembers(frame, std::get<std::string>(value));
        if (!picked.problem.empty()) return "▲ " + q(picked.problem);
        QStringList found;
        const auto counted = [&](std::size_t count, const char* noun) {
            if (count > 0) found << QString("%1 %2%3").arg(count).arg(noun, count == 1 ? "" : "s");
        };
        counted(picked.indices.size(), grammar->type == FieldType::points ? "point" : "member");
        counted(picked.edges.size(), "edge");
        counted(picked.sheets.size(), "sheet");
        counted(picked.solids.size(), "solid");
        counted(picked.faces.size(), "face");
        return tr("= %1; click in the scene to add or take away").arg(found.join(", "));
    }
    case FieldType::section: {
        const auto section = readSection(std::get<std::string>(value), NumberStyle::file);
        if (const auto* read = std::get_if<Section>(&section))
            return sectionWords(*read,
                                units.name().starts_with("m") ? DisplayUnits("mm kg N") : DisplayUnits("in lb lbf"));
        return {};
    }
    case FieldType::material: {
        const auto& name = std::get<std::string>(value);
        const auto words = [&](double modulus, double density, const QString& source) {
            return tr("E %1, density %2; %3")
                .arg(q(units.text(modulus, QuantityKind::stress)), q(units.text(density, QuantityKind::density)),
                     source);
        };
        if (const auto material = libraryMaterial(name))
            return words(material->modulus, material->density, q(material->source));
        for (const auto& sentence : session_.model().sentences())
            if ((sentence->kind->key == "own-material" || sentence->kind->key == "orthotropic") &&
                sentence->text("name") == name)
                return words(sentence->number("modulus"), sentence->number("density"), tr("of this model"));
        if (const auto kept = keptMaterial(q(name)))
            return words(kept->number("modulus"), kept->number("density"), tr("kept by you; joins this model"));
        return {};
    }
    default:
        return {};
    }
}

void WordEditor::fillChoices()
{
    choices_->clear();
    const auto said = session_.model().sentence(sentence_);
    const Field* grammar = said->kind->field(field_.toStdString());
    const auto add = [&](const QString& text, const QString& shown = {}) {
        auto* item = new QListWidgetItem(shown.isEmpty() ? text : shown, choices_);
        item->setData(Qt::UserRole, text);
    };
    const auto names = [&](const char* kind) {
        for (const auto& sentence : session_.model().sentences())
            if (sentence->kind->key == kind) add(q(sentence->text("name")));
    };
    if (grammar->type == FieldType::choice)
        for (const auto& choice : grammar->choices)
            add(q(choice));
    if (grammar->type == FieldType::material) {
        names("own-material");
        names("orthotropic");
        for (const auto& kept : keptMaterials())
            if (const QString name = q(kept->text("name"));
                choices_->findItems(name, Qt::MatchExactly).isEmpty() && !libraryMaterial(name.toStdString()))
                add(name, tr("%1   (kept by you)").arg(name));
        for (const auto& material : materialLibrary())
            add(q(material.name));
    }
    if (grammar->type == FieldType::section) {
        names("section");
        names("given-section");
        for (const auto& form : sectionForms())
            add(q(form.example), q(form.example + "   " + form.sizes));
    }
    if (grammar->type == FieldType::points || grammar->type == FieldType::members) {
        if (grammar->type == FieldType::members || session_.structure().frame.points.size() < 2) add("everything");
        for (const auto& [name, group] : session_.structure().frame.groups) {
            if (grammar->type == FieldType::points && !group.sheets.empty()) add("edges of " + q(quotedName(name)));
            if (grammar->type == FieldType::members && group.members.empty() && !group.sheets.empty())
                add(q(quotedName(name)));
            const auto& list = grammar->type == FieldType::points ? group.points : group.members;
            if (list.empty()) continue;
            const bool role = name.find(" of ") != std::string::npos;
            const std::string pick = role ? std::to_string(list.size()) + " " + name
                                          : (grammar->type == FieldType::points ? "points of " : "") + quotedName(name);
            add(q(pick));
        }
        if (grammar->type == FieldType::points) {
            add("lowest points");
            add("highest points");
        }
    }
    if (grammar->type == FieldType::directions)
        for (const char* text : {"x y z", "all", "x", "y", "z", "x y", "rx ry rz"})
            add(text);
    if (grammar->type == FieldType::translations)
        for (const char* text : {"x y", "x y z", "x", "y", "z"})
            add(text);
    choices_->setVisible(choices_->count() > 0);
}

void WordEditor::offerMoreLike(const std::string& name)
{
    for (int row = choices_->count() - 1; row >= 0; --row)
        if (choices_->item(row)->data(moreLikeRole).toBool()) delete choices_->takeItem(row);
    const Frame& frame = session_.structure().frame;
    const bool points = session_.picking() == Session::Picking::points;
    const int index = points ? frame.pointNamed(name) : frame.memberNamed(name);
    std::vector<std::string> rules;
    if (index >= 0)
        rules = points ? rulesLikePoint(frame, index) : rulesLikeMember(frame, index);
    else if (const Picked picked = pickPoints(frame, name); points && picked.edges.size() == 1)
        rules = rulesLikeEdge(frame, picked.edges[0]);
    else if (points && picked.faces.size() == 1)
        rules = rulesLikeFace(frame, picked.faces[0]);
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
    } else {
        hint_->setText(understood(std::get<Value>(result)));
        hint_->setStyleSheet(QString("color: %1").arg(theme.quiet.name()));
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
        const Value& value = std::get<Value>(result);
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
    session_.setPicking(Session::Picking::none);
    emit closed();
}

void WordEditor::takePicked(const QString& name)
{
    if (!isOpen()) return;
    if (session_.picking() == Session::Picking::place) { // one place: a click takes the place of what was there
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
        if (reason == Qt::MouseFocusReason && session_.picking() == Session::Picking::none && isOpen()) {
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
