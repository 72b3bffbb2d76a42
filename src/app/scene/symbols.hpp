#pragma once
#include "core/mesh/frame_mesh.hpp"

#include <Eigen/Dense>

#include <QColor>

#include <vector>

namespace undisona {

/// A small solid drawn at a point: what it is, its triangles from that point, its colour.
struct Symbol {
    int node = -1;            ///< of the mesh, with which it moves; a point's node has its number
    std::vector<float> place; ///< 3 per vertex, relative to the point, m
    std::vector<std::int64_t> triangles, lines;
    QColor colour;
    std::string sentence;
};

/// Supports one at each node: a block where nothing moves, a wedge where it may turn, on rails along what is free, on
/// springs along what is elastic, arcs for turns that are held by themselves; springs as zigzags, added masses as
/// spheres whose volume follows the mass, rigid ties as spokes, loads as arrows. `size` is the length of a wedge, m.
std::vector<Symbol> symbolsOf(const Structure&, const FrameMesh&, double size);

/// Radius of the sphere for a mass: the volume follows the mass, 0.8 of `size` for the heaviest.
double massRadius(double mass, double heaviest, double size);

} // namespace undisona
