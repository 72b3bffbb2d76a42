#include "bench/lattice.hpp"

#include "core/elements/member.hpp"

namespace undisona {

MatrixPair latticeBridge(int bays)
{
    Material steel;
    steel.modulus = 210e9;
    steel.poisson = 0.3;
    steel.density = 7850;
    const Section leg = tubeSection(0.076, 0.006), girt = tubeSection(0.042, 0.003);
    const double side = 1.0, bay = 1.2;
    const std::int64_t count = 24LL * bays;
    SparseAssembler stiff(count), massive(count);
    const auto place = [&](int level, int corner) {
        return Eigen::Vector3d(bay * level, corner == 1 || corner == 2 ? side : 0.0, corner >= 2 ? side : 0.0);
    };
    const auto member = [&](const Section& section, int levelA, int cornerA, int levelB, int cornerB) {
        const Eigen::Vector3d along = place(levelB, cornerB) - place(levelA, cornerA);
        const auto element = memberElement(section, steel, along.norm(), 1.0);
        Eigen::Matrix3d axes;
        axes.col(0) = along.normalized();
        axes.col(1) = axes.col(0).unitOrthogonal();
        axes.col(2) = axes.col(0).cross(axes.col(1));
        Matrix12 turn = Matrix12::Zero();
        for (int at = 0; at < 4; ++at)
            turn.block<3, 3>(3 * at, 3 * at) = axes.transpose();
        const Matrix12 k = turn.transpose() * stiffness(element) * turn,
                       m = turn.transpose() * consistentMass(element) * turn;
        std::vector<int> unknowns, own;
        for (int end = 0; end < 2; ++end) {
            const int level = end == 0 ? levelA : levelB, corner = end == 0 ? cornerA : cornerB;
            if (level == 0) continue; // clamped
            for (int direction = 0; direction < 6; ++direction) {
                unknowns.push_back(24 * (level - 1) + 6 * corner + direction);
                own.push_back(6 * end + direction);
            }
        }
        stiff.add(unknowns, k(own, own));
        massive.add(unknowns, m(own, own));
    };
    for (int level = 1; level <= bays; ++level)
        for (int corner = 0; corner < 4; ++corner) {
            const int next = (corner + 1) % 4;
            member(leg, level - 1, corner, level, corner);
            member(girt, level, corner, level, next);
            member(girt, level - 1, level % 2 ? corner : next, level, level % 2 ? next : corner);
        }
    for (int level = 20; level <= bays; level += 20) // stands on two of its legs
        for (const int corner : {0, 1})
            for (int direction = 1; direction < 3; ++direction)
                stiff.add({24 * (level - 1) + 6 * corner + direction}, Eigen::MatrixXd::Constant(1, 1, 5e7));
    return {stiff.finish(), massive.finish()};
}

} // namespace undisona
