#pragma once
#include <Eigen/Dense>

namespace undisona {

/// All eigenpairs of a real symmetric matrix, values ascending, vectors orthonormal in the same order; only the
/// lower triangle is read. Empty for an empty matrix. LAPACK's divide and conquer (Cuppen 1981; Gu and
/// Eisenstat 1995). Throws std::runtime_error where the matrix holds what is no number.
struct DenseEigen {
    Eigen::VectorXd values;
    Eigen::MatrixXd vectors;
};
DenseEigen denseEigen(Eigen::MatrixXd matrix);

} // namespace undisona
