#include "app/score/score_view.hpp"

#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QToolTip>

namespace undisona {

namespace {

constexpr double gutter = 168.0, rightEdge = 26.0, topEdge = 22.0, axisRoom = 30.0;
constexpr double leastStave = 58.0, mostStave = 150.0;

QString hertzText(double hertz) { return QString::fromStdString(rounded(hertz, 4)) + " Hz"; }

QString elided(const QPainter& painter, const QString& text, double width)
{
    return painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(width));
}

}  // namespace

ScoreView::ScoreView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Score"));
    setObjectName("score");
    for (const auto signal : {&Session::stavesChanged, &Session::runChanged, &Session::selectionChanged})
        connect(&session_, signal, this, &ScoreView::refresh);
}

void ScoreView::refresh()
{
    if (fitted_ && drag_.what != Drag::What::band) showAll();  // the axis stays still under a dragged band
    layOut();
    update();
}

void ScoreView::setUnit(AxisUnit unit)
{
    axis_.setUnit(unit);
    update();
}

void ScoreView::setLogarithmic(bool logarithmic)
{
    axis_.setLogarithmic(logarithmic);
    fitted_ = true;
    refresh();
}

void ScoreView::setHeightsBy(const QString& excitation)
{
    heightsBy_ = excitation;
    refresh();
}

void ScoreView::showAll()
{
    double most = 0.0, least = 1e300;
    for (const auto& stave : session_.staves())
        if (stave.solution)
            for (const auto& mode : stave.solution->modes) {
                most = std::max(most, mode.frequency);
                if (mode.frequency > 0.0) least = std::min(least, mode.frequency);
            }
    const double modes = most;
    for (const auto& excitation : session_.live().excitations)
        for (const double order : excitation.orders) {
            // Bands far above every mode found do not squeeze the notes together.
            const double edge = order * excitation.high * (1.0 + excitation.margin);
            if (modes == 0.0 || edge < 5.0 * modes) most = std::max(most, edge);
            if (order * excitation.low > 0.0) least = std::min(least, order * excitation.low);
        }
    for (const double hertz : session_.arriving())
        most = std::max(most, hertz);
    if (most <= 0.0) most = 50.0;
    fitted_ = true;
    axis_.setRange(axis_.logarithmic() ? std::min(least, most) / 1.5 : 0.0, most * 1.06);
}

void ScoreView::resizeEvent(QResizeEvent*) { layOut(); }

void ScoreView::layOut()
{
    axis_.setRoom(gutter, width() - rightEdge);
    notes_.clear();
    bands_.clear();
    labels_.clear();
    staveRooms_.clear();
    const double room = height() - topEdge - axisRoom;
    const auto& staves = session_.staves();
    const auto fitting = std::clamp<std::size_t>(static_cast<std::size_t>(room / leastStave), 1, staves.size());
    if (session_.shownStave() < firstStave_) firstStave_ = session_.shownStave();
    if (session_.shownStave() >= firstStave_ + fitting) firstStave_ = session_.shownStave() - fitting + 1;
    firstStave_ = std::min(firstStave_, staves.size() - fitting);
    const double each = std::min(mostStave, room / double(fitting));
    double top = topEdge + (room - each * double(fitting));  // the live stave stands on the axis
    staveRooms_.assign(staves.size(), {});
    for (std::size_t shown = fitting; shown-- > 0;) {
        const std::size_t stave = firstStave_ + shown;
        staveRooms_[stave] = {0.0, top, double(width()), each};
        top += each;
    }
    for (const auto& excitation : session_.live().excitations)
        for (const double order : excitation.orders) {
            Band band{excitation.sentence, QString::fromStdString(excitation.name), order, order * excitation.low, order * excitation.high, excitation.margin, 0, 0, 0, 0, excitation.turns};
            if (excitation.orders.size() > 1 || order != 1.0) band.name += QString(" ×%1").arg(order);
            band.left = axis_.at(band.low);
            band.right = axis_.at(band.high);
            band.outerLeft = axis_.at(band.low * (1.0 - band.margin));
            band.outerRight = axis_.at(band.high * (1.0 + band.margin));
            bands_.push_back(band);
        }
    for (std::size_t stave = 0; stave < staves.size(); ++stave)
        if (!staveRooms_[stave].isEmpty()) layOutNotes(stave, staveRooms_[stave].top(), each);
}

