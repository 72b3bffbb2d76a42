#pragma once
// How a solid element of a family is strained. For the files of this folder alone.
#include "core/elements/solid_family.hpp"

namespace undisona::solids {

/// The strains of an element by the displacements of its nodes, at any place within it.
template <class F>
class StrainField {
public:
    static constexpr int nodes = F::nodes, n = 3 * nodes;
    using Rows = Eigen::Matrix<double, 6, n>;
    using ByNode = Eigen::Matrix<double, nodes, 3>;

    struct Point {
        Three at; ///< in parameters
        double dv;
        ByNode by;   ///< derivatives of the polynomials by x, y, z
        Rows strain; ///< with what is projected
    };

    StrainField(const SolidElement& element, bool fine)
        : places_(placesOf<nodes>(element)), atMiddle_(F::at(F::middle()).slope.transpose() * places_)
    {
        for (const auto& [at, weight] : F::rule(fine || isCurved(F(), element))) {
            points_.push_back(plainAt(at));
            points_.back().dv *= weight;
        }
        if constexpr (F::shears > 0) fitShears();
    }

    const std::vector<Point>& points() const { return points_; }  ///< of the rule
    const Eigen::Matrix3d& atMiddle() const { return atMiddle_; } ///< rows: places by the parameters
    Three placeAt(const Three& at) const { return F::at(at).value.transpose() * places_; }

    /// dv is that of unit weight.
    Point at(const Three& at) const
    {
        Point point = plainAt(at);
        if constexpr (F::shears > 0) projectShears(point);
        return point;
    }

    /// Without what is projected.
    Point plainAt(const Three& at) const
    {
        const auto slope = F::at(at).slope;
        const Eigen::Matrix3d jacobian = slope.transpose() * places_;
        const ByNode by = slope * jacobian.inverse().transpose();
        return {at, jacobian.determinant(), by, strainRows<nodes>(by)};
    }

private:
    /// The shears in the element's own axes are projected, in the mean over its volume, on polynomials one order
    /// lower: what a deflection of second order cannot follow of a bending that varies costs nothing then, as in the
    /// reduced rule of two points a side (Zienkiewicz, Taylor and Too 1971), and without the motions that that one
    /// leaves free. Constant strains and the mean of every strain stay as they are, so that patches do.
    void fitShears()
    {
        constexpr int terms = F::shears;
        toGlobal_ = strainTurn(ownAxes(atMiddle_).transpose());
        toOwn_ = toGlobal_.inverse();
        Eigen::Matrix<double, terms, terms> moments = Eigen::Matrix<double, terms, terms>::Zero();
        Eigen::Matrix<double, terms, 3 * n> sum = Eigen::Matrix<double, terms, 3 * n>::Zero();
        for (const Point& point : points_) {
            const Eigen::Matrix<double, terms, 1> term = F::shearTerms(point.at);
            const Rows own = toOwn_ * point.strain;
            moments += point.dv * term * term.transpose();
            for (int shear = 0; shear < 3; ++shear)
                sum.template middleCols<n>(n * shear) += point.dv * term * own.row(3 + shear);
        }
        shears_ = moments.ldlt().solve(sum);
        for (Point& point : points_)
            projectShears(point);
    }

    void projectShears(Point& point) const
    {
        const auto term = F::shearTerms(point.at);
        Rows own = toOwn_ * point.strain;
        for (int shear = 0; shear < 3; ++shear)
            own.row(3 + shear) = term.transpose() * shears_.template middleCols<n>(n * shear);
        point.strain = toGlobal_ * own;
    }

    Eigen::Matrix<double, nodes, 3> places_;
    Eigen::Matrix3d atMiddle_;
    std::vector<Point> points_;
    Elasticity toGlobal_, toOwn_;
    Eigen::Matrix<double, (F::shears > 0 ? F::shears : 1), 3 * n> shears_;
};

/// Strains that the eight-node brick has beside those of its displacements: nine, linear in its parameters (Simo and
/// Rifai 1990).
class EnhancedStrains {
public:
    EnhancedStrains(const StrainField<Family<SolidKind::brick8>>& field, const Elasticity& d)
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

    /// By the nine, at a place where the Jacobian's determinant is so large.
    Eigen::Matrix<double, 6, 9> at(const Three& at, double determinant) const
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
    /// The nine by the displacements.
    Eigen::Matrix<double, 9, 24> byNodes() const { return -own_.ldlt().solve(coupling_); }
    /// What they take off the stiffness.
    Eigen::Matrix<double, 24, 24> relief() const { return coupling_.transpose() * own_.ldlt().solve(coupling_); }

private:
    double atMiddle_;
    Elasticity turn_;
    Eigen::Matrix<double, 9, 24> coupling_;
    Eigen::Matrix<double, 9, 9> own_;
};

/// The divergence of displacements projected on polynomials of lower order, above Poisson's ratio 0.45.
template <class F>
class ProjectedDivergence {
public:
    static constexpr int terms = F::pressures > 0 ? F::pressures : 1, n = 3 * F::nodes;

    explicit ProjectedDivergence(const StrainField<F>& field) : centre_(field.placeAt(F::middle()))
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
    Eigen::Matrix<double, 1, n> at(const StrainField<F>& field, const Three& at) const
    {
        return termsAt(field, at).transpose() * moments_.ldlt().solve(rows_);
    }
    Eigen::Matrix<double, n, n> square() const { return rows_.transpose() * moments_.ldlt().solve(rows_); }

    static bool isWanted(const SolidElement& element)
    {
        return F::pressures > 0 && !element.grained && element.poisson > 0.45;
    }

private:
    Eigen::Matrix<double, terms, 1> termsAt(const StrainField<F>& field, const Three& at) const
    {
        Eigen::Matrix<double, terms, 1> term;
        term[0] = 1.0;
        if constexpr (terms == 4) term.template tail<3>() = field.placeAt(at) - centre_;
        return term;
    }

    Three centre_;
    Eigen::Matrix<double, terms, n> rows_;
    Eigen::Matrix<double, terms, terms> moments_;
};

} // namespace undisona::solids
