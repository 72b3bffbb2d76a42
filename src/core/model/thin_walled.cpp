#include "core/model/thin_walled.hpp"

#include <cmath>
#include <map>

namespace undisona {

namespace {

using Vec = std::array<double, 2>;

/// The walls cut into short pieces, in coordinates of the axes asked for, from the centroid.
struct Piece {
    Vec middle;
    Vec from, to;
    double length, thickness;
};

struct Pieces {
    std::vector<Piece> list;
    std::vector<std::size_t> firstOfWall;
    Vec centre; ///< of the midlines, in the walls' coordinates
};

constexpr int piecesPerWall = 200;

Pieces cut(const ThinWalls& walls, double angle)
{
    double area = 0.0;
    Vec centre{};
    for (const auto& wall : walls) {
        const double part = wall.thickness * std::hypot(wall.to[0] - wall.from[0], wall.to[1] - wall.from[1]);
        area += part;
        for (std::size_t axis = 0; axis < 2; ++axis)
            centre[axis] += part * (wall.from[axis] + wall.to[axis]) / 2.0;
    }
    const double c = std::cos(angle), s = std::sin(angle);
    const auto turned = [&](const Vec& point) {
        const double y = point[0] - centre[0] / area, z = point[1] - centre[1] / area;
        return Vec{c * y + s * z, -s * y + c * z};
    };
    Pieces pieces;
    pieces.centre = {centre[0] / area, centre[1] / area};
    for (const auto& wall : walls) {
        pieces.firstOfWall.push_back(pieces.list.size());
        const Vec from = turned(wall.from), to = turned(wall.to);
        for (int step = 0; step < piecesPerWall; ++step) {
            const auto along = [&](double share) {
                return Vec{from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])};
            };
            const double length = std::hypot(to[0] - from[0], to[1] - from[1]) / piecesPerWall;
            pieces.list.push_back({along((step + 0.5) / piecesPerWall), along(double(step) / piecesPerWall),
                                   along((step + 1.0) / piecesPerWall), length, wall.thickness});
        }
    }
    return pieces;
}

bool same(const Vec& a, const Vec& b)
{
    return std::hypot(a[0] - b[0], a[1] - b[1]) < 1e-9;
}

/// The running integral of `density` times thickness along each wall from its free end, at mid-pieces. A wall
/// takes up what the earlier walls that end at its start have gathered.
std::vector<double> gathered(const Pieces& pieces, const std::vector<double>& density)
{
    std::vector<double> flow(pieces.list.size());
    std::vector<std::pair<Vec, double>> ends;
    for (const std::size_t first : pieces.firstOfWall) {
        double sum = 0.0;
        for (const auto& [place, amount] : ends)
            if (same(place, pieces.list[first].from)) sum += amount;
        for (std::size_t at = first; at < first + piecesPerWall; ++at) {
            const auto& piece = pieces.list[at];
            const double part = density[at] * piece.thickness * piece.length;
            flow[at] = sum + part / 2.0;
            sum += part;
        }
        ends.emplace_back(pieces.list[first + piecesPerWall - 1].to, sum);
    }
    return flow;
}

/// Sectorial coordinate about the pole, zero at the start of the first wall and continuous along the tree.
std::vector<double> sectorial(const Pieces& pieces, const Vec& pole)
{
    std::vector<double> omega(pieces.list.size());
    std::vector<std::pair<Vec, double>> known;
    for (const std::size_t first : pieces.firstOfWall) {
        const auto& start = pieces.list[first];
        const auto& end = pieces.list[first + piecesPerWall - 1].to;
        const auto sweep = [&](const Vec& from, const Vec& to) {
            return (from[0] - pole[0]) * (to[1] - pole[1]) - (to[0] - pole[0]) * (from[1] - pole[1]);
        };
        double value = 0.0;
        for (const auto& [place, at] : known) {
            if (same(place, start.from)) value = at;
            if (same(place, end)) value = at - sweep(start.from, end);
        }
        for (std::size_t at = first; at < first + piecesPerWall; ++at)
            omega[at] = value + sweep(start.from, pieces.list[at].middle);
        known.emplace_back(start.from, value);
        known.emplace_back(end, value + sweep(start.from, end));
    }
    return omega;
}

} // namespace

ShearFlowConstants shearFlowConstants(const ThinWalls& walls, double axisAngle)
{
    const Pieces pieces = cut(walls, axisAngle);
    const std::size_t count = pieces.list.size();
    std::array<double, 2> second{}; // integrals of y2 and z2
    std::array<std::vector<double>, 2> coordinate{std::vector<double>(count), std::vector<double>(count)};
    double area = 0.0;
    for (std::size_t at = 0; at < count; ++at) {
        const auto& piece = pieces.list[at];
        const double part = piece.length * piece.thickness;
        area += part;
        for (std::size_t axis = 0; axis < 2; ++axis) {
            coordinate[axis][at] = piece.middle[axis];
            second[axis] += part * piece.middle[axis] * piece.middle[axis];
        }
    }

    // Shear along axis a: flow q = S_a / I_aa; its energy gives the shear area, its moment the shear centre.
    ShearFlowConstants constants{};
    Vec centreOfShear{};
    for (std::size_t axis = 0; axis < 2; ++axis) {
        const auto flow = gathered(pieces, coordinate[axis]);
        double energy = 0.0, moment = 0.0;
        for (std::size_t at = 0; at < count; ++at) {
            const auto& piece = pieces.list[at];
            const double q = -flow[at] / second[axis];
            energy += q * q * piece.length / piece.thickness;
            moment += q * (piece.from[0] * piece.to[1] - piece.to[0] * piece.from[1]);
        }
        constants.shearAreas[axis] = 1.0 / energy;
        // A force along y at height z turns by -z; along z at y by +y.
        if (axis == 0)
            centreOfShear[1] = -moment;
        else
            centreOfShear[0] = moment;
    }

    const auto omega = sectorial(pieces, centreOfShear);
    double mean = 0.0;
    for (std::size_t at = 0; at < count; ++at)
        mean += omega[at] * pieces.list[at].length * pieces.list[at].thickness / area;
    for (std::size_t at = 0; at < count; ++at)
        constants.warping += std::pow(omega[at] - mean, 2) * pieces.list[at].length * pieces.list[at].thickness;

    const double c = std::cos(axisAngle), s = std::sin(axisAngle);
    constants.shearCentre = {pieces.centre[0] + c * centreOfShear[0] - s * centreOfShear[1],
                             pieces.centre[1] + s * centreOfShear[0] + c * centreOfShear[1]};
    return constants;
}

} // namespace undisona
