#pragma once
#include "core/geometry/structure.hpp"

namespace undisona {

/// A node of the mesh: a point of the frame, or one inside a member.
struct MeshNode {
    Eigen::Vector3d place; ///< m
    int point = -1;        ///< index of the frame's point, -1 inside a member
};

/// A part of a member between two nodes. The centroid line runs from first.place + arms[0] to second.place +
/// arms[1]; arms are zero inside a member.
struct MeshElement {
    int member;
    std::array<int, 2> nodes;
    std::array<Eigen::Vector3d, 2> arms;
    std::array<double, 2> share; ///< where on the member it begins and ends, 0...1
};

struct FrameMesh {
    std::vector<MeshNode> nodes;       ///< first the frame's points, in their order
    std::vector<MeshElement> elements; ///< member by member, along each
    std::vector<int> firstElement;     ///< by member, with one more at the end

    Eigen::Vector3d end(const MeshElement&, int which) const;
    double length(const MeshElement&) const;
};

/// Added mass along members, kg/m by member.
std::vector<double> addedPerLength(const Structure&);

/// Number of elements by member.
using Splits = std::vector<long>;

/// Three elements to a half wave of bending at the frequency (Hz), at least one; what the user states
/// comes first. The half wave of a uniform member is pi (EI / (m w2))^(1/4).
Splits proposeSplits(const Structure&, double frequency);

/// Splits as stated for each member, ready to solve.
FrameMesh meshOf(const Structure&, const Splits&);

} // namespace undisona
