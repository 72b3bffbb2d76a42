#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// What static states put on a structure, a column a state (Structure::staticStates).
struct StaticLoads {
    Eigen::MatrixXd forces; ///< on its unknowns, N, N m by unknown: K u = forces
    /// Beside mesh.elements, 12 x states each in its own axes: what acts between its ends as loads on them, with what
    /// keeps it from growing shorter or longer, so that its end forces are K q - these. Empty where there is nothing.
    std::vector<Eigen::MatrixXd> onElement;
    Eigen::MatrixXd sheetStrain, sheetBend; ///< sheets x states: by temperature, evenly, and from below to above; 1
    Eigen::MatrixXd solidStrain;            ///< solids x states, evenly; 1
    /// Force and moment about the origin of all that acts from outside, on what is held too; N, N m; 6 x states.
    Eigen::MatrixXd totals;
};

/// By the interpolation of the elements, so that their work on any motion of them is exact. Of all loads, or of those
/// of one kind alone.
StaticLoads staticLoadsOf(const Structure&, const FrameMesh&, const System&, std::optional<Load::Kind> only = {});

/// Force by mass and distance of a load that spins, 1/s2, square to the axis.
Eigen::Matrix3d spinTensor(const Load&);

} // namespace undisona