void ScoreView::layOutNotes(std::size_t index, double top, double height)
{
    const Stave& stave = session_.staves()[index];
    if (!stave.solution) return;
    const auto& solution = *stave.solution;
    const double base = top + height - 14.0, tall = height - 46.0;
    const Excitation* driver = nullptr;
    for (const auto& excitation : stave.excitations)
        if (QString::fromStdString(excitation.name) == heightsBy_) driver = &excitation;
    const std::size_t inView = static_cast<std::size_t>(std::count_if(solution.modes.begin(), solution.modes.end(), [&](const Mode& mode) {
        return mode.frequency >= axis_.low() && mode.frequency <= axis_.high();
    }));
    const double spacing = (axis_.right() - axis_.left()) / double(std::max<std::size_t>(1, inView));
    const double radius = spacing > 14.0 ? 5.5 : spacing > 8.0 ? 4.5 : 3.4;
    int rigid = 0;
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        const Mode& mode = solution.modes[at];
        Note note{index, mode.number, {}, base, noteLook(solution.participation, at), radius, stave.stale, nullptr};
        if (driver) note.look.height = std::sqrt(std::clamp(strengthOf(solution, *driver, at), 0.0, 1.0));
        double x = axis_.at(mode.frequency);
        if (mode.rigid || mode.mechanism) {  // in the bracket at the left end, side by side
            if (axis_.low() > 0.0 && !axis_.logarithmic()) continue;
            x = axis_.left() + 6.0 + 9.0 * (rigid % 6);
            note.base = base - 9.0 * (rigid / 6);
            note.radius = 3.4;
            note.look.height = 0.0;
            ++rigid;
        } else if (x < axis_.left() - 1.0 || x > axis_.right() + 1.0) {
            continue;
        }
        note.centre = {x, note.base - note.look.height * tall};
        for (const auto& pair : stave.clashes.pairs)
            if (pair.mode == mode.number && pair.verdict != Verdict::clear && !pair.weak && (!note.worst || pair.verdict < note.worst->verdict)) note.worst = &pair;
        notes_.push_back(note);
    }
    // Numbers over the notes: the heaviest first, and only where nothing is covered.
    std::vector<const Note*> own;
    for (const auto& note : notes_)
        if (note.stave == index && solution.modes[static_cast<std::size_t>(note.mode - 1)].frequency > 0.0) own.push_back(&note);
    std::stable_sort(own.begin(), own.end(), [&](const Note* a, const Note* b) {
        const bool sa = index == session_.shownStave() && a->mode == session_.shownMode(), sb = index == session_.shownStave() && b->mode == session_.shownMode();
        return sa != sb ? sa : a->look.height > b->look.height;
    });
    const QFontMetricsF metrics(textFont(-1.5));
    for (const auto* note : own) {
        const QString text = QString::number(note->mode);
        QRectF box(0, 0, metrics.horizontalAdvance(text) + 2.0, metrics.height() - 3.0);
        const bool marked = index == session_.shownStave() && note->mode == session_.shownMode();
        box.moveCenter({note->centre.x(), note->centre.y() - note->radius - (marked ? 12.0 : note->look.first >= 0 ? 10.0 : 8.0)});
        if (box.top() < top - 4.0) continue;
        const bool covered = std::any_of(labels_.begin(), labels_.end(), [&](const auto& label) { return label.first.intersects(box); }) ||
                             std::any_of(own.begin(), own.end(), [&](const Note* other) {
                                 return other != note && QRectF(other->centre.x() - radius, other->centre.y() - radius - (other->worst ? 4 : 0), 2 * radius, 2 * radius).intersects(box);
                             });
        if (!covered) labels_.emplace_back(box, text);
    }
}

