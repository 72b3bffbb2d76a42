#include "core/shapes/given_faces.hpp"

#include <algorithm>

namespace undisona {

namespace {

/// Of a point from a triangle (Ericson 2005, 5.1.5).
double distanceFrom(const std::array<Eigen::Vector3d, 3>& corners, const Eigen::Vector3d& p)
{
    const auto& [a, b, c] = corners;
    const Eigen::Vector3d normal = (b - a).cross(c - a);
    if (normal.norm() > 0.0) {
        bool inside = true;
        for (std::size_t at = 0; at < 3; ++at)
            inside = inside && (corners[(at + 1) % 3] - corners[at]).cross(p - corners[at]).dot(normal) >= 0.0;
        if (inside) return std::abs((p - a).dot(normal)) / normal.norm();
    }
    double least = 1e300;
    for (std::size_t at = 0; at < 3; ++at) {
        const Eigen::Vector3d way = corners[(at + 1) % 3] - corners[at];
        const double share =
            way.squaredNorm() > 0.0 ? std::clamp((p - corners[at]).dot(way) / way.squaredNorm(), 0.0, 1.0) : 0.0;
        least = std::min(least, (corners[at] + share * way - p).norm());
    }
    return least;
}

} // namespace

double GivenFaces::distance(int face, const Eigen::Vector3d& from) const
{
    double least = 1e300;
    for (const Piece& piece : pieces(face))
        for (std::size_t at = 1; at + 1 < piece.count(); ++at)
            least = std::min(
                least,
                distanceFrom({place(piece.corners[0]), place(piece.corners[at]), place(piece.corners[at + 1])}, from));
    return least;
}

Eigen::Vector3d GivenFaces::centroid(int face) const
{
    double area = 0.0;
    Eigen::Vector3d moment = Eigen::Vector3d::Zero();
    for (const Piece& piece : pieces(face))
        for (std::size_t at = 1; at + 1 < piece.count(); ++at) {
            const Eigen::Vector3d &a = place(piece.corners[0]), &b = place(piece.corners[at]),
                                  &c = place(piece.corners[at + 1]);
            const double own = (b - a).cross(c - a).norm() / 2.0;
            area += own;
            moment += own * (a + b + c) / 3.0;
        }
    return area > 0.0 ? Eigen::Vector3d(moment / area) : middle(face);
}

Eigen::Vector3d GivenFaces::middle(int face) const
{
    const auto centreOf = [&](const Piece& piece) {
        Eigen::Vector3d sum = Eigen::Vector3d::Zero();
        for (std::size_t corner = 0; corner < piece.count(); ++corner)
            sum += place(piece.corners[corner]) / double(piece.count());
        return sum;
    };
    Eigen::Vector3d mean = Eigen::Vector3d::Zero();
    for (const Piece& piece : pieces(face))
        mean += centreOf(piece) / double(pieces(face).size());
    Eigen::Vector3d best = mean;
    double least = 1e300;
    for (const Piece& piece : pieces(face))
        if (const Eigen::Vector3d centre = centreOf(piece); (centre - mean).norm() < least) {
            least = (centre - mean).norm();
            best = centre;
        }
    return best;
}

Eigen::AlignedBox3d GivenFaces::box(int face) const
{
    Eigen::AlignedBox3d box;
    for (const auto& piece : pieces(face))
        for (std::size_t at = 0; at < piece.count(); ++at) {
            box.extend(place(piece.corners[at]));
            if (piece.middles[at] >= 0) box.extend(place(piece.middles[at]));
        }
    return box;
}

Eigen::Vector3d GivenFaces::normalBeside(int face, const Eigen::Vector3d& where) const
{
    Eigen::Vector3d best = Eigen::Vector3d::UnitZ();
    double least = 1e300;
    for (const Piece& piece : pieces(face))
        for (std::size_t at = 1; at + 1 < piece.count(); ++at) {
            const std::array<Eigen::Vector3d, 3> corners{place(piece.corners[0]), place(piece.corners[at]),
                                                         place(piece.corners[at + 1])};
            const double distance = distanceFrom(corners, where);
            if (distance >= least) continue;
            least = distance;
            best = (corners[1] - corners[0]).cross(corners[2] - corners[0]).normalized();
        }
    return best;
}

} // namespace undisona
