#include "core/system/pressure_stiffness.hpp"

#include "core/elements/surface_piece.hpp"
#include "core/system/combination.hpp"
#include "core/system/relations.hpp"

namespace undisona {

namespace {

/// Of a piece whose force is `pressure` times its area along x,r cross x,s; three unknowns a node.
Eigen::MatrixXd turning(const FrameMesh& mesh, const std::vector<int>& nodes, bool triangle, double pressure)
{
    const auto count = static_cast<Eigen::Index>(nodes.size());
    Eigen::MatrixXd slope = Eigen::MatrixXd::Zero(3 * count, 3 * count); // of the forces by the places
    for (const auto& [r, s, weight] : triangle ? plane::triangleRule() : plane::squareRule(3)) {
        const auto shapes = surfaceShapes(nodes.size(), r, s);
        Eigen::Vector3d byR = Eigen::Vector3d::Zero(), byS = byR;
        for (std::size_t node = 0; node < nodes.size(); ++node) {
            const Eigen::Vector3d& place = mesh.nodes[static_cast<std::size_t>(nodes[node])].place;
            byR += shapes[node].r * place;
            byS += shapes[node].s * place;
        }
        for (Eigen::Index moved = 0; moved < count; ++moved) {
            const auto& by = shapes[static_cast<std::size_t>(moved)];
            const Eigen::Matrix3d turns = by.s * crossing(byR) - by.r * crossing(byS);
            for (Eigen::Index node = 0; node < count; ++node)
                slope.block<3, 3>(3 * node, 3 * moved) +=
                    pressure * weight * shapes[static_cast<std::size_t>(node)].value * turns;
        }
    }
    return -(slope + slope.transpose()) / 2.0;
}

} // namespace

std::vector<Part> pressureParts(const Structure& structure, const FrameMesh& mesh, const System& system,
                                const std::vector<double>& factors)
{
    std::vector<Part> parts;
    const auto add = [&](const std::vector<int>& nodes, bool triangle, double pressure, OwnerKind of, int owner,
                         const std::string& sentence) {
        Combination shifts(3 * static_cast<Eigen::Index>(nodes.size()));
        for (std::size_t node = 0; node < nodes.size(); ++node)
            shifts.add(3 * static_cast<Eigen::Index>(node), system.motions.nodes[static_cast<std::size_t>(nodes[node])],
                       Matrix6::Identity().topRows<3>());
        Part part =
            partOf(PartKind::tension, sentence, of, owner, shifts, turning(mesh, nodes, triangle, pressure), {});
        if (!part.unknowns.empty()) parts.push_back(std::move(part));
    };
    for (std::size_t at = 0; at < structure.loads.size(); ++at) {
        const Load& load = structure.loads[at];
        const double amount = factors[at] * load.amount;
        if (load.kind != Load::Kind::pressure || amount == 0.0) continue;
        for (std::size_t shell = 0; shell < mesh.shells.size() && load.over == Target::sheet; ++shell) {
            const MeshShell& own = mesh.shells[shell];
            if (own.sheet != load.at) continue;
            const std::vector<int> nodes(own.nodes.begin(), own.nodes.begin() + long(own.corners()));
            const auto placeOf = [&](std::size_t corner) {
                return mesh.nodes[static_cast<std::size_t>(nodes[corner])].place;
            };
            const Eigen::Vector3d round = (placeOf(1) - placeOf(0)).cross(placeOf(2) - placeOf(0));
            const double side = round.dot(system.shells[shell].axes.col(2)) > 0.0 ? 1.0 : -1.0,
                         weight = mesh.weight[static_cast<std::size_t>(own.face)];
            add(nodes, nodes.size() == 3, -amount * side * weight, OwnerKind::sheet, own.sheet,
                structure.frame.sheets[static_cast<std::size_t>(own.sheet)].sentence);
        }
        for (const auto& piece : mesh.outer) {
            if (load.over != Target::face || piece.face != load.at) continue;
            std::vector<int> nodes(piece.corners.begin(), piece.corners.begin() + long(piece.count()));
            if (piece.curved())
                nodes.insert(nodes.end(), piece.middles.begin(), piece.middles.begin() + long(piece.count()));
            add(nodes, piece.count() == 3, -amount, OwnerKind::solid, piece.solid,
                structure.frame.solids[static_cast<std::size_t>(piece.solid)].sentence);
        }
    }
    return parts;
}

} // namespace undisona
