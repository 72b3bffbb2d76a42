// The only file that knows the tetrahedral generator's header.
#include "core/mesh/tetrahedralize.hpp"

#include "core/base/archive.hpp"
#include "core/base/helper_process.hpp"

#include <fmt/format.h>
#include <tetgen.h>

#include <Eigen/Geometry>

#include <algorithm>
#include <map>
#include <set>

namespace undisona {

namespace {

/// Takes out the tetrahedra in voids, which the generator fills too: from outside every second region between surfaces
/// is a void.
void emptyVoids(FilledSurface& filled, std::size_t onSurface, const std::vector<std::array<int, 3>>& triangles)
{
    const auto sorted = [](std::array<int, 3> corners) {
        std::sort(corners.begin(), corners.end());
        return corners;
    };
    std::set<std::array<int, 3>> surface;
    for (const auto& triangle : triangles)
        surface.insert(sorted(triangle));
    std::map<std::array<int, 3>, std::array<int, 2>> beside; // tetrahedra at each face
    constexpr int faces[4][3] = {{1, 2, 3}, {0, 2, 3}, {0, 1, 3}, {0, 1, 2}};
    const auto faceOf = [&](std::size_t cell, std::size_t face) {
        const auto& corners = filled.tetrahedra[cell];
        return sorted({corners[static_cast<std::size_t>(faces[face][0])],
                       corners[static_cast<std::size_t>(faces[face][1])],
                       corners[static_cast<std::size_t>(faces[face][2])]});
    };
    for (std::size_t cell = 0; cell < filled.tetrahedra.size(); ++cell)
        for (std::size_t face = 0; face < 4; ++face) {
            const auto [at, isNew] = beside.emplace(faceOf(cell, face), std::array{static_cast<int>(cell), -1});
            if (!isNew) at->second[1] = static_cast<int>(cell);
        }
    std::vector<int> depth(filled.tetrahedra.size(), -1); // surfaces between a cell and what lies outside
    std::vector<std::size_t> now, next;
    for (std::size_t cell = 0; cell < depth.size(); ++cell)
        for (std::size_t face = 0; face < 4 && depth[cell] < 0; ++face)
            if (beside.at(faceOf(cell, face))[1] < 0) {
                depth[cell] = 1;
                now.push_back(cell);
            }
    bool voids = false;
    for (int level = 1; !now.empty(); ++level) {
        for (std::size_t at = 0; at < now.size(); ++at)
            for (std::size_t face = 0; face < 4; ++face) {
                const auto key = faceOf(now[at], face);
                const auto& both = beside.at(key);
                const int other = both[0] == static_cast<int>(now[at]) ? both[1] : both[0];
                if (other < 0 || depth[static_cast<std::size_t>(other)] >= 0) continue;
                const bool crosses = surface.contains(key);
                if (crosses) {
                    next.push_back(static_cast<std::size_t>(other));
                    continue;
                }
                depth[static_cast<std::size_t>(other)] = level;
                now.push_back(static_cast<std::size_t>(other));
            }
        now.clear();
        for (const std::size_t cell : next)
            if (depth[cell] < 0) {
                depth[cell] = level + 1;
                now.push_back(cell);
                voids = true;
            }
        next.clear();
    }
    if (!voids) return;
    std::vector<std::array<int, 4>> kept;
    std::vector<int> number(filled.points.size(), -1);
    for (std::size_t at = 0; at < onSurface; ++at)
        number[at] = static_cast<int>(at);
    std::vector<Eigen::Vector3d> points(filled.points.begin(), filled.points.begin() + static_cast<long>(onSurface));
    for (std::size_t cell = 0; cell < depth.size(); ++cell) {
        if (depth[cell] % 2 == 0) continue;
        kept.push_back(filled.tetrahedra[cell]);
        for (int& corner : kept.back()) {
            int& own = number[static_cast<std::size_t>(corner)];
            if (own < 0) {
                own = static_cast<int>(points.size());
                points.push_back(filled.points[static_cast<std::size_t>(corner)]);
            }
            corner = own;
        }
    }
    filled.points = std::move(points);
    filled.tetrahedra = std::move(kept);
}

/// What the two processes say to each other.
struct FillOrder {
    std::vector<Eigen::Vector3d> points;
    std::vector<std::array<int, 3>> triangles;
    double largestVolume = 0.0;
};
auto fields(FillOrder& of)
{
    return named("points triangles largestVolume", of.points, of.triangles, of.largestVolume);
}

FilledSurface fillHere(const std::vector<Eigen::Vector3d>& points, const std::vector<std::array<int, 3>>& triangles,
                       double largestVolume)
{
    FilledSurface filled;
    Eigen::AlignedBox3d box;
    for (const auto& point : points)
        box.extend(point);
    // It is given the body about a metre large, since it takes some lengths for nothing that are not so in a small one.
    const Eigen::Vector3d middle = box.center();
    const double span = std::max(box.diagonal().norm(), 1e-300);
    tetgenio in, out; // they own what their lists point to
    in.firstnumber = 0;
    in.numberofpoints = static_cast<int>(points.size());
    in.pointlist = new REAL[3 * points.size()];
    for (std::size_t at = 0; at < points.size(); ++at)
        for (int axis = 0; axis < 3; ++axis)
            in.pointlist[3 * at + static_cast<std::size_t>(axis)] = (points[at][axis] - middle[axis]) / span;
    in.numberoffacets = static_cast<int>(triangles.size());
    in.facetlist = new tetgenio::facet[triangles.size()];
    for (std::size_t at = 0; at < triangles.size(); ++at) {
        tetgenio::facet& facet = in.facetlist[at];
        tetgenio::init(&facet);
        facet.numberofpolygons = 1;
        facet.polygonlist = new tetgenio::polygon[1];
        tetgenio::init(&facet.polygonlist[0]);
        facet.polygonlist[0].numberofvertices = 3;
        facet.polygonlist[0].vertexlist = new int[3]{triangles[at][0], triangles[at][1], triangles[at][2]};
    }
    try {
        tetgenbehavior behaviour;
        std::string switches = fmt::format("pYq1.4a{:.9e}Q", largestVolume / std::pow(span, 3));
        if (!behaviour.parse_commandline(switches.data())) throw 0;
        tetrahedralize(&behaviour, &in, &out);
    } catch (...) { // it throws numbers
        filled.problem = "its surface could not be filled: two of its triangles cross or lie on each other";
        return filled;
    }
    filled.points = points; // which it leaves as they are
    for (int at = static_cast<int>(points.size()); at < out.numberofpoints; ++at) {
        const Eigen::Vector3d own(out.pointlist[3 * at], out.pointlist[3 * at + 1], out.pointlist[3 * at + 2]);
        filled.points.emplace_back(middle + span * own);
        if (box.exteriorDistance(filled.points.back()) <= 1e-6 * span) continue;
        filled.problem = "its surface could not be filled: a point was put outside it";
        return filled;
    }
    for (int at = 0; at < out.numberoftetrahedra; ++at) {
        const int* own = out.tetrahedronlist + at * out.numberofcorners;
        std::array<int, 4> cell{own[0], own[1], own[2], own[3]};
        const auto place = [&](std::size_t corner) { return filled.points[static_cast<std::size_t>(cell[corner])]; };
        if ((place(1) - place(0)).cross(place(2) - place(0)).dot(place(3) - place(0)) < 0.0)
            std::swap(cell[2], cell[3]);
        filled.tetrahedra.push_back(cell);
    }
    emptyVoids(filled, points.size(), triangles);
    if (filled.tetrahedra.empty()) filled.problem = "nothing lies within its surface";
    return filled;
}

} // namespace

inline auto fields(FilledSurface& of)
{
    return named("points tetrahedra problem", of.points, of.tetrahedra, of.problem);
}

FilledSurface fillSurface(const std::vector<Eigen::Vector3d>& points, const std::vector<std::array<int, 3>>& triangles,
                          double largestVolume, const Progress* progress)
{
    constexpr std::size_t large = 2000; // triangles; below it the process would cost more than the work
    constexpr double longest = 600.0;   // s
    if (triangles.size() < large || !hasHelper()) return fillHere(points, triangles, largestVolume);
    ByteWriter order;
    order.put(FillOrder{points, triangles, largestVolume});
    const HelperAnswer answer = askHelper({"fill-surface"}, longest, progress, order.bytes());
    FilledSurface filled;
    if (answer.problem.empty()) {
        try {
            ByteReader(answer.bytes).get(filled);
            return filled;
        } catch (const ArchiveError& problem) {
            filled = {};
            filled.problem = problem.what();
        }
    } else {
        filled.problem = "its surface could not be filled: " + answer.problem;
    }
    return filled;
}

std::string fillForOther(const std::string& asked)
{
    FillOrder order;
    ByteReader(asked).get(order);
    ByteWriter answer;
    answer.put(fillHere(order.points, order.triangles, order.largestVolume));
    return answer.bytes();
}

} // namespace undisona
