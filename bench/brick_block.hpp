#pragma once
#include "core/numerics/sparse.hpp"

namespace undisona {

struct MatrixPair {
    SparseSymmetric stiffness, mass;
};

/// A block of nx x ny x nz equal 8-node bricks of steel, clamped on the face x = 0 or free: a solid's matrices to measure
/// eigen-solvers on. Trilinear, full 2x2x2 integration, consistent mass (Zienkiewicz and Taylor 2000, ch. 8).
MatrixPair brickBlock(int nx, int ny, int nz, double size, bool clamped = true);

} // namespace undisona
