#pragma once
// What is drawn of the scene; for the files of the canvas alone, as it knows VTK.
#include "core/surface/member_surface.hpp"
#include "app/scene/moving_shape.hpp"
#include "core/surface/part_surface.hpp"
#include "app/scene/scene_canvas.hpp"
#include "app/scene/thinned_surface.hpp"

#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkNew.h>
#include <vtkProperty.h>
#include <vtkRenderer.h>

namespace undisona {

struct SceneCanvas::Pipeline {
    vtkNew<vtkGenericOpenGLRenderWindow> window;
    vtkNew<vtkRenderer> renderer;
    MovingShape sections, centreLines; ///< the members, as one or the other
    MovingShape sheets, meshLines, nodeLines;
    MovingShape thinSheets; ///< drawn for the sheets while things move, where these have very many triangles
    ThinnedSurface thin;    ///< empty where they have not
    MovingShape ghosts;     ///< faded sheets and members
    MovingShape outline, symbols, symbolLines;
    MemberSurface surface;
    std::vector<std::int64_t> memberCells; ///< of all members, hidden ones too
    PartSurface partSurface;
    std::vector<Vector6> nodeMotions; ///< unit modal mass; empty where there is no sheet
    bool smooths = false;             ///< edges are smoothed over the finished picture, for want of multisampling
    Eigen::Matrix<double, 6, Eigen::Dynamic> motions; ///< of the stations, unit modal mass
    double scale = 0.0;                               ///< from the mode to metres drawn

    MovingShape& members() { return surface.lines ? centreLines : sections; }
};

inline bool hasFaces(const FrameMesh& mesh)
{
    return !mesh.shells.empty() || !mesh.solids.empty();
}

/// The background of the theme that is in use.
void setBackground(vtkRenderer*);

} // namespace undisona
