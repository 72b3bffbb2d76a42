#include "app/ledger/ledger_view.hpp"

#include "app/ledger/sentence_chooser.hpp"
#include "app/ledger/table_editor.hpp"
#include "app/ledger/word_editor.hpp"
#include "app/session/theme.hpp"
#include "core/model/assembly_file.hpp"
#include "core/picks/pick.hpp"

#include <QCoreApplication>
#include <QFileInfo>
#include <QKeyEvent>
#include <QMenu>
#include <QProcess>
#include <QScrollBar>

namespace undisona {

LedgerView::LedgerView(Session& session, QWidget* parent) : QAbstractScrollArea(parent), session_(session)
{
    setObjectName("ledger");
    setAccessibleName(tr("Ledger"));
    setFrameShape(QFrame::NoFrame);
    setFocusPolicy(Qt::StrongFocus);
    viewport()->setMouseTracking(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    editor_ = new WordEditor(session_, viewport());
    table_ = new TableEditor(session_, viewport());
    for (const auto signal : {&Session::derivedChanged, &Session::sentenceSelected})
        connect(&session_, signal, this, [this] { layOut(); });
    connect(&session_, &Session::spotlightChanged, viewport(), qOverload<>(&QWidget::update));
    connect(editor_, &WordEditor::left, this, &LedgerView::leaveWord);
    const auto back = [this] {
        if (isVisible()) setFocus();
        viewport()->update();
    };
    connect(editor_, &WordEditor::closed, this, back);
    connect(table_, &TableEditor::closed, this, back);
    layOut();
}

double LedgerView::offset() const
{
    return verticalScrollBar()->value();
}

void LedgerView::layOut()
{
    layout_ = LedgerLayout::make(session_, viewport()->width(), session_.selectedSentence(), folded_, layout_);
    verticalScrollBar()->setPageStep(viewport()->height());
    verticalScrollBar()->setSingleStep(24);
    verticalScrollBar()->setRange(0, std::max(0, static_cast<int>(layout_.height) - viewport()->height()));
    viewport()->update();
}

void LedgerView::resizeEvent(QResizeEvent*)
{
    layOut();
}
void LedgerView::focusInEvent(QFocusEvent*)
{
    viewport()->update();
}
void LedgerView::focusOutEvent(QFocusEvent*)
{
    viewport()->update();
}

void LedgerView::paintEvent(QPaintEvent*)
{
    QPainter painter(viewport());
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(viewport()->rect(), Theme::now().panel);
    painter.save();
    painter.translate(0, -offset());
    const QRectF seen(0, offset(), viewport()->width(), viewport()->height());
    for (const auto& group : layout_.groups) {
        if (group.head.intersects(seen)) paintGroup(painter, group);
        for (const auto& sentence : group.sentences)
            if (sentence.box.intersects(seen)) paintSentence(painter, sentence);
        painter.setFont(textFont(-1.0));
        painter.setPen(Theme::now().quiet);
        for (const auto& assumed : group.assumptions)
            if (assumed.box.intersects(seen)) painter.drawText(assumed.box, Qt::TextWordWrap, assumed.text);
    }
    if (dropLine_ >= 0.0) {
        painter.setPen(QPen(Theme::now().accent, 2.0));
        painter.drawLine(QPointF(20, dropLine_), QPointF(viewport()->width() - 10, dropLine_));
    }
    painter.restore();
    if (hasFocus()) {
        painter.setPen(QPen(Theme::now().accent, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(viewport()->rect().adjusted(1, 1, -1, -1));
    }
}

void LedgerView::paintGroup(QPainter& painter, const LaidGroup& group) const
{
    const Theme& theme = Theme::now();
    const double middle = group.head.center().y();
    if (group.summary.state == GroupState::settled) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme.green);
        painter.drawEllipse(QPointF(14.0, middle), 2.2, 2.2);
    } else {
        painter.setPen(Qt::NoPen);
        painter.setBrush(group.summary.state == GroupState::wrong ? theme.red : theme.amber);
        painter.drawPolygon(QPolygonF{{14.0, middle - 5.0}, {19.5, middle + 4.5}, {8.5, middle + 4.5}});
    }
    const auto& title = groupTitles[static_cast<std::size_t>(group.group)];
    painter.setFont(textFont(0.0, true));
    painter.setPen(theme.ink);
    painter.drawText(group.head.adjusted(26, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                     QString::fromUtf8(title.data(), static_cast<int>(title.size())) + (group.folded ? " …" : ""));
    painter.setFont(textFont());
    if (!group.folded) {
        painter.setPen(theme.quiet);
        painter.drawText(group.add, Qt::AlignCenter, "+");
    }
    painter.setPen(theme.quiet);
    const double left = group.add.right() + 8.0;
    const QRectF room(left, group.head.top(), group.head.right() - 12.0 - left, group.head.height());
    painter.drawText(
        room, Qt::AlignRight | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(group.summary.sum, Qt::ElideRight, static_cast<int>(room.width())));
}

void LedgerView::paintSentence(QPainter& painter, const LaidSentence& laid) const
{
    const Theme& theme = Theme::now();
    const auto& id = laid.sentence->id;
    const bool selected = id == session_.selectedSentence();
    const auto& lit = session_.spotlight().sentences;
    if (selected) {
        painter.fillRect(laid.box, theme.selection);
        painter.fillRect(QRectF(0, laid.box.top(), 3, laid.box.height()), theme.accent);
    } else if (std::find(lit.begin(), lit.end(), id) != lit.end()) {
        QColor ground = theme.selection;
        ground.setAlphaF(0.55f);
        painter.fillRect(laid.box, ground);
    }
    if (selected || id == hovered_) {
        painter.setPen(QPen(theme.quiet, 1.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(laid.tick, 2, 2);
        if (laid.sentence->on) {
            painter.setPen(QPen(theme.accent, 1.8));
            const QPointF c = laid.tick.center();
            painter.drawPolyline(QPolygonF{c + QPointF(-3, 0), c + QPointF(-1, 2.6), c + QPointF(3.2, -3)});
        }
    }
    painter.setFont(textFont());
    const QFontMetricsF metrics(painter.font());
    for (const auto& word : laid.words) {
        painter.setPen(laid.sentence->on && !laid.leftOut ? theme.ink : theme.quiet);
        painter.drawText(QPointF(word.box.left(), word.box.top() + metrics.ascent() + 1.0), word.text);
        if (word.field.isEmpty()) continue;
        painter.setPen(QPen(theme.quiet, 1.0, Qt::DotLine));
        const double y = std::round(word.box.top() + metrics.ascent() + 4.0) + 0.5;
        painter.drawLine(QPointF(word.box.left(), y), QPointF(word.box.right(), y));
    }
    if (!laid.more.isEmpty()) {
        painter.setPen(theme.accent);
        painter.setFont(textFont(0.0, true));
        painter.drawText(laid.more, Qt::AlignCenter, "+");
    }
    painter.setFont(textFont(-1.0));
    for (const auto& [box, finding] : laid.findings) {
        const QColor colour = finding.severity == Severity::error ? theme.red : theme.amber;
        painter.setPen(Qt::NoPen);
        painter.setBrush(colour);
        const QPointF mark(box.left() + 6.0, box.top() + 8.0);
        painter.drawPolygon(QPolygonF{mark + QPointF(0, -4.5), mark + QPointF(5, 4), mark + QPointF(-5, 4)});
        painter.setPen(colour);
        painter.drawText(box.adjusted(16, 0, 0, 200), Qt::TextWordWrap,
                         QString::fromStdString(finding.what + (finding.remedy.empty() ? "" : ". " + finding.remedy)));
    }
}

std::vector<PaintedItem> LedgerView::paintedItems() const
{
    std::vector<PaintedItem> items;
    const QRect room = viewport()->rect();
    const auto add = [&](const QString& name, const QString& value, const QRectF& box, QAccessible::Role role) {
        const QRect here = box.translated(0, -offset()).toRect().intersected(room).translated(viewport()->pos());
        if (!here.isEmpty()) items.push_back({name, value, here, role});
    };
    for (const auto& group : layout_.groups) {
        const auto& title = groupTitles[static_cast<std::size_t>(group.group)];
        const QString name = QString::fromUtf8(title.data(), static_cast<int>(title.size()));
        add("group " + name, group.summary.sum, group.head, QAccessible::Heading);
        if (!group.folded) add("add to " + name, tr("add a sentence"), group.add, QAccessible::Button);
        for (const auto& laid : group.sentences) {
            const QString id = QString::fromStdString(laid.sentence->id);
            add("sentence " + id,
                QString::fromStdString(wordsOf(*laid.sentence)) + (laid.leftOut ? tr(" — left out") : QString()),
                laid.box, QAccessible::Paragraph);
            add("tick " + id, laid.sentence->on ? tr("on") : tr("off"), laid.tick, QAccessible::CheckBox);
            for (const auto& word : laid.words)
                if (!word.field.isEmpty())
                    add(QString("word %1.%2").arg(id, word.field), word.text.trimmed(), word.box,
                        QAccessible::EditableText);
            if (!laid.more.isEmpty()) add("detail " + id, tr("add a detail"), laid.more, QAccessible::Button);
            for (const auto& [box, finding] : laid.findings)
                add("finding " + id, QString::fromStdString(finding.what), box, QAccessible::AlertMessage);
        }
        for (const auto& assumed : group.assumptions)
            add("joined " + QString::fromStdString(assumed.first + " " + assumed.second).trimmed(), assumed.text,
                assumed.box, QAccessible::Paragraph);
    }
    return items;
}

bool LedgerView::viewportEvent(QEvent* event)
{
    switch (event->type()) {
    case QEvent::MouseButtonDblClick: // a second quick click is a click too
    case QEvent::MouseButtonPress: {
        auto* mouse = static_cast<QMouseEvent*>(event);
        if (mouse->button() != Qt::LeftButton) break;
        pressed(mouse->position() + QPointF(0, offset()), mouse->modifiers());
        return true;
    }
    case QEvent::MouseMove: {
        auto* mouse = static_cast<QMouseEvent*>(event);
        moved(mouse->position() + QPointF(0, offset()), mouse->buttons() & Qt::LeftButton);
        return true;
    }
    case QEvent::MouseButtonRelease:
        released(static_cast<QMouseEvent*>(event)->position() + QPointF(0, offset()));
        return true;
    case QEvent::Leave:
        hovered_.clear();
        session_.light(session_.spotlightOf(session_.selectedSentence()));
        viewport()->update();
        break;
    default:
        break;
    }
    return QAbstractScrollArea::viewportEvent(event);
}

void LedgerView::pressed(const QPointF& place, Qt::KeyboardModifiers)
{
    if (table_->isOpen() && !table_->accept()) return;
    if (editor_->isOpen() && !editor_->accept()) return;
    setFocus(Qt::MouseFocusReason);
    pressedAt_ = place;
    dragged_.clear();
    for (const auto& group : layout_.groups) {
        if (group.add.contains(place) && !group.folded) return addTo(group.group);
        if (group.head.contains(place)) {
            if (!folded_.insert(group.group).second) folded_.erase(group.group);
            return layOut();
        }
        for (const auto& assumed : group.assumptions)
            if (assumed.box.contains(place) && !assumed.first.empty()) return offerApart(assumed);
        for (const auto& laid : group.sentences) {
            if (!laid.box.contains(place)) continue;
            const std::string id = laid.sentence->id;
            if (laid.tick.adjusted(-4, -4, 4, 4).contains(place)) {
                session_.selectSentence(id);
                return switchSelected();
            }
            if (!laid.more.isEmpty() && laid.more.contains(place)) return offerDetails(laid);
            for (const auto& word : laid.words)
                if (!word.field.isEmpty() && word.box.contains(place)) {
                    const QString field = word.field;
                    session_.selectSentence(id);
                    return openWord(id, field);
                }
            session_.selectSentence(id);
            dragged_ = id;
            return;
        }
    }
}

void LedgerView::moved(const QPointF& place, bool dragging)
{
    if (dragging && !dragged_.empty() && std::abs(place.y() - pressedAt_.y()) > 8.0) {
        const auto from = session_.model().find(dragged_);
        for (const auto& group : layout_.groups) {
            if (!from || group.group != from->group) continue;
            dropIndex_ = group.sentences.size();
            dropLine_ = group.sentences.back().box.bottom();
            for (std::size_t at = group.sentences.size(); at-- > 0;)
                if (place.y() < group.sentences[at].box.center().y()) {
                    dropIndex_ = at;
                    dropLine_ = group.sentences[at].box.top();
                }
        }
        return viewport()->update();
    }
    std::string over;
    Qt::CursorShape shape = Qt::ArrowCursor;
    for (const auto& group : layout_.groups) {
        if (group.head.contains(place)) shape = Qt::PointingHandCursor;
        for (const auto& assumed : group.assumptions)
            if (assumed.box.contains(place) && !assumed.first.empty()) shape = Qt::PointingHandCursor;
        for (const auto& laid : group.sentences) {
            if (!laid.box.contains(place)) continue;
            over = laid.sentence->id;
            for (const auto& word : laid.words)
                if (!word.field.isEmpty() && word.box.contains(place)) shape = Qt::IBeamCursor;
        }
    }
    viewport()->setCursor(shape);
    if (over == hovered_) return;
    hovered_ = over;
    session_.light(session_.spotlightOf(over.empty() ? session_.selectedSentence() : over));
    viewport()->update();
}

void LedgerView::released(const QPointF&)
{
    if (dropLine_ >= 0.0 && !dragged_.empty()) {
        const auto from = session_.model().find(dragged_);
        const std::size_t to = from && from->index < dropIndex_ ? dropIndex_ - 1 : dropIndex_;
        dropLine_ = -1.0;
        if (from && to != from->index)
            session_.changeModel(tr("move a sentence"), session_.model().moved(dragged_, to));
        viewport()->update();
    }
    dragged_.clear();
}

void LedgerView::openWord(const std::string& id, const QString& field)
{
    const auto said = session_.model().sentence(id);
    if (!said || field.isEmpty()) return;
    showSentence(id);
    const auto* word = layout_.word(id, field);
    const auto* laid = layout_.sentence(id);
    if (!laid) return;
    const QRect place = (word ? word->box : laid->box).translated(0, -offset()).toRect();
    lastWordSentence_ = id;
    lastWordField_ = field;
    if (said->kind->field(field.toStdString())->type == FieldType::table)
        return table_->open(id, field, place.bottom() + 2);
    editor_->open(id, field, place);
}

QString LedgerView::nextField(const Sentence& sentence, const QString& from, int direction) const
{
    std::vector<QString> fields;
    for (const auto& piece : shownPieces(sentence))
        if (!piece.field.empty()) fields.push_back(QString::fromStdString(piece.field));
    if (fields.empty()) return {};
    if (from.isEmpty()) return direction >= 0 ? fields.front() : fields.back();
    const auto at = std::find(fields.begin(), fields.end(), from);
    if (at == fields.end()) return {};
    if (direction > 0) return at + 1 == fields.end() ? QString() : *(at + 1);
    return at == fields.begin() ? QString() : *(at - 1);
}

void LedgerView::leaveWord(int direction)
{
    if (direction == 0) return setFocus();
    const auto said = session_.model().sentence(lastWordSentence_);
    if (!said) return;
    const QString next = nextField(*said, lastWordField_, direction);
    if (next.isEmpty()) return setFocus();
    openWord(lastWordSentence_, next);
}

void LedgerView::showSentence(const std::string& id)
{
    if (const auto place = session_.model().find(id); place && folded_.erase(place->group) > 0) layOut();
    session_.selectSentence(id);
    const auto* laid = layout_.sentence(id);
    if (!laid) return;
    if (laid->box.top() < offset()) verticalScrollBar()->setValue(static_cast<int>(laid->box.top()) - 20);
    if (laid->box.bottom() > offset() + viewport()->height())
        verticalScrollBar()->setValue(static_cast<int>(laid->box.bottom()) - viewport()->height() + 12);
}

void LedgerView::addTo(Group group)
{
    auto* chooser = new SentenceChooser(group, this);
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &QDialog::accepted, this, [this, chooser] {
        if (chooser->chosen()) add(*chooser->chosen());
    });
    chooser->open();
}

void LedgerView::add(const SentenceKind& kind)
{
    std::size_t index = SIZE_MAX;
    if (const auto selected = session_.model().find(session_.selectedSentence());
        selected && selected->group == kind.group)
        index = selected->index + 1;
    const std::string id = session_.addSentence(kind, index);
    const auto said = session_.model().sentence(id);
    showSentence(id);
    if (said) openWord(id, nextField(*said, {}, 1));
}

void LedgerView::addBelow()
{
    const auto selected = session_.model().find(session_.selectedSentence());
    addTo(selected ? selected->group : Group::shape);
}

void LedgerView::duplicateSelected()
{
    const auto said = session_.model().sentence(session_.selectedSentence());
    if (!said) return;
    Sentence copy = *said;
    copy.id = session_.model().freeId();
    if (copy.has("name") && copy.kind->field("name")->type == FieldType::name)
        copy = copy.with("name", copy.text("name") + " copy");
    const std::string id = copy.id;
    session_.changeModel(tr("duplicate a sentence"),
                         session_.model().inserted(copy, session_.model().find(said->id)->index + 1));
    showSentence(id);
}

void LedgerView::announceRemoval(const Sentence& sentence)
{
    session_.say(tr("Removed \"%1\". Ctrl+Z brings it back.").arg(QString::fromStdString(wordsOf(sentence))));
}

void LedgerView::removeSelected()
{
    const auto said = session_.model().sentence(session_.selectedSentence());
    if (!said) return;
    const auto place = *session_.model().find(said->id);
    session_.changeModel(tr("remove a sentence"), session_.model().removed(said->id));
    announceRemoval(*said);
    const auto& list = session_.model().group(place.group);
    if (!list.empty()) session_.selectSentence(list[std::min(place.index, list.size() - 1)]->id);
}

void LedgerView::switchSelected()
{
    const auto said = session_.model().sentence(session_.selectedSentence());
    if (said)
        session_.replaceSentence(said->on ? tr("switch a sentence off") : tr("switch a sentence on"),
                                 said->switched(!said->on));
}

void LedgerView::moveSelected(int by)
{
    const auto place = session_.model().find(session_.selectedSentence());
    if (!place || (by < 0 && place->index == 0)) return;
    session_.changeModel(tr("move a sentence"), session_.model().moved(session_.selectedSentence(),
                                                                       place->index + static_cast<std::size_t>(by)));
}

void LedgerView::offerDetails(const LaidSentence& laid)
{
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const std::string id = laid.sentence->id;
    for (const auto& key : laid.sentence->kind->optionalFields()) {
        if (laid.sentence->has(key)) continue;
        const Field* field = laid.sentence->kind->field(key);
        menu->addAction(QString::fromStdString(field->label), this, [this, id, field] {
            const auto said = session_.model().sentence(id);
            const auto value = readValue(*field, field->fallback, NumberStyle::file);
            session_.replaceSentence(tr("add %1").arg(QString::fromStdString(field->label)),
                                     said->with(field->key, std::get<Value>(value)));
            openWord(id, QString::fromStdString(field->key));
        });
    }
    if (!menu->isEmpty()) menu->addSeparator();
    for (const auto& key : laid.sentence->kind->optionalFields()) {
        if (!laid.sentence->has(key)) continue;
        const Field* field = laid.sentence->kind->field(key);
        menu->addAction(tr("without %1").arg(QString::fromStdString(field->label)), this, [this, id, field] {
            session_.replaceSentence(tr("leave out %1").arg(QString::fromStdString(field->label)),
                                     session_.model().sentence(id)->with(field->key, std::monostate{}));
        });
    }
    if (placesAssembly(*laid.sentence)) {
        const QString file = QString::fromStdString(laid.sentence->text("file"));
        menu->addAction(tr("Open %1 in a window of its own").arg(QFileInfo(file).fileName()), this, [this, file] {
            const QString program = QCoreApplication::applicationDirPath() + "/undisona";
            if (!QFileInfo::exists(file))
                session_.say(tr("There is no file %1.").arg(file));
            else if (!QProcess::startDetached(program, {file}))
                session_.say(tr("The program %1 does not start.").arg(program));
        });
    }
    if (mayBeTriedWithout(*laid.sentence)) {
        if (!menu->isEmpty()) menu->addSeparator();
        menu->addAction(tr("As if it were not said, a take beside"), this, [this, id] { keepTakeWithout(id); });
    }
    menu->popup(viewport()->mapToGlobal(laid.more.translated(0, -offset()).bottomLeft().toPoint()));
}

void LedgerView::keepTakeWithout(const std::string& id)
{
    const auto said = session_.model().sentence(id);
    if (!said) return;
    session_.keepTake(tr("without \"%1\"").arg(QString::fromStdString(wordsOf(*said)).left(48)),
                      session_.model().replaced(said->switched(false)));
}

Model LedgerView::apart(const LaidAssumption& assumed, std::string& id) const
{
    const Sentence said = newSentence(*kindNamed("apart"), session_.model().freeId())
                              .with("what", quotedName(assumed.first))
                              .with("other", quotedName(assumed.second));
    id = said.id;
    return session_.model().inserted(said);
}

/// What is assumed can be taken back, or tried beside the model.
void LedgerView::offerApart(const LaidAssumption& assumed)
{
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const LaidAssumption pair = assumed; // what is laid out may change before an answer
    menu->addAction(tr("Take them apart"), this, [this, pair] { takeApart(pair); });
    menu->addAction(tr("As if not joined, a take beside"), this, [this, pair] {
        std::string id;
        session_.keepTake(
            tr("%1 and %2 apart").arg(QString::fromStdString(pair.first), QString::fromStdString(pair.second)),
            apart(pair, id));
    });
    menu->popup(viewport()->mapToGlobal(pair.box.translated(0, -offset()).bottomLeft().toPoint()));
}

void LedgerView::takeApart(const LaidAssumption& assumed)
{
    const QString first = QString::fromStdString(assumed.first), second = QString::fromStdString(assumed.second);
    std::string id;
    Model changed = apart(assumed, id);
    session_.changeModel(tr("take %1 and %2 apart").arg(first, second), std::move(changed));
    session_.say(tr("%1 and %2 touch but are not joined any more. Ctrl+Z joins them again.").arg(first, second));
    showSentence(id);
}

void LedgerView::stepSelection(int by)
{
    std::vector<std::string> ids;
    for (const auto& group : layout_.groups)
        for (const auto& laid : group.sentences)
            ids.push_back(laid.sentence->id);
    if (ids.empty()) return;
    const auto at = std::find(ids.begin(), ids.end(), session_.selectedSentence());
    std::ptrdiff_t next =
        at == ids.end() ? (by > 0 ? 0 : static_cast<std::ptrdiff_t>(ids.size()) - 1) : at - ids.begin() + by;
    next = std::clamp<std::ptrdiff_t>(next, 0, static_cast<std::ptrdiff_t>(ids.size()) - 1);
    showSentence(ids[static_cast<std::size_t>(next)]);
}

void LedgerView::keyPressEvent(QKeyEvent* event)
{
    const auto said = session_.model().sentence(session_.selectedSentence());
    const bool control = event->modifiers() & Qt::ControlModifier, alt = event->modifiers() & Qt::AltModifier;
    switch (event->key()) {
    case Qt::Key_Down:
        return alt ? moveSelected(1) : stepSelection(1);
    case Qt::Key_Up:
        return alt ? moveSelected(-1) : stepSelection(-1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (control || !said) return addBelow();
        return openWord(said->id, nextField(*said, {}, 1));
    case Qt::Key_Delete:
        return removeSelected();
    case Qt::Key_Plus:
        if (const auto* laid = layout_.sentence(session_.selectedSentence()); laid && !laid->more.isEmpty())
            return offerDetails(*laid);
        break;
    default:
        break;
    }
    QAbstractScrollArea::keyPressEvent(event);
}

} // namespace undisona
