#include "core/system/weighed_pieces.hpp"

#include "core/elements/surface_piece.hpp"
#include "core/shapes/joined_faces.hpp"

namespace undisona {

namespace {

/// Between two nodes whose displacement is interpolated linearly.
WeighedPiece lineBetween(int first, int second, double length)
{
    Eigen::Matrix2d products;
    products << 2.0, 1.0, 1.0, 2.0;
    return {{first, second}, length / 6.0 * products};
}

} // namespace

std::vector<WeighedPiece> weighedPieces(const Structure& structure, const FrameMesh& mesh, Target target, int at)
{
    std::vector<WeighedPiece> pieces;
    const auto index = static_cast<std::size_t>(at);
    const auto shellsWhere = [&](const auto& meant) {
        for (const auto& shell : mesh.shells) {
            if (!meant(shell)) continue;
            WeighedPiece piece;
            std::vector<Eigen::Vector3d> places;
            for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
                piece.nodes.push_back(shell.nodes[corner]);
                places.push_back(mesh.nodes[static_cast<std::size_t>(shell.nodes[corner])].place);
            }
            piece.products = surfaceProducts(places);
            pieces.push_back(std::move(piece));
        }
    };
    switch (target) {
    case Target::point:
        return {{{at}, Eigen::MatrixXd::Ones(1, 1)}};
    case Target::member:
        for (int element = mesh.firstElement[index]; element < mesh.firstElement[index + 1]; ++element) {
            const auto& own = mesh.elements[static_cast<std::size_t>(element)];
            pieces.push_back(lineBetween(own.nodes[0], own.nodes[1], mesh.length(own)));
        }
        break;
    case Target::edge:
        for (const auto& piece : mesh.piecesOfEdge(structure, at))
            pieces.push_back(lineBetween(piece.first, piece.second, piece.length));
        break;
    case Target::sheet:
        shellsWhere([&](const MeshShell& shell) { return shell.sheet == at; });
        break;
    case Target::face:
        if (structure.frame.faces->faces[index].sheet >= 0) {
            shellsWhere([&](const MeshShell& shell) { return shell.face == at; });
            break;
        }
        for (auto& piece : mesh.piecesOfFace(structure, at))
            pieces.push_back({std::move(piece.nodes), std::move(piece.products)});
        break;
    case Target::solid:
        break; // which has a volume
    }
    return pieces;
}

} // namespace undisona
