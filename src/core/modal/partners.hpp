#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Modes and what they are modes of; nothing is owned.
struct ModesOnMesh {
    const Structure& structure;
    const FrameMesh& mesh;
    const System& system;
    const Eigen::MatrixXd& shapes;  ///< unknowns x modes
    const std::vector<int>& groups; ///< by mode; those of one frequency share a number

    std::size_t size() const { return groups.size(); }
    Vector6 motion(int node, std::size_t mode) const
    {
        return system.motionOf(node, shapes.col(static_cast<Eigen::Index>(mode)));
    }
};

/// The mode of the same shape on another mesh.
struct Partner {
    int mode = -1;          ///< from 0; -1: none has its shape
    double assurance = 0.0; ///< modal assurance criterion, 0...1
};

/// Modal assurance criterion (Allemang and Brown 1982) of all pairs over the translations of the points, members,
/// sheets and solids that both have by name; rows are modes of the first.
Eigen::MatrixXd modalAssurance(const ModesOnMesh& first, const ModesOnMesh& second);

/// By mode of the first its partner in the second: one at most, chosen for the largest total assurance (assignment by
/// Kuhn, 1955), of 0.6 or more. Modes of one frequency are compared as a group, by the principal angles of their
/// spaces.
std::vector<Partner> partnersOf(const ModesOnMesh& first, const ModesOnMesh& second);

} // namespace undisona
