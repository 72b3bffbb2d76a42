#include "app/scene/gl_picture.hpp"

#include "app/session/theme.hpp"

#include <QOpenGLFunctions>
#include <QPainter>

namespace undisona {

GlPicture::GlPicture(QWidget* parent) : QWidget(parent)
{
    setAttribute(Qt::WA_OpaquePaintEvent);
    soon_.setSingleShot(true);
    soon_.setInterval(20); // a pass of painting begins some milliseconds after it is asked for
    connect(&soon_, &QTimer::timeout, this, qOverload<>(&QWidget::update));
}

void GlPicture::draw()
{
    outOfDate_ = true;
    soon_.stop();
    update();
}

void GlPicture::drawSoon()
{
    outOfDate_ = true;
    if (!soon_.isActive()) soon_.start();
}

bool GlPicture::makeCurrent()
{
    return state_ == State::ready && context_.makeCurrent(&surface_);
}

GlPicture::State GlPicture::start()
{
    QSurfaceFormat format;
    format.setRenderableType(QSurfaceFormat::OpenGL);
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    surface_.setFormat(format);
    surface_.create();
    context_.setFormat(format);
    if (!context_.create() || context_.format().version() < format.version() || !context_.makeCurrent(&surface_))
        return State::impossible;
    const auto* renderer = reinterpret_cast<const char*>(context_.functions()->glGetString(GL_RENDERER));
    prepareGl(renderer && (strstr(renderer, "llvmpipe") || strstr(renderer, "softpipe")));
    return State::ready;
}

const QImage& GlPicture::picture()
{
    const double ratio = devicePixelRatioF();
    const QSize pixels = (QSizeF(size()) * ratio).toSize();
    if (!outOfDate_ && picture_.size() == pixels) return picture_;
    if (state_ == State::fresh) state_ = start();
    if (state_ == State::impossible || pixels.isEmpty() || !makeCurrent()) return picture_;
    outOfDate_ = false; // before it is drawn: what drawing finds out may ask for another one
    if (picture_.size() != pixels) picture_ = QImage(pixels, QImage::Format_RGB32);
    picture_.setDevicePixelRatio(ratio);
    drawGl(pixels);
    readGl(picture_);
    picture_ = std::move(picture_).mirrored();
    context_.doneCurrent();
    QMetaObject::invokeMethod(this, &GlPicture::shown, Qt::QueuedConnection);
    return picture_;
}

void GlPicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const bool seen = picture_.size() == (QSizeF(size()) * devicePixelRatioF()).toSize();
    const QImage& now = drawsSoon() && seen ? picture_ : picture();
    if (state_ == State::ready) return painter.drawImage(QPoint(), now);
    painter.fillRect(rect(), Theme::now().sceneBottom);
    painter.setPen(Theme::now().ink);
    painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                     tr("The scene needs OpenGL 3.2, which this screen does not offer. All else works without it."));
}

void GlPicture::resizeEvent(QResizeEvent*)
{
    draw();
}

} // namespace undisona
