#include "app/session/painted_items.hpp"

#include <QAccessibleWidget>

#include <map>

namespace undisona {

namespace {

class WidgetInterface;

/// One painted item; lives as long as its widget's interface.
class ItemInterface : public QAccessibleInterface {
public:
    ItemInterface(QWidget* widget, std::size_t index) : widget_(widget), index_(index) {}

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
        const auto item = find();
        return kind == QAccessible::Value ? item.value : kind == QAccessible::Name ? item.name : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override
    {
        const QRect own = find().bounds;
        return {widget_->mapToGlobal(own.topLeft()), own.size()};
    }
    QAccessible::Role role() const override { return find().role; }
    QAccessible::State state() const override { return {}; }

private:
    PaintedItem find() const
    {
        const auto items = dynamic_cast<PaintedItems*>(widget_.data())->paintedItems();
        return index_ < items.size() ? items[index_] : PaintedItem{};
    }

    QPointer<QWidget> widget_;
    std::size_t index_;
};

class WidgetInterface : public QAccessibleWidget {
public:
    explicit WidgetInterface(QWidget* widget) : QAccessibleWidget(widget, QAccessible::Grouping) {}
    ~WidgetInterface() override
    {
        for (const auto& [index, id] : children_)
            QAccessible::deleteAccessibleInterface(id);
    }

    int childCount() const override { return QAccessibleWidget::childCount() + static_cast<int>(count()); }
    QAccessibleInterface* child(int index) const override
    {
        const int own = QAccessibleWidget::childCount();
        if (index < own) return QAccessibleWidget::child(index);
        const auto at = static_cast<std::size_t>(index - own);
        if (at >= count()) return nullptr;
        auto found = children_.find(at);
        if (found == children_.end())
            found =
                children_.emplace(at, QAccessible::registerAccessibleInterface(new ItemInterface(widget(), at))).first;
        return QAccessible::accessibleInterface(found->second);
    }

private:
    std::size_t count() const { return dynamic_cast<PaintedItems*>(widget())->paintedItems().size(); }
    mutable std::map<std::size_t, QAccessible::Id> children_;
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
