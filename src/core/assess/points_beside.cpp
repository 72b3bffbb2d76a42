#include "core/assess/points_beside.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/number_text.hpp"
#include "core/geometry/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Of what a face belongs to, m: of a body twice its volume over its surface; 0 where it belongs to nothing.
double thicknessOf(const Structure& structure, const JoinedFace& face)
{
    if (face.sheet >= 0) return structure.frame.sheets[static_cast<std::size_t>(face.sheet)].leastThickness();
    const JoinedFaces& faces = *structure.frame.faces;
    double least = 1e300;
    for (const int solid : face.solids)
        for (const auto& body : faces.solids) {
            if (body.solid != solid) continue;
            double area = 0.0;
            for (const int own : body.faces)
                area += faces.faces[static_cast<std::size_t>(own)].area;
            least = std::min(least, 2.0 * body.volume / area);
        }
    return least < 1e299 ? least : 0.0;
}

} // namespace

Findings pointsBesideParts(const Structure& structure, std::vector<int> used)
{
    if (!structure.frame.faces) return {};
    const JoinedFaces& faces = *structure.frame.faces;
    for (const auto& hold : structure.holds)
        if (hold.point >= 0) ++used[static_cast<std::size_t>(hold.point)];
    for (const auto& tie : structure.ties)
        used[static_cast<std::size_t>(tie.leader)] = used[static_cast<std::size_t>(tie.follower)] = 0; // joined on purpose
    // A face's box, so that few faces are measured.
    std::vector<Eigen::AlignedBox3d> boxes(faces.faces.size());
    for (std::size_t face = 0; face < boxes.size(); ++face)
        for (const auto& loop : faces.faces[face].loops)
            for (const auto& use : loop)
                for (const auto& place : faces.edges[static_cast<std::size_t>(use.edge)].along)
                    boxes[face].extend(place);
    std::vector<double> thicknesses;
    for (const auto& face : faces.faces)
        thicknesses.push_back(thicknessOf(structure, face));
    struct Miss {
        std::string point, sentence;
        double apart;
        Eigen::Vector3d foot;
    };
    std::map<std::string, std::vector<Miss>> missed; // by the part
    for (std::size_t at = 0; at < used.size(); ++at) {
        if (used[at] == 0 || faces.vertexOfPoint[at] >= 0) continue;
        const Eigen::Vector3d& place = structure.frame.points[at].place;
        double nearest = 1e300;
        int which = -1;
        for (std::size_t face = 0; face < boxes.size(); ++face) {
            const double thickness = thicknesses[face];
            const double bulge = 0.5 * (faces.faces[face].plane ? 0.0 : boxes[face].sizes().maxCoeff());
            if (boxes[face].isEmpty() || boxes[face].exteriorDistance(place) > thickness + bulge) continue;
            if (const double apart = faces.distance(int(face), place); apart < nearest && apart <= thickness) {
                nearest = apart;
                which = int(face);
            }
        }
        if (which < 0) continue;
        Eigen::Vector3d slope; // of the distance, towards the foot
        const double step = 1e-3 * nearest;
        for (int axis = 0; axis < 3; ++axis)
            slope[axis] = (faces.distance(which, place + step * Eigen::Vector3d::Unit(axis)) -
                           faces.distance(which, place - step * Eigen::Vector3d::Unit(axis))) /
                          (2.0 * step);
        const JoinedFace& face = faces.faces[static_cast<std::size_t>(which)];
        const int part = face.sheet >= 0 ? face.sheet : structure.frame.partOfSolid(face.solids[0]);
        missed[structure.frame.partName(part)].push_back({structure.frame.points[at].name, structure.frame.points[at].sentence, nearest,
                                place - nearest * slope.normalized()});
    }
    Findings findings;
    for (const auto& [part, misses] : missed) {
        const Miss& first = misses.front();
        const auto number = [](double value) { return shortest(std::abs(value) < 1e-9 ? 0.0 : std::round(1e6 * value) / 1e6); };
        std::vector<std::string> names;
        for (const Miss& miss : misses)
            names.push_back(miss.point);
        findings.push_back(
            warningAt(first.sentence,
                      fmt::format("{} {} beside {}, {} mm off, and not joined to it", someOf(names),
                                  misses.size() == 1 ? "lies" : "lie", part, shortest(std::round(1e6 * first.apart) / 1e3)),
                      fmt::format("On it {} would lie at {}, {}, {} m; or tie it rigidly to a point there.", first.point,
                                  number(first.foot.x()), number(first.foot.y()), number(first.foot.z()))));
    }
    return findings;
}

} // namespace undisona
