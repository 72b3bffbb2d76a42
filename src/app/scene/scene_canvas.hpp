#pragma once
#include "app/scene/camera.hpp"
#include "app/scene/dragged_part.hpp"
#include "app/scene/drawn_outline.hpp"
#include "app/scene/gl_picture.hpp"
#include "app/scene/mode_shares.hpp"
#include "app/scene/work_plane.hpp"
#include "app/session/session.hpp"

#include <QElapsedTimer>
#include <QTimer>

namespace undisona {

/// Where the view is cut open: what lies on one side of a plane square to an axis is not drawn.
struct ViewCut {
    int axis = 0;
    double share = 0.5;   ///< of the structure's extent along the axis
    bool farSide = false; ///< which side is taken away: the far one, or the near one of the axis
};

/// What the canvas shows; set from the controls, remembered between runs.
struct SceneLook {
    bool sections = true, outline = true, symbols = true, names = false;
    bool meshLines = true; ///< sides of the elements on sheet
    bool nodeLines = true; ///< of the mode, on sheet
    Colouring colouring = Colouring::size;
    double amplitude = 1.0;
    double turn = 2.0; ///< seconds that a period takes to the eye, whatever the frequency
    std::optional<ViewCut> cut;
    std::set<std::string> hidden, faded; ///< parts by name
};

/// The structure in three dimensions, its mode in motion on the graphics processor.
class SceneCanvas : public GlPicture {
    Q_OBJECT
public:
    SceneCanvas(Session&, QWidget* parent);
    ~SceneCanvas() override;

    /// A stave by its id and a mode of it.
    struct Fixed {
        QString stave;
        int mode = 0;
        bool operator==(const Fixed&) const = default;
    };
    /// Shows that whatever the session shows; nothing: follows the session again.
    void fixTo(std::optional<Fixed>);
    bool isFixed() const { return fixed_.has_value(); }
    // What is shown here: what it is fixed to while that is there, else what the session shows.
    const Stave& staveShown() const;
    int modeShown() const; ///< number, 0 for none
    /// A static state that stands in place of a mode; null: none.
    const Session::RestShown* restSeen() const;
    const Mode* mode() const;

    const SceneLook& look() const { return look_; }
    /// The kinds that parts are coloured by; null where they are coloured by something else.
    const ToldApart* kindsShown();
    double mostShown() { return shares().most; } ///< what the far end of the scale stands for
    void setLook(const SceneLook&);
    void play(bool playing);
    bool playing() const { return playing_; }
    void setPhase(double share); ///< 0...1 of a period
    double phase() const { return phase_; }

    Camera& camera() { return camera_; }
    const Camera& camera() const { return camera_; }
    void seeAs(const Camera&); ///< from there, and not framed anew by what is drawn first
    void frameAll();
    /// Hides or fades parts of these names, or brings them back where all are so already.
    void toggleParts(const std::vector<std::string>& names, std::set<std::string> SceneLook::*which);
    /// The node under the cursor, to be kept in view; nothing where there is none.
    std::optional<Session::ValuePlace> placeUnderCursor() const;
    /// The part under the cursor, else those of the selected sentence.
    std::vector<std::string> partsMeant() const;
    void lookFrom(const QString& side); ///< front, back, left, right, top, corner

    /// Where a point of the frame is drawn now, in pixels of the widget; depth <= 0 if it is behind.
    Eigen::Vector3d pixelOf(int point) const;
    Eigen::Vector3d pixelOf(const Eigen::Vector3d& place) const { return camera_.project(place, size()); }
    Eigen::Vector3d nodePixel(int node) const; ///< of the drawn solution's mesh, as pixelOf of a point
    Eigen::Vector3d placeNow(int point) const;
    Eigen::Vector3d nodeNow(int node) const; ///< of the drawn solution's mesh
    double symbolSize() const;
    int hoveredPoint() const { return hoveredPoint_; }
    int hoveredMember() const { return hoveredMember_; }
    int hoveredPart() const { return hoveredPart_; }
    int hoveredFace() const { return hoveredFace_; } ///< of a solid, while points are picked
    int hoveredEdge() const { return hoveredEdge_; } ///< while points are picked
    int chosenPoint() const { return chosenPoint_; }
    /// The solution whose shape is drawn; null if it does not fit the present model.
    const Solution* drawn() const { return drawn_.get(); }

