#include "app/ledger/section_drawing.hpp"

#include "app/session/theme.hpp"

namespace undisona {

SectionDrawing::SectionDrawing(QWidget* parent) : QWidget(parent)
{
    setObjectName("sectionDrawing");
    setFixedHeight(112);
    setAccessibleName(tr("drawing of the section"));
}

void SectionDrawing::show(const Section& section)
{
    section_ = section;
    update();
}

void SectionDrawing::paintEvent(QPaintEvent*)
{
    if (section_.outline.empty()) return;
    const Theme& theme = Theme::now();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    double reach = 1e-9;
    for (const auto& [y, z] : section_.outline)
        reach = std::max({reach, std::abs(y), std::abs(z)});
    const double scale = (height() / 2.0 - 14.0) / reach;
    const QPointF centre(width() / 2.0, height() / 2.0);
    const auto pixel = [&](double y, double z) { return centre + QPointF(y, -z) * scale; };
    QPainterPath shape;
    for (const auto* loop : {&section_.outline, &section_.hole}) {
        if (loop->empty()) continue;
        QPolygonF corners;
        for (const auto& [y, z] : *loop)
            corners << pixel(y, z);
        shape.addPolygon(corners);
        shape.closeSubpath();
    }
    shape.setFillRule(Qt::OddEvenFill);
    painter.setPen(QPen(theme.ink, 1.2));
    painter.setBrush(theme.selection);
    painter.drawPath(shape);

    painter.setFont(textFont(-1.5));
    const double length = reach * scale + 9.0;
    painter.setPen(QPen(theme.axis[1], 1.2));
    painter.drawLine(centre, centre + QPointF(length, 0));
    painter.drawText(centre + QPointF(length + 3.0, 4.0), "y");
    painter.setPen(QPen(theme.axis[2], 1.2));
    painter.drawLine(centre, centre - QPointF(0, length));
    painter.drawText(centre + QPointF(4.0, -length + 6.0), "z");
    if (std::abs(section_.principalAngle) > 1e-9) {
        const double c = std::cos(section_.principalAngle), s = std::sin(section_.principalAngle);
        painter.setPen(QPen(theme.quiet, 1.0, Qt::DashLine));
        painter.drawLine(centre - QPointF(c, -s) * length, centre + QPointF(c, -s) * length);
        painter.drawLine(centre - QPointF(s, c) * length, centre + QPointF(s, c) * length);
    }
    const QPointF shear = pixel(section_.shearCentre[0], section_.shearCentre[1]);
    if (std::hypot(shear.x() - centre.x(), shear.y() - centre.y()) < 2.0) return;
    painter.setPen(QPen(theme.accent, 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(shear, 3.5, 3.5);
    painter.setPen(theme.quiet);
    painter.drawText(QRectF(4.0, height() - 16.0, width() - 8.0, 14.0), Qt::AlignRight, tr("ring: shear centre"));
}

} // namespace undisona
