#include "app/score/note_painter.hpp"

#include "app/session/theme.hpp"

#include <QPainterPath>

namespace undisona {

NoteLook noteLook(const Participation& participation, std::size_t mode)
{
    NoteLook look;
    const auto row = static_cast<Eigen::Index>(mode);
    std::array<double, 3> shares{}, turns{};
    for (int axis = 0; axis < 3; ++axis) {
        shares[static_cast<std::size_t>(axis)] = participation.ofTotal(row, axis);
        turns[static_cast<std::size_t>(axis)] = participation.ofTotal(row, axis + 3);
    }
    std::array<int, 3> order{0, 1, 2};
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        return shares[static_cast<std::size_t>(a)] > shares[static_cast<std::size_t>(b)];
    });
    const double most = shares[static_cast<std::size_t>(order[0])], next = shares[static_cast<std::size_t>(order[1])];
    look.height = std::sqrt(std::clamp(most, 0.0, 1.0));
    if (most >= 0.02) {
        look.first = order[0];
        if (next >= most / 2.0) look.second = order[1];
        return look;
    }
    const auto turn = std::max_element(turns.begin(), turns.end());
    if (*turn >= 0.05) look.rotation = static_cast<int>(turn - turns.begin());
    return look;
}

namespace {

/// X notches to the right, Y backwards (to the left above), Z upwards, so that colour is never alone.
QPointF notchDirection(int axis)
{
    return axis == 0 ? QPointF(1.0, 0.0) : axis == 1 ? QPointF(-0.75, -0.66) : QPointF(0.0, -1.0);
}

void paintNotch(QPainter& painter, const QPointF& centre, int axis, double radius, const QColor& colour)
{
    const QPointF along = notchDirection(axis), across(-along.y(), along.x());
    QPolygonF tip;
    tip << centre + along * (radius + 3.2) << centre + along * (radius * 0.55) + across * radius * 0.62
        << centre + along * (radius * 0.55) - across * radius * 0.62;
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawPolygon(tip);
}

/// A square on its corner, filled by the directions like a note, without notches: it is no mode.
void paintDiamond(QPainter& painter, const QPointF& centre, const NoteLook& look, double r)
{
    const Theme& theme = Theme::now();
    const double reach = 1.25 * r;
    const QPolygonF whole({centre + QPointF(0, -reach), centre + QPointF(reach, 0), centre + QPointF(0, reach),
                           centre + QPointF(-reach, 0)});
    const int main = look.first >= 0 ? look.first : look.rotation;
    const QColor colour = main >= 0 ? theme.axis[main] : theme.quiet;
    painter.setPen(QPen(colour, 1.6));
    painter.setBrush(look.first >= 0 ? colour : theme.panel);
    painter.drawPolygon(whole);
    if (look.second < 0) return;
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme.axis[look.second]);
    painter.drawPolygon(QPolygonF({whole[0], whole[2], whole[3]}));
}

} // namespace

void paintNote(QPainter& painter, const QPointF& centre, const NoteLook& look, const NoteStyle& style)
{
    const Theme& theme = Theme::now();
    painter.save();
    if (style.faint) painter.setOpacity(0.4);
    const double r = style.radius;
    const QRectF box(centre.x() - r, centre.y() - r, 2 * r, 2 * r);
    if (style.selected) {
        painter.setPen(QPen(theme.accent, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(centre, r + 5.0, r + 5.0);
    }
    if (look.diamond) {
        paintDiamond(painter, centre, look, r);
    } else if (look.first >= 0) {
        const QColor colour = theme.axis[look.first];
        paintNotch(painter, centre, look.first, r, colour);
        painter.setPen(Qt::NoPen);
        painter.setBrush(colour);
        painter.drawEllipse(box);
        if (look.second >= 0) {
            paintNotch(painter, centre, look.second, r, theme.axis[look.second]);
            painter.setBrush(theme.axis[look.second]);
            painter.drawPie(box, 90 * 16, 180 * 16);
        }
    } else {
        const QColor colour = look.rotation >= 0 ? theme.axis[look.rotation] : theme.quiet;
        const double size = look.rotation >= 0 ? r : r * 0.72;
        painter.setPen(QPen(colour, 1.8));
        painter.setBrush(theme.panel);
        painter.drawEllipse(centre, size - 0.5, size - 0.5);
        if (look.rotation >= 0) {
            painter.setPen(Qt::NoPen);
            painter.setBrush(colour);
            painter.drawEllipse(centre, 1.6, 1.6);
        }
    }
    painter.restore();
}

} // namespace undisona
