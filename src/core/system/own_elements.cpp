// A piece of the mesh as its own element, and its motion in its own axes.
#include "core/elements/stress_stiffness.hpp"
#include "core/system/layers_of.hpp"
#include "core/system/load_stiffness.hpp"
#include "core/system/own_motions.hpp"

namespace undisona {

namespace {

/// The angle of the grain about the normal from the x of a piece of sheet.
double grainIn(const Eigen::Matrix3d& axes, const Eigen::Vector3d& stated)
{
    Eigen::Vector3d grain = stated.isZero() ? Eigen::Vector3d(Eigen::Vector3d::UnitX()) : stated.normalized();
    if (std::abs(grain.dot(axes.col(2))) > 0.999)
        grain = stated.isZero() ? Eigen::Vector3d(Eigen::Vector3d::UnitY()) : Eigen::Vector3d(axes.col(0));
    return std::atan2(grain.dot(axes.col(1)), grain.dot(axes.col(0)));
}

/// The directions in which mass acts, in axes of an element's own; nothing where it acts in all.
std::optional<Eigen::Matrix3d> actsIn(const Structure& structure, const Eigen::Matrix3d& axes)
{
    const Mask3& acts = structure.discretised.acts;
    if (structure.discretised.allMassActs()) return std::nullopt;
    return Eigen::Matrix3d(axes.transpose() * Eigen::Vector3d(acts[0], acts[1], acts[2]).asDiagonal() * axes);
}

} // namespace

OwnMember memberOf(const Structure& structure, const FrameMesh& mesh, const MeshElement& element)
{
    const auto index = static_cast<std::size_t>(element.member);
    const FrameMember& shape = structure.frame.members[index];
    const MemberProperties& properties = structure.members[index];
    const Eigen::Vector3d x = (mesh.end(element, 1) - mesh.end(element, 0)).normalized();
    const Eigen::Vector3d z = (shape.zAxis - shape.zAxis.dot(x) * x).normalized();
    OwnMember own{memberElement(*shape.section, *properties.material, mesh.length(element), properties.massFactor),
                  principalAxes(*shape.section, x, z)};
    own.element.rod = properties.rod;
    for (double& bending : own.element.bending)
        bending /= shape.flexibility;
    own.element.acts = actsIn(structure, own.axes);
    return own;
}

ShellEquations shellOf(const Structure& structure, const FrameMesh& mesh, const MeshShell& shell)
{
    const auto sheet = static_cast<std::size_t>(shell.sheet);
    const Material& material = *structure.sheets[sheet].material;
    const Sheet& drawn = structure.frame.sheets[sheet];
    const std::size_t corners = shell.corners();
    std::vector<Eigen::Vector3d> places;
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < corners; ++at) {
        places.push_back(mesh.nodes[static_cast<std::size_t>(shell.nodes[at])].place);
        centre += places.back() / double(corners);
    }
    ShellEquations equations{
        {{}, {}, {}, structure.sheets[sheet].density() * mesh.weight[static_cast<std::size_t>(shell.face)]}, {}, {}};
    const Eigen::Vector3d normal = (corners == 4 ? (places[2] - places[0]).cross(places[3] - places[1])
                                                 : (places[1] - places[0]).cross(places[2] - places[0]))
                                       .normalized();
    const Eigen::Vector3d side = places[1] - places[0];
    equations.axes.col(0) = (side - side.dot(normal) * normal).normalized();
    equations.axes.col(1) = normal.cross(equations.axes.col(0));
    equations.axes.col(2) = normal;
    for (std::size_t at = 0; at < corners; ++at) {
        const Eigen::Vector3d own = equations.axes.transpose() * (places[at] - centre);
        equations.element.corner.push_back(own.head<2>());
        const double thickness = drawn.thicknessAt(places[at]);
        equations.element.thickness.push_back(thickness);
        equations.arms[at] = drawn.above * thickness / 2.0 - own.z();
    }
    equations.nodes = shell.nodes;
    equations.element.acts = actsIn(structure, equations.axes);
    equations.element.membrane = structure.sheets[sheet].membrane;
    equations.element.elasticity = planeElasticity(material).seenFrom(
        material.hasDirection() ? -grainIn(equations.axes, structure.sheets[sheet].grain) : 0.0);
    return equations;
}

