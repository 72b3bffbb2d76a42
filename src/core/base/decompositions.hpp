// Dense decompositions used all over are compiled once, in decompositions.cpp: each costs a file that makes its own ten
// seconds and more. They serve arguments of the plain types alone: give them `Eigen::MatrixXd(a * b)`, not `a * b`.
#pragma once
#include <Eigen/Dense>

namespace Eigen {

using Matrix6d = Matrix<double, 6, 6>;

// NOLINTBEGIN: one list for what is declared here and made there, of what is used of each
#define UNDISONA_EIGENVALUES(EXTERN, OF)                                                                               \
    EXTERN template SelfAdjointEigenSolver<OF>& SelfAdjointEigenSolver<OF>::compute(const EigenBase<OF>&, int);
#define UNDISONA_DECOMPOSITIONS(EXTERN)                                                                                \
    UNDISONA_EIGENVALUES(EXTERN, MatrixXd)                                                                             \
    UNDISONA_EIGENVALUES(EXTERN, Matrix3d)                                                                             \
    UNDISONA_EIGENVALUES(EXTERN, Matrix6d)                                                                             \
    EXTERN template GeneralizedSelfAdjointEigenSolver<MatrixXd>& GeneralizedSelfAdjointEigenSolver<MatrixXd>::compute( \
        const MatrixXd&, const MatrixXd&, int);                                                                        \
    EXTERN template LLT<MatrixXd>& LLT<MatrixXd>::compute(const EigenBase<MatrixXd>&);                                 \
    EXTERN template LDLT<MatrixXd>& LDLT<MatrixXd>::compute(const EigenBase<MatrixXd>&);                               \
    EXTERN template void PartialPivLU<MatrixXd>::compute();                                                            \
    EXTERN template void PartialPivLU<Matrix6d>::compute();                                                            \
    EXTERN template void FullPivLU<MatrixXd>::computeInPlace();                                                        \
    EXTERN template void HouseholderQR<MatrixXd>::computeInPlace();                                                    \
    EXTERN template void ColPivHouseholderQR<MatrixXd>::computeInPlace();                                              \
    EXTERN template ColPivHouseholderQR<MatrixXd>& ColPivHouseholderQR<MatrixXd>::compute(const EigenBase<MatrixXd>&); \
    EXTERN template void ColPivHouseholderQR<MatrixXd>::_solve_impl(const MatrixXd&, MatrixXd&) const;                 \
    EXTERN template JacobiSVD<MatrixXd>& JacobiSVD<MatrixXd>::compute(const MatrixXd&, unsigned int);                  \
    EXTERN template JacobiSVD<Matrix3d>& JacobiSVD<Matrix3d>::compute(const Matrix3d&, unsigned int);
// NOLINTEND

UNDISONA_DECOMPOSITIONS(extern)

} // namespace Eigen
