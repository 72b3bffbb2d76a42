#include "core/mesh/frame_mesh.hpp"

namespace undisona {

std::vector<double> addedPerLength(const Structure& structure)
{
    std::vector<double> added(structure.members.size(), 0.0);
    for (const auto& mass : structure.lineMasses)
        added[static_cast<std::size_t>(mass.member)] += mass.perLength;
    return added;
}

Eigen::Vector3d FrameMesh::end(const MeshElement& element, int which) const
{
    const auto at = static_cast<std::size_t>(which);
    return nodes[static_cast<std::size_t>(element.nodes[at])].place + element.arms[at];
}

double FrameMesh::length(const MeshElement& element) const
{
    return (end(element, 1) - end(element, 0)).norm();
}

Splits proposeSplits(const Structure& structure, double frequency)
{
    const auto added = addedPerLength(structure);
    const double omega = 2.0 * std::numbers::pi * frequency;
    Splits splits;
    for (std::size_t at = 0; at < structure.frame.members.size(); ++at) {
        const auto& member = structure.frame.members[at];
        const long stated = member.elements > 0 ? member.elements : structure.ask.elements;
        if (stated > 0) {
            splits.push_back(stated);
            continue;
        }
        const auto& material = *structure.members[at].material;
        const double mass = structure.materialMassFactor * material.density * member.section->area + added[at];
        const double ei = material.modulus * std::min(member.section->i1, member.section->i2);
        const double halfWave =
            mass > 0.0 && omega > 0.0 ? std::numbers::pi * std::pow(ei / (mass * omega * omega), 0.25) : 1e300;
        const double wanted = std::ceil(3.0 * structure.frame.length(member) / halfWave);
        splits.push_back(static_cast<long>(std::clamp(wanted, 1.0, 1000.0)));
    }
    return splits;
}

FrameMesh meshOf(const Structure& structure, const Splits& splits)
{
    FrameMesh mesh;
    for (std::size_t at = 0; at < structure.frame.points.size(); ++at)
        mesh.nodes.push_back({structure.frame.points[at].place, static_cast<int>(at)});
    for (std::size_t at = 0; at < structure.frame.members.size(); ++at) {
        const auto& member = structure.frame.members[at];
        const auto& offset = structure.members[at].offset;
        mesh.firstElement.push_back(static_cast<int>(mesh.elements.size()));
        const Eigen::Vector3d from = structure.frame.points[static_cast<std::size_t>(member.from)].place + offset[0];
        const Eigen::Vector3d to = structure.frame.points[static_cast<std::size_t>(member.to)].place + offset[1];
        int last = member.from;
        for (long part = 1; part <= splits[at]; ++part) {
            const double begin = double(part - 1) / double(splits[at]), end = double(part) / double(splits[at]);
            int next = member.to;
            if (part < splits[at]) {
                next = static_cast<int>(mesh.nodes.size());
                mesh.nodes.push_back({from + end * (to - from), -1});
            }
            MeshElement element{
                static_cast<int>(at), {last, next}, {Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero()}, {begin, end}};
            if (part == 1) element.arms[0] = offset[0];
            if (part == splits[at]) element.arms[1] = offset[1];
            mesh.elements.push_back(element);
            last = next;
        }
    }
    mesh.firstElement.push_back(static_cast<int>(mesh.elements.size()));
    return mesh;
}

} // namespace undisona
