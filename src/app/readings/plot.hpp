#pragma once
#include <QColor>
#include <QPointF>
#include <QWidget>

#include <array>
#include <memory>
#include <vector>

namespace undisona {

/// A small plot with two axes: zoomed by the wheel, dragged, read with a cursor, saved as a picture. A double
/// click shows all again.
class Plot : public QWidget {
    Q_OBJECT
public:
    explicit Plot(QWidget* parent = nullptr);
    ~Plot() override;

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
    void setLogarithmic(); ///< along x, whose left end is above 0 then
    void setRange(double left, double right, double bottom, double top);
    void show(std::vector<Line> lines, std::vector<Region> regions = {}, std::vector<Mark> marks = {});
    QString save(const QString& path); ///< PNG or PDF by its suffix; says in words what came of it
    QSize minimumSizeHint() const override { return {180, 130}; }

    std::array<double, 2> shownRange() const; ///< along x, after zooming
    QString cursorText() const;               ///< what the cursor reads; empty when it is outside

signals:
    void told(const QString& message);

protected:
    void contextMenuEvent(QContextMenuEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    void dress(); ///< colours and fonts of the present look
    void placeNames();
    void moveCursor(const QPointF& pixel);

    std::array<double, 4> full_{0, 1, 0, 1};
    std::vector<Line> lines_;
    std::vector<Mark> marks_;
    struct Canvas; ///< all that knows the plotting library
    std::unique_ptr<Canvas> canvas_;
};

} // namespace undisona
