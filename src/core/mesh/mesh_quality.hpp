#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

/// How well a piece of sheet is formed.
struct ShellQuality {
    double shape;      ///< 1: a square or an even triangle; 0 or less: a corner is turned inside out
    double leastAngle; ///< rad
    double mostAngle;  ///< rad
    double aspect;     ///< longest side over the shortest
    double warp;       ///< how far the corners lie out of their mean plane, over the mean side; 0 for three
    double jacobian;   ///< least over largest area at the corners; 1 for three
};
ShellQuality qualityOf(const FrameMesh&, const MeshShell&);

/// How well a piece of a solid is formed.
struct SolidQuality {
    /// Of a tetrahedron three times the inner over the outer radius, of bricks and wedges the least corner: 1 for an
    /// even tetrahedron, a brick of right angles, an upright even wedge.
    double shape;
    double jacobian; ///< least over largest at its corners and middle; 0 or less: turned inside out
    double aspect;   ///< longest side over the shortest
};
SolidQuality qualityOf(const FrameMesh&, const MeshSolid&);

/// Of a whole mesh of sheet and solids, whose pieces are counted after those of sheet.
struct MeshQuality {
    std::vector<ShellQuality> shells; ///< beside mesh.shells
    std::vector<SolidQuality> solids; ///< beside mesh.solids
    std::array<long, 10> byShape{};   ///< how many have a shape of 0...0.1, 0.1...0.2, ...
    std::vector<std::size_t> worst;   ///< up to 50, the worst shape first
    std::size_t fourSided = 0;
    double least = 0.0, most = 0.0; ///< sizes of the elements: roots of their areas, m
    double shape(std::size_t piece) const
    {
        return piece < shells.size() ? shells[piece].shape : solids[piece - shells.size()].shape;
    }
};
MeshQuality qualityOf(const FrameMesh&);

} // namespace undisona
