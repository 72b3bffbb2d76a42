// Dense decompositions used all over are compiled once, in decompositions.cpp: each costs a file that makes its own ten
// seconds and more. They serve arguments of the plain types alone: give them `Eigen::MatrixXd(a * b)`, not `a * b`.
#pragma once
#include <Eigen/Dense>

namespace Eigen {

using Matrix6d = Matrix<double, 6, 6>;

// NOLINTNEXTLINE: one list for what is declared here and made there
#define UNDISONA_DECOMPOSITIONS(EXTERN)                                                                                \
    EXTERN template class SelfAdjointEigenSolver<MatrixXd>;                                                            \
    EXTERN template class SelfAdjointEigenSolver<Matrix3d>;                                                            \
    EXTERN template class SelfAdjointEigenSolver<Matrix6d>;                                                            \
    EXTERN template SelfAdjointEigenSolver<MatrixXd>& SelfAdjointEigenSolver<MatrixXd>::compute(                       \
        const EigenBase<MatrixXd>&, int);                                                                              \
    EXTERN template SelfAdjointEigenSolver<Matrix3d>& SelfAdjointEigenSolver<Matrix3d>::compute(                       \
        const EigenBase<Matrix3d>&, int);                                                                              \
    EXTERN template SelfAdjointEigenSolver<Matrix6d>& SelfAdjointEigenSolver<Matrix6d>::compute(                       \
        const EigenBase<Matrix6d>&, int);                                                                              \
    EXTERN template class GeneralizedSelfAdjointEigenSolver<MatrixXd>;                                                 \
    EXTERN template class LLT<MatrixXd>;                                                                               \
    EXTERN template LLT<MatrixXd>& LLT<MatrixXd>::compute(const EigenBase<MatrixXd>&);                                 \
    EXTERN template class LDLT<MatrixXd>;                                                                              \
    EXTERN template LDLT<MatrixXd>& LDLT<MatrixXd>::compute(const EigenBase<MatrixXd>&);                               \
    EXTERN template class PartialPivLU<MatrixXd>;                                                                      \
    EXTERN template class PartialPivLU<Matrix6d>;                                                                      \
    EXTERN template class FullPivLU<MatrixXd>;                                                                         \
    EXTERN template class HouseholderQR<MatrixXd>;                                                                     \
    EXTERN template class ColPivHouseholderQR<MatrixXd>;                                                               \
    EXTERN template ColPivHouseholderQR<MatrixXd>& ColPivHouseholderQR<MatrixXd>::compute(const EigenBase<MatrixXd>&); \
    EXTERN template class JacobiSVD<MatrixXd>;                                                                         \
    EXTERN template class JacobiSVD<Matrix3d>;

UNDISONA_DECOMPOSITIONS(extern)

} // namespace Eigen
