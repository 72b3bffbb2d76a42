#include "core/modal/rest.hpp"

#include "core/modal/static_state.hpp"
#include "core/statement/warmed.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// The largest displacement, and where.
void tellMotion(const FrameMesh& mesh, const System& system, const Eigen::VectorXd& u, RestState& state)
{
    for (std::size_t node = 0; node < mesh.nodes.size(); ++node) {
        const Eigen::Vector3d moved = system.motionOf(static_cast<int>(node), u).head<3>();
        if (!(moved.norm() > state.moves * (1.0 + 1e-9))) continue;
        state.moves = moved.norm();
        state.moved = moved;
        state.at = mesh.nodes[node].place;
        const auto& own = system.motions.nodes[node].unknowns;
        state.where = own.empty() ? "" : system.motions.unknowns[static_cast<std::size_t>(own.front())].where;
    }
}

/// The largest distance of the structure from the origin, m.
double reach(const FrameMesh& mesh)
{
    double farthest = 0.0;
    for (const auto& node : mesh.nodes)
        farthest = std::max(farthest, node.place.norm());
    return farthest;
}

void tellSupports(const Structure& structure, const SupportForces& supports, const StaticLoads& onFree,
                  const FrameMesh& mesh, Eigen::Index which, const Eigen::VectorXd& u,
                  const std::vector<ContactState>& contacts, RestState& state)
{
    // Loads that are in balance by themselves are judged by what they are, not by what they come to.
    const Eigen::VectorXd forces = onFree.forces.col(which);
    double size = state.force.norm();
    for (Eigen::Index at = 0; at < forces.size(); ++at)
        if (!supports.free().motions.unknowns[static_cast<std::size_t>(at)].rotation)
            size = std::max(size, std::abs(forces[at]));
    for (const auto& contact : contacts)
        size = std::max(size, std::abs(contact.force));
    state.carried = supports.carried(u, forces + contactForces(structure, mesh, supports.free(), contacts), size,
                                     state.moment.norm());
    const auto bearing = bearingPlaces(structure, mesh, supports.free(), contacts);
    for (std::size_t at = 0; at < bearing.size(); ++at) {
        const Contact& contact = structure.contacts[at];
        if (contact.shifts) continue; // a support as others are
        const BearingPlaces& own = bearing[at];
        const bool stated = contact.stated || structure.staticStates[static_cast<std::size_t>(which)].bears.contains(
                                                  static_cast<int>(at));
        state.contacts.push_back(
            {contact.name, contact.sentence,
             contact.other < 0 ? "" : structure.frame.points[static_cast<std::size_t>(contact.other)].name,
             contact.pushes, own.bearing > 0, own.force, own.gap > 0.0 ? own.gap : own.leastGap, stated, own.sideways,
             own.slides, own.places, own.bearing});
    }
    for (auto& load : carriedByContacts(structure, bearing)) {
        const auto known = std::find_if(state.carried.begin(), state.carried.end(), [&](const CarriedLoad& own) {
            return own.sentence == load.sentence && own.point == load.point;
        });
        if (known != state.carried.end())
            known->force += load.force;
        else
            state.carried.push_back(std::move(load));
    }
    std::stable_sort(state.carried.begin(), state.carried.end(),
                     [](const auto& a, const auto& b) { return a.force.norm() > b.force.norm(); });
    Eigen::Vector3d sum = state.force;
    for (const auto& load : state.carried)
        sum += load.force;
    if (size > 0.0) state.unbalanced = sum.norm() / size;
    const double arm = reach(mesh);
    Eigen::Vector3d turning = state.moment;
    for (const auto& load : state.carried)
        turning += load.moment + load.place.cross(load.force);
    if (const double all = std::max(state.moment.norm(), size * arm); all > 0.0)
        state.unbalanced = std::max(state.unbalanced, turning.norm() / all);
}

Finding stopped()
{
    return warningAt({}, "stopped before the structure had come to rest");
}

/// What the material of a part bears, Pa; 0: not stated.
double strengthOf(const Structure& structure, const PartStress& part)
{
    const auto at = static_cast<std::size_t>(part.owner);
    const MadeOf& made = part.of == OwnerKind::member  ? static_cast<const MadeOf&>(structure.members[at])
                         : part.of == OwnerKind::sheet ? static_cast<const MadeOf&>(structure.sheets[at])
                                                       : static_cast<const MadeOf&>(structure.solids[at]);
    return made.material->strength;
}