std::vector<SheetLayer> layersOf(const Structure& structure, const ShellEquations& piece, int sheet)
{
    const SheetProperties& properties = structure.sheets[static_cast<std::size_t>(sheet)];
    const Material& material = *properties.material;
    if (!material.layers) return {{piece.element.elasticity.plane, -0.5, 0.5}};
    double total = 0.0;
    for (const Ply& ply : *material.layers)
        total += ply.thickness;
    const double grain = grainIn(piece.axes, properties.grain);
    std::vector<SheetLayer> layers;
    double height = -0.5;
    for (const Ply& ply : *material.layers) {
        const double above = height + ply.thickness / total;
        layers.push_back({planeElasticity(ply.material).seenFrom(-ply.angle).seenFrom(-grain).plane, height, above});
        height = above;
    }
    return layers;
}

SolidElement solidOf(const Structure& structure, const FrameMesh& mesh, const MeshSolid& solid)
{
    const Material& material = *structure.solids[static_cast<std::size_t>(solid.solid)].material;
    SolidElement element{solid.kind,
                         {},
                         material.modulus,
                         material.poisson,
                         structure.solids[static_cast<std::size_t>(solid.solid)].density()};
    for (std::size_t node = 0; node < solid.count(); ++node)
        element.node.push_back(mesh.nodes[static_cast<std::size_t>(solid.nodes[node])].place);
    element.acts = actsIn(structure, Eigen::Matrix3d::Identity());
    if (material.grain)
        element.grained = grainElasticity(material, structure.solids[static_cast<std::size_t>(solid.solid)].grain);
    return element;
}

const Eigen::MatrixXd& System::stiffnessOf(const Part& part, Eigen::MatrixXd& room) const
{
    if (part.tensioned >= 0) {
        const auto solid = static_cast<std::size_t>(part.tensioned);
        return room = stateStiffness(solids[solid], *state, solid);
    }
    if (part.piece < 0) return part.stiffness;
    const auto at = static_cast<std::size_t>(part.piece);
    if (part.kind == PartKind::solid) return room = undisona::stiffness(solids[at]);
    const ShellEquations& own = shells[at];
    return room = carried(undisona::stiffness(own.element), ownMotions(motions, own), own.element.corner.size());
}

const Eigen::MatrixXd& System::massOf(const Part& part, Eigen::MatrixXd& room) const
{
    if (part.piece < 0) return part.mass;
    const auto at = static_cast<std::size_t>(part.piece);
    if (part.kind == PartKind::solid) return room = lumped ? lumpedMass(solids[at]) : consistentMass(solids[at]);
    const ShellEquations& own = shells[at];
    return room = carried(lumped ? lumpedMass(own.element) : consistentMass(own.element), ownMotions(motions, own),
                          own.element.corner.size());
}

Eigen::MatrixXd System::ownMotion(const MeshSolid& solid, const Eigen::MatrixXd& q) const
{
    Eigen::MatrixXd nodes(3 * static_cast<Eigen::Index>(solid.count()), q.cols());
    for (std::size_t at = 0; at < solid.count(); ++at) {
        const NodeMotion& motion = motions.nodes[static_cast<std::size_t>(solid.nodes[at])];
        const Eigen::MatrixXd own = q(motion.unknowns, Eigen::all); // picked once, not anew for each product
        nodes.middleRows<3>(3 * static_cast<Eigen::Index>(at)) = motion.basis.topRows<3>() * own;
    }
    return nodes;
}

Eigen::MatrixXd ShellEquations::toOwn() const
{
    Eigen::MatrixXd own = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    for (std::size_t at = 0; at < element.corner.size(); ++at)
        own.block<6, 6>(6 * static_cast<Eigen::Index>(at), 6 * static_cast<Eigen::Index>(at)) =
            turned(axes) * carry(arms[at] * axes.col(2));
    return own;
}

Eigen::MatrixXd System::ownMotion(const MeshShell& shell, const ShellEquations& equations,
                                  const Eigen::MatrixXd& q) const
{
    Eigen::MatrixXd nodes(equations.element.unknowns(), q.cols());
    for (std::size_t at = 0; at < shell.corners(); ++at) {
        const NodeMotion& motion = motions.nodes[static_cast<std::size_t>(shell.nodes[at])];
        const Eigen::MatrixXd own = q(motion.unknowns, Eigen::all); // picked once, not anew for each product
        nodes.middleRows<6>(6 * static_cast<Eigen::Index>(at)) = motion.basis * own;
    }
    return equations.toOwn() * nodes;
}

} // namespace undisona
