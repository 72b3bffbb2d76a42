#include "core/surface/member_surface.hpp"

namespace undisona {

namespace {

Eigen::Matrix3d drawnAxes(const FrameMember& member, const Eigen::Vector3d& x)
{
    const Eigen::Vector3d z = (member.zAxis - member.zAxis.dot(x) * x).normalized();
    Eigen::Matrix3d axes;
    axes << x, z.cross(x), z;
    return axes;
}

/// Triangles of a section's end: ear clipping for the outlines of the catalogue, a strip between outline and hole.
std::vector<std::array<int, 3>> capOf(const std::vector<OutlinePoint>& outline)
{
    std::vector<int> left;
    for (std::size_t at = 0; at < outline.size(); ++at)
        left.push_back(static_cast<int>(at));
    const auto point = [&](int at) { return outline[static_cast<std::size_t>(at)]; };
    const auto cross = [&](int a, int b, int c) {
        return (point(b)[0] - point(a)[0]) * (point(c)[1] - point(a)[1]) -
               (point(c)[0] - point(a)[0]) * (point(b)[1] - point(a)[1]);
    };
    std::vector<std::array<int, 3>> triangles;
    while (left.size() > 3) {
        bool clipped = false;
        for (std::size_t at = 0; at < left.size() && !clipped; ++at) {
            const int a = left[(at + left.size() - 1) % left.size()], b = left[at], c = left[(at + 1) % left.size()];
            if (cross(a, b, c) <= 0.0) continue;
            const bool inside = std::any_of(left.begin(), left.end(), [&](int p) {
                return p != a && p != b && p != c && cross(a, b, p) >= 0.0 && cross(b, c, p) >= 0.0 &&
                       cross(c, a, p) >= 0.0;
            });
            if (inside) continue;
            triangles.push_back({a, b, c});
            left.erase(left.begin() + static_cast<std::ptrdiff_t>(at));
            clipped = true;
        }
        if (!clipped) return triangles;
    }
    if (left.size() == 3) triangles.push_back({left[0], left[1], left[2]});
    return triangles;
}

class SurfaceBuilder {
public:
    SurfaceBuilder(const Structure& structure, const FrameMesh& mesh, double least, MemberSurface& surface)
        : structure_(structure), mesh_(mesh), least_(least), surface_(surface)
    {
    }

    void addLine(int member, int pieces)
    {
        forStations(member, pieces, [&](const Eigen::Vector3d& place, const Eigen::Matrix3d&, int station, bool first) {
            const auto vertex = addVertex(place, Eigen::Vector3d::Zero(), station, member);
            if (!first) surface_.cells.insert(surface_.cells.end(), {vertex - 1, vertex});
        });
    }

    void addPrism(int member, int pieces)
    {
        const auto& section = *structure_.frame.members[static_cast<std::size_t>(member)].section;
        double wide = 0.0;
        for (const auto& [y, z] : section.outline)
            wide = std::max(wide, 2.0 * std::hypot(y, z));
        factor_ = wide > 0.0 && wide < least_ ? least_ / wide : 1.0;
        surface_.widened = surface_.widened || factor_ > 1.0;
        ring(member, pieces, section.outline, true);
        if (!section.hole.empty()) ring(member, pieces, section.hole, false);
    }

private:
    template <class F>
    void forStations(int member, int pieces, F visit)
    {
        const auto index = static_cast<std::size_t>(member);
        for (int at = mesh_.firstElement[index]; at < mesh_.firstElement[index + 1]; ++at) {
            const auto& element = mesh_.elements[static_cast<std::size_t>(at)];
            const Eigen::Vector3d from = mesh_.end(element, 0), to = mesh_.end(element, 1);
            const Eigen::Matrix3d axes = drawnAxes(structure_.frame.members[index], (to - from).normalized());
            const bool firstElement = at == mesh_.firstElement[index];
            for (int piece = firstElement ? 0 : 1; piece <= pieces; ++piece) {
                const double share = double(piece) / pieces;
                surface_.stations.push_back({at, share});
                visit(from + share * (to - from), axes, static_cast<int>(surface_.stations.size()) - 1,
                      firstElement && piece == 0);
            }
        }
    }

