#include "core/modal/static_state.hpp"

#include "core/modal/pencil_of.hpp"
#include "core/numerics/block_lanczos.hpp"
#include "core/numerics/shifted_factor.hpp"
#include "core/pencil/bordered.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Adds what the state adds that modes are about; what is wrong with it is kept among the problems.
void giveState(System& system, const Structure& structure, const FrameMesh& mesh, Progress& progress)
{
    Findings& problems = system.motions.problems;
    const Eigen::Index which = structure.aboutState;
    const auto& state = structure.staticStates[static_cast<std::size_t>(which)];
    const auto fails = [&](const Findings& why) { problems.insert(problems.end(), why.begin(), why.end()); };
    const AtRest atRest(structure);
    const Structure& rests = atRest.structure();
    std::optional<System> other;
    if (atRest.isHeldOtherwise()) {
        other = assemble(rests, mesh, progress);
        if (hasError(other->motions.problems)) return fails(other->motions.problems);
        if (progress.stopped()) return;
    }
    const System& slow = other ? *other : system;
    const StaticLoads loads = staticLoadsOf(rests, mesh, slow);
    Eigen::VectorXd motion;
    std::vector<ContactState> contacts;
    if (drawsTight(rests, which)) {
        auto tight = tightState(rests, mesh, slow, loads, which, progress);
        if (!tight) return fails(tight.findings());
        motion = std::move(tight->motion);
        contacts = std::move(tight->contacts);
    } else {
        auto rested = restingStates(rests, mesh, slow, loads.forces.col(which), {state.name}, progress);
        if (!rested) return fails(rested.findings());
        motion = rested->motions.col(0);
        contacts = std::move(rested->contacts.front());
    }
    const double scale = stiffestRatio(system);
    Prestress held = prestressOf(rests, mesh, slow, loads, which, motion);
    held.pressing = state.factors;
    addContacts(system, structure, mesh, contacts); // supports that are shifted hold as they did
    stiffenBy(system, structure, mesh, std::move(held));
    // Motions that release energy, but for those that only rounding makes so.
    const auto factor =
        ShiftedFactor::factorise(Analysis::of(system.stiffness), system.stiffness, -1e-11 * scale, system.mass,
                                 {.keepFactor = !system.apart.empty(), .progress = &progress});
    if (!factor) return;
    const std::int64_t released = negativeOf(matricesOf(system), *factor);
    if (released > 0)
        problems.push_back(
            errorAt(state.sentence,
                    fmt::format("the state \"{}\" has buckled: {} motion{} energy in it, and it has no modes",
                                state.name, released, released == 1 ? " releases" : "s release"),
                    "Load it less, or hold what gives way: Rest tells by which factor it buckles, and how."));
}

} // namespace

bool drawsTight(const Structure& structure, Eigen::Index state)
{
    const auto& factors = structure.staticStates[static_cast<std::size_t>(state)].factors;
    for (std::size_t at = 0; at < structure.loads.size(); ++at)
        if (structure.loads[at].kind == Load::Kind::pretension && factors[at] != 0.0) return true;
    return false;
}

Result<TightState> tightState(const Structure& structure, const FrameMesh& mesh, const System& plain,
                              const StaticLoads& loads, Eigen::Index state, Progress& progress)
{
    const std::string& name = structure.staticStates[static_cast<std::size_t>(state)].name;
    const auto solved = [&](const System& system, const StaticLoads& by) {
        return restingStates(structure, mesh, system, by.forces.col(state), {name}, progress);
    };
    const StaticLoads pulls = staticLoadsOf(structure, mesh, plain, Load::Kind::pretension);
    auto u = solved(plain, pulls);
    if (!u) return u.findings();
    Prestress held = prestressOf(structure, mesh, plain, pulls, state, u->motions.col(0)).pullsAlone();
    constexpr int mostRounds = 12;
    constexpr double within = 1e-4; // of the largest pull
    for (int round = 0; round < mostRounds; ++round) {
        TightState tight{plain, {}};
        stiffenBy(tight.system, structure, mesh, held);
        u = solved(tight.system, loads);
        if (!u) return u.findings();
        Prestress next = prestressOf(structure, mesh, plain, loads, state, u->motions.col(0)).pullsAlone();
        double largest = 0.0, change = 0.0;
        for (std::size_t at = 0; at < next.members.size(); ++at)
            for (std::size_t end = 0; end < 2; ++end) {
                largest = std::max(largest, std::abs(next.members[at][end][0]));
                change = std::max(change, std::abs(next.members[at][end][0] - held.members[at][end][0]));
            }
        tight.motion = u->motions.col(0);
        tight.contacts = std::move(u->contacts.front());
        tight.passes = u->passes.front();
        if (change <= within * largest || progress.stopped()) return tight;
        held = std::move(next);
    }
    return errorAt(
        {},
        fmt::format("the state \"{}\" does not come to rest: what is drawn tight is drawn otherwise each time "
                    "that it is",
                    name),
        "Draw it tighter, or hold more of it: it is near to buckling.");
}

