#pragma once
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QTimer>
#include <QWidget>

namespace undisona {

/// A widget whose picture OpenGL draws beside the screen, to be shown as any other picture.
///
/// Qt's own widget for OpenGL has OpenGL put the whole window together whenever anything in it is painted, which
/// without a graphics card takes longer at each key than the scene itself; and it draws anew when only what lies on it
/// changed.
class GlPicture : public QWidget {
    Q_OBJECT
public:
    explicit GlPicture(QWidget* parent);

    void draw(); ///< The picture is out of date: made anew when the window is painted next.
    /// The same, but what else is painted comes first; until then the picture before is seen.
    void drawSoon();
    bool drawsSoon() const { return soon_.isActive(); }
    const QImage& picture(); ///< As it is to be shown now, in pixels of the screen, drawn if it is out of date.

signals:
    void shown(); ///< a new picture is on the screen

protected:
    virtual void prepareGl(bool software) = 0; ///< once, before the first picture; the context is current
    virtual void drawGl(QSize pixels) = 0;
    virtual void readGl(QImage&) = 0; ///< what was drawn, Format_RGB32 of its size, lowest row first
    /// For what is to be freed; false where nothing was ever drawn.
    bool makeCurrent();
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    enum class State { fresh, ready, impossible };
    State start();

    QOffscreenSurface surface_;
    QOpenGLContext context_;
    QImage picture_;
    State state_ = State::fresh;
    bool outOfDate_ = true;
    QTimer soon_;
};

} // namespace undisona
