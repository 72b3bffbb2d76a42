#pragma once
#include "app/session/painted_items.hpp"
#include "core/statement/told_apart.hpp"

namespace undisona {

/// What each colour of the Scene stands for, and how many parts have it, where parts are coloured by their kinds. A
/// click on a line shows where its parts are.
class KindsKey : public QWidget, public PaintedItems {
    Q_OBJECT
public:
    explicit KindsKey(QWidget* parent);
    void set(const ToldApart*);          ///< null: nothing is coloured so
    void lieAbove(int bottom, int room); ///< its lower edge, and how high it may be
    std::vector<PaintedItem> paintedItems() const override;
    QWidget* paintedWidget() override { return this; }

signals:
    void chosen(int kind);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

private:
    void layOut();
    int lineHeight() const { return fontMetrics().height() + 4; }
    std::vector<ToldApart::Kind> kinds_;
    int bottom_ = 0, room_ = 0, shown_ = 0; ///< lines that have room
};

} // namespace undisona
