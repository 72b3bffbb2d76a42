#include "bench/brick_block.hpp"

#include <array>

namespace undisona {

namespace {

using Matrix24 = Eigen::Matrix<double, 24, 24>;

/// Stiffness and mass of one cube of the given edge; nodes in the order of their binary digits x y z.
std::pair<Matrix24, Matrix24> brick(double edge)
{
    const double E = 210e9, nu = 0.3, rho = 7850, lame = E * nu / ((1 + nu) * (1 - 2 * nu)), shear = E / (2 * (1 + nu));
    Eigen::Matrix<double, 6, 6> law = Eigen::Matrix<double, 6, 6>::Zero();
    law.topLeftCorner<3, 3>().setConstant(lame);
    law.diagonal() << lame + 2 * shear, lame + 2 * shear, lame + 2 * shear, shear, shear, shear;
    Matrix24 k = Matrix24::Zero(), m = Matrix24::Zero();
    const double g = 1 / std::sqrt(3.0), weight = edge * edge * edge / 8;
    for (int point = 0; point < 8; ++point) {
        const double at[3] = {point & 1 ? g : -g, point & 2 ? g : -g, point & 4 ? g : -g};
        Eigen::Matrix<double, 6, 24> strain = Eigen::Matrix<double, 6, 24>::Zero();
        Eigen::Matrix<double, 3, 24> shape = Eigen::Matrix<double, 3, 24>::Zero();
        for (int node = 0; node < 8; ++node) {
            const double sign[3] = {node & 1 ? 1.0 : -1.0, node & 2 ? 1.0 : -1.0, node & 4 ? 1.0 : -1.0};
            double part[3], slope[3];
            for (int axis = 0; axis < 3; ++axis)
                part[axis] = (1 + sign[axis] * at[axis]) / 2;
            for (int axis = 0; axis < 3; ++axis)
                slope[axis] = sign[axis] / 2 * part[(axis + 1) % 3] * part[(axis + 2) % 3] * 2 / edge;
            const int c = 3 * node;
            for (int axis = 0; axis < 3; ++axis) {
                strain(axis, c + axis) = slope[axis];
                shape(axis, c + axis) = part[0] * part[1] * part[2];
            }
            strain(3, c) = slope[1], strain(3, c + 1) = slope[0];
            strain(4, c + 1) = slope[2], strain(4, c + 2) = slope[1];
            strain(5, c) = slope[2], strain(5, c + 2) = slope[0];
        }
        k += weight * strain.transpose() * law * strain;
        m += weight * rho * shape.transpose() * shape;
    }
    return {k, m};
}

} // namespace

MatrixPair brickBlock(int nx, int ny, int nz, double size, bool clamped)
{
    const int first = clamped ? 1 : 0; // plane of nodes that can move
    const auto [k, m] = brick(size / nx);
    const auto unknown = [&](int i, int j, int l) { return 3 * (((i - first) * (ny + 1) + j) * (nz + 1) + l); };
    const std::int64_t count = 3LL * (nx + 1 - first) * (ny + 1) * (nz + 1);
    SparseAssembler stiffness(count), mass(count);
    for (int i = 0; i < nx; ++i)
        for (int j = 0; j < ny; ++j)
            for (int l = 0; l < nz; ++l) {
                std::vector<int> unknowns, own;
                for (int node = 0; node < 8; ++node) {
                    const int x = i + (node & 1);
                    if (x < first) continue;
                    for (int axis = 0; axis < 3; ++axis) {
                        unknowns.push_back(unknown(x, j + ((node >> 1) & 1), l + ((node >> 2) & 1)) + axis);
                        own.push_back(3 * node + axis);
                    }
                }
                stiffness.add(unknowns, k(own, own));
                mass.add(unknowns, m(own, own));
            }
    return {stiffness.finish(), mass.finish()};
}

} // namespace undisona
