#pragma once
// How a solid element of a family is strained. For the files of this folder alone; what is costly to compile is defined
// in solid_field.cpp, once for each family.
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

    StrainField(const SolidElement& element, bool fine);

    const std::vector<Point>& points() const { return points_; }  ///< of the rule
    const Eigen::Matrix3d& atMiddle() const { return atMiddle_; } ///< rows: places by the parameters
    Three placeAt(const Three& at) const;
    /// dv is that of unit weight.
    Point at(const Three& at) const;
    /// Without what is projected.
    Point plainAt(const Three& at) const;
    /// The sum of dv b' d b over the points of the rule; n x n.
    Eigen::MatrixXd stiffness(const Elasticity& d) const;
    /// The same for motions as columns, twice their energies.
    Eigen::RowVectorXd work(const Elasticity& d, const Eigen::MatrixXd& motions) const;

private:
    void fitShears()
        requires(F::shears > 0);
    void projectShears(Point& point) const
        requires(F::shears > 0);

    Eigen::Matrix<double, nodes, 3> places_;
    Eigen::Matrix3d atMiddle_;
    std::vector<Point> points_;
    Elasticity toGlobal_, toOwn_;
    Eigen::MatrixXd shears_; ///< terms x 3n
};

/// Strains that the eight-node brick has beside those of its displacements: nine, linear in its parameters (Simo and
/// Rifai 1990).
class EnhancedStrains {
public:
    EnhancedStrains(const StrainField<Family<SolidKind::brick8>>& field, const Elasticity& d);

    /// By the nine, at a place where the Jacobian's determinant is so large.
    Eigen::Matrix<double, 6, 9> at(const Three& at, double determinant) const;
    /// The nine by the displacements; 9 x 24.
    Eigen::MatrixXd byNodes() const;
    /// What they take off the stiffness; 24 x 24.
    Eigen::MatrixXd relief() const;

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

    explicit ProjectedDivergence(const StrainField<F>& field);
    /// By the displacements; n.
    Eigen::RowVectorXd at(const StrainField<F>& field, const Three& at) const;
    Eigen::MatrixXd square() const;

    static bool isWanted(const SolidElement& element)
    {
        return F::pressures > 0 && !element.grained && element.poisson > 0.45;
    }

private:
    using Terms = Eigen::Matrix<double, terms, 1>;
    Terms termsAt(const StrainField<F>& field, const Three& at) const;

    Three centre_;
    Eigen::Matrix<double, terms, n> rows_;
    Eigen::Matrix<double, terms, terms> moments_;
};

#define UNDISONA_SOLID_FIELDS(EXTERN, KIND)                                                                            \
    EXTERN template class StrainField<Family<SolidKind::KIND>>;                                                        \
    EXTERN template class ProjectedDivergence<Family<SolidKind::KIND>>;

UNDISONA_SOLID_FIELDS(extern, tetrahedron10)
UNDISONA_SOLID_FIELDS(extern, brick8)
UNDISONA_SOLID_FIELDS(extern, brick20)
UNDISONA_SOLID_FIELDS(extern, wedge6)
UNDISONA_SOLID_FIELDS(extern, wedge15)

} // namespace undisona::solids