void ScoreView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), Theme::now().panel);
    painter.save();
    painter.setClipRect(QRectF(axis_.left() - 8.0, 0, axis_.right() - axis_.left() + 16.0, height()));
    paintBands(painter);
    painter.restore();
    for (std::size_t stave = 0; stave < session_.staves().size(); ++stave)
        if (!staveRooms_[stave].isEmpty()) paintStave(painter, stave);
    paintPairs(painter);
    const auto& staves = session_.staves();
    for (const auto& note : notes_) {
        const QColor colour = note.look.first >= 0 ? Theme::now().axis[note.look.first] : Theme::now().quiet;
        const Mode& mode = staves[note.stave].solution->modes[static_cast<std::size_t>(note.mode - 1)];
        QPen pen(colour, 1.4);
        if (note.faint) pen.setColor(QColor(colour.red(), colour.green(), colour.blue(), 90));
        painter.setPen(pen);
        if (note.look.height > 0.0) painter.drawLine(QPointF(note.centre.x(), note.base), note.centre);
        const double exact = axis_.at(mode.frequency / (1.0 + mode.meshError));  // the whisker reaches to the estimated exact frequency
        if (std::abs(exact - note.centre.x()) > note.radius) painter.drawLine(QPointF(exact, note.centre.y()), note.centre);
    }
    for (const auto& note : notes_) {
        const bool selected = note.stave == session_.shownStave() && note.mode == session_.shownMode();
        paintNote(painter, note.centre, note.look, {note.radius, note.faint, selected});
        if (!note.worst || note.faint) continue;
        const bool clash = note.worst->verdict == Verdict::clash;
        painter.setPen(QPen(clash ? Theme::now().red : Theme::now().amber, 2.0));
        const QPointF mark = note.centre + QPointF(-note.radius - 6.0, -note.radius - 4.0);
        if (clash) {
            painter.drawLine(mark + QPointF(-3, -3), mark + QPointF(3, 3));
            painter.drawLine(mark + QPointF(-3, 3), mark + QPointF(3, -3));
        } else {
            painter.setBrush(Qt::NoBrush);
            painter.drawPolygon(QPolygonF{mark + QPointF(0, -3.4), mark + QPointF(3.6, 3), mark + QPointF(-3.6, 3)});
        }
    }
    if (session_.solving() && !session_.arriving().empty() && !staveRooms_[0].isEmpty()) {
        const double base = staveRooms_[0].bottom() - 14.0;  // converged, not yet proven
        for (const double hertz : session_.arriving())
            if (hertz > 0.0) paintNote(painter, {axis_.at(hertz), base}, {}, {4.5, true, false});
    }
    paintLabels(painter);
    paintAxis(painter);
    if (hasFocus()) {
        painter.setPen(QPen(Theme::now().accent, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -1, -1));
    }
}

void ScoreView::paintBands(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    const double top = topEdge - 2.0, bottom = height() - axisRoom;
    std::vector<QRectF> taken;
    painter.setFont(textFont(-1.0));
    const QFontMetricsF metrics(painter.font());
    for (const auto& band : bands_) {
        bool clash = false;
        for (const auto& pair : session_.live().clashes.pairs)
            clash |= pair.verdict == Verdict::clash && !pair.weak && session_.live().excitations[pair.excitation].sentence == band.sentence && pair.order == band.order;
        const bool stale = session_.live().stale;
        clash = clash && !stale;
        QColor edge = clash ? theme.amberGround : theme.hairline, core = edge;
        edge.setAlphaF(0.55f);
        painter.fillRect(QRectF(band.outerLeft, top, band.outerRight - band.outerLeft, bottom - top), edge);
        if (band.right > band.left + 1.0) {
            core.setAlphaF(0.9f);
            painter.fillRect(QRectF(band.left, top, band.right - band.left, bottom - top), core);
        }
        painter.setPen(QPen(clash ? theme.amber : theme.quiet, clash ? 1.8 : 1.2));
        painter.drawLine(QPointF(band.left, top), QPointF(band.left, bottom));
        if (band.right > band.left + 1.0) painter.drawLine(QPointF(band.right, top), QPointF(band.right, bottom));
        const double middle = (std::max(band.left, axis_.left()) + std::min(band.right, axis_.right())) / 2.0;
        if (band.right < axis_.left() || band.left > axis_.right()) continue;
        QRectF box(0, 3.0, metrics.horizontalAdvance(band.name) + 4.0, metrics.height());
        box.moveLeft(std::clamp(middle - box.width() / 2.0, axis_.left(), std::max(axis_.left(), axis_.right() - box.width())));
        if (std::any_of(taken.begin(), taken.end(), [&](const QRectF& other) { return other.adjusted(-6, 0, 6, 0).intersects(box); })) continue;
        taken.push_back(box);
        painter.setPen(clash ? theme.amber : theme.quiet);
        painter.drawText(box, Qt::AlignCenter, band.name);
    }
}

