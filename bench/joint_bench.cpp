// What joints cost: a plate with a device on many of its nodes over the bare plate, two plates joined over one, and a
// member through a plate. Each as a ratio of times in this run; with the argument "large" on 50 000 nodes too.
#include "bench/seconds_of.hpp"
#include "core/system/surface_joint.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

#include <cstring>

using namespace undisona;

namespace {

/// A held plate of sheet with about so many nodes.
SaidModel plate(int nodes)
{
    SaidModel said = steel();
    said.say("plate", {{"name", "Plate"},
                       {"length", "2 m"},
                       {"width", "1 m"},
                       {"thickness", "10 mm"},
                       {"size", metres(std::sqrt(2.0 / nodes))}})
        .say("hold", {{"where", "edges of Plate"}, {"directions", "x y z"}});
    return said;
}

struct Solved {
    double seconds = 0.0;
    Eigen::Index unknowns = 0;
    std::shared_ptr<const Solution> solution;
};

Solved solvedIn(SaidModel said)
{
    said.say("lowest", {{"count", "8"}});
    Solved solved;
    Progress progress;
    solved.seconds = secondsOf([&] {
        if (auto found = solve(said.model(), progress)) solved.solution = *found;
    });
    if (solved.solution) solved.unknowns = solved.solution->system->size();
    return solved;
}

void devices(int nodes)
{
    const Solved bare = solvedIn(plate(nodes));
    fmt::print("a plate of {} unknowns, 8 modes: {:.1f} s\n", bare.unknowns, bare.seconds);
    for (const char* how : {"in the mean", "as one rigid body"}) {
        SaidModel said = plate(nodes);
        said.say("carried", {{"name", "Pump"}, {"mass", "40 kg"}, {"where", "Plate"}, {"how", how}});
        const Solved with = solvedIn(said);
        fmt::print("  a device on all of its nodes {}: {:.2f} of that (aim 1.2)\n", how, with.seconds / bare.seconds);
        std::fflush(stdout);
    }
}

/// Two plates on each other whose meshes do not match.
void joined(int nodes)
{
    SaidModel one = plate(nodes), two = plate(nodes);
    two.say("plate", {{"name", "Lining"},
                      {"length", "2 m"},
                      {"width", "1 m"},
                      {"at", "0, 0, 20 mm"},
                      {"thickness", "10 mm"},
                      {"size", metres(1.07 * std::sqrt(2.0 / nodes))}})
        .say("join", {{"what", "Lining"}, {"other", "Plate"}});
    const Solved both = solvedIn(two);
    const Structure& structure = *both.solution->structure;
    Findings findings;
    const std::vector<char> held(both.solution->mesh.nodes.size(), 0);
    std::size_t followers = 0;
    const double search = secondsOf([&] {
        followers = followersOf(structure, both.solution->mesh, structure.surfaceJoints[0], held, findings).size();
    });
    fmt::print("two plates joined by {} nodes, {} unknowns: {:.1f} s, the search and rows {:.2f} of it\n", followers,
               both.unknowns, both.seconds, search / both.seconds);
    SaidModel through = plate(nodes);
    through.say("points", {{"rows", "low|0.7 m|0.4 m|-0.5 m\nhigh|0.7 m|0.4 m|0.5 m"}})
        .say("members", {{"name", "Post"}, {"rows", "Post|low|high"}, {"section", "tube 60x4 mm"}, {"elements", "8"}})
        .say("join", {{"what", "Post"}, {"other", "Plate"}});
    const Solved bare = solvedIn(one), post = solvedIn(through);
    fmt::print("a post through a plate of {} unknowns: {:.2f} of the bare plate\n", post.unknowns,
               post.seconds / bare.seconds);
    std::fflush(stdout);
}

} // namespace

int main(int count, char** words)
{
    const bool large = count > 1 && std::strcmp(words[1], "large") == 0;
    for (const int nodes : large ? std::vector<int>{5000, 50000} : std::vector<int>{5000}) {
        devices(nodes);
        joined(nodes);
    }
}
