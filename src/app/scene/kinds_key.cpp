#include "app/scene/kinds_key.hpp"

#include "app/scene/colour_map.hpp"
#include "app/session/theme.hpp"

#include <QMouseEvent>
#include <QPainter>

namespace undisona {

namespace {

constexpr int margin = 8, swatch = 11;

QString lineOf(const ToldApart::Kind& kind)
{
    return KindsKey::tr("%1 · %2").arg(QString::fromStdString(kind.name)).arg(kind.count);
}

} // namespace

KindsKey::KindsKey(QWidget* parent) : QWidget(parent)
{
    setObjectName("kindsKey");
    setAccessibleName(tr("what the colours stand for"));
    setMouseTracking(true);
    hide();
}

void KindsKey::set(const ToldApart* apart)
{
    kinds_ = apart ? apart->kinds : std::vector<ToldApart::Kind>();
    setVisible(apart != nullptr);
    layOut();
    update();
}

void KindsKey::lieAbove(int bottom, int room)
{
    bottom_ = bottom;
    room_ = room;
    layOut();
}

void KindsKey::layOut()
{
    setFont(textFont(-1.0));
    const int most = std::max(1, (room_ - 2 * margin) / lineHeight());
    const int all = static_cast<int>(kinds_.size());
    shown_ = all <= most ? all : most - 1;
    int wide = fontMetrics().horizontalAdvance(tr("No part has any."));
    for (int at = 0; at < shown_; ++at)
        wide = std::max(wide, fontMetrics().horizontalAdvance(lineOf(kinds_[static_cast<std::size_t>(at)])));
    const int lines = std::max(1, shown_ + (shown_ < all ? 1 : 0));
    const int high = 2 * margin + lines * lineHeight();
    setGeometry(10, bottom_ - high - 8, std::min(wide, 320) + 3 * margin + swatch, high);
}

std::vector<PaintedItem> KindsKey::paintedItems() const
{
    std::vector<PaintedItem> items;
    for (int at = 0; at < shown_; ++at) {
        const auto& kind = kinds_[static_cast<std::size_t>(at)];
        items.push_back({QString::fromStdString(kind.name), QString::number(kind.count),
                         QRect(0, margin + at * lineHeight(), width(), lineHeight()), QAccessible::ListItem});
    }
    return items;
}

void KindsKey::paintEvent(QPaintEvent*)
{
    const Theme& theme = Theme::now();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme.hairline);
    painter.setBrush(theme.panel);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    const auto lineAt = [&](int at) {
        return QRect(2 * margin + swatch, margin + at * lineHeight(), width() - 3 * margin - swatch, lineHeight());
    };
    const auto write = [&](int at, const QString& text) {
        painter.drawText(lineAt(at), Qt::AlignLeft | Qt::AlignVCenter,
                         fontMetrics().elidedText(text, Qt::ElideMiddle, lineAt(at).width() + 1));
    };
    for (int at = 0; at < shown_; ++at) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(kindColour(at, theme.dark));
        painter.drawRect(QRect(margin, lineAt(at).center().y() - swatch / 2, swatch, swatch));
        painter.setPen(theme.ink);
        write(at, lineOf(kinds_[static_cast<std::size_t>(at)]));
    }
    painter.setPen(theme.quiet);
    if (kinds_.empty()) write(0, tr("No part has any."));
    if (shown_ < static_cast<int>(kinds_.size()))
        write(shown_, tr("and %1 more").arg(kinds_.size() - static_cast<std::size_t>(shown_)));
}

void KindsKey::mousePressEvent(QMouseEvent* event)
{
    const int at = (static_cast<int>(event->position().y()) - margin) / lineHeight();
    if (at >= 0 && at < shown_) emit chosen(at);
}

void KindsKey::mouseMoveEvent(QMouseEvent* event)
{
    const int at = (static_cast<int>(event->position().y()) - margin) / lineHeight();
    const bool on = at >= 0 && at < shown_;
    setCursor(on ? Qt::PointingHandCursor : Qt::ArrowCursor);
    setToolTip(on ? lineOf(kinds_[static_cast<std::size_t>(at)]) : QString());
}

} // namespace undisona
