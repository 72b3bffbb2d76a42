#pragma once
#include "app/scene/scene_canvas.hpp"

namespace undisona {

/// Words over the scene: the caption, names of masses, what is under the cursor, the axes.
class SceneOverlay : public QWidget {
    Q_OBJECT
public:
    SceneOverlay(Session&, SceneCanvas&, QWidget* parent);

    QString caption() const;  ///< "Mode 4 · 11.8 Hz"
    QString subtitle() const; ///< "second bending in x · 46 % of X · amplitude is arbitrary"
    void renew();

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void paintCaption(QPainter&) const;
    void paintAxes(QPainter&) const;
    /// A ring on a point, or words beside a place.
    struct Mark {
        QPointF at;
        double radius;
        bool filled;
        QString text; ///< empty for a ring
        QRectF box;   ///< of the text
        bool quiet;
    };
    std::vector<Mark> marks() const;
    void paintMarks(QPainter&) const;
    void paintWorkPlane(QPainter&) const; ///< while places are clicked: the grid, the place under the cursor
    void paintDragged(QPainter&) const;   ///< the mass that is being carried by hand
    QString valueAt(int point) const;

    Session& session_;
    SceneCanvas& canvas_;
};

} // namespace undisona
