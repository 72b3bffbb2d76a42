#pragma once
#include "core/system/relations.hpp"

namespace undisona {

/// One unknown, free or held: how it moves what it belongs to.
struct Unknown {
    std::string where; ///< name of the point or member
    bool rotation = false;
    Eigen::Vector3d direction; ///< unit
    Eigen::Vector3d place;     ///< m
    bool memberEnd = false;    ///< of a released member end, not of a node
    Vector6 fromRigid; ///< its value in a motion (ux uy uz rx ry rz) of the whole about the origin, by dot product
};

/// How six motions (ux uy uz rx ry rz, global) follow from free unknowns and from those that are held, which
/// move with the base alone: motion = basis * q + heldBasis * s.
struct NodeMotion {
    Matrix6X basis;
    std::vector<int> unknowns;
    Matrix6X heldBasis{6, 0};
    std::vector<int> held;
};

/// The free unknowns of a mesh under all that takes motions away (relations.hpp), by exact elimination.
struct MotionMap {
    std::vector<Unknown> unknowns;
    std::vector<Unknown> held; ///< what the supports take away; where, and its value in a motion of the base
    std::vector<NodeMotion> nodes;
    std::vector<std::string> idle; ///< points that turn or shift freely with neither stiffness nor mass: left out
    /// Relations among so many unknowns that bringing some to the others would fill the equations: the sums of weights
    /// times unknowns are nothing. The first unknown of each follows the others.
    struct Apart {
        int follower;
        std::map<int, double> weights;
    };
    std::vector<Apart> apart;
    Findings problems;             ///< what is asked of motions that cannot be had
    std::vector<std::string> vain; ///< sentences that tie what is tied or held already
    std::vector<int> body;         ///< by node: the same number for those that move as one body

    /// Of a member's end that is not wholly joined to its node.
    struct EndMotion {
        NodeMotion motion;
        Eigen::Matrix3d axes; ///< columns: along and about which it moves by itself
    };
    std::vector<EndMotion> ends;
    std::map<std::array<int, 2>, int> endOf; ///< by element of the mesh and its end: which of these
    const EndMotion* ownEnd(std::size_t element, int end) const
    {
        if (endOf.empty()) return nullptr;
        const auto found = endOf.find({static_cast<int>(element), end});
        return found == endOf.end() ? nullptr : &ends[static_cast<std::size_t>(found->second)];
    }

    /// Whether all of the nodes (those below 0 aside) move as one body, so that nothing between them is strained.
    template <class Nodes>
    bool isOneBody(const Nodes& list, std::size_t count) const
    {
        for (std::size_t at = 1; at < count; ++at)
            if (body[static_cast<std::size_t>(list[at])] != body[static_cast<std::size_t>(list[0])]) return false;
        return true;
    }

    int add(Unknown unknown)
    {
        unknowns.push_back(std::move(unknown));
        return static_cast<int>(unknowns.size()) - 1;
    }
};

/// What moves as one body has six unknowns at the leading point; supports take away what they fix, in any axes;
/// relations between bodies then bring more unknowns to others.
MotionMap mapMotions(const Structure&, const FrameMesh&);

} // namespace undisona
