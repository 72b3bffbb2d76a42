#include "core/numerics/dense_eigen.hpp"

#include <stdexcept>

extern "C" void dsyevd_(const char* jobz, const char* uplo, const int* n, double* a, const int* lda, double* w,
                        double* work, const int* lwork, int* iwork, const int* liwork, int* info);

namespace undisona {

DenseEigen denseEigen(Eigen::MatrixXd matrix)
{
    DenseEigen eigen;
    const int n = static_cast<int>(matrix.rows());
    eigen.values.resize(n);
    if (n == 0) return eigen;
    if (!matrix.allFinite()) throw std::runtime_error("an eigenproblem holds what is no number");
    int info = 0, ask = -1, integers = 0;
    double reals = 0.0;
    dsyevd_("V", "L", &n, matrix.data(), &n, eigen.values.data(), &reals, &ask, &integers, &ask, &info);
    const int realRoom = static_cast<int>(reals), integerRoom = integers;
    Eigen::VectorXd work(realRoom);
    Eigen::VectorXi integerWork(integerRoom);
    dsyevd_("V", "L", &n, matrix.data(), &n, eigen.values.data(), work.data(), &realRoom, integerWork.data(),
            &integerRoom, &info);
    if (info != 0) throw std::runtime_error("a dense eigenproblem did not converge");
    eigen.vectors = std::move(matrix);
    return eigen;
}

} // namespace undisona
