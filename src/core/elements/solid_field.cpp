#include "core/elements/solid_field.hpp"

namespace undisona::solids {

namespace {

/// a^-1 b for a symmetric a. Of plain matrices, which are compiled once for all sizes.
Eigen::MatrixXd solved(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b)
{
    return a.ldlt().solve(b);
}

} // namespace

StrainField::StrainField(const SolidElement& element, bool fine)
    : family_(familyOf(element.kind)), places_(placesOf(element)),
      atMiddle_(family_.at(family_.middle).slope.transpose() * places_)
{
    for (const auto& [at, weight] : family_.rule(fine || isCurved(element))) {
        points_.push_back(plainAt(at));
        points_.back().dv *= weight;
    }
    if (family_.shearTerms) fitShears();
}

Three StrainField::placeAt(const Three& at) const
{
    return family_.at(at).value.transpose() * places_;
}

StrainField::Point StrainField::at(const Three& at) const
{
    Point point = plainAt(at);
    if (family_.shearTerms) projectShears(point);
    return point;
}

StrainField::Point StrainField::plainAt(const Three& at) const
{
    const auto slope = family_.at(at).slope;
    const Eigen::Matrix3d jacobian = slope.transpose() * places_;
    const ByNode<3> by = slope * jacobian.inverse().transpose();
    return {at, jacobian.determinant(), by, strainRows(by)};
}

Eigen::MatrixXd StrainField::stiffness(const Elasticity& d) const
{
    Eigen::MatrixXd k = Eigen::MatrixXd::Zero(size(), size());
    for (const auto& point : points_) {
        const StrainRows stress = point.dv * d * point.strain;
        k.noalias() += point.strain.transpose() * stress;
    }
    return k;
}

Eigen::RowVectorXd StrainField::work(const Elasticity& d, const Eigen::MatrixXd& motions) const
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
void StrainField::fitShears()
{
    toGlobal_ = strainTurn(ownAxes(atMiddle_).transpose());
    toOwn_ = toGlobal_.inverse();
    const Eigen::Index terms = family_.shearTerms(family_.middle).size();
    Eigen::MatrixXd moments = Eigen::MatrixXd::Zero(terms, terms), sum = Eigen::MatrixXd::Zero(terms, 3 * size());
    for (const Point& point : points_) {
        const Eigen::VectorXd term = family_.shearTerms(point.at);
        const StrainRows own = toOwn_ * point.strain;
        moments += (point.dv * term).lazyProduct(term.transpose());
        for (int shear = 0; shear < 3; ++shear)
            sum.middleCols(size() * shear, size()) += (point.dv * term).lazyProduct(own.row(3 + shear));
    }
    shears_ = solved(moments, sum);
    for (Point& point : points_)
        projectShears(point);
}

void StrainField::projectShears(Point& point) const
{
    const ShearTerms term = family_.shearTerms(point.at);
    StrainRows own = toOwn_ * point.strain;
    for (int shear = 0; shear < 3; ++shear)
        own.row(3 + shear) = term.transpose().lazyProduct(shears_.middleCols(size() * shear, size()));
    point.strain = toGlobal_ * own;
}

EnhancedStrains::EnhancedStrains(const StrainField& field, const Elasticity& d)
    : atMiddle_(field.atMiddle().determinant()), turn_(strainTurn(field.atMiddle().inverse().transpose()))
{
    coupling_.setZero(9, field.size());
    own_.setZero(9, 9);
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

ProjectedDivergence::ProjectedDivergence(const StrainField& field)
    : field_(field), centre_(field.placeAt(field.family().middle))
{
    rows_.setZero(field.family().pressures, field.size());
    moments_.setZero(field.family().pressures, field.family().pressures);
    for (const auto& point : field.points()) {
        const Eigen::VectorXd term = termsAt(point.at);
        Eigen::RowVectorXd divergence(field.size());
        for (Eigen::Index i = 0; i < point.by.rows(); ++i)
            divergence.segment<3>(3 * i) = point.by.row(i);
        rows_ += point.dv * term * divergence;
        moments_ += point.dv * term * term.transpose();
    }
}

Eigen::RowVectorXd ProjectedDivergence::at(const Three& at) const
{
    return termsAt(at).transpose() * solved(moments_, rows_);
}

Eigen::MatrixXd ProjectedDivergence::square() const
{
    return rows_.transpose() * solved(moments_, rows_);
}

Eigen::VectorXd ProjectedDivergence::termsAt(const Three& at) const
{
    Eigen::VectorXd term = Eigen::VectorXd::Ones(field_.family().pressures);
    if (term.size() == 4) term.tail<3>() = field_.placeAt(at) - centre_;
    return term;
}

} // namespace undisona::solids
