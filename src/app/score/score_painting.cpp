// How the Score is painted; where things stand is laid out in score_view.cpp.
#include "app/score/score_room.hpp"
#include "app/score/score_view.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"

namespace undisona {

namespace {

QString elided(const QPainter& painter, const QString& text, double width)
{
    return painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(width));
}

} // namespace

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
        if (note.range[3] > note.range[0]) { // what is not known exactly
            QColor pale = colour;
            pale.setAlphaF(0.28f);
            const double y = note.centre.y(), low = axis_.at(note.range[1]), high = axis_.at(note.range[2]);
            painter.fillRect(QRectF(low, y - 4.0, high - low, 8.0), pale);
            painter.setPen(QPen(colour, 1.0));
            painter.drawLine(QPointF(axis_.at(note.range[0]), y), QPointF(axis_.at(note.range[3]), y));
            for (const double end : {note.range[0], note.range[3]})
                painter.drawLine(QPointF(axis_.at(end), y - 3.0), QPointF(axis_.at(end), y + 3.0));
            painter.setPen(pen);
        }
        for (const double end : {axis_.at(mode.lowEnd()), axis_.at(mode.highEnd())}) // the whisker
            if (std::abs(end - note.centre.x()) > note.radius)
                painter.drawLine(QPointF(end, note.centre.y()), note.centre);
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
        const double base = staveRooms_[0].bottom() - 14.0; // converged, not yet proven
        for (const double hertz : session_.arriving())
            if (hertz > 0.0) paintNote(painter, {axis_.at(hertz), base}, {}, {4.5, true, false});
    }
    paintTried(painter);
    paintLabels(painter);
    paintAxis(painter);
    if (hasFocus()) {
        painter.setPen(QPen(Theme::now().accent, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -1, -1));
    }
}

/// Where the live notes would go, each with a line from where it is and a whisker down to where it may truly be.
void ScoreView::paintTried(QPainter& painter) const
{
    const auto& tried = session_.tried();
    if (!tried || staveRooms_.empty() || staveRooms_[0].isEmpty()) return;
    const QColor colour = Theme::now().accent;
    const double base = staveRooms_[0].bottom() - 14.0;
    for (const auto& note : notes_) {
        const auto at = static_cast<std::size_t>(note.mode - 1);
        if (note.stave != 0 || at >= tried->hertz.size() || !(tried->hertz[at] > 0.0)) continue;
        constexpr double told = 0.8; // of what the whisker leaves: below, nothing is known
        if (tried->lower[at] < told * tried->hertz[at]) continue;
        const QPointF to(axis_.at(tried->hertz[at]), base - 16.0);
        painter.setPen(QPen(colour, 1.2, Qt::DotLine));
        painter.drawLine(note.centre, to);
        painter.setPen(QPen(colour, 1.6));
        painter.drawLine(QPointF(axis_.at(tried->lower[at]), to.y()), to);
        painter.setBrush(Theme::now().panel);
        painter.drawPolygon(
            QPolygonF{to + QPointF(0, -5), to + QPointF(5, 0), to + QPointF(0, 5), to + QPointF(-5, 0)});
    }
    painter.setBrush(Qt::NoBrush);
}

