#pragma once
#include "core/elements/laminate.hpp"
#include "core/elements/plane_shapes.hpp"
#include "core/elements/shell.hpp"

#include <array>
#include <cmath>

namespace undisona::shell_work {

// What the matrices of a shell and the readings of it are both made from: interpolations of its two halves.

using namespace plane;
using Two = Eigen::Vector2d;
using Jacobian = Eigen::Matrix2d; ///< rows: derivatives of x, y by the first, by the second parameter

inline constexpr double shearCorrection = 5.0 / 6.0;

/// What one kind of element is made from, at any place.
class Interpolation {
public:
    explicit Interpolation(const ShellElement& element) : element_(element), corners_(element.corner.size()) {}

    std::vector<Place> fine() const { return corners_ == 4 ? squareRule(3) : triangleRule(); }
    std::vector<Place> coarse() const { return corners_ == 4 ? squareRule(2) : triangleRule(); }

    Shape corner(std::size_t i, double r, double s) const { return cornerShape(corners_, i, r, s); }
    /// 1 in the middle of the edge from corner i on, 0 on the others.
    Shape edge(std::size_t i, double r, double s) const { return edgeShape(corners_, i, r, s); }
    /// 1 in the middle, 0 all around.
    Shape bubble(double r, double s) const
    {
        if (corners_ == 4) return {(1 - r * r) * (1 - s * s), -2 * r * (1 - s * s), -2 * s * (1 - r * r)};
        return {27 * r * s * (1 - r - s), 27 * s * (1 - 2 * r - s), 27 * r * (1 - r - 2 * s)};
    }
    Jacobian jacobian(double r, double s) const
    {
        Jacobian j = Jacobian::Zero();
        for (std::size_t i = 0; i < corners_; ++i) {
            const Shape n = corner(i, r, s);
            j.row(0) += n.r * element_.corner[i].transpose();
            j.row(1) += n.s * element_.corner[i].transpose();
        }
        return j;
    }
    double thickness(double r, double s) const
    {
        double t = 0.0;
        for (std::size_t i = 0; i < corners_; ++i)
            t += corner(i, r, s).value * element_.thickness[i];
        return t;
    }
    /// An edge times its outward normal.
    Two outward(std::size_t i) const
    {
        const Two along = element_.corner[(i + 1) % corners_] - element_.corner[i];
        return {along.y(), -along.x()};
    }
    std::size_t corners() const { return corners_; }

private:
    const ShellElement& element_;
    std::size_t corners_;
};

inline Eigen::Index at(std::size_t corner, int which)
{
    return 6 * static_cast<Eigen::Index>(corner) + which;
}

// What lies in the face (ux uy rz) and what does not (uz rx ry) know nothing of each other: each has three unknowns a
// corner of its own, and two inside at the end.
inline constexpr std::array<int, 3> inFace{0, 1, 5}, outOfFace{2, 3, 4};
inline Eigen::Index own3(std::size_t corner, int which)
{
    return 3 * static_cast<Eigen::Index>(corner) + which;
}
using Square = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, 14, 14>;
using Strip = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, 4, 14>;

/// Both halves among the six unknowns of each corner.
Eigen::MatrixXd together(const Square& face, const Square& out);

/// The rows of one half.
Eigen::MatrixXd halfOf(const Eigen::MatrixXd& motions, const std::array<int, 3>& which);

/// Derivatives by x and y.
Two gradient(const Jacobian& inverse, const Shape& shape);

/// The two displacements in the plane and their gradients (u,x u,y v,x v,y) by the unknowns and the bubble's two.
struct Membrane {
    Strip displacement, slopes;

    Membrane(const Interpolation& own, const Jacobian& inverse, double r, double s);
};

/// xx, yy, xy by u,x u,y v,x v,y.
Eigen::Matrix<double, 3, 4> strainsOfSlopes();

/// Adds factor b' d b.
template <int rows>
void addProduct(Square& sum, const Strip& b, const Eigen::Matrix<double, rows, rows>& d, double factor)
{
    const Strip db = factor * d.lazyProduct(b);
    sum += b.transpose().lazyProduct(db);
}

/// How the last two unknowns, which no neighbour shares, follow from the others.
Strip innerByOuter(const Square& k);

Square condensed(const Square& k);

/// Membrane and drilling, with the bubble's two.
struct MembraneStiffness {
    Square stretching;
    Eigen::RowVectorXd spin; ///< its square is the drilling stiffness
    Square both() const { return stretching + spin.transpose().lazyProduct(spin); }

    explicit MembraneStiffness(const ShellElement& element);
};

Square membraneStiffness(const ShellElement& element);

/// Plate: w, and the turns as bx = ry, by = -rx; the bubble's two at the end, for three corners.
class Plate {
public:
    explicit Plate(const ShellElement& element) : own_(element), count_(element.unknowns() / 2) {}

    /// Curvatures bx,x by,y bx,y + by,x.
    Strip curvature(const Jacobian& inverse, double r, double s) const;

    /// Transverse shears xz, yz from those sampled where they are right.
    Strip shear(const Jacobian& inverse, double r, double s) const;

private:
    /// w,r + b . x,r and the same by s.
    Strip sampled(double r, double s) const;
    /// Dvorkin and Bathe 1984: each along its own edges, linear between them.
    Strip ofFour(double r, double s) const;
    /// Lee, Lee and Bathe 2014, with their tying points. How far the last three lie from the middle gives the twist of
    /// the turns its stiffness: as they have it next to none; here that of bending, about, so that it is no mechanism
    /// of the element and locks it no more than their choice does.
    Strip ofThree(double r, double s) const;

    Interpolation own_;
    Eigen::Index count_;
};

/// Bending and transverse shear with the inner two unknowns.
struct PlateStiffness {
    Square bending, shear;

    explicit PlateStiffness(const ShellElement& element);
    Square both(const ShellElement& element) const;
};

/// Stretching by bending, with the inner two of each: in the face by out of the face.
Square couplingStiffness(const ShellElement& element);

/// An element whose stretching and bending are coupled, by the unknowns in its face, those out of it, and two inside.
struct CoupledStiffness {
    Eigen::MatrixXd whole;
    Eigen::Matrix<double, 2, Eigen::Dynamic> inner; ///< by the others

    explicit CoupledStiffness(const ShellElement& element);
    /// Among the six unknowns of each corner.
    Eigen::MatrixXd condensed() const;
};

/// What of the deflection an edge's ends add by their turns rx, ry: bent as an even shear along it has it.
template <class Put>
void linkDeflection(const Interpolation& own, std::size_t edge, const Put& put)
{
    const std::size_t next = (edge + 1) % own.corners();
    const Two bulge = own.outward(edge) / 8.0; // (dy, -dx): of rx and ry
    for (int which = 0; which < 2; ++which) {
        put(own3(next, 1 + which), -bulge[which]);
        put(own3(edge, 1 + which), bulge[which]);
    }
}

/// Transverse shears xz, yz of the deflection and the turns that the mass has.
Strip linkedShear(const Interpolation& own, const Jacobian& inverse, double r, double s);

} // namespace undisona::shell_work
