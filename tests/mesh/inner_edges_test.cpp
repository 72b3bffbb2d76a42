// Where a body turns inwards, and what stands on a piece of its surface.
#include "core/mesh/inner_edges.hpp"
#include "core/elements/surface_piece.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

FrameMesh meshed(const SaidModel& said)
{
    const Structure structure = said.structure();
    EXPECT_EQ(said.problems(), "");
    return meshOf(structure, {}, proposeSizes(structure, 1e-6));
}

/// Whether all corners of outer elements that a rule picks are those found, and no others.
void expectFound(const FrameMesh& mesh, const std::function<bool(const Eigen::Vector3d&)>& isInner, int atLeast)
{
    std::set<int> wanted;
    for (const auto& piece : mesh.outer)
        for (std::size_t at = 0; at < piece.count(); ++at)
            if (isInner(mesh.nodes[std::size_t(piece.corners[at])].place)) wanted.insert(piece.corners[at]);
    EXPECT_EQ(nodesOfInnerEdges(mesh), wanted);
    EXPECT_GE(int(wanted.size()), atLeast);
}

bool near(double one, double other)
{
    return std::abs(one - other) < 1e-9;
}

} // namespace

TEST(InnerEdges, AreWhereABodyTurnsInwards)
{
    auto angle = steel();
    angle
        .say("extrusion", {{"name", "S"},
                           {"rows", "0 mm|0 mm\n90 mm|0 mm\n90 mm|30 mm\n30 mm|30 mm\n30 mm|90 mm\n0 mm|90 mm"},
                           {"length", "80 mm"}})
        .say("solid-elements", {{"what", "S"}, {"elements", "tetrahedra"}});
    const auto mesh = meshed(angle);
    // The corner of the outline, whichever way the extrusion lays it.
    const auto low = [&](int axis) {
        double least = 1e300;
        for (const auto& node : mesh.nodes)
            least = std::min(least, node.place[axis]);
        return least;
    };
    std::vector<int> across; // axes along which the body is 90 mm wide
    for (int axis = 0; axis < 3; ++axis) {
        double most = -1e300;
        for (const auto& node : mesh.nodes)
            most = std::max(most, node.place[axis]);
        if (near(most - low(axis), 0.09)) across.push_back(axis);
    }
    ASSERT_EQ(across.size(), 2u);
    expectFound(
        mesh,
        [&](const Eigen::Vector3d& at) {
            return near(at[across[0]] - low(across[0]), 0.03) && near(at[across[1]] - low(across[1]), 0.03);
        },
        3);
}

TEST(InnerEdges, AreNotOnABoxOrABallButBetweenBodiesThatAreJoined)
{
    auto box = steel();
    box.say("solid-box", {{"name", "S"}, {"x", "90 mm"}, {"y", "60 mm"}, {"z", "40 mm"}})
        .say("solid-elements", {{"what", "S"}, {"elements", "tetrahedra"}});
    EXPECT_TRUE(nodesOfInnerEdges(meshed(box)).empty());
    auto ball = steel();
    ball.say("solid-sphere", {{"name", "S"}, {"diameter", "80 mm"}});
    EXPECT_TRUE(nodesOfInnerEdges(meshed(ball)).empty());
    // A block on a slab, each a part of its own: round its foot.
    auto both = steel();
    both.say("solid-box", {{"name", "Slab"}, {"x", "90 mm"}, {"y", "90 mm"}, {"z", "20 mm"}})
        .say("solid-box", {{"name", "Block"}, {"x", "30 mm"}, {"y", "30 mm"}, {"z", "30 mm"}, {"at", "30, 30, 20 mm"}});
    for (const char* part : {"Slab", "Block"})
        both.say("solid-elements", {{"what", part}, {"elements", "tetrahedra"}});
    expectFound(
        meshed(both),
        [](const Eigen::Vector3d& at) {
            const bool onX = near(at.x(), 0.03) || near(at.x(), 0.06), onY = near(at.y(), 0.03) || near(at.y(), 0.06);
            const bool inX =
                at.x() > 0.03 - 1e-9 && at.x()<0.06 + 1e-9, inY = at.y()> 0.03 - 1e-9 && at.y() < 0.06 + 1e-9;
            return near(at.z(), 0.02) && ((onX && inY) || (onY && inX));
        },
        4);
}

