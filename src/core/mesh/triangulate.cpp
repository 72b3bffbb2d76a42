// The only file that knows the geometry library's headers.
#include "core/mesh/triangulate.hpp"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>

namespace undisona {

std::vector<std::array<int, 3>> constrainedTriangles(const std::vector<Eigen::Vector2d>& points,
                                                     const std::vector<std::array<int, 2>>& segments)
{
    using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
    using Vertex = CGAL::Triangulation_vertex_base_with_info_2<int, Kernel>;
    using Face = CGAL::Constrained_triangulation_face_base_2<Kernel>;
    using Mesh = CGAL::Triangulation_data_structure_2<Vertex, Face>;
    CGAL::Constrained_Delaunay_triangulation_2<Kernel, Mesh, CGAL::Exact_predicates_tag> triangulation;
    std::vector<decltype(triangulation)::Vertex_handle> handles;
    for (std::size_t at = 0; at < points.size(); ++at) {
        handles.push_back(triangulation.insert(Kernel::Point_2(points[at].x(), points[at].y())));
        handles.back()->info() = static_cast<int>(at);
    }
    for (const auto& [from, to] : segments)
        if (handles[static_cast<std::size_t>(from)] != handles[static_cast<std::size_t>(to)])
            triangulation.insert_constraint(handles[static_cast<std::size_t>(from)],
                                            handles[static_cast<std::size_t>(to)]);
    std::vector<std::array<int, 3>> triangles;
    for (const auto face : triangulation.finite_face_handles())
        triangles.push_back({face->vertex(0)->info(), face->vertex(1)->info(), face->vertex(2)->info()});
    return triangles;
}

} // namespace undisona