void ScoreView::paintStave(QPainter& painter, std::size_t index) const
{
    const Theme& theme = Theme::now();
    const Stave& stave = session_.staves()[index];
    const QRectF room = staveRooms_[index];
    const double base = room.bottom() - 14.0, tall = room.height() - 46.0;
    const bool shown = index == session_.shownStave();
    painter.setPen(QPen(theme.hairline, 1.4));
    painter.drawLine(QPointF(axis_.left(), base), QPointF(axis_.right(), base));
    painter.setFont(textFont(-2.5));
    for (const int percent : {10, 50, 100}) {  // quiet scale of the heights
        const double y = base - std::sqrt(percent / 100.0) * tall;
        QColor line = theme.hairline;
        line.setAlphaF(0.6f);
        painter.setPen(QPen(line, 1.0, Qt::DotLine));
        painter.drawLine(QPointF(axis_.left(), y), QPointF(axis_.right(), y));
        if ((percent == 10 && tall < 60.0) || (percent == 50 && tall < 48.0)) continue;
        painter.setPen(theme.quiet);
        painter.drawText(QRectF(axis_.left() - 40.0, y - 7.0, 36.0, 14.0), Qt::AlignRight | Qt::AlignVCenter, QString("%1%").arg(percent));
    }
    if (shown) painter.fillRect(QRectF(0, room.top() + 4.0, 3.0, room.height() - 8.0), theme.accent);
    painter.setFont(textFont(0.0, true));
    painter.setPen(theme.ink);
    const double textWidth = gutter - 58.0;
    const double y = base - 24.0;
    painter.drawText(QRectF(12.0, y - 8.0, textWidth, 18.0), Qt::AlignLeft | Qt::AlignVCenter, elided(painter, stave.name, textWidth));
    painter.setFont(textFont(-1.0));
    painter.setPen(theme.quiet);
    QString second;
    if (stave.solution) {
        const auto clashes = std::count_if(stave.clashes.pairs.begin(), stave.clashes.pairs.end(), [](const ClashPair& pair) { return pair.verdict == Verdict::clash && !pair.weak; });
        second = session_.units().text(stave.mass, QuantityKind::mass).c_str();
        if (!stave.stale) second += clashes == 0 ? tr(" · clear") : clashes == 1 ? tr(" · 1 clash") : tr(" · %1 clashes").arg(clashes);
    } else {
        second = stave.failure.empty() ? tr("not solved") : tr("no modes");
    }
    painter.drawText(QRectF(12.0, y + 9.0, textWidth + 18.0, 16.0), Qt::AlignLeft | Qt::AlignVCenter, elided(painter, second, textWidth + 18.0));
    if (stave.stale) {
        painter.setPen(theme.amber);
        painter.drawText(QRectF(12.0, y + 23.0, textWidth + 30.0, 15.0), Qt::AlignLeft | Qt::AlignVCenter, tr("before your last change"));
    }
    if (!stave.solution && !stave.failure.empty()) {
        painter.setPen(theme.red);
        painter.setFont(textFont());
        const QString why = QStringLiteral("✕ ") + QString::fromStdString(stave.failure.front().what);
        painter.drawText(QRectF(axis_.left() + 12.0, base - 30.0, axis_.right() - axis_.left() - 24.0, 22.0), Qt::AlignLeft | Qt::AlignVCenter,
                         elided(painter, why, axis_.right() - axis_.left() - 24.0));
    }
    const bool still = stave.solution && !stave.solution->modes.empty() && (stave.solution->modes[0].rigid || stave.solution->modes[0].mechanism);
    if (still && axis_.low() <= 0.0) {  // the bracket of motions at 0 Hz
        const double right = axis_.left() + 58.0;
        painter.setPen(QPen(theme.quiet, 1.2));
        painter.drawPolyline(QPolygonF{QPointF(right - 4, base + 7), QPointF(right, base + 7), QPointF(right, base - 10), QPointF(right - 4, base - 10)});
    }
}

