#pragma once
#include <QAccessible>
#include <QRect>
#include <QString>
#include <QWidget>

#include <vector>

namespace undisona {

/// Something painted by a widget that a person can read or act on: a word, a note, a band.
struct PaintedItem {
    QString name;  ///< what it is: "word mass", "note 4 of as built"
    QString value; ///< what it says: "85 kg", "11.8 Hz"
    QRect bounds;  ///< in the widget's coordinates
    QAccessible::Role role = QAccessible::StaticText;
};

/// A widget that paints its items itself and tells assistive tools and tests about them.
class PaintedItems {
public:
    virtual ~PaintedItems() = default;
    /// The visible items, in reading order.
    virtual std::vector<PaintedItem> paintedItems() const = 0;
    virtual QWidget* paintedWidget() = 0;
};

/// Makes the items of every PaintedItems widget known to the accessibility tree. Call once at the start.
void installPaintedItems();

} // namespace undisona
