#include "core/elements/solid_field.hpp"

namespace undisona::solids {

namespace {

/// a^-1 b for a symmetric a. Of plain matrices, which are compiled once for all sizes.
Eigen::MatrixXd solved(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b)
{
    return a.ldlt().solve(b);
}

} // namespace

template <class F>
StrainField<F>::StrainField(const SolidElement& element, bool fine)
    : places_(placesOf<nodes>(element)), atMiddle_(F::at(F::middle()).slope.transpose() * places_)
{
    for (const auto& [at, weight] : F::rule(fine || isCurved(F(), element))) {
        points_.push_back(plainAt(at));
        points_.back().dv *= weight;
    }
    if constexpr (F::shears > 0) fitShears();
}

template <class F>
Three StrainField<F>::placeAt(const Three& at) const
{
    return F::at(at).value.transpose() * places_;
}

template <class F>
typename StrainField<F>::Point StrainField<F>::at(const Three& at) const
{
    Point point = plainAt(at);
    if constexpr (F::shears > 0) projectShears(point);
    return point;
}

template <class F>
typename StrainField<F>::Point StrainField<F>::plainAt(const Three& at) const
{
    const auto slope = F::at(at).slope;
    const Eigen::Matrix3d jacobian = slope.transpose() * places_;
    const ByNode by = slope * jacobian.inverse().transpose();
    return {at, jacobian.determinant(), by, strainRows<nodes>(by)};
}

template <class F>
Eigen::MatrixXd StrainField<F>::stiffness(const Elasticity& d) const
{
    Eigen::Matrix<double, n, n> k = Eigen::Matrix<double, n, n>::Zero();
    for (const auto& point : points_) {
        const Rows stress = point.dv * d * point.strain;
        k.noalias() += point.strain.transpose() * stress;
    }
    return k;
}

template <class F>
Eigen::RowVectorXd StrainField<F>::work(const Elasticity& d, const Eigen::MatrixXd& motions) const
{
    Eigen::RowVectorXd work = Eigen::RowVectorXd::Zero(motions.cols());
    for (const auto& point : points_) {
        const Eigen::Matrix<double, 6, Eigen::Dynamic> strain = point.strain * motions;
        work += point.dv * (strain.array() * (d * strain).array()).colwise().sum().matrix();
    }
    return work;
}

/// The shears in the element's own axes are projected, in the mean over its volume, on polynomials one order
/// lower: what a deflection of second order cannot follow of a bending that varies costs nothing then, as in the
/// reduced rule of two points a side (Zienkiewicz, Taylor and Too 1971), and without the motions that that one
/// leaves free. Constant strains and the mean of every strain stay as they are, so that patches do.
template <class F>
void StrainField<F>::fitShears() requires(F::shears > 0)
{
    constexpr int terms = F::shears;
    toGlobal_ = strainTurn(ownAxes(atMiddle_).transpose());
    toOwn_ = toGlobal_.inverse();
    Eigen::Matrix<double, terms, terms> moments = Eigen::Matrix<double, terms, terms>::Zero();
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(terms, 3 * n);
    for (const Point& point : points_) {
        const Eigen::Matrix<double, terms, 1> term = F::shearTerms(point.at);
        const Rows own = toOwn_ * point.strain;
        moments += point.dv * term * term.transpose();
        for (int shear = 0; shear < 3; ++shear)
            sum.middleCols<n>(n * shear) += point.dv * term * own.row(3 + shear);
    }
    shears_ = solved(moments, sum);
    for (Point& point : points_)
        projectShears(point);
}

template <class F>
void StrainField<F>::projectShears(Point& point) const requires(F::shears > 0)
{
    const Eigen::Matrix<double, F::shears, 1> term = F::shearTerms(point.at);
    Rows own = toOwn_ * point.strain;
    for (int shear = 0; shear < 3; ++shear)
        own.row(3 + shear) = term.transpose() * shears_.middleCols<n>(n * shear);
    point.strain = toGlobal_ * own;
}

EnhancedStrains::EnhancedStrains(const StrainField<Family<SolidKind::brick8>>& field, const Elasticity& d)
    : atMiddle_(field.atMiddle().determinant()), turn_(strainTurn(field.atMiddle().inverse().transpose()))
{
    coupling_.setZero();
    own_.setZero();
    for (const auto& point : field.points()) {
        const Eigen::Matrix<double, 6, 9> g = at(point.at, point.dv); // of unit weight in its rule
        coupling_.noalias() += point.dv * g.transpose() * (d * point.strain);
        own_.noalias() += point.dv * g.transpose() * d * g;
    }
}

Eigen::Matrix<double, 6, 9> EnhancedStrains::at(const Three& at, double determinant) const
{
    Eigen::Matrix<double, 6, 9> modes = Eigen::Matrix<double, 6, 9>::Zero();
    for (int axis = 0; axis < 3; ++axis)
        modes(axis, axis) = at[axis];
    constexpr int shear[3][2] = {{0, 1}, {1, 2}, {2, 0}};
    for (int row = 0; row < 3; ++row)
        for (int which = 0; which < 2; ++which)
            modes(3 + row, 3 + 2 * row + which) = at[shear[row][which]];
    return atMiddle_ / determinant * turn_ * modes;
}

Eigen::MatrixXd EnhancedStrains::byNodes() const
{
    return -solved(own_, coupling_);
}

Eigen::MatrixXd EnhancedStrains::relief() const
{
    return coupling_.transpose() * solved(own_, coupling_);
}

template <class F>
ProjectedDivergence<F>::ProjectedDivergence(const StrainField<F>& field) : centre_(field.placeAt(F::middle()))
{
    rows_.setZero();
    moments_.setZero();
    for (const auto& point : field.points()) {
        const auto term = termsAt(field, point.at);
        Eigen::Matrix<double, 1, n> divergence;
        for (int i = 0; i < F::nodes; ++i)
            divergence.template segment<3>(3 * i) = point.by.row(i);
        rows_ += point.dv * term * divergence;
        moments_ += point.dv * term * term.transpose();
    }
}

template <class F>
Eigen::RowVectorXd ProjectedDivergence<F>::at(const StrainField<F>& field, const Three& at) const
{
    return termsAt(field, at).transpose() * solved(moments_, rows_);
}

template <class F>
Eigen::MatrixXd ProjectedDivergence<F>::square() const
{
    return rows_.transpose() * solved(moments_, rows_);
}

template <class F>
typename ProjectedDivergence<F>::Terms ProjectedDivergence<F>::termsAt(const StrainField<F>& field,
                                                                       const Three& at) const
{
    Terms term;
    term[0] = 1.0;
    if constexpr (terms == 4) term.template tail<3>() = field.placeAt(at) - centre_;
    return term;
}

UNDISONA_SOLID_FIELDS(, tetrahedron10)
UNDISONA_SOLID_FIELDS(, brick8)
UNDISONA_SOLID_FIELDS(, brick20)
UNDISONA_SOLID_FIELDS(, wedge6)
UNDISONA_SOLID_FIELDS(, wedge15)

} // namespace undisona::solids
