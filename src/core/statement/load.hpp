#pragma once
#include "core/model/target.hpp"

#include <Eigen/Dense>

#include <map>
#include <string>
#include <vector>

namespace undisona {

/// What one sentence does to one thing in a static state.
struct Load {
    enum class Kind {
        weight,     ///< gravity on all mass there is: `vector`, m/s2
        force,      ///< `vector`: N at a point, else N per m, m2 or m3
        moment,     ///< `vector` at a point, N m
        pressure,   ///< `amount`, Pa, against the normal of sheet or into a body
        pretension, ///< `amount`, N, of a member whose ends stand still
        shift,      ///< `vector`, m, of a point that is held that way
        spin,       ///< about the axis `vector` (unit) through `place`, at `amount`, rad/s: all mass there is
        warming     ///< `amount`, K, and of sheet `across` from its lower to its upper side
    };
    Kind kind;
    Target over; ///< of all but weight and spin
    int at;      ///< of the frame's points, members, sheets or solids, or of the edges or faces; -1: everything
    Eigen::Vector3d vector = Eigen::Vector3d::Zero();
    double amount = 0.0, across = 0.0;
    std::string sentence;
    Eigen::Vector3d place = Eigen::Vector3d::Zero(); ///< m
};

/// A static state: so many times each of the loads.
struct StaticState {
    std::string name;
    std::vector<double> factors; ///< beside Structure::loads
    std::string sentence{};      ///< of one made of others
    std::map<int, bool> bears{}; ///< of Structure::contacts, whatever the loads
};

} // namespace undisona
