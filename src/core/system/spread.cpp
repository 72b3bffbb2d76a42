#include "core/system/spread.hpp"

#include "core/elements/surface_piece.hpp"

namespace undisona {

namespace {

using PerPiece = std::function<void(const SpreadPiece&)>;

class Spreading {
public:
    Spreading(const Structure& structure, const FrameMesh& mesh, const Attachment& own)
        : structure_(structure), mesh_(mesh), own_(own), at_(static_cast<std::size_t>(own.at)),
          lumps_(own.effect == Attachment::Effect::mass && structure.discretised.lumped), perExtent_(own.perExtent())
    {
    }

    void alongMember(const PerPiece& take) const
    {
        if (!structure_.members[at_].material) return;
        for (int at = mesh_.firstElement[at_]; at < mesh_.firstElement[at_ + 1]; ++at) {
            const MeshElement& element = mesh_.elements[static_cast<std::size_t>(at)];
            const auto [own, axes] = memberOf(structure_, mesh_, element);
            SpreadPiece piece{.element = at, .nodes = {element.nodes[0], element.nodes[1]}};
            const Eigen::Matrix3d inAxes = axes.transpose() * own_.tensor * axes;
            piece.matrix = lumps_ ? lumpedAlongLength(own, inAxes) : alongLength(own, inAxes);
            piece.amount = perExtent_ * own.length;
            piece.moment = piece.amount * (mesh_.end(element, 0) + mesh_.end(element, 1)) / 2.0;
            piece.ofNode.assign(2, piece.amount / 2.0);
            take(piece);
        }
    }

    void overSheet(const PerPiece& take) const
    {
        if (!structure_.sheets[at_].material) return;
        for (std::size_t at = 0; at < mesh_.shells.size(); ++at) {
            const MeshShell& shell = mesh_.shells[at];
            if (shell.sheet != own_.at) continue;
            const double weight = mesh_.weight[static_cast<std::size_t>(shell.face)];
            const ShellEquations own = shellOf(structure_, mesh_, shell);
            SpreadPiece piece{.shell = static_cast<int>(at),
                              .nodes = {shell.nodes.begin(), shell.nodes.begin() + long(shell.corners())}};
            const Eigen::Matrix3d inAxes = weight * own.axes.transpose() * own_.tensor * own.axes;
            piece.matrix = lumps_ ? lumpedOverArea(own.element, inAxes) : overArea(own.element, inAxes);
            piece.amount = weight * perExtent_ * own.element.area();
            const Eigen::MatrixXd areas = lumpedOverArea(own.element, Eigen::Matrix3d::Identity());
            for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
                const auto row = 6 * static_cast<Eigen::Index>(corner);
                const double here = weight * perExtent_ * areas(row, row);
                piece.ofNode.push_back(here);
                piece.moment += here * (placeOf(piece.nodes[corner]) + own.arms[corner] * own.axes.col(2));
            }
            take(piece);
        }
    }

    /// Linear between the nodes.
    void alongEdge(const PerPiece& take) const
    {
        for (const auto& [first, second, length] : mesh_.piecesOfEdge(structure_, own_.at)) {
            const Eigen::Matrix2d products =
                length * (Eigen::Matrix2d() << 1.0 / 3.0, 1.0 / 6.0, 1.0 / 6.0, 1.0 / 3.0).finished();
            const Eigen::Matrix2d lumped = length / 2.0 * Eigen::Matrix2d::Identity();
            take(onNodes({first, second}, products, lumped));
        }
    }

    /// By the interpolation that the elements have there.
    void overFace(const PerPiece& take) const
    {
        for (const auto& [nodes, products] : mesh_.piecesOfFace(structure_, own_.at))
            take(onNodes(nodes, products, lumpedProducts(products)));
    }

    /// By the interpolation of the elements.
    void inSolid(const PerPiece& take) const
    {
        if (!structure_.solids[at_].material) return;
        for (const MeshSolid& solid : mesh_.solids) {
            if (solid.solid != own_.at) continue;
            SolidElement element = solidOf(structure_, mesh_, solid);
            element.acts.reset();
            element.density = 1.0; // products of the interpolation are its mass
            take(onNodes({solid.nodes.begin(), solid.nodes.begin() + long(solid.count())},
                         eachThird(consistentMass(element)), eachThird(lumpedMass(element))));
        }
    }

private:
    /// Of a matrix that is the same along x, y and z.
    static Eigen::MatrixXd eachThird(const Eigen::MatrixXd& mass)
    {
        const auto shifts = Eigen::seq(Eigen::Index(0), mass.rows() - 1, Eigen::Index(3));
        return mass(shifts, shifts);
    }

    const Eigen::Vector3d& placeOf(int node) const { return mesh_.nodes[static_cast<std::size_t>(node)].place; }

    SpreadPiece onNodes(const std::vector<int>& nodes, const Eigen::MatrixXd& products,
                        const Eigen::MatrixXd& lumped) const
    {
        SpreadPiece piece{.nodes = nodes};
        piece.matrix = inEachDirection(lumps_ ? lumped : products, own_.tensor);
        piece.amount = perExtent_ * products.sum();
        for (std::size_t at = 0; at < nodes.size(); ++at) {
            const auto row = Eigen::Index(at);
            piece.moment += perExtent_ * products.row(row).sum() * placeOf(nodes[at]);
            piece.ofNode.push_back(perExtent_ * lumped(row, row));
        }
        return piece;
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    const Attachment& own_;
    std::size_t at_;
    bool lumps_;
    double perExtent_;
};

} // namespace

void eachPiece(const Structure& structure, const FrameMesh& mesh, const Attachment& own, const PerPiece& take)
{
    const Spreading spreading(structure, mesh, own);
    switch (own.over) {
    case Target::member:
        return spreading.alongMember(take);
    case Target::sheet:
        return spreading.overSheet(take);
    case Target::edge:
        return spreading.alongEdge(take);
    case Target::face:
        return spreading.overFace(take);
    case Target::solid:
        return spreading.inSolid(take);
    case Target::point:
        return;
    }
}

} // namespace undisona