void ScoreView::paintBands(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    const double top = topEdge - 2.0, bottom = height() - axisRoom;
    struct BandLabel {
        QRectF box;
        QString text;
        std::string sentence;
        bool clash;
    };
    std::vector<BandLabel> labels;
    painter.setFont(textFont(-1.0));
    const QFontMetricsF metrics(painter.font());
    for (const auto& band : bands_) {
        bool clash = false;
        for (const auto& pair : session_.live().clashes.pairs)
            clash |= pair.verdict == Verdict::clash && !pair.weak &&
                     session_.live().excitations[pair.excitation].sentence == band.sentence && pair.order == band.order;
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
        const auto boxOf = [&](const QString& text) {
            QRectF box(0, 3.0, metrics.horizontalAdvance(text) + 4.0, metrics.height());
            box.moveLeft(std::clamp(middle - box.width() / 2.0, axis_.left(),
                                    std::max(axis_.left(), axis_.right() - box.width())));
            return box;
        };
        const QRectF box = boxOf(band.name);
        const auto inTheWay = std::find_if(labels.begin(), labels.end(), [&](const BandLabel& other) {
            return other.box.adjusted(-6, 0, 6, 0).intersects(box);
        });
        if (inTheWay == labels.end()) {
            labels.push_back({box, band.name, band.sentence, clash});
        } else if (inTheWay->sentence == band.sentence) { // the orders of one source share a label
            inTheWay->text += QString(" %1").arg(band.order);
            inTheWay->box.setWidth(metrics.horizontalAdvance(inTheWay->text) + 4.0);
            inTheWay->clash |= clash;
        }
    }
    for (const auto& label : labels) {
        painter.setPen(label.clash ? theme.amber : theme.quiet);
        painter.drawText(label.box, Qt::AlignCenter | Qt::TextDontClip, label.text);
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
    for (const int percent : {10, 50, 100}) { // quiet scale of the heights
        const double y = base - std::sqrt(percent / 100.0) * tall;
        QColor line = theme.hairline;
        line.setAlphaF(0.6f);
        painter.setPen(QPen(line, 1.0, Qt::DotLine));
        painter.drawLine(QPointF(axis_.left(), y), QPointF(axis_.right(), y));
        if ((percent == 10 && tall < 60.0) || (percent == 50 && tall < 48.0)) continue;
        painter.setPen(theme.quiet);
        painter.drawText(QRectF(axis_.left() - 40.0, y - 7.0, 36.0, 14.0), Qt::AlignRight | Qt::AlignVCenter,
                         QString("%1%").arg(percent));
    }
    if (shown) painter.fillRect(QRectF(0, room.top() + 4.0, 3.0, room.height() - 8.0), theme.accent);
    painter.setFont(textFont(0.0, true));
    painter.setPen(theme.ink);
    const double textWidth = gutter - 58.0;
    const double y = base - 24.0;
    painter.drawText(QRectF(12.0, y - 8.0, textWidth, 18.0), Qt::AlignLeft | Qt::AlignVCenter,
                     elided(painter, stave.name, textWidth));
    painter.setFont(textFont(-1.0));
    painter.setPen(theme.quiet);
    QString second;
    if (stave.solution) {
        const auto clashes =
            std::count_if(stave.clashes.pairs.begin(), stave.clashes.pairs.end(),
                          [](const ClashPair& pair) { return pair.verdict == Verdict::clash && !pair.weak; });
        second = session_.units().text(stave.mass, QuantityKind::mass).c_str();
        if (!stave.stale)
            second += stave.solution->ritz ? tr(" · Ritz vectors")
                      : clashes == 0       ? tr(" · clear")
                      : clashes == 1       ? tr(" · 1 clash")
                                           : tr(" · %1 clashes").arg(clashes);
    } else {
        second = stave.failure.empty() ? tr("not solved") : tr("no modes");
    }
    painter.drawText(QRectF(12.0, y + 9.0, textWidth + 18.0, 16.0), Qt::AlignLeft | Qt::AlignVCenter,
                     elided(painter, second, textWidth + 18.0));
    if (stave.stale) {
        painter.setPen(theme.amber);
        painter.drawText(QRectF(12.0, y + 23.0, textWidth + 30.0, 15.0), Qt::AlignLeft | Qt::AlignVCenter,
                         tr("before your last change"));
    } else if (const int folded = session_.foldedIn(index); folded > 0) {
        painter.drawText(QRectF(12.0, y + 23.0, textWidth + 30.0, 15.0), Qt::AlignLeft | Qt::AlignVCenter,
                         (folded == 1 ? tr("%1 local mode folded") : tr("%1 local modes folded")).arg(folded));
    }
    if (!stave.solution && !stave.failure.empty()) {
        painter.setPen(session_.isBlank() ? theme.quiet : theme.red);
        painter.setFont(textFont());
        const QString why = (session_.isBlank() ? QString() : QStringLiteral("✕ ")) +
                            QString::fromStdString(stave.failure.front().what);
        painter.drawText(QRectF(axis_.left() + 12.0, base - 30.0, axis_.right() - axis_.left() - 24.0, 22.0),
                         Qt::AlignLeft | Qt::AlignVCenter, elided(painter, why, axis_.right() - axis_.left() - 24.0));
    }
    const bool still = stave.solution && !stave.solution->modes.empty() &&
                       (stave.solution->modes[0].rigid || stave.solution->modes[0].mechanism);
    if (still && axis_.low() <= 0.0) { // the bracket of motions at 0 Hz
        const double right = axis_.left() + 58.0;
        painter.setPen(QPen(theme.quiet, 1.2));
        painter.drawPolyline(QPolygonF{QPointF(right - 4, base + 7), QPointF(right, base + 7),
                                       QPointF(right, base - 10), QPointF(right - 4, base - 10)});
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
        for (const auto& mixed :
             session_.mixedWithNext(lower)) // to both that it mixes: their lines veer off each other
            for (const int part : mixed.of) {
                const Note *from = find(lower, mixed.mode), *to = find(lower + 1, part);
                if (!from || !to) continue;
                QColor line = theme.quiet;
                line.setAlphaF(0.6f);
                painter.setPen(QPen(line, 1.0, Qt::DashLine));
                painter.drawLine(from->centre - QPointF(0, from->radius), QPointF(to->centre.x(), to->base + 2.0));
            }
        for (const auto& pair : session_.pairsWithNext(lower)) {
            const Note *from = find(lower, pair.first), *to = find(lower + 1, pair.second);
            if (!from || !to) continue;
            const bool chosen = (session_.shownStave() == lower && session_.shownMode() == pair.first) ||
                                (session_.shownStave() == lower + 1 && session_.shownMode() == pair.second);
            QColor line = chosen ? theme.accent : theme.quiet;
            line.setAlphaF(chosen ? 1.0f : 0.45f);
            painter.setPen(QPen(line, chosen ? 1.6 : 1.0));
            const QPointF start = from->centre - QPointF(0, from->radius), end(to->centre.x(), to->base + 2.0);
            painter.drawLine(start, end);
            if (!chosen) continue;
            // The shift is read from the older take (above) to the newer one.
            const double shift = -pair.shift / (1.0 + pair.shift);
            const QString text = (shift >= 0 ? "+" : "−") +
                                 QString::number(std::abs(100.0 * shift), 'f', std::abs(shift) < 0.0995 ? 1 : 0) + " %";
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
    if (const int beyond = modesBeyond(); beyond > 0) {
        const auto& modes = session_.shown().solution->modes;
        const QString words = tr("%n more up to %1 Hz · 0 shows all", nullptr, beyond)
                                  .arg(QString::fromStdString(rounded(modes.back().frequency, 3)));
        painter.setPen(theme.quiet);
        painter.drawText(QRectF(axis_.left(), 4.0, axis_.right() - axis_.left(), metrics.height()),
                         Qt::AlignRight | Qt::AlignVCenter, words);
    }
}

} // namespace undisona
