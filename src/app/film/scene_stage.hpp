#pragma once
#include "app/scene/scene_canvas.hpp"

namespace undisona {

class SceneOverlay;

/// The scene drawn beside the window in a size of its own: for films and pictures. It shows the session's mode.
class SceneStage : public QWidget {
    Q_OBJECT
public:
    /// @param pixels of the pictures, whatever the screen's scaling
    SceneStage(Session&, QSize pixels, const SceneLook&, const Camera&, bool caption);

    QImage pictureAt(double phase); ///< Format_RGB32
    SceneCanvas& canvas() { return *canvas_; }

private:
    QSize pixels_;
    SceneCanvas* canvas_;
    SceneOverlay* overlay_;
};

} // namespace undisona