    std::int64_t addVertex(const Eigen::Vector3d& axis, const Eigen::Vector3d& arm, int station, int member)
    {
        const Eigen::Vector3d place = axis + arm - surface_.origin;
        for (int k = 0; k < 3; ++k) {
            surface_.place.push_back(static_cast<float>(place[k]));
            surface_.arm.push_back(static_cast<float>(arm[k]));
        }
        surface_.station.push_back(station);
        surface_.memberOfVertex.push_back(member);
        return static_cast<std::int64_t>(surface_.station.size()) - 1;
    }

    void triangle(std::int64_t a, std::int64_t b, std::int64_t c)
    {
        surface_.cells.insert(surface_.cells.end(), {a, b, c});
    }

    void ring(int member, int pieces, const std::vector<OutlinePoint>& outline, bool outer)
    {
        const auto corners = static_cast<std::int64_t>(outline.size());
        std::int64_t firstRing = -1, lastRing = -1;
        forStations(member, pieces,
                    [&](const Eigen::Vector3d& place, const Eigen::Matrix3d& axes, int station, bool first) {
                        std::int64_t begin = -1;
                        for (const auto& [y, z] : outline) {
                            const auto vertex =
                                addVertex(place, factor_ * (axes.col(1) * y + axes.col(2) * z), station, member);
                            if (begin < 0) begin = vertex;
                        }
                        if (first)
                            firstRing = begin;
                        else
                            for (std::int64_t corner = 0; corner < corners; ++corner) {
                                const auto next = (corner + 1) % corners;
                                if (outer) {
                                    triangle(lastRing + corner, begin + corner, begin + next);
                                    triangle(lastRing + corner, begin + next, lastRing + next);
                                } else {
                                    triangle(lastRing + corner, begin + next, begin + corner);
                                    triangle(lastRing + corner, lastRing + next, begin + next);
                                }
                            }
                        lastRing = begin;
                    });
        const auto& section = *structure_.frame.members[static_cast<std::size_t>(member)].section;
        if (!outer || !section.hole.empty()) return;
        for (const auto& [a, b, c] : capOf(outline)) {
            triangle(firstRing + a, firstRing + c, firstRing + b);
            triangle(lastRing + a, lastRing + b, lastRing + c);
        }
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    double least_, factor_ = 1.0; ///< by which the section at hand is drawn wider
    MemberSurface& surface_;
};

} // namespace

MemberSurface memberSurface(const Structure& structure, const FrameMesh& mesh, bool sections, int perElement,
                            double least)
{
    MemberSurface surface;
    surface.lines = !sections;
    const auto [low, high] = structure.frame.box();
    surface.origin = (low + high) / 2.0;
    SurfaceBuilder builder(structure, mesh, least, surface);
    for (std::size_t member = 0; member < structure.frame.members.size(); ++member) {
        if (sections)
            builder.addPrism(static_cast<int>(member), perElement);
        else
            builder.addLine(static_cast<int>(member), perElement);
    }
    return surface;
}

Eigen::Matrix<double, 6, Eigen::Dynamic> stationMotions(const MemberSurface& surface, const Solution& solution,
                                                        std::size_t mode)
{
    Eigen::Matrix<double, 6, Eigen::Dynamic> motions(6, static_cast<Eigen::Index>(surface.stations.size()));
    const Eigen::VectorXd q = solution.shapes.col(static_cast<Eigen::Index>(mode));
    int last = -1;
    Eigen::Matrix<double, 12, 1> own;
    for (std::size_t at = 0; at < surface.stations.size(); ++at) {
        const auto& station = surface.stations[at];
        const auto& element = solution.system->elements[static_cast<std::size_t>(station.element)];
        if (station.element != last) {
            own = element.toOwn * q(element.unknowns);
            last = station.element;
        }
        const Vector6 local = interpolation(element.element, station.share) * own;
        motions.col(static_cast<Eigen::Index>(at)) << element.axes * local.head<3>(), element.axes * local.tail<3>();
    }
    return motions;
}

} // namespace undisona