void ScoreView::paintPairs(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    painter.setFont(textFont(-1.0));
    const QFontMetricsF metrics(painter.font());
    std::vector<QRectF> taken;
    for (std::size_t lower = 0; lower + 1 < session_.staves().size(); ++lower) {
        if (staveRooms_[lower].isEmpty() || staveRooms_[lower + 1].isEmpty()) continue;
        const auto find = [&](std::size_t stave, int mode) -> const Note* {
            for (const auto& note : notes_)
                if (note.stave == stave && note.mode == mode) return &note;
            return nullptr;
        };
        for (const auto& pair : session_.pairsWithNext(lower)) {
            const Note *from = find(lower, pair.first), *to = find(lower + 1, pair.second);
            if (!from || !to) continue;
            const bool chosen = (session_.shownStave() == lower && session_.shownMode() == pair.first) || (session_.shownStave() == lower + 1 && session_.shownMode() == pair.second);
            QColor line = chosen ? theme.accent : theme.quiet;
            line.setAlphaF(chosen ? 1.0f : 0.45f);
            painter.setPen(QPen(line, chosen ? 1.6 : 1.0));
            const QPointF start = from->centre - QPointF(0, from->radius), end(to->centre.x(), to->base + 2.0);
            painter.drawLine(start, end);
            if (!chosen) continue;
            // The shift is read from the older take (above) to the newer one.
            const double shift = -pair.shift / (1.0 + pair.shift);
            const QString text = (shift >= 0 ? "+" : "−") + QString::number(std::abs(100.0 * shift), 'f', std::abs(shift) < 0.0995 ? 1 : 0) + " %";
            QRectF box(0, 0, metrics.horizontalAdvance(text) + 6.0, metrics.height());
            box.moveCenter((start + end) / 2.0 + QPointF(box.width() / 2.0 + 8.0, 0));
            painter.setPen(Qt::NoPen);
            painter.setBrush(theme.panel);
            painter.drawRoundedRect(box, 3, 3);
            painter.setPen(theme.accent);
            painter.drawText(box, Qt::AlignCenter, text);
        }
    }
}

void ScoreView::paintLabels(QPainter& painter) const
{
    painter.setFont(textFont(-1.5));
    painter.setPen(Theme::now().quiet);
    for (const auto& [box, text] : labels_)
        painter.drawText(box, Qt::AlignCenter | Qt::TextDontClip, text);
}

void ScoreView::paintAxis(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    const double y = height() - axisRoom;
    painter.setPen(QPen(theme.quiet, 1.0));
    painter.drawLine(QPointF(axis_.left(), y), QPointF(axis_.right(), y));
    painter.setFont(textFont(-1.0));
    const QFontMetricsF metrics(painter.font());
    double free = -1e9;
    const QString unit = axis_.unitText();
    const double unitLeft = axis_.right() + rightEdge - metrics.horizontalAdvance(unit) - 4.0;
    for (const auto& tick : axis_.ticks()) {
        painter.setPen(theme.quiet);
        painter.drawLine(QPointF(tick.pixel, y), QPointF(tick.pixel, y + 4.0));
        const double wide = metrics.horizontalAdvance(tick.label);
        const double left = std::max(2.0, tick.pixel - wide / 2.0);
        if (left < free || left + wide > unitLeft - 6.0) continue;
        painter.drawText(QPointF(left, y + 6.0 + metrics.ascent()), tick.label);
        free = left + wide + 8.0;
    }
    painter.drawText(QPointF(unitLeft, y + 6.0 + metrics.ascent()), unit);
}

const ScoreView::Note* ScoreView::noteAt(const QPointF& place) const
{
    const Note* nearest = nullptr;
    double best = 11.0;
    for (const auto& note : notes_) {
        const double distance = std::hypot(note.centre.x() - place.x(), note.centre.y() - place.y());
        if (distance < best) {
            best = distance;
            nearest = &note;
        }
    }
    return nearest;
}

const ScoreView::Band* ScoreView::bandAt(const QPointF& place) const
{
    if (place.x() < axis_.left() || place.y() > height() - axisRoom) return nullptr;
    for (const auto& band : bands_)
        if (place.x() >= std::min(band.left, band.right) - 5.0 && place.x() <= band.right + 5.0) return &band;
    return nullptr;
}

