#pragma once
#include "core/modal/solution.hpp"

#include <Eigen/Dense>

#include <cstdint>
#include <vector>

namespace undisona {

/// Triangles (or lines) of all members with what the animation needs at each vertex: the motion and the turn
/// of the axis point in one mode, and the section's arm from that axis point.
struct MemberSurface {
    std::vector<float> place;        ///< 3 per vertex, from `origin`, m
    std::vector<float> arm;          ///< 3 per vertex
    std::vector<int> station;        ///< by vertex: index of its axis point
    std::vector<std::int64_t> cells; ///< triangles by three vertices, or lines by two
    std::vector<int> memberOfVertex;
    Eigen::Vector3d origin = Eigen::Vector3d::Zero();
    bool lines = false, widened = false;

    struct Station {
        int element;
        double share; ///< along the element
    };
    std::vector<Station> stations;
};

/// `sections` draws true sections, else centre lines; `perElement` pieces along each element. Sections that are
/// narrower than `least` (m) are drawn as wide as that, so that a wire is seen from afar; `surface.widened` tells
/// whether any is.
MemberSurface memberSurface(const Structure&, const FrameMesh&, bool sections, int perElement, double least = 0.0);

/// Translation and rotation of every station in a mode; 6 x stations.
Eigen::Matrix<double, 6, Eigen::Dynamic> stationMotions(const MemberSurface&, const Solution&, std::size_t mode);

} // namespace undisona
