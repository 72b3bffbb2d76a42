#include "app/film/scene_stage.hpp"

#include "app/scene/scene_overlay.hpp"

#include <QPainter>

namespace undisona {

SceneStage::SceneStage(Session& session, QSize pixels, const SceneLook& look, const Camera& camera, bool caption)
    : pixels_(pixels)
{
    const QSize size = (QSizeF(pixels) / devicePixelRatioF()).toSize();
    resize(size);
    canvas_ = new SceneCanvas(session, this);
    canvas_->resize(size);
    canvas_->setLook(look);
    canvas_->seeAs(camera);
    overlay_ = new SceneOverlay(session, *canvas_, this);
    overlay_->resize(size);
    overlay_->setVisible(caption);
}

QImage SceneStage::pictureAt(double phase)
{
    canvas_->setPhase(phase);
    QImage image = canvas_->picture().copy();
    if (image.isNull()) { // no OpenGL
        image = QImage(pixels_, QImage::Format_RGB32);
        image.fill(Qt::white);
    }
    if (!overlay_->isHidden()) {
        QPainter painter(&image);
        overlay_->render(&painter, {}, {}, QWidget::DrawChildren);
    }
    image.setDevicePixelRatio(1.0);
    return image.size() == pixels_ ? image : image.scaled(pixels_, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

} // namespace undisona