QString ScoreView::noteWords(const Note& note) const
{
    const Stave& stave = session_.staves()[note.stave];
    const auto& solution = *stave.solution;
    const auto row = static_cast<Eigen::Index>(note.mode - 1);
    const Mode& mode = solution.modes[static_cast<std::size_t>(row)];
    QString words = tr("mode %1 · %2 · %3").arg(note.mode).arg(hertzText(mode.frequency), QString::fromStdString(mode.name));
    for (int axis = 0; axis < 3; ++axis)
        if (const double share = solution.participation.ofMovable(row, axis); share >= 0.01)
            words += QString(" · %1 % of %2").arg(100.0 * share, 0, 'f', 0).arg("XYZ"[axis]);
    if (mode.lambda > 0.0) words += tr(" · mesh error %1 %").arg(QString::fromStdString(rounded(100.0 * mode.meshError, 2)));
    if (note.worst) words += QString("\n%1: %2").arg(wordOf(note.worst->verdict), QString::fromStdString(note.worst->why));
    if (stave.stale) words += tr("\nbefore your last change");
    return words;
}

QString ScoreView::bandWords(const Band& band) const
{
    QString words = band.name + " · " + hertzText(band.low);
    if (band.high > band.low) words += " … " + hertzText(band.high);
    if (band.turns) words += QString(" · %1 rpm").arg(60.0 * band.low / band.order, 0, 'g', 5);
    return words + tr(" · keep %1 % clear · drag to change").arg(100.0 * band.margin, 0, 'f', 0);
}

std::vector<PaintedItem> ScoreView::paintedItems() const
{
    std::vector<PaintedItem> items;
    for (std::size_t at = 0; at < session_.staves().size(); ++at)
        if (!staveRooms_.empty() && !staveRooms_[at].isEmpty())
            items.push_back({"stave " + session_.staves()[at].name, session_.staves()[at].stale ? tr("before your last change") : QString(), staveRooms_[at].toRect(), QAccessible::Grouping});
    for (const auto& note : notes_) {
        const double r = note.radius + 2.0;
        items.push_back({QString("note %1 of %2").arg(note.mode).arg(session_.staves()[note.stave].name), noteWords(note),
                         QRectF(note.centre.x() - r, note.centre.y() - r, 2 * r, 2 * r).toRect(), QAccessible::Graphic});
    }
    for (const auto& band : bands_)
        if (band.right >= axis_.left() && band.left <= axis_.right()) items.push_back({"band " + band.name, bandWords(band), QRectF(band.left - 2.0, topEdge, std::max(4.0, band.right - band.left), height() - axisRoom - topEdge).toRect(), QAccessible::Slider});
    return items;
}

void ScoreView::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton) return;
    drag_ = {};
    drag_.from = event->position();
    if (const auto* note = noteAt(event->position())) {
        session_.showMode(note->stave, note->mode);
        return;
    }
    if (event->position().x() < axis_.left()) {
        for (std::size_t at = 0; at < staveRooms_.size(); ++at)
            if (staveRooms_[at].contains(event->position())) session_.showMode(at, std::max(1, session_.shownMode()));
        return;
    }
    if (const auto* band = bandAt(event->position())) {
        drag_.what = Drag::What::band;
        drag_.hertz = axis_.hertzAt(event->position().x());
        drag_.sentence = band->sentence;
        drag_.order = band->order;
        drag_.low = band->low;
        drag_.high = band->high;
        session_.selectSentence(band->sentence);
        ++serial_;
        return;
    }
    drag_.what = Drag::What::pan;
}

void ScoreView::mouseMoveEvent(QMouseEvent* event)
{
    if (drag_.what == Drag::What::pan && (event->buttons() & Qt::LeftButton)) {
        fitted_ = false;
        axis_.pan(event->position().x() - drag_.from.x());
        drag_.from = event->position();
        layOut();
        update();
    } else if (drag_.what == Drag::What::band && (event->buttons() & Qt::LeftButton)) {
        if (drag_.moved || std::abs(event->position().x() - drag_.from.x()) > 3.0) dragBand(event->position().x());
    } else {
        const bool onNote = noteAt(event->position()) != nullptr;
        setCursor(onNote ? Qt::PointingHandCursor : bandAt(event->position()) ? Qt::SizeHorCursor : Qt::ArrowCursor);
        const auto* band = onNote ? nullptr : bandAt(event->position());
        Spotlight spotlight;
        if (band) spotlight.sentences.push_back(band->sentence);
        session_.light(band ? spotlight : session_.spotlightOf(session_.selectedSentence()));
    }
}

