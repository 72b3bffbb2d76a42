#include "app/readings/plot.hpp"

#include "app/session/theme.hpp"

#include <QContextMenuEvent>
#include <QFileDialog>
#include <QMenu>
#include <QWheelEvent>

namespace undisona {

namespace {

double niceStep(double wanted)
{
    const double power = std::pow(10.0, std::floor(std::log10(std::max(wanted, 1e-12))));
    for (const double nice : {1.0, 2.0, 2.5, 5.0})
        if (nice * power >= wanted) return nice * power;
    return 10.0 * power;
}

} // namespace

Plot::Plot(QWidget* parent) : QWidget(parent)
{
    setMouseTracking(true);
}

void Plot::setTitles(const QString& x, const QString& y)
{
    xTitle_ = x;
    yTitle_ = y;
}

void Plot::setRange(double left, double right, double bottom, double top)
{
    fullLeft_ = left_ = left;
    fullRight_ = right_ = std::max(right, left + 1e-9);
    bottom_ = bottom;
    top_ = std::max(top, bottom + 1e-9);
}

void Plot::show(std::vector<Line> lines, std::vector<Region> regions, std::vector<Mark> marks)
{
    lines_ = std::move(lines);
    regions_ = std::move(regions);
    marks_ = std::move(marks);
    update();
}

QRectF Plot::room() const
{
    const QFontMetricsF metrics(textFont(-1.5));
    return QRectF(rect()).adjusted(metrics.horizontalAdvance("0000") + 8.0, 2.0 * metrics.height() + 2.0, -14.0,
                                   -metrics.height() - 8.0);
}

QPointF Plot::pixel(const QPointF& value) const
{
    const QRectF box = room();
    return {box.left() + (value.x() - left_) / (right_ - left_) * box.width(),
            box.bottom() - (value.y() - bottom_) / (top_ - bottom_) * box.height()};
}

QPointF Plot::value(const QPointF& pixel) const
{
    const QRectF box = room();
    return {left_ + (pixel.x() - box.left()) / box.width() * (right_ - left_),
            bottom_ + (box.bottom() - pixel.y()) / box.height() * (top_ - bottom_)};
}

void Plot::paintEvent(QPaintEvent*)
{
    const Theme& theme = Theme::now();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme.panel);
    const QRectF box = room();
    painter.setFont(textFont(-1.5));
    const QFontMetricsF metrics(painter.font());
    for (const auto& region : regions_) {
        const double from = std::max(box.left(), pixel({region.left, 0}).x()),
                     to = std::min(box.right(), pixel({region.right, 0}).x());
        if (to > from) painter.fillRect(QRectF(from, box.top(), to - from, box.height()), region.colour);
    }
    const double yStep = niceStep((top_ - bottom_) / std::max(2.0, box.height() / 34.0)),
                 xStep = niceStep((right_ - left_) / std::max(2.0, box.width() / 62.0));
    for (double y = std::ceil(bottom_ / yStep) * yStep; y <= top_ * (1 + 1e-9); y += yStep) {
        const double at = pixel({0, y}).y();
        painter.setPen(QPen(theme.hairline, 1.0));
        painter.drawLine(QPointF(box.left(), at), QPointF(box.right(), at));
        painter.setPen(theme.quiet);
        painter.drawText(QRectF(0, at - 8, box.left() - 5, 16), Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(std::abs(y) < 1e-12 ? 0.0 : y, 'g', 5));
    }
    const double titleLeft = box.right() - metrics.horizontalAdvance(xTitle_) - 6.0;
    for (double x = std::ceil(left_ / xStep - 1e-9) * xStep; x <= right_ * (1 + 1e-9); x += xStep) {
        const double at = pixel({x, 0}).x();
        painter.setPen(QPen(theme.quiet, 1.0));
        painter.drawLine(QPointF(at, box.bottom()), QPointF(at, box.bottom() + 3));
        const QString text = QString::number(std::abs(x) < 1e-12 ? 0.0 : x, 'g', 5);
        const double wide = metrics.horizontalAdvance(text);
        const double textLeft = std::clamp(at - wide / 2, 0.0, width() - wide);
        if (textLeft + wide < titleLeft) painter.drawText(QPointF(textLeft, box.bottom() + 4 + metrics.ascent()), text);
    }
    painter.setPen(theme.quiet);
    painter.drawText(QRectF(2, 0, width() - 4, metrics.height() + 2), Qt::AlignLeft | Qt::AlignVCenter, yTitle_);
    painter.drawText(QPointF(titleLeft + 6.0, box.bottom() + 4 + metrics.ascent()), xTitle_);
    painter.save();
    painter.setClipRect(box.adjusted(-1, -3, 1, 3));
    for (const auto& line : lines_) {
        painter.setPen(QPen(line.colour, line.width, line.dashed ? Qt::DashLine : Qt::SolidLine));
        QPolygonF path;
        for (const auto& point : line.points) {
            if (line.steps && !path.isEmpty()) path << QPointF(pixel(point).x(), path.back().y());
            path << pixel(point);
        }
        painter.drawPolyline(path);
    }
    for (const auto& mark : marks_) {
        const QPointF at = pixel(mark.place);
        painter.setPen(QPen(mark.colour, 1.8));
        painter.setBrush(Qt::NoBrush);
        if (mark.cross) {
            painter.drawLine(at + QPointF(-4, -4), at + QPointF(4, 4));
            painter.drawLine(at + QPointF(-4, 4), at + QPointF(4, -4));
        } else {
            painter.drawEllipse(at, 3.5, 3.5);
        }
    }
    painter.restore();
    std::vector<QRectF> taken;
    for (const auto& line : lines_) { // names at the lines' ends
        if (line.name.isEmpty() || line.points.empty()) continue;
        QPointF last = pixel(line.points.back());
        last.setX(std::min(last.x(), box.right()));
        if (last.y() < box.top() - 6 || last.y() > box.bottom() + 6) continue;
        QRectF label(0, 0, metrics.horizontalAdvance(line.name) + 4, metrics.height());
        label.moveBottomRight(last + QPointF(0, -1));
        for (int attempt = 0; attempt < 6 && std::any_of(taken.begin(), taken.end(),
                                                         [&](const QRectF& other) { return other.intersects(label); });
             ++attempt)
            label.translate(-label.width() - 6, 0);
        taken.push_back(label);
        painter.setPen(line.colour);
        painter.drawText(label, Qt::AlignCenter, line.name);
    }
    if (!box.contains(cursor_)) return;
    painter.setPen(QPen(theme.accent, 1.0));
    painter.drawLine(QPointF(cursor_.x(), box.top()), QPointF(cursor_.x(), box.bottom()));
    const QPointF read = value(cursor_);
    QString text = QString("%1 · %2").arg(read.x(), 0, 'g', 4).arg(read.y(), 0, 'g', 4);
    for (const auto& mark : marks_)
        if ((pixel(mark.place) - cursor_).manhattanLength() < 10) text = mark.tip;
    QRectF label(cursor_.x() + 8, cursor_.y() - 22, metrics.horizontalAdvance(text) + 8, metrics.height() + 2);
    if (label.right() > width()) label.moveRight(cursor_.x() - 8);
    if (label.left() < 0) label.moveLeft(0);
    painter.fillRect(label, theme.panel);
    painter.setPen(theme.ink);
    painter.drawText(label, Qt::AlignCenter, text);
}

