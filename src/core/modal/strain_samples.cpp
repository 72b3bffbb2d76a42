#include "core/modal/strain_samples.hpp"

namespace undisona {

std::vector<Eigen::Vector3d> globalPlaces(const FrameMesh& mesh, std::size_t at, const ShellPlaces& places)
{
    const auto& shell = mesh.shells[at];
    std::vector<Eigen::Vector3d> list;
    for (Eigen::Index row = 0; row < places.corners.rows(); ++row) {
        Eigen::Vector3d place = Eigen::Vector3d::Zero();
        for (std::size_t corner = 0; corner < shell.corners(); ++corner)
            place += places.corners(row, Eigen::Index(corner)) *
                     mesh.nodes[static_cast<std::size_t>(shell.nodes[corner])].place;
        list.push_back(place);
    }
    return list;
}

std::vector<StrainSamples> sheetSamples(const FrameMesh& mesh, const System& system, bool membrane)
{
    std::vector<StrainSamples> list(mesh.shells.size());
    for (std::size_t at = 0; at < list.size(); ++at) {
        const MeshShell& shell = mesh.shells[at];
        const ShellElement& element = system.shells[at].element;
        list[at].region = shell.face;
        list[at].corners.assign(shell.nodes.begin(), shell.nodes.begin() + long(shell.corners()));
        list[at].normal = system.shells[at].axes.col(2);
        const auto coarse = globalPlaces(mesh, at, coarsePlaces(element));
        if (membrane) {
            list[at].places = coarse;
        } else {
            list[at].places = globalPlaces(mesh, at, middlePlace(element));
            list[at].morePlaces = coarse;
        }
    }
    return list;
}

std::vector<StrainSamples> solidSamples(const FrameMesh& mesh, const System& system)
{
    std::vector<StrainSamples> list(mesh.solids.size());
    for (std::size_t at = 0; at < list.size(); ++at) {
        const MeshSolid& solid = mesh.solids[at];
        list[at].region = solid.solid;
        list[at].corners.assign(solid.nodes.begin(), solid.nodes.begin() + long(cornersOf(solid.kind)));
        const bool linear = solid.kind == SolidKind::brick8 || solid.kind == SolidKind::wedge6;
        list[at].order = linear ? 1 : solid.kind == SolidKind::tetrahedron10 ? 2 : 3;
        list[at].places = bestPlaces(system.solids[at]).places;
    }
    return list;
}

} // namespace undisona