/// Of states in which everything is as stiff as in the structure that is given.
Result<Rest> restAsStiff(const Structure& structure, const FrameMesh& mesh, long factors, Progress& progress)
{
    const System system = assemble(structure, mesh, progress);
    if (hasError(system.motions.problems)) return system.motions.problems;
    if (progress.stopped()) return stopped();
    const StaticLoads loads = staticLoadsOf(structure, mesh, system);
    std::map<Eigen::Index, std::unique_ptr<const System>> tightStates; // with what they add
    std::vector<Eigen::Index> plain; // states that draw nothing tight, and share one factor
    std::vector<std::string> names;
    for (Eigen::Index state = 0; state < loads.forces.cols(); ++state)
        if (!drawsTight(structure, state)) {
            plain.push_back(state);
            names.push_back(structure.staticStates[static_cast<std::size_t>(state)].name);
        }
    Rest rest;
    rest.unknowns = system.size();
    rest.motions.setZero(system.size(), loads.forces.cols());
    const auto tell = [&](const SupportForces& supports, const StaticLoads& onFree, Eigen::Index column,
                          const std::vector<ContactState>& contacts, int passes) {
        RestState state{structure.staticStates[static_cast<std::size_t>(column)].name,
                        loads.totals.col(column).head<3>(), loads.totals.col(column).tail<3>()};
        const Eigen::VectorXd u = rest.motions.col(column);
        tellMotion(mesh, system, u, state);
        tellSupports(structure, supports, onFree, mesh, column, u, contacts, state);
        state.passes = passes;
        return state;
    };
    const SupportForces supports(structure, mesh, system, progress);
    if (progress.stopped()) return stopped();
    const StaticLoads onFree = staticLoadsOf(structure, mesh, supports.free());
    std::vector<std::vector<ContactState>> contacts(static_cast<std::size_t>(loads.forces.cols()));
    std::vector<int> passes(contacts.size(), 0);
    if (!plain.empty()) {
        auto rested = restingStates(structure, mesh, system, loads.forces(Eigen::all, plain), names, progress);
        if (!rested) return rested.findings();
        rest.motions(Eigen::all, plain) = rested->motions;
        for (std::size_t at = 0; at < plain.size(); ++at) {
            contacts[static_cast<std::size_t>(plain[at])] = std::move(rested->contacts[at]);
            passes[static_cast<std::size_t>(plain[at])] = rested->passes[at];
        }
    }
    for (Eigen::Index state = 0; state < loads.forces.cols(); ++state) {
        if (!drawsTight(structure, state)) {
            const auto at = static_cast<std::size_t>(state);
            rest.states.push_back(tell(supports, onFree, state, contacts[at], passes[at]));
            continue;
        }
        auto tight = tightState(structure, mesh, system, loads, state, progress);
        if (!tight) return tight.findings();
        rest.motions.col(state) = tight->motion;
        SupportForces own(structure, mesh, tight->system, progress);
        own.give(*tight->system.state);
        if (progress.stopped()) return stopped();
        contacts[static_cast<std::size_t>(state)] = tight->contacts;
        rest.states.push_back(tell(own, onFree, state, tight->contacts, tight->passes));
        tightStates.emplace(state, std::make_unique<const System>(std::move(tight->system)));
    }
    Eigen::MatrixXd ends(12 * static_cast<Eigen::Index>(mesh.elements.size()), rest.motions.cols());
    for (Eigen::Index state = 0; state < ends.cols(); ++state) {
        const auto tight = tightStates.find(state);
        const System& carries = tight == tightStates.end() ? system : *tight->second;
        for (std::size_t at = 0; at < mesh.elements.size(); ++at)
            ends.block<12, 1>(12 * static_cast<Eigen::Index>(at), state) =
                endForces(carries, loads, at, state, rest.motions.col(state));
    }
    rest.endShares.resize(2 * static_cast<Eigen::Index>(mesh.elements.size()));
    for (std::size_t at = 0; at < mesh.elements.size(); ++at)
        for (int end = 0; end < 2; ++end)
            rest.endShares[2 * static_cast<Eigen::Index>(at) + end] =
                static_cast<float>(mesh.elements[at].share[static_cast<std::size_t>(end)]);
    rest.fields = stressReading(structure, mesh, system, loads, rest.motions, ends, progress);
    rest.endForces = ends.cast<float>();
    for (Eigen::Index element = 0; element < ends.rows(); element += 12) // as they are on the face towards the end
        rest.endForces.middleRows(element, 6) *= -1.0f;
    for (std::size_t at = 0; at < rest.states.size() && at < rest.fields.modes.size(); ++at)
        rest.states[at].parts = std::move(rest.fields.modes[at].parts);
    for (auto& state : rest.states)
        for (auto& part : state.parts)
            part.bears = strengthOf(structure, part);
    rest.fields.modes.clear();

    rest.buckled.resize(system.size(), 0);
    std::optional<RestingPlace> factored;
    for (std::size_t at = 0; at < rest.states.size() && factors > 0 && !progress.stopped(); ++at) {
        progress.stage("buckling");
        const auto column = static_cast<Eigen::Index>(at);
        const auto held = [&](const System& own) { // as it bears in the state
            System copy = own;
            addContacts(copy, structure, mesh, contacts[at]);
            return copy;
        };
        std::optional<System> own; // where some bear
        if (!structure.contacts.empty()) own = held(system);
        const System& elastic = own ? *own : system;
        Buckling buckling;
        if (const auto tight = tightStates.find(column); tight != tightStates.end()) {
            const System withState = held(*tight->second);
            const auto ofThat = RestingPlace::of(withState, progress);
            if (!ofThat || !ofThat->isHeld()) continue;
            buckling = bucklingBeyond(elastic, withState, *ofThat, factors);
        } else {
            if (own || !factored) { // one factor for all states where nothing bears or lifts off
                auto place = RestingPlace::of(elastic, progress);
                if (!place || !place->isHeld()) continue;
                factored = std::move(*place);
            }
            auto forces = prestressOf(structure, mesh, system, loads, column, rest.motions.col(column));
            forces.pressing = structure.staticStates[at].factors;
            buckling =
                bucklingOf(elastic, *factored, sumOf(system, tensionParts(structure, mesh, system, forces)), factors);
        }
        rest.states[at].buckles.assign(buckling.factors.begin(), buckling.factors.end());
        rest.states[at].bucklesKnown = buckling.known;
        const Eigen::Index before = rest.buckled.cols();
        rest.buckled.conservativeResize(Eigen::NoChange, before + buckling.shapes.cols());
        rest.buckled.rightCols(buckling.shapes.cols()) = buckling.shapes;
    }
    if (progress.stopped()) return stopped();
    return rest;
}