    /// Drawing members from point to point. While it goes on, and while a word wants a place, the work plane
    /// with its grid is there and the structure is shown at rest.
    bool drawing() const { return drawing_; }
    void setDrawing(bool drawing); ///< of members
    /// Drawing the corners of an outline on the work plane, one after the other.
    void drawOutline(OutlineKind);
    const std::optional<OutlineKind>& outlineDrawn() const { return outlineDrawn_; } ///< while that goes on
    const std::vector<Eigen::Vector3d>& outlineCorners() const { return corners_; }
    void addCorner(const Eigen::Vector3d& place); ///< on the work plane beneath it
    bool dropCorner();                            ///< the last one; false where there was none
    int drawnFrom() const { return drawFrom_; }
    void drawFrom(int point); ///< -1 lifts the pen
    bool placing() const { return drawing_ || outlineDrawn_ || session_.picking().place; }
    const WorkPlane& workPlane() const { return plane_; }
    void setWorkPlane(const WorkPlane&);
    const std::optional<Eigen::Vector3d>& gridPlace() const { return gridPlace_; } ///< under the cursor
    QPointF cursor() const { return cursor_; }
    /// The mass that is being carried from point to point by hand; null while none is.
    const DraggedPart* dragged() const { return dragged_.get(); }
    void letGo(); ///< it stays where it was

    double framesPerSecond() const { return framesPerSecond_; }
    std::size_t trianglesDrawn() const; ///< of sheet and solids, in the last frame

signals:
    void phaseChanged();
    void memberDrawn(int from, int to);
    void placeDrawn(int from, const Eigen::Vector3d& place); ///< a click on the grid; -1: the pen was up
    void placingChanged();                                   ///< it began or ended, or the plane moved

protected:
    void prepareGl(bool software) override;
    void drawGl(QSize pixels) override;
    void readGl(QImage&) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    struct Pipeline; // everything that knows VTK
    void rebuild();
    void rebuildSheets(const Structure&);
    void rebuildGhosts(const Structure&);
    void rebuildSymbols();
    const Structure* draftHere() const; ///< what is being written, where its shape is the one that is drawn; or null
    void readDraft();
    void thinOut(const std::vector<std::int64_t>& triangles);
    bool inMotion() const;
    void cutOpen();
    enum class Seen { whole, faded, hidden };
    Seen seen(const std::string& part) const;
    const ModeShares& shares();
    void recolour();
    void hover(const QPointF&);
    int nodeUnder(const QPointF&) const; ///< of the solution's mesh: a point of the frame, or one on a part; -1: none
    void carryPart();
    void putPartDown();
    struct Under {
        int part = -1, face = -1; ///< -1: none; a face of a solid only
        double depth = 1e300;
    };
    Under partUnder(const QPointF&) const;
    int edgeUnder(const QPointF&, double depth) const; ///< none that lies deeper
    void showAtRest();
    double displayScale() const;
    double leastSeen() const; ///< what can just be seen, m
    bool tooThin() const;     ///< members from so far that their sections would fall between the pixels

    Session& session_;
    std::unique_ptr<Pipeline> pipeline_;
    SceneLook look_;
    std::optional<Fixed> fixed_;
    Camera camera_;
    bool framed_ = false, dirty_ = true, colourDirty_ = true, drawing_ = false;
    std::shared_ptr<const Solution> drawn_;
    std::shared_ptr<const Structure> structure_;
    std::shared_ptr<const FrameMesh> mesh_; ///< that is drawn
    ModeShares shares_;
    std::tuple<std::shared_ptr<const Solution>, int, Colouring, std::shared_ptr<const StressReading>> sharesOf_{
        nullptr, 0, Colouring::plain, nullptr};
    ToldApart kinds_;
    std::tuple<std::shared_ptr<const Structure>, ToldBy, std::string> kindsOf_{nullptr, ToldBy::material, {}};
    double widest_ = 0.0;     ///< of the sections, m
    double leastDrawn_ = 0.0; ///< as wide narrow sections were drawn, m
    double side_ = 0.0;       ///< of the elements' sides the middling one, m
    void fadeMeshLines();     ///< where they would lie so close that they hide what they stand on
    bool thin_ = false;       ///< drawn as lines for that
    double phase_ = 0.25, framesPerSecond_ = 0.0;
    bool playing_ = false;
    QTimer draftSoon_;
    QTimer nextFrame_, stillAgain_; ///< the second one runs while the view may go on to be turned
    QElapsedTimer clock_;           ///< since the last frame was begun
    int frame_ = 0;
    QPointF pressed_, cursor_;
    Qt::MouseButton button_ = Qt::NoButton;
    bool moved_ = false;
    WorkPlane plane_;
    std::optional<OutlineKind> outlineDrawn_;
    std::vector<Eigen::Vector3d> corners_;
    std::unique_ptr<DraggedPart> dragged_;
    std::optional<Eigen::Vector3d> gridPlace_;
    int hoveredPoint_ = -1, hoveredMember_ = -1, hoveredPart_ = -1, hoveredEdge_ = -1, hoveredFace_ = -1,
        chosenPoint_ = -1, drawFrom_ = -1;
};

} // namespace undisona
