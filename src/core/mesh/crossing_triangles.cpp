#include "core/mesh/crossing_triangles.hpp"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/box_intersection_d.h>
#include <CGAL/intersections.h>

namespace undisona {

namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Box = CGAL::Box_intersection_d::Box_with_handle_d<double, 3, const std::array<int, 3>*>;

} // namespace

std::vector<std::pair<int, int>> crossingTriangles(const std::vector<Eigen::Vector3d>& points,
                                                   const std::vector<std::array<int, 3>>& triangles)
{
    std::vector<Kernel::Point_3> places;
    for (const auto& point : points)
        places.emplace_back(point.x(), point.y(), point.z());
    const auto at = [&](int node) -> const Kernel::Point_3& { return places[static_cast<std::size_t>(node)]; };
    std::vector<Box> boxes;
    for (const auto& triangle : triangles)
        boxes.emplace_back(at(triangle[0]).bbox() + at(triangle[1]).bbox() + at(triangle[2]).bbox(), &triangle);
    std::vector<std::pair<int, int>> crossing;
    CGAL::box_self_intersection_d(boxes.begin(), boxes.end(), [&](const Box& one, const Box& other) {
        const auto &a = *one.handle(), &b = *other.handle();
        std::array<int, 3> own = a, its = b; // common corners first
        std::size_t common = 0;
        for (std::size_t i = 0; i < 3; ++i)
            for (std::size_t k = common; k < 3; ++k)
                if (own[i] == its[k]) {
                    std::swap(own[i], own[common]);
                    std::swap(its[k], its[common]);
                    ++common;
                    break;
                }
        bool crosses = common == 3;
        if (common == 0)
            crosses = CGAL::do_intersect(Kernel::Triangle_3(at(a[0]), at(a[1]), at(a[2])),
                                         Kernel::Triangle_3(at(b[0]), at(b[1]), at(b[2])));
        else if (common == 1) // the side across the common corner
            crosses = CGAL::do_intersect(Kernel::Triangle_3(at(own[0]), at(own[1]), at(own[2])),
                                         Kernel::Segment_3(at(its[1]), at(its[2]))) ||
                      CGAL::do_intersect(Kernel::Triangle_3(at(its[0]), at(its[1]), at(its[2])),
                                         Kernel::Segment_3(at(own[1]), at(own[2])));
        else if (common == 2) // folded onto each other
            crosses = CGAL::coplanar(at(own[0]), at(own[1]), at(own[2]), at(its[2])) &&
                      CGAL::coplanar_orientation(at(own[0]), at(own[1]), at(own[2]), at(its[2])) == CGAL::POSITIVE;
        if (crosses)
            crossing.emplace_back(static_cast<int>(one.handle() - triangles.data()),
                                  static_cast<int>(other.handle() - triangles.data()));
    });
    return crossing;
}

} // namespace undisona
