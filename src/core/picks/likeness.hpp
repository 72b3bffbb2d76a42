#pragma once
#include "core/model/target.hpp"
#include "core/shapes/frame.hpp"

#include <optional>

namespace undisona {

/// What a rim or a face is known again by: its part, its size, how it is bent, and the plane or the level it lies in.
/// Straight edges tell nothing: a plate may well be free along one of four.
struct Likeness {
    int part;                      ///< as Frame::partName counts them
    double size, bend;             ///< length or area, m or m2; turn or radius, rad or m
    Eigen::Vector3d normal, place; ///< of its plane, zero where it has none; about its middle, m
    bool operator==(const Likeness&) const;
};

/// Of an edge or a face; nothing where it has none.
std::optional<Likeness> likenessOf(const Frame&, Target, int at);

/// All that are like one of those, themselves among them, ascending.
std::vector<int> allLike(const Frame&, Target, const std::vector<int>& of);

} // namespace undisona
