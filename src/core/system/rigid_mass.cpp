#include "core/system/rigid_mass.hpp"

#include "core/elements/surface_piece.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

namespace {

/// An element's twelve own motions in the six rigid motions about the origin.
Eigen::Matrix<double, 12, 6> rigidOf(const FrameMesh& mesh, const MeshElement& element, const Eigen::Matrix3d& axes)
{
    Eigen::Matrix<double, 12, 6> rigid;
    rigid << turned(axes) * carry(mesh.end(element, 0)), turned(axes) * carry(mesh.end(element, 1));
    return rigid;
}

} // namespace

std::map<std::string, SentenceMass> massBySentence(const Structure& structure, const FrameMesh& mesh)
{
    std::map<std::string, SentenceMass> masses;
    std::vector<std::vector<const LineMass*>> lines(structure.members.size());
    for (const auto& mass : structure.lineMasses)
        lines[static_cast<std::size_t>(mass.member)].push_back(&mass);
    const bool lumped = structure.ask.lumped;
    for (const auto& element : mesh.elements) {
        const auto index = static_cast<std::size_t>(element.member);
        const auto& member = structure.frame.members[index];
        if (!structure.members[index].material) continue;
        const Eigen::Vector3d x = (mesh.end(element, 1) - mesh.end(element, 0)).normalized();
        const Eigen::Matrix3d axes =
            principalAxes(*member.section, x, (member.zAxis - member.zAxis.dot(x) * x).normalized());
        const MemberElement own = memberElement(*member.section, *structure.members[index].material,
                                                mesh.length(element), structure.materialMassFactor);
        const auto rigid = rigidOf(mesh, element, axes);
        const Eigen::Vector3d middle = (mesh.end(element, 0) + mesh.end(element, 1)) / 2.0;
        const auto add = [&](const std::string& sentence, double mass, const Matrix12& matrix) {
            auto& sum = masses[sentence];
            sum.mass += mass;
            sum.moment += mass * middle;
            sum.rigid += rigid.transpose() * matrix * rigid;
        };
        add(member.sentence, own.massPerLength * own.length, lumped ? lumpedMass(own) : consistentMass(own));
        for (const auto* line : lines[index]) {
            const Eigen::Vector3d perLength =
                line->perLength * Eigen::Vector3d(line->acts[0], line->acts[1], line->acts[2]);
            const Eigen::Matrix3d inAxes = axes.transpose() * perLength.asDiagonal() * axes;
            add(line->sentence, line->perLength * own.length,
                lumped ? lumpedAlongLength(own, inAxes) : alongLength(own, inAxes));
        }
    }
    std::vector<std::vector<const AreaMass*>> areas(structure.sheets.size());
    for (const auto& mass : structure.areaMasses)
        areas[static_cast<std::size_t>(mass.sheet)].push_back(&mass);
    for (const auto& shell : mesh.shells) {
        const auto sheet = static_cast<std::size_t>(shell.sheet);
        if (!structure.sheets[sheet].material) continue;
        const ShellEquations own = shellOf(structure, mesh, shell);
        Eigen::MatrixXd rigid(own.element.unknowns(), 6);
        Eigen::Vector3d middle = Eigen::Vector3d::Zero(); // of the area, times it
        const Eigen::MatrixXd unit = lumpedOverArea(own.element, Eigen::Matrix3d::Identity());
        for (std::size_t at = 0; at < shell.corners(); ++at) {
            const auto row = 6 * static_cast<Eigen::Index>(at);
            const Eigen::Vector3d& place = mesh.nodes[static_cast<std::size_t>(shell.nodes[at])].place;
            rigid.middleRows<6>(row) = carry(place);
            middle += unit(row, row) * (place + own.arms[at] * own.axes.col(2));
        }
        rigid = own.toOwn() * rigid;
        const double area = own.element.area();
        const Matrix6 material = // of rigid motions about the origin: mass and moments stand in it
            rigid.transpose() * (lumped ? lumpedMass(own.element) : consistentMass(own.element)) * rigid;
        auto& bySheet = masses[structure.frame.sheets[sheet].sentence];
        bySheet.mass += material(0, 0);
        bySheet.moment += Eigen::Vector3d(material(1, 5), material(2, 3), material(0, 4));
        bySheet.rigid += material;
        const auto add = [&](const std::string& sentence, double perArea, const Eigen::MatrixXd& matrix) {
            auto& sum = masses[sentence];
            sum.mass += perArea * area;
            sum.moment += perArea * middle;
            sum.rigid += rigid.transpose() * matrix * rigid;
        };
        for (const AreaMass* mass : areas[sheet]) {
            const double weight = mesh.weight[static_cast<std::size_t>(shell.face)];
            const Eigen::Matrix3d inAxes =
                own.axes.transpose() *
                (weight * mass->perArea * Eigen::Vector3d(mass->acts[0], mass->acts[1], mass->acts[2])).asDiagonal() *
                own.axes;
            add(mass->sentence, weight * mass->perArea,
                lumped ? lumpedOverArea(own.element, inAxes) : overArea(own.element, inAxes));
        }
    }
    for (const auto& solid : mesh.solids) {
        const auto index = static_cast<std::size_t>(solid.solid);
        if (!structure.solids[index].material) continue;
        const SolidElement own = solidOf(structure, mesh, solid);
        Eigen::MatrixXd rigid(own.unknowns(), 6);
        for (std::size_t at = 0; at < own.node.size(); ++at)
            rigid.middleRows<3>(3 * static_cast<Eigen::Index>(at)) = carry(own.node[at]).topRows<3>();
        const Matrix6 material = rigid.transpose() * (lumped ? lumpedMass(own) : consistentMass(own)) * rigid;
        auto& sum = masses[structure.frame.solids[index].sentence];
        sum.mass += material(0, 0);
        sum.moment += Eigen::Vector3d(material(1, 5), material(2, 3), material(0, 4));
        sum.rigid += material;
    }
    for (const auto& mass : structure.edgeMasses)
        for (const auto& [first, second, length] : mesh.piecesOfEdge(structure, mass.edge)) {
            const Eigen::Vector3d a = mesh.nodes[static_cast<std::size_t>(first)].place,
                                  b = mesh.nodes[static_cast<std::size_t>(second)].place;
            auto& sum = masses[mass.sentence];
            sum.mass += mass.perLength * length;
            sum.moment += mass.perLength * length * (a + b) / 2.0;
            const Eigen::Matrix3d own =
                (mass.perLength * length * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2])).asDiagonal();
            // Simpson's rule is exact for what is linear between the nodes; lumped mass stands at them.
            const double atEnds = lumped ? 0.5 : 1.0 / 6.0;
            for (const auto& [place, share] : {std::pair(a, atEnds), std::pair(b, atEnds),
                                               std::pair(Eigen::Vector3d((a + b) / 2.0), 1.0 - 2.0 * atEnds)})
                sum.rigid += share * carry(place).topRows<3>().transpose() * own * carry(place).topRows<3>();
        }
    for (const auto& mass : structure.faceMasses)
        for (const auto& [nodes, products] : mesh.piecesOfFace(structure, mass.face)) {
            const auto count = products.rows();
            Eigen::MatrixXd rigid(3 * count, 6);
            auto& sum = masses[mass.sentence];
            sum.mass += mass.perArea * products.sum();
            for (Eigen::Index at = 0; at < count; ++at) {
                const Eigen::Vector3d& place =
                    mesh.nodes[static_cast<std::size_t>(nodes[static_cast<std::size_t>(at)])].place;
                sum.moment += mass.perArea * products.row(at).sum() * place;
                rigid.middleRows<3>(3 * at) = carry(place).topRows<3>();
            }
            const Eigen::Vector3d perArea = mass.perArea * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]);
            sum.rigid +=
                rigid.transpose() * inEachDirection(lumped ? lumpedProducts(products) : products, perArea) * rigid;
        }
    for (const auto& mass : structure.pointMasses) {
        const Eigen::Vector3d centre = mesh.nodes[static_cast<std::size_t>(mass.point)].place + mass.centre;
        Matrix6 own = Matrix6::Zero();
        own.diagonal().head<3>() = mass.mass * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]);
        if (mass.acts == Mask3{true, true, true}) own.bottomRightCorner<3, 3>() = mass.inertia;
        auto& sum = masses[mass.sentence];
        sum.mass += mass.mass;
        sum.moment += mass.mass * centre;
        sum.rigid += carry(centre).transpose() * own * carry(centre);
    }
    return masses;
}

Matrix6 movedTo(const Matrix6& aboutOrigin, const Eigen::Vector3d& point)
{
    const Matrix6 move = carry(-point); // the motion of the origin when the motion is given at the point
    return move.transpose() * aboutOrigin * move;
}

MassSummary massSummary(const Structure& structure, const FrameMesh& mesh)
{
    MassSummary summary;
    summary.bySentence = massBySentence(structure, mesh);
    Eigen::Vector3d moment = Eigen::Vector3d::Zero();
    for (const auto& [sentence, mass] : summary.bySentence) {
        summary.mass += mass.mass;
        moment += mass.moment;
        summary.aboutOrigin += mass.rigid;
    }
    if (summary.mass > 0.0) summary.centre = moment / summary.mass;
    return summary;
}

MassSummary massSummary(const Structure& structure)
{
    const FrameMesh mesh = coarseMesh(structure);
    MassSummary summary = massSummary(structure, mesh);
    for (const auto& problem : mesh.problems)
        if (problem.severity == Severity::error) summary.problems.push_back(problem);
    return summary;
}

} // namespace undisona
