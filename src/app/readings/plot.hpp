#pragma once
#include <QColor>
#include <QPointF>
#include <QWidget>

#include <vector>

namespace undisona {

/// A small plot with two axes: zoomed by the wheel, read with a cursor, saved as a picture.
class Plot : public QWidget {
    Q_OBJECT
public:
    explicit Plot(QWidget* parent = nullptr);

    struct Line {
        QString name;
        std::vector<QPointF> points;
        QColor colour;
        bool steps = false, dashed = false;
        double width = 1.8;
    };
    struct Region {
        double left, right;
        QColor colour;
    };
    struct Mark {
        QPointF place;
        QColor colour;
        bool cross = false;
        QString tip;
    };
    void setTitles(const QString& x, const QString& y);
    void setRange(double left, double right, double bottom, double top);
    void show(std::vector<Line> lines, std::vector<Region> regions = {}, std::vector<Mark> marks = {});
    void save(const QString& path);
    QSize minimumSizeHint() const override { return {180, 130}; }

signals:
    void clicked(const QPointF& value);

protected:
    void paintEvent(QPaintEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    QRectF room() const;
    QPointF pixel(const QPointF& value) const;
    QPointF value(const QPointF& pixel) const;

    QString xTitle_, yTitle_;
    double left_ = 0, right_ = 1, bottom_ = 0, top_ = 1, fullLeft_ = 0, fullRight_ = 1;
    std::vector<Line> lines_;
    std::vector<Region> regions_;
    std::vector<Mark> marks_;
    QPointF cursor_{-1, -1};
};

} // namespace undisona