void Plot::wheelEvent(QWheelEvent* event)
{
    const double fixed = value(event->position()).x(), factor = std::pow(0.9985, event->angleDelta().y());
    left_ = std::max(fullLeft_, fixed + (left_ - fixed) * factor);
    right_ = std::min(fullRight_, fixed + (right_ - fixed) * factor);
    if (right_ <= left_) right_ = left_ + 1e-6;
    update();
    event->accept();
}

void Plot::mouseMoveEvent(QMouseEvent* event)
{
    cursor_ = event->position();
    update();
}

void Plot::mousePressEvent(QMouseEvent* event)
{
    emit clicked(value(event->position()));
}

void Plot::mouseDoubleClickEvent(QMouseEvent*)
{
    left_ = fullLeft_;
    right_ = fullRight_;
    update();
}

void Plot::leaveEvent(QEvent*)
{
    cursor_ = {-1, -1};
    update();
}

void Plot::save(const QString& path)
{
    grab().save(path);
}

void Plot::contextMenuEvent(QContextMenuEvent* event)
{
    QMenu menu(this);
    menu.addAction(tr("Save the plot …"), this, [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Save the plot"), {}, tr("Picture (*.png)"));
        if (!path.isEmpty()) save(path);
    });
    menu.exec(event->globalPos());
}

} // namespace undisona
