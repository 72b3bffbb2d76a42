#include "core/mesh/sweep_plan.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace undisona {

namespace {

class Planner {
public:
    Planner(const JoinedFaces& faces, const std::vector<BodyRequest>& requests) : faces_(faces), requests_(requests)
    {
        for (std::size_t body = 0; body < faces.solids.size(); ++body)
            for (const int face : faces.solids[body].faces)
                bodiesAt_[face].push_back(body);
    }

    SweepPlan planned()
    {
        plan_.bodies.resize(faces_.solids.size());
        for (std::size_t body = 0; body < plan_.bodies.size(); ++body)
            choose(body);
        while (dropOnesBesideTetrahedra() || !ordered()) {
        }
        for (std::size_t body = 0; body < plan_.bodies.size(); ++body)
            setSizes(body);
        return std::move(plan_);
    }

private:
    enum class Role { from, to, wall };

    Role roleOf(std::size_t body, int face) const
    {
        const Sweep& sweep = *plan_.bodies[body].sweep;
        return face == sweep.from ? Role::from : face == sweep.to ? Role::to : Role::wall;
    }

    void choose(std::size_t body)
    {
        if (requests_[body].elements == BodyElements::tetrahedra) return;
        for (auto& sweep : sweepsOf(faces_, faces_.solids[body])) {
            plan_.bodies[body].sweep = std::move(sweep);
            if (fitsNeighbours(body)) return;
        }
        plan_.bodies[body].sweep.reset();
        // Where nothing is asked tetrahedra stay, whose error can be estimated.
        if (requests_[body].elements != BodyElements::byShape || requests_[body].through > 0)
            plan_.bodies[body].turn = wholeTurnOf(faces_, faces_.solids[body]);
    }

    /// A face has its mesh from one body alone; walls agree, since both are even along their rails.
    bool fitsNeighbours(std::size_t body) const
    {
        for (const int face : faces_.solids[body].faces)
            for (const std::size_t other : bodiesAt_.at(face)) {
                if (other == body || !plan_.bodies[other].sweep) continue;
                const Role own = roleOf(body, face), its = roleOf(other, face);
                if ((own == Role::to && its != Role::from) || (its == Role::to && own != Role::from)) return false;
                if (linear(body) != linear(other)) return false;
            }
        return true;
    }

    bool linear(std::size_t body) const { return requests_[body].elements == BodyElements::bricks8; }

    bool dropOnesBesideTetrahedra()
    {
        bool dropped = false;
        for (const auto& [face, bodies] : bodiesAt_)
            for (const std::size_t body : bodies)
                for (const std::size_t other : bodies)
                    if (plan_.bodies[body].sweep && !plan_.bodies[other].sweep) {
                        plan_.bodies[body].sweep.reset();
                        dropped = true;
                    }
        return dropped;
    }

    /// Finds the order, or drops a body that waits for itself.
    bool ordered()
    {
        plan_.order.clear();
        std::vector<char> done(plan_.bodies.size(), 0);
        for (bool found = true; found;) {
            found = false;
            for (std::size_t body = 0; body < done.size(); ++body) {
                if (done[body] || !plan_.bodies[body].sweep) continue;
                bool waits = false;
                for (const std::size_t other : bodiesAt_.at(plan_.bodies[body].sweep->from))
                    waits = waits || (other != body && plan_.bodies[other].sweep && !done[other] &&
                                      roleOf(other, plan_.bodies[body].sweep->from) != Role::from);
                if (waits) continue;
                done[body] = 1;
                plan_.order.push_back(static_cast<int>(body));
                found = true;
            }
        }
        for (std::size_t body = 0; body < done.size(); ++body)
            if (!done[body] && plan_.bodies[body].sweep) {
                plan_.bodies[body].sweep.reset();
                return false;
            }
        return true;
    }

    void setSizes(std::size_t body)
    {
        BodyPlan& plan = plan_.bodies[body];
        const BodyRequest& request = requests_[body];
        plan.size = request.size;
        plan.linear = plan.layered() && linear(body);
        const auto through = static_cast<double>(request.through);
        if (plan.turn) return setSizesOfTurn(plan, request);
        if (!plan.sweep) {
            double area = 0.0;
            for (const int face : faces_.solids[body].faces)
                area += faces_.faces[static_cast<std::size_t>(face)].area;
            plan.thickness = area > 0.0 ? 2.0 * faces_.solids[body].volume / area : 0.0;
            if (request.through > 0) plan.size = std::min(plan.size, plan.thickness / through);
            return;
        }
        const double area = faces_.faces[static_cast<std::size_t>(plan.sweep->from)].area;
        double around = 0.0;
        for (const auto& wall : plan.sweep->walls)
            around += faces_.edges[static_cast<std::size_t>(wall.begin)].length;
        // Of a long strip its width, of a disc its diameter.
        const double compact = std::min(1.0, 4.0 * std::numbers::pi * area / (around * around));
        const double across = 2.0 * area / around * (1.0 + compact);
        plan.thinAcross = plan.sweep->length > 1.3 * across;
        plan.thickness = plan.thinAcross ? across : plan.sweep->length;
        plan.layers = std::max(1L, static_cast<long>(std::ceil(plan.sweep->length / request.size - 1e-6)));
        if (request.through == 0) {
            if (plan.linear) return;
            (plan.thinAcross ? plan.leastAcross : plan.layers) =
                std::max(plan.thinAcross ? plan.leastAcross : plan.layers, request.unsaid);
            return;
        }
        if (plan.thinAcross)
            plan.size = std::min(plan.size, across / through);
        else
            plan.layers = std::max(plan.layers, request.through);
    }

    /// The outline is thin, or the whole is a disc.
    void setSizesOfTurn(BodyPlan& plan, const BodyRequest& request) const
    {
        std::vector<Eigen::Vector2d> drawn; // distance from the axis, height
        for (const auto& part : plan.turn->parts)
            for (const double share : {0.0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875}) {
                const Eigen::Vector3d off = onOutline(faces_, *plan.turn, part, share) - plan.turn->place;
                const double height = off.dot(plan.turn->axis);
                drawn.emplace_back((off - height * plan.turn->axis).norm(), height);
            }
        double twice = 0.0, around = 0.0;
        for (std::size_t at = 0; at < drawn.size(); ++at) {
            const auto &a = drawn[at], &b = drawn[(at + 1) % drawn.size()];
            twice += a.x() * b.y() - a.y() * b.x();
            around += (b - a).norm();
        }
        const double area = std::abs(twice) / 2.0;
        plan.thinAcross = true;
        plan.thickness = 2.0 * area / around * (1.0 + std::min(1.0, 4.0 * std::numbers::pi * area / (around * around)));
        constexpr long fewest = 8; // around
        plan.layers = std::max(fewest, static_cast<long>(std::ceil(plan.turn->around / request.size - 1e-6)));
        if (request.through > 0) plan.size = std::min(plan.size, plan.thickness / double(request.through));
    }

    const JoinedFaces& faces_;
    const std::vector<BodyRequest>& requests_;
    std::map<int, std::vector<std::size_t>> bodiesAt_; ///< by face
    SweepPlan plan_;
};

} // namespace

SweepPlan planSweeps(const JoinedFaces& faces, const std::vector<BodyRequest>& ofBody)
{
    return Planner(faces, ofBody).planned();
}

} // namespace undisona
