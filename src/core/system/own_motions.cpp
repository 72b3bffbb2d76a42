#include "core/system/own_motions.hpp"

#include "core/shapes/joined_faces.hpp"
#include "core/system/combination.hpp"

namespace undisona {

OwnMotions ownMotions(const MotionMap& motions, const ShellEquations& shell)
{
    const std::size_t corners = shell.element.corner.size();
    const auto motionOf = [&](std::size_t corner) -> const NodeMotion& {
        return motions.nodes[static_cast<std::size_t>(shell.nodes[corner])];
    };
    std::vector<int> unknowns;
    bool held = false;
    for (std::size_t corner = 0; corner < corners; ++corner) {
        unknowns.insert(unknowns.end(), motionOf(corner).unknowns.begin(), motionOf(corner).unknowns.end());
        held = held || !motionOf(corner).held.empty();
    }
    std::vector<int> once = unknowns;
    std::sort(once.begin(), once.end());
    const Eigen::MatrixXd toOwn = shell.toOwn();
    if (!held && std::adjacent_find(once.begin(), once.end()) == once.end()) { // nor two corners with one body
        Eigen::MatrixXd own = Eigen::MatrixXd::Zero(toOwn.rows(), static_cast<Eigen::Index>(unknowns.size()));
        Eigen::Index column = 0;
        for (std::size_t corner = 0; corner < corners; ++corner) {
            const auto& basis = motionOf(corner).basis;
            const auto row = 6 * static_cast<Eigen::Index>(corner);
            own.block(row, column, 6, basis.cols()) = toOwn.block<6, 6>(row, row).lazyProduct(basis);
            column += basis.cols();
        }
        return {std::move(unknowns), std::move(own), {}, {}};
    }
    Combination nodes(6 * static_cast<Eigen::Index>(corners));
    for (std::size_t corner = 0; corner < corners; ++corner)
        nodes.add(6 * static_cast<Eigen::Index>(corner), motionOf(corner), Matrix6::Identity());
    return {nodes.free.unknowns(), toOwn * nodes.free.matrix(), nodes.held.unknowns(), toOwn * nodes.held.matrix()};
}

Eigen::MatrixXd carried(const Eigen::MatrixXd& matrix, const OwnMotions& own, std::size_t corners)
{
    const Eigen::MatrixXd& a = own.toOwn;
    const auto rows = 6 * static_cast<Eigen::Index>(corners);
    bool free = a.cols() == rows;
    for (Eigen::Index i = 0; i < rows && free; i += 6)
        for (Eigen::Index j = 0; j < rows && free; j += 6)
            free = i == j || a.block<6, 6>(i, j).isZero(0.0);
    if (!free) return a.transpose() * matrix * a;
    Eigen::MatrixXd blocks(rows, rows);
    for (Eigen::Index j = 0; j < rows; j += 6)
        for (Eigen::Index i = 0; i <= j; i += 6) {
            const Matrix6 left = a.block<6, 6>(i, i), right = a.block<6, 6>(j, j), middle = matrix.block<6, 6>(i, j);
            const Matrix6 half = middle.lazyProduct(right);
            blocks.block<6, 6>(i, j) = left.transpose().lazyProduct(half);
            if (i < j) blocks.block<6, 6>(j, i) = blocks.block<6, 6>(i, j).transpose();
        }
    return blocks;
}

OwnMotions ownMotions(const System& system, const SpreadPiece& piece)
{
    if (piece.element >= 0) {
        const ElementEquations& own = system.elements[static_cast<std::size_t>(piece.element)];
        return {own.unknowns, own.toOwn, own.held, own.heldToOwn};
    }
    if (piece.shell >= 0) return ownMotions(system.motions, system.shells[static_cast<std::size_t>(piece.shell)]);
    Combination shifts(3 * static_cast<Eigen::Index>(piece.nodes.size()));
    for (std::size_t at = 0; at < piece.nodes.size(); ++at)
        shifts.add(3 * static_cast<Eigen::Index>(at), system.motions.nodes[static_cast<std::size_t>(piece.nodes[at])],
                   Matrix6::Identity().topRows<3>());
    return {shifts.free.unknowns(), shifts.free.matrix(), shifts.held.unknowns(), shifts.held.matrix()};
}

std::pair<OwnerKind, int> ownerOf(const Structure& structure, const Attachment& own)
{
    switch (own.over) {
    case Target::member:
        return {OwnerKind::member, own.at};
    case Target::sheet:
        return {OwnerKind::sheet, own.at};
    case Target::edge:
        return {OwnerKind::edge, own.at};
    case Target::solid:
        return {OwnerKind::solid, own.at};
    case Target::face:
    case Target::point:
        break;
    }
    return {OwnerKind::solid, structure.frame.faces->faces[static_cast<std::size_t>(own.at)].solids.front()};
}

} // namespace undisona
