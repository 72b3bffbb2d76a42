// What static states cost: a state beside the factor of the same K, forty supports that only push, the stiffness of a
// state beside K's own assembly, buckling factors. Each as a ratio of times in this run.
#include "bench/seconds_of.hpp"
#include "core/modal/static_state.hpp"
#include "core/numerics/signed_factor.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

using namespace undisona;

namespace {

/// A held plate of about so many nodes that its own weight bends and a force presses in its plane.
SaidModel plate(int nodes)
{
    SaidModel said = steel();
    return said
        .say("plate", {{"name", "Plate"},
                       {"length", "2 m"},
                       {"width", "1 m"},
                       {"thickness", "10 mm"},
                       {"size", metres(std::sqrt(2.0 / nodes))}})
        .say("hold", {{"where", "edges at x = 0 m of Plate"}, {"directions", "all"}})
        .say("own-weight", {{"state", "hung"}})
        .say("force", {{"load", "-20 kN/m"},
                       {"direction", "1, 0, 0"},
                       {"where", "edges at x = 2 m of Plate"},
                       {"state", "pressed"}});
}

/// A pipe run over forty hangers that it may lift off, warmed at one end.
SaidModel pipe(int elements)
{
    SaidModel said = steel();
    std::string points = "p0|0 m|0 m|0 m\n", rows, hangers;
    for (int at = 1; at <= 40; ++at) {
        points += fmt::format("p{}|{} m|0 m|0 m\n", at, 2 * at);
        rows += fmt::format("s{0}|p{1}|p{0}\n", at, at - 1);
        hangers += (at > 1 ? ", p" : "p") + std::to_string(at);
    }
    return said.say("points", {{"rows", points}})
        .say("members", {{"name", "Pipe"}, {"rows", rows}, {"section", "tube 88.9x3.2 mm"}})
        .say("fineness", {{"elements", std::to_string(elements)}})
        .say("hold", {{"where", "p0"}, {"directions", "all"}})
        .say("rests-on", {{"points", hangers}, {"direction", "0, 0, 1"}, {"stiffness", "3 kN/mm"}})
        .say("own-weight")
        .say("force", {{"load", "900 N"}, {"direction", "0, 0, 1"}, {"where", "p17, p33"}});
}

struct Made {
    Structure structure;
    FrameMesh mesh;
    System system;
    double assembly = 0.0, factor = 0.0; ///< s
};

Made made(const SaidModel& said)
{
    Progress progress;
    Made own{said.structure(), {}, {}};
    const Structure& s = own.structure;
    own.mesh = meshOf(s, proposeSplits(s, 0.0), proposeSizes(s, 0.0));
    own.assembly = secondsOf([&] { own.system = assemble(s, own.mesh, progress); });
    own.factor = secondsOf([&] { SignedFactor::definite(own.system.stiffness); });
    return own;
}

void states()
{
    Progress progress;
    const Made own = made(plate(20'000));
    const auto place = RestingPlace::of(own.system, progress);
    StaticLoads loads;
    Eigen::MatrixXd u;
    const double beside = secondsOf([&] {
        loads = staticLoadsOf(own.structure, own.mesh, own.system);
        u = *place->motions(loads.forces, {"hung", "pressed"});
    });
    fmt::print("a plate of {} unknowns: assembled in {:.1f} s, factorised in {:.1f} s\n", own.system.size(),
               own.assembly, own.factor);
    fmt::print("  two static states by the factor at hand: {:.2f} of it (aim 0.2)\n", beside / own.factor);
    SparseSymmetric stiffer;
    const double tension = secondsOf([&] {
        stiffer = sumOf(own.system, tensionParts(own.structure, own.mesh, own.system,
                                                 prestressOf(own.structure, own.mesh, own.system, loads, 1, u.col(1))));
    });
    fmt::print("  the stiffness of a state: {:.2f} of the assembly (aim 1)\n", tension / own.assembly);
    Buckling buckling;
    const double buckles = secondsOf([&] { buckling = bucklingOf(own.system, *place, stiffer, 4); });
    fmt::print("  four buckling factors, the first {:.3g}: {:.1f} factorisations\n", buckling.factors[0],
               buckles / own.factor);
}

void hangers()
{
    Progress progress;
    const Made own = made(pipe(84));
    const StaticLoads loads = staticLoadsOf(own.structure, own.mesh, own.system);
    std::optional<RestingStates> found;
    const double rested = secondsOf([&] {
        if (auto states = restingStates(own.structure, own.mesh, own.system, loads.forces, {"loaded"}, progress))
            found = *states;
    });
    const auto& contacts = found->contacts.front();
    fmt::print("a pipe of {} unknowns on forty hangers: {} lift off, settled in {} passes, {:.1f} factorisations in "
               "all, the analysis of the pattern with each (aim 10)\n",
               own.system.size(),
               std::count_if(contacts.begin(), contacts.end(), [](const auto& one) { return !one.bears; }),
               found->passes.front(), rested / own.factor);
}

} // namespace

int main()
{
    states();
    hangers();
}