void ScoreView::dragBand(double pixel)
{
    drag_.moved = true;
    const auto sentence = session_.model().sentence(drag_.sentence);
    if (!sentence) return;
    const double shift = axis_.hertzAt(pixel) - drag_.hertz;
    const auto moved = [&](const char* key, double hertz) {
        // Kept in the unit it was typed in, to a readable number of digits.
        const auto parts = readNumberAndUnit(textOf(sentence->value(key)), NumberStyle::file);
        const std::string unit = std::holds_alternative<NumberAndUnit>(parts) ? std::get<NumberAndUnit>(parts).unit : "Hz";
        const double factor = unit == "rpm" ? 60.0 : 1.0, hertzEach = std::max(1e-3, (hertz + shift) / drag_.order);
        const bool plain = unit == "rpm" || unit == "Hz";
        const double value = std::stod(fmt::format("{:.4g}", hertzEach * factor));
        return quantityIn(plain ? value / factor : hertzEach, QuantityKind::frequency, plain ? unit : "Hz");
    };
    Sentence next = *sentence;
    if (sentence->has("speed")) next = next.with("speed", moved("speed", drag_.low));
    else if (sentence->has("frequency")) next = next.with("frequency", moved("frequency", drag_.low));
    else next = next.with("low", moved("low", drag_.low)).with("high", moved("high", drag_.high));
    session_.replaceSentence(tr("drag %1").arg(QString::fromStdString(sentence->text("name"))), std::move(next), QString("band %1").arg(serial_));
}

void ScoreView::mouseReleaseEvent(QMouseEvent*) { drag_.what = Drag::What::none; }

void ScoreView::mouseDoubleClickEvent(QMouseEvent* event)
{
    if (noteAt(event->position()) || bandAt(event->position())) return;
    showAll();
    layOut();
    update();
}

void ScoreView::wheelEvent(QWheelEvent* event)
{
    fitted_ = false;
    axis_.zoom(event->position().x(), std::pow(0.9985, event->angleDelta().y()));
    layOut();
    update();
    event->accept();
}

void ScoreView::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Left: return session_.stepMode(-1);
    case Qt::Key_Right: return session_.stepMode(1);
    case Qt::Key_Up: return session_.stepStave(1);
    case Qt::Key_Down: return session_.stepStave(-1);
    case Qt::Key_Home: return session_.showMode(session_.shownStave(), 1);
    case Qt::Key_End: return session_.showMode(session_.shownStave(), 1 << 30);
    case Qt::Key_Plus:
    case Qt::Key_Equal:
    case Qt::Key_Minus: {
        fitted_ = false;
        const auto* mode = session_.mode();
        axis_.zoom(mode ? axis_.at(mode->frequency) : (axis_.left() + axis_.right()) / 2.0, event->key() == Qt::Key_Minus ? 1.25 : 0.8);
        layOut();
        return update();
    }
    case Qt::Key_0: {
        showAll();
        layOut();
        return update();
    }
    default: QWidget::keyPressEvent(event);
    }
}

void ScoreView::contextMenuEvent(QContextMenuEvent* event)
{
    std::size_t index = staveRooms_.size();
    for (std::size_t at = 0; at < staveRooms_.size(); ++at)
        if (staveRooms_[at].contains(event->pos())) index = at;
    if (index == 0 || index >= staveRooms_.size()) return;
    QMenu menu(this);
    const QString id = session_.staves()[index].id;
    menu.addAction(tr("Go back to this take"), this, [this, id] { session_.useTake(id); });
    menu.addAction(tr("Remove this take"), this, [this, id] { session_.removeTake(id); });
    menu.exec(event->globalPos());
}

void ScoreView::leaveEvent(QEvent*) { session_.light(session_.spotlightOf(session_.selectedSentence())); }

bool ScoreView::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        const auto* note = noteAt(help->pos());
        const auto* band = note ? nullptr : bandAt(help->pos());
        if (note) QToolTip::showText(help->globalPos(), noteWords(*note), this);
        else if (band) QToolTip::showText(help->globalPos(), bandWords(*band), this);
        else QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

}  // namespace undisona
