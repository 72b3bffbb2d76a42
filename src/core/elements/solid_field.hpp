#pragma once
// How a solid element is strained. For the files of this folder alone.
#include "core/elements/solid_family.hpp"

namespace undisona::solids {

/// The strains of an element by the displacements of its nodes, at any place within it.
class StrainField {
public:
    struct Point {
        Three at; ///< in parameters
        double dv;
        ByNode<3> by;      ///< derivatives of the polynomials by x, y, z
        StrainRows strain; ///< with what is projected
    };

    StrainField(const SolidElement& element, bool fine);

    const Family& family() const { return family_; }
    Eigen::Index size() const { return 3 * places_.rows(); }      ///< three for each node
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
    void fitShears();
    void projectShears(Point& point) const;

    const Family& family_;
    ByNode<3> places_;
    Eigen::Matrix3d atMiddle_;
    std::vector<Point> points_;
    Elasticity toGlobal_, toOwn_;
    Eigen::MatrixXd shears_; ///< terms x 3n
};

/// Strains that the eight-node brick has beside those of its displacements: nine, linear in its parameters (Simo and
/// Rifai 1990).
class EnhancedStrains {
public:
    EnhancedStrains(const StrainField& field, const Elasticity& d);

    /// By the nine, at a place where the Jacobian's determinant is so large.
    Eigen::Matrix<double, 6, 9> at(const Three& at, double determinant) const;
    /// The nine by the displacements; 9 x 24.
    Eigen::MatrixXd byNodes() const;
    /// What they take off the stiffness; 24 x 24.
    Eigen::MatrixXd relief() const;

private:
    double atMiddle_;
    Elasticity turn_;
    Eigen::MatrixXd coupling_, own_; ///< 9 x 24; 9 x 9
};

/// The divergence of displacements projected on polynomials of lower order, above Poisson's ratio 0.45.
class ProjectedDivergence {
public:
    explicit ProjectedDivergence(const StrainField& field);
    /// By the displacements; three for each node.
    Eigen::RowVectorXd at(const Three& at) const;
    Eigen::MatrixXd square() const;

    static bool isWanted(const SolidElement& element)
    {
        return familyOf(element.kind).pressures > 0 && !element.grained && element.poisson > 0.45;
    }

private:
    Eigen::VectorXd termsAt(const Three& at) const;

    const StrainField& field_;
    Three centre_;
    Eigen::MatrixXd rows_, moments_; ///< terms x 3 nodes; terms x terms
};

} // namespace undisona::solids
