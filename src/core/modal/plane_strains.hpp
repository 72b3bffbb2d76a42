#pragma once
#include <Eigen/Dense>

namespace undisona {

/// Tensor xx yy zz xy yz zx in global axes of a plane strain xx, yy, xy (engineering) along the first two columns.
inline Eigen::Matrix<double, 6, 3> planeToGlobal(const Eigen::Matrix3d& axes)
{
    Eigen::Matrix<double, 6, 3> turn;
    const auto put = [&](Eigen::Index column, const Eigen::Matrix3d& tensor) {
        turn.col(column) << tensor(0, 0), tensor(1, 1), tensor(2, 2), tensor(0, 1), tensor(1, 2), tensor(2, 0);
    };
    const Eigen::Vector3d x = axes.col(0), y = axes.col(1);
    put(0, x * x.transpose());
    put(1, y * y.transpose());
    put(2, (x * y.transpose() + y * x.transpose()) / 2.0);
    return turn;
}

/// The way back of such a tensor.
inline Eigen::Matrix<double, 3, 6> globalToPlane(const Eigen::Matrix3d& axes)
{
    const Eigen::Vector3d x = axes.col(0), y = axes.col(1);
    Eigen::Matrix<double, 3, 6> turn;
    const auto put = [&](Eigen::Index row, const Eigen::Vector3d& a, const Eigen::Vector3d& b, double factor) {
        turn.row(row) << a.x() * b.x(), a.y() * b.y(), a.z() * b.z(), a.x() * b.y() + a.y() * b.x(),
            a.y() * b.z() + a.z() * b.y(), a.z() * b.x() + a.x() * b.z();
        turn.row(row) *= factor;
    };
    put(0, x, x, 1.0);
    put(1, y, y, 1.0);
    put(2, x, y, 2.0);
    return turn;
}

} // namespace undisona
