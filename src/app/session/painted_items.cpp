#include "app/session/painted_items.hpp"

#include <QAccessibleWidget>
#include <QTimer>

#include <functional>
#include <map>

namespace undisona {

namespace {

/// One painted item; lives as long as its widget's interface.
class ItemInterface : public QAccessibleInterface {
public:
    using Find = std::function<PaintedItem()>;
    ItemInterface(QWidget* widget, Find find) : widget_(widget), find_(std::move(find)) {}

    bool isValid() const override { return widget_ != nullptr; }
    QObject* object() const override { return nullptr; }
    QWindow* window() const override { return widget_->window()->windowHandle(); }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    QAccessibleInterface* parent() const override { return QAccessible::queryAccessibleInterface(widget_); }
    QAccessibleInterface* child(int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    QString text(QAccessible::Text kind) const override
    {
        const auto item = find_();
        return kind == QAccessible::Value ? item.value : kind == QAccessible::Name ? item.name : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override
    {
        const QRect own = find_().bounds;
        return {widget_->mapToGlobal(own.topLeft()), own.size()};
    }
    QAccessible::Role role() const override { return find_().role; }
    QAccessible::State state() const override { return {}; }

private:
    QPointer<QWidget> widget_;
    Find find_;
};

class WidgetInterface : public QAccessibleWidget {
public:
    explicit WidgetInterface(QWidget* widget) : QAccessibleWidget(widget, QAccessible::Grouping) {}
    ~WidgetInterface() override
    {
        for (const auto& [index, id] : children_)
            QAccessible::deleteAccessibleInterface(id);
    }

    int childCount() const override
    {
        fresh_ = false; // who counts is about to look at all of them
        return QAccessibleWidget::childCount() + static_cast<int>(items().size());
    }
    QAccessibleInterface* child(int index) const override
    {
        const int own = QAccessibleWidget::childCount();
        if (index < own) return QAccessibleWidget::child(index);
        const auto at = static_cast<std::size_t>(index - own);
        if (at >= items().size()) return nullptr;
        auto found = children_.find(at);
        if (found == children_.end()) {
            auto* item =
                new ItemInterface(widget(), [this, at] { return at < items().size() ? items()[at] : PaintedItem{}; });
            found = children_.emplace(at, QAccessible::registerAccessibleInterface(item)).first;
        }
        return QAccessible::accessibleInterface(found->second);
    }

private:
    /// Made once for a look at all of them, as each costs a look at what the widget shows.
    const std::vector<PaintedItem>& items() const
    {
        if (!fresh_) {
            items_ = dynamic_cast<PaintedItems*>(widget())->paintedItems();
            QTimer::singleShot(0, &untilEvents_, [this] { fresh_ = false; });
        }
        fresh_ = true;
        return items_;
    }

    mutable std::map<std::size_t, QAccessible::Id> children_;
    mutable std::vector<PaintedItem> items_;
    mutable bool fresh_ = false;
    mutable QObject untilEvents_; ///< what happens then may change them
};

QAccessibleInterface* makeInterface(const QString&, QObject* object)
{
    auto* widget = qobject_cast<QWidget*>(object);
    return widget && dynamic_cast<PaintedItems*>(widget) ? new WidgetInterface(widget) : nullptr;
}

} // namespace

void installPaintedItems()
{
    QAccessible::installFactory(makeInterface);
}

} // namespace undisona