/// One state of some that were found together, for all of them in their order.
struct OneState {
    const Rest* from;
    Eigen::Index at, firstBuckled;
};

Rest inOrder(const std::vector<OneState>& states)
{
    const Rest& any = *states.front().from;
    const auto count = static_cast<Eigen::Index>(states.size());
    Rest all;
    all.unknowns = any.unknowns;
    all.endShares = any.endShares;
    all.fields.places = any.fields.places;
    all.motions.resize(any.motions.rows(), count);
    all.fields.atPlaces.resize(any.fields.atPlaces.rows(), count);
    all.fields.atEnds.resize(any.fields.atEnds.rows(), count);
    all.endForces.resize(any.endForces.rows(), count);
    all.buckled.resize(any.buckled.rows(), 0);
    for (Eigen::Index column = 0; column < count; ++column) {
        const auto& [from, at, firstBuckled] = states[static_cast<std::size_t>(column)];
        const auto take = [column, at = at](auto& to, const auto& own) {
            if (own.size() > 0) to.col(column) = own.col(at);
        };
        take(all.motions, from->motions);
        take(all.fields.atPlaces, from->fields.atPlaces);
        take(all.fields.atEnds, from->fields.atEnds);
        take(all.endForces, from->endForces);
        all.states.push_back(from->states[static_cast<std::size_t>(at)]);
        const Eigen::Index before = all.buckled.cols(), more = Eigen::Index(all.states.back().buckles.size());
        all.buckled.conservativeResize(Eigen::NoChange, before + more);
        all.buckled.rightCols(more) = from->buckled.middleCols(firstBuckled, more);
    }
    return all;
}

} // namespace

Result<Rest> restOf(const Structure& structure, const FrameMesh& mesh, long factors, Progress& progress)
{
    if (structure.staticStates.empty())
        return errorAt({}, "no load is stated, so there is no static state",
                       "Add a sentence to the group Loads, such as \"Own weight\".");
    // Those in which nothing is softer together, then each of the others.
    std::vector<std::vector<std::size_t>> groups(1);
    for (std::size_t state = 0; state < structure.staticStates.size(); ++state)
        if (softens(structure, static_cast<Eigen::Index>(state)))
            groups.push_back({state});
        else
            groups.front().push_back(state);
    if (groups.size() == 1 && structure.aboutState < 0) return restAsStiff(structure, mesh, factors, progress);
    std::vector<OneState> states(structure.staticStates.size());
    std::vector<Rest> found;
    found.reserve(groups.size());
    for (const auto& group : groups) {
        if (group.empty()) continue;
        Structure own = structure;
        own.staticStates.clear();
        for (const std::size_t state : group)
            own.staticStates.push_back(structure.staticStates[state]);
        warm(own, 0);
        auto rest = restAsStiff(own, mesh, factors, progress);
        if (!rest) return rest.findings();
        found.push_back(std::move(*rest));
        Eigen::Index buckled = 0;
        for (std::size_t at = 0; at < group.size(); ++at) {
            states[group[at]] = {&found.back(), static_cast<Eigen::Index>(at), buckled};
            buckled += static_cast<Eigen::Index>(found.back().states[at].buckles.size());
        }
    }
    return inOrder(states);
}

} // namespace undisona