TEST(SurfacePiece, IntegratesWhatItsNodesInterpolate)
{
    // A plane triangle and a plane quadrilateral, askew in space; f and g of the order that their nodes can have.
    const Eigen::Vector3d u(0.3, 0.1, 0.2), v(-0.1, 0.4, 0.1), from(1, 2, 3);
    const auto at = [&](double r, double s) { return Eigen::Vector3d(from + r * u + s * v); };
    const double area = u.cross(v).norm();
    const std::vector<std::pair<double, double>> triangle{{0, 0}, {1, 0}, {0, 1}, {0.5, 0}, {0.5, 0.5}, {0, 0.5}},
        square{{0, 0}, {1, 0}, {1, 1}, {0, 1}, {0.5, 0}, {1, 0.5}, {0.5, 1}, {0, 0.5}};
    struct Case {
        std::vector<std::pair<double, double>> nodes;
        std::size_t count;
        double linear, second; ///< integrals of (1 + r)^2 and (r s)^2 over r and s
    };
    for (const auto& [nodes, count, linear, second] :
         {Case{triangle, 3, 11.0 / 12.0, 0.0}, Case{triangle, 6, 11.0 / 12.0, 1.0 / 180.0},
          Case{square, 4, 7.0 / 3.0, 1.0 / 9.0}, Case{square, 8, 7.0 / 3.0, 1.0 / 9.0}}) {
        std::vector<Eigen::Vector3d> places;
        Eigen::VectorXd one(count), two(count);
        for (std::size_t node = 0; node < count; ++node) {
            const auto [r, s] = nodes[node];
            places.push_back(at(r, s));
            one[Eigen::Index(node)] = 1.0 + r;
            two[Eigen::Index(node)] = r * s;
        }
        const Eigen::MatrixXd products = surfaceProducts(places), lumped = lumpedProducts(products);
        const double whole = nodes.size() == 6 ? area / 2.0 : area;
        EXPECT_NEAR(products.sum(), whole, 1e-12);
        EXPECT_NEAR(one.dot(products * one), linear * area, 1e-12) << count;
        if (second > 0.0) EXPECT_NEAR(two.dot(products * two), second * area, 1e-12) << count;
        EXPECT_TRUE(products.isApprox(products.transpose(), 1e-14));
        EXPECT_NEAR(lumped.sum(), whole, 1e-12);
        EXPECT_GT(lumped.diagonal().minCoeff(), 0.0);
        EXPECT_TRUE(lumped.isDiagonal(0.0));
    }
}

TEST(SurfacePiece, FollowsACurvedSide)
{
    // A sixteenth of a tube's wall, its nodes on it: area to the fourth order of the turn; flat it misses the second.
    constexpr double radius = 0.5, turn = std::numbers::pi / 8.0, length = 0.3;
    const auto at = [&](double part, double z) {
        return Eigen::Vector3d(radius * std::cos(part * turn), radius * std::sin(part * turn), z);
    };
    const std::vector<Eigen::Vector3d> corners{at(0, 0), at(1, 0), at(1, length), at(0, length)};
    auto curved = corners;
    for (const auto& middle : {at(0.5, 0), at(1, length / 2), at(0.5, length), at(0, length / 2)})
        curved.push_back(middle);
    const double exact = radius * turn * length;
    EXPECT_NEAR(surfaceProducts(curved).sum() / exact, 1.0, 3e-5);
    EXPECT_NEAR(surfaceProducts(corners).sum() / exact, 1.0 - turn * turn / 24.0, 2e-4);
    const Eigen::MatrixXd spread = inEachDirection(surfaceProducts(curved), Eigen::Vector3d(2.0, 0.0, 3.0).asDiagonal());
    Eigen::MatrixXd shifts = Eigen::MatrixXd::Zero(24, 3);
    for (Eigen::Index node = 0; node < 8; ++node)
        shifts.middleRows<3>(3 * node).setIdentity();
    EXPECT_TRUE((shifts.transpose() * spread * shifts)
                    .isApprox(Eigen::Matrix3d(Eigen::Vector3d(2.0 * exact, 0.0, 3.0 * exact).asDiagonal()), 3e-5));
}
