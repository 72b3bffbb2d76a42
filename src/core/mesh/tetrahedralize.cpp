// The only file that knows the tetrahedral generator's header.
#include "core/mesh/tetrahedralize.hpp"

#include <fmt/format.h>
#include <tetgen.h>

namespace undisona {

FilledSurface fillSurface(const std::vector<Eigen::Vector3d>& points, const std::vector<std::array<int, 3>>& triangles,
                          double largestVolume)
{
    FilledSurface filled;
    tetgenio in, out; // they own what their lists point to
    in.firstnumber = 0;
    in.numberofpoints = static_cast<int>(points.size());
    in.pointlist = new REAL[3 * points.size()];
    for (std::size_t at = 0; at < points.size(); ++at)
        for (int axis = 0; axis < 3; ++axis)
            in.pointlist[3 * at + static_cast<std::size_t>(axis)] = points[at][axis];
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
        std::string switches = fmt::format("pYq1.4a{:.9e}Q", largestVolume);
        if (!behaviour.parse_commandline(switches.data())) throw 0;
        tetrahedralize(&behaviour, &in, &out);
    } catch (...) { // it throws numbers
        filled.problem = "its surface could not be filled: two of its triangles cross or lie on each other";
        return filled;
    }
    for (int at = 0; at < out.numberofpoints; ++at)
        filled.points.emplace_back(out.pointlist[3 * at], out.pointlist[3 * at + 1], out.pointlist[3 * at + 2]);
    for (int at = 0; at < out.numberoftetrahedra; ++at) {
        const int* own = out.tetrahedronlist + at * out.numberofcorners;
        std::array<int, 4> cell{own[0], own[1], own[2], own[3]};
        const auto place = [&](std::size_t corner) { return filled.points[static_cast<std::size_t>(cell[corner])]; };
        if ((place(1) - place(0)).cross(place(2) - place(0)).dot(place(3) - place(0)) < 0.0)
            std::swap(cell[2], cell[3]);
        filled.tetrahedra.push_back(cell);
    }
    if (filled.tetrahedra.empty()) filled.problem = "nothing lies within its surface";
    return filled;
}

} // namespace undisona
