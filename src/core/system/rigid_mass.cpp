#include "core/system/rigid_mass.hpp"

#include "core/shapes/joined_faces.hpp"
#include "core/system/spread.hpp"

namespace undisona {

namespace {

/// Own motions in the six rigid motions about the origin: twelve of an element of a member,
Eigen::MatrixXd rigidOf(const FrameMesh& mesh, const MeshElement& element, const Eigen::Matrix3d& axes)
{
    Eigen::MatrixXd rigid(12, 6);
    rigid << turned(axes) * carry(mesh.end(element, 0)), turned(axes) * carry(mesh.end(element, 1));
    return rigid;
}

/// six of each corner of a piece of sheet,
Eigen::MatrixXd rigidOf(const FrameMesh& mesh, const MeshShell& shell, const ShellEquations& own)
{
    Eigen::MatrixXd rigid(own.element.unknowns(), 6);
    for (std::size_t at = 0; at < shell.corners(); ++at)
        rigid.middleRows<6>(6 * static_cast<Eigen::Index>(at)) =
            carry(mesh.nodes[static_cast<std::size_t>(shell.nodes[at])].place);
    return own.toOwn() * rigid;
}

/// and shifts of places.
Eigen::MatrixXd rigidOf(const std::vector<Eigen::Vector3d>& places)
{
    Eigen::MatrixXd rigid(3 * static_cast<Eigen::Index>(places.size()), 6);
    for (std::size_t at = 0; at < places.size(); ++at)
        rigid.middleRows<3>(3 * static_cast<Eigen::Index>(at)) = carry(places[at]).topRows<3>();
    return rigid;
}

Eigen::MatrixXd rigidOf(const Structure& structure, const FrameMesh& mesh, const SpreadPiece& piece)
{
    if (piece.element >= 0) {
        const MeshElement& element = mesh.elements[static_cast<std::size_t>(piece.element)];
        return rigidOf(mesh, element, memberOf(structure, mesh, element).axes);
    }
    if (piece.shell >= 0) {
        const MeshShell& shell = mesh.shells[static_cast<std::size_t>(piece.shell)];
        return rigidOf(mesh, shell, shellOf(structure, mesh, shell));
    }
    std::vector<Eigen::Vector3d> places;
    for (const int node : piece.nodes)
        places.push_back(mesh.nodes[static_cast<std::size_t>(node)].place);
    return rigidOf(places);
}

/// Of a part's own material: mass and moments stand in what rigid motions about the origin cost where it acts in every
/// direction.
template <class Element>
SentenceMass massOfMaterial(const Element& element, const Eigen::MatrixXd& motions, bool lumped)
{
    const auto rigid = [&](const Element& own) {
        return Matrix6(motions.transpose() * (lumped ? lumpedMass(own) : consistentMass(own)) * motions);
    };
    const Matrix6 acting = rigid(element);
    Matrix6 whole = acting;
    if (element.acts) {
        Element everyWay = element;
        everyWay.acts.reset();
        whole = rigid(everyWay);
    }
    return {whole(0, 0), {whole(1, 5), whole(2, 3), whole(0, 4)}, acting};
}

/// The part that something is spread over; of an edge the first one there.
MassOwner ownerOf(const Frame& frame, const Attachment& attachment)
{
    if (attachment.over != Target::edge && attachment.over != Target::face) return {attachment.over, attachment.at};
    const JoinedFaces& faces = *frame.faces;
    const int face = attachment.over == Target::face
                         ? attachment.at
                         : faces.edges[static_cast<std::size_t>(attachment.at)].faces.front();
    const int part = frame.partsOf(faces.faces[static_cast<std::size_t>(face)]).front();
    const auto sheets = static_cast<int>(frame.sheets.size());
    return part < sheets ? MassOwner{Target::sheet, part} : MassOwner{Target::solid, part - sheets};
}

} // namespace

void eachMass(const Structure& structure, const FrameMesh& mesh,
              const std::function<void(const std::string&, MassOwner, const SentenceMass&)>& take)
{
    const bool lumped = structure.discretised.lumped;
    const Frame& frame = structure.frame;
    const auto inRigid = [](const Eigen::MatrixXd& rigid, const Eigen::MatrixXd& matrix) {
        return Matrix6(rigid.transpose() * matrix * rigid);
    };
    for (const auto& element : mesh.elements) {
        const auto index = static_cast<std::size_t>(element.member);
        if (!structure.members[index].material) continue;
        const auto [own, axes] = memberOf(structure, mesh, element);
        const double mass = own.massPerLength * own.length;
        take(frame.members[index].sentence, {Target::member, element.member},
             {mass, mass * (mesh.end(element, 0) + mesh.end(element, 1)) / 2.0,
              inRigid(rigidOf(mesh, element, axes), lumped ? lumpedMass(own) : consistentMass(own))});
    }
    for (const auto& shell : mesh.shells) {
        const auto sheet = static_cast<std::size_t>(shell.sheet);
        if (!structure.sheets[sheet].material) continue;
        const ShellEquations own = shellOf(structure, mesh, shell);
        take(frame.sheets[sheet].sentence, {Target::sheet, shell.sheet},
             massOfMaterial(own.element, rigidOf(mesh, shell, own), lumped));
    }
    for (const auto& solid : mesh.solids) {
        const auto index = static_cast<std::size_t>(solid.solid);
        if (!structure.solids[index].material) continue;
        const SolidElement own = solidOf(structure, mesh, solid);
        take(frame.solids[index].sentence, {Target::solid, solid.solid},
             massOfMaterial(own, rigidOf(own.node), lumped));
    }
    for (const auto& attachment : structure.attachments) {
        if (attachment.effect != Attachment::Effect::mass) continue;
        const MassOwner owner = ownerOf(frame, attachment);
        eachPiece(structure, mesh, attachment, [&](const SpreadPiece& piece) {
            take(attachment.sentence, owner,
                 SentenceMass{piece.amount, piece.moment, inRigid(rigidOf(structure, mesh, piece), piece.matrix)}
                     .asAdded());
        });
    }
    for (const auto& mass : structure.pointMasses) {
        const Eigen::Vector3d centre = mesh.nodes[static_cast<std::size_t>(mass.point)].place + mass.centre;
        take(mass.sentence, {Target::point, mass.point},
             SentenceMass{mass.mass, mass.mass * centre, carry(centre).transpose() * matrixOf(mass) * carry(centre)}
                 .asAdded());
    }
}

std::map<std::string, SentenceMass> massBySentence(const Structure& structure, const FrameMesh& mesh)
{
    std::map<std::string, SentenceMass> masses;
    eachMass(structure, mesh,
             [&](const std::string& sentence, MassOwner, const SentenceMass& own) { masses[sentence] += own; });
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
    eachMass(structure, mesh, [&](const std::string& sentence, MassOwner owner, const SentenceMass& own) {
        summary.bySentence[sentence] += own;
        summary.byOwner[owner] += own.mass;
    });
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