System systemOf(const Structure& structure, const FrameMesh& mesh, Progress& progress)
{
    System system = assemble(structure, mesh, progress);
    if (structure.aboutState >= 0 && !hasError(system.motions.problems) && system.size() > 0 && !progress.stopped())
        giveState(system, structure, mesh, progress);
    else
        addContacts(system, structure, mesh, contactsUnasked(structure, mesh, system));
    return system;
}

namespace {

constexpr int mostSteps = 60;   // blocks of four
constexpr double within = 1e-8; // of a Ritz value

Buckling none(const System& system)
{
    return {Eigen::VectorXd(0), Eigen::MatrixXd(system.size(), 0)};
}

void scaleToOne(Eigen::MatrixXd& shapes)
{
    for (Eigen::Index at = 0; at < shapes.cols(); ++at)
        shapes.col(at) /= shapes.col(at).cwiseAbs().maxCoeff();
}

/// Goes on until so many leading pairs have converged as `enough` wants; how many have.
Eigen::Index stepUntil(BlockLanczos& lanczos, const std::function<bool(Eigen::Index)>& enough)
{
    Eigen::Index found = 0;
    for (int step = 0; step < mostSteps && !lanczos.exhausted(); ++step) {
        lanczos.step();
        found = lanczos.converged(within);
        if (found > 0 && enough(found)) break;
    }
    return lanczos.exhausted() ? lanczos.converged(within) : found;
}

} // namespace

Buckling bucklingOf(const System& system, const RestingPlace& place, const SparseSymmetric& stateStiffness,
                    Eigen::Index count)
{
    Buckling buckling = none(system);
    if (stateStiffness.norm() == 0.0 || count <= 0) return buckling;
    const Pencil pencil = matricesOf(system);
    const ShiftedPencil problem{
        system.size(), [&](const Eigen::MatrixXd& x) { return pencil.stiffnessTimes(x); },
        [&](const Eigen::MatrixXd& kx) { return place.solve(-(stateStiffness * place.solve(kx))); }};
    BlockLanczos lanczos(problem, std::min<Eigen::Index>(4, system.size()));
    const auto ofSign = [&](Eigen::Index found, double sign) {
        const Eigen::VectorXd thetas = lanczos.thetas(found);
        return (sign * thetas.array() > 1e-9 * thetas.cwiseAbs().maxCoeff()).count();
    };
    const Eigen::Index found = stepUntil(lanczos, [&](Eigen::Index some) { return ofSign(some, 1.0) >= count; });
    if (found == 0) return buckling;
    const RitzPairs pairs = lanczos.pairs(found);
    std::vector<Eigen::Index> kept;
    for (const double sign : {1.0, -1.0}) {
        const auto before = static_cast<Eigen::Index>(kept.size());
        for (Eigen::Index at = 0; at < pairs.theta.size(); ++at)
            if (sign * pairs.theta[at] > 1e-9 * std::abs(pairs.theta[0]) && Eigen::Index(kept.size()) < before + count)
                kept.push_back(at);
    }
    buckling.known =
        lanczos.exhausted() ? std::numeric_limits<double>::infinity() : 1.0 / std::abs(pairs.theta[found - 1]);
    buckling.factors = pairs.theta(kept).cwiseInverse();
    buckling.shapes = pairs.vectors(Eigen::all, kept);
    scaleToOne(buckling.shapes);
    return buckling;
}

Buckling bucklingBeyond(const System& plain, const System& withState, const RestingPlace& ofThat, Eigen::Index count)
{
    Buckling buckling = none(plain);
    const Pencil elastic = matricesOf(plain), whole = matricesOf(withState);
    const ShiftedPencil problem{
        plain.size(), [&](const Eigen::MatrixXd& x) { return whole.stiffnessTimes(x); },
        [&](const Eigen::MatrixXd& right) { return ofThat.solve(elastic.stiffnessTimes(ofThat.solve(right))); }};
    BlockLanczos lanczos(problem, std::min<Eigen::Index>(4, plain.size()));
    constexpr double presses = 1.0 + 1e-6; // what nothing presses has a value of one
    const auto above = [&](Eigen::Index some) {
        return Eigen::Index((lanczos.thetas(some).array() > presses).count());
    };
    const Eigen::Index found =
        stepUntil(lanczos, [&](Eigen::Index some) { return above(some) >= count || above(some) < some; });
    if (found == 0) return buckling;
    const RitzPairs pairs = lanczos.pairs(found);
    const Eigen::Index kept = std::min(above(found), count);
    const auto factor = [](double theta) { return theta / (theta - 1.0); };
    const double last = pairs.theta[found - 1];
    buckling.known = last > presses ? factor(last) : std::numeric_limits<double>::infinity();
    buckling.factors = pairs.theta.head(kept).unaryExpr(factor);
    buckling.shapes = pairs.vectors.leftCols(kept);
    scaleToOne(buckling.shapes);
    return buckling;
}

} // namespace undisona
