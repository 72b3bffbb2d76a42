#pragma once
#include "app/scene/scene_canvas.hpp"

class QComboBox;
class QPushButton;
class QSlider;

namespace undisona {

class CutBar;
class DrawBar;
class SceneOverlay;
class ColourLegend;
class KindsKey;

/// The scene with its caption and controls.
class SceneView : public QWidget {
    Q_OBJECT
public:
    SceneView(Session&, QWidget* parent = nullptr);

    SceneCanvas& canvas() { return *canvas_; }
    void togglePlay();
    void setLook(const SceneLook&);
    void paint(Colouring);
    void cutOpen(const ViewCut&); ///< shows its bar as well
    void closeCut();
    void showAllParts(); ///< hidden and faded ones too
    QSize minimumSizeHint() const override { return {240, 160}; }

protected:
    void resizeEvent(QResizeEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void focusInEvent(QFocusEvent*) override;
    void focusOutEvent(QFocusEvent*) override;
    void paintEvent(QPaintEvent*) override;

private:
    void tellLegend();
    void layKinds(); ///< their key in its place
    void drawMember(int from, int to);
    void drawPlace(int from, const Eigen::Vector3d& place);
    void drawLength(const QString& text); ///< from the pen, along the stroke or by three parts
    Eigen::Vector3d strokeDirection(const Eigen::Vector3d& from) const;
    void endDrawing();                             ///< lifts the pen; with the pen up, leaves drawing
    void drawCorner(const Eigen::Vector3d& place); ///< on the first one: the outline is whole
    void finishOutline();

    Session& session_;
    SceneCanvas* canvas_;
    SceneOverlay* overlay_;
    DrawBar* drawBar_;
    CutBar* cutBar_;
    QWidget* controls_;
    QPushButton* play_;
    QSlider *phase_, *amplitude_;
    QComboBox* colouring_;
    std::vector<QWidget*> barWords_; ///< beside what they name
    ColourLegend* legend_;
    KindsKey* kinds_;
};

} // namespace undisona
