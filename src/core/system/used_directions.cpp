#include "core/system/used_directions.hpp"

#include "core/elements/member.hpp"

namespace undisona {

namespace {

class Collector {
public:
    Collector(const Structure& structure, const FrameMesh& mesh, const std::function<std::size_t(std::size_t)>& root)
        : structure_(structure), mesh_(mesh), root_(root), points_(structure.frame.points.size())
    {
    }

    std::map<std::size_t, UsedDirections> collected()
    {
        for (const auto& element : mesh_.elements)
            for (int end = 0; end < 2; ++end)
                member(element, end);
        for (const auto& shell : mesh_.shells)
            for (std::size_t corner = 0; corner < shell.corners(); ++corner)
                shift(shell.nodes[corner], !structure_.sheets[static_cast<std::size_t>(shell.sheet)].membrane);
        for (const auto& solid : mesh_.solids)
            for (std::size_t node = 0; node < solid.count(); ++node)
                shift(solid.nodes[node], false);
        for (const auto& mass : structure_.pointMasses)
            pointMass(mass);
        for (const auto& spring : structure_.springs) {
            const Eigen::Vector3d middle = (placeOf(spring.from) + placeOf(spring.to)) / 2.0;
            std::array<double, 6> along{};
            Eigen::Map<Eigen::Matrix<double, 6, 1>>(along.data()) = spring.stiffness.diagonal();
            for (const int point : {spring.from, spring.to})
                springAt(point, spring.axes, along, middle);
        }
        for (const auto& contact : structure_.contacts)
            if (contact.other >= 0)
                for (const int point : {contact.point, contact.other})
                    way(point, placeOf(point), contact.pushes, false);
        for (const auto& hold : structure_.holds)
            if (hold.on == Target::point) {
                std::array<double, 6> all = hold.elastic;
                for (std::size_t at = 0; at < 6; ++at)
                    if (hold.rigid[at]) all[at] = 1.0;
                springAt(hold.at, hold.axes, all, placeOf(hold.at));
            }
        return std::move(used_);
    }

private:
    const Eigen::Vector3d& placeOf(int node) const { return mesh_.nodes[static_cast<std::size_t>(node)].place; }

    /// A way at a place: a shift or a turn along the direction.
    void way(int node, const Eigen::Vector3d& place, const Eigen::Vector3d& direction, bool turn)
    {
        if (node < 0) return;
        const std::size_t body = root_(static_cast<std::size_t>(node));
        if (body >= points_) return; // of parts alone, where each has stiffness; but nodes of them may follow a point
        auto& sum = used_.try_emplace(body, UsedDirections::Zero()).first->second;
        Eigen::Matrix<double, 6, 1> motion = Eigen::Matrix<double, 6, 1>::Zero();
        if (turn) {
            motion.tail<3>() = direction;
        } else {
            motion.head<3>() = direction;
            motion.tail<3>() = (place - placeOf(static_cast<int>(body))).cross(direction); // d . (r x arm)
            if (motion.tail<3>().norm() > 1.0) motion /= motion.tail<3>().norm();
        }
        sum += motion * motion.transpose();
    }
    void shift(int node, bool turns)
    {
        for (int axis = 0; axis < 3 && node >= 0; ++axis) {
            way(node, placeOf(node), Eigen::Vector3d::Unit(axis), false);
            if (turns) way(node, placeOf(node), Eigen::Vector3d::Unit(axis), true);
        }
    }

    void member(const MeshElement& element, int end)
    {
        const auto which = static_cast<std::size_t>(end), index = static_cast<std::size_t>(element.member);
        const int node = element.nodes[which];
        const auto& properties = structure_.members[index];
        const Eigen::Vector3d place = mesh_.end(element, end),
                              x = (mesh_.end(element, 1) - mesh_.end(element, 0)).normalized();
        const Eigen::Vector3d& drawn = structure_.frame.members[index].zAxis;
        Eigen::Matrix3d axes;
        axes.col(0) = x;
        axes.col(2) = (drawn - drawn.dot(x) * x).normalized();
        axes.col(1) = axes.col(2).cross(x);
        const bool atEnd = end == 0 ? element.share[0] == 0.0 : element.share[1] == 1.0;
        for (int direction = 0; direction < (properties.rod ? 3 : 6); ++direction) {
            const auto at = 6 * which + static_cast<std::size_t>(direction);
            if (atEnd && properties.released[at] && properties.releaseSpring[at] == 0.0) continue;
            way(node, place, axes.col(direction % 3), direction >= 3);
        }
    }

    void pointMass(const PointMass& mass)
    {
        const Eigen::Vector3d place = placeOf(mass.point) + mass.centre;
        for (int axis = 0; axis < 3; ++axis)
            if (mass.mass != 0.0 && mass.acts[static_cast<std::size_t>(axis)])
                way(mass.point, place, Eigen::Vector3d::Unit(axis), false);
        if (mass.acts != Mask3{true, true, true} || mass.inertia.isZero()) return;
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> eigen(mass.inertia);
        for (int axis = 0; axis < 3; ++axis)
            if (eigen.eigenvalues()[axis] > 1e-12 * eigen.eigenvalues()[2])
                way(mass.point, place, eigen.eigenvectors().col(axis), true);
    }

    void springAt(int point, const Eigen::Matrix3d& axes, const std::array<double, 6>& stiffness,
                  const Eigen::Vector3d& place)
    {
        for (int direction = 0; direction < 6; ++direction)
            if (stiffness[static_cast<std::size_t>(direction)] > 0.0)
                way(point, place, axes.col(direction % 3), direction >= 3);
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    const std::function<std::size_t(std::size_t)>& root_;
    std::size_t points_;
    std::map<std::size_t, UsedDirections> used_;
};

} // namespace

std::map<std::size_t, UsedDirections> usedDirections(const Structure& structure, const FrameMesh& mesh,
                                                     const std::function<std::size_t(std::size_t)>& root)
{
    return Collector(structure, mesh, root).collected();
}

} // namespace undisona
