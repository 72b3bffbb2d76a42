// What remedies cost: the map of one mode over a large sheet, one modal modification, the ranked list of the radar
// mast.
#include "bench/seconds_of.hpp"
#include "core/modal/pass.hpp"
#include "core/model/document_io.hpp"
#include "core/remedy/candidate.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

using namespace undisona;

namespace {

void map()
{
    SaidModel said = steel();
    said.say("plate",
             {{"name", "Plate"}, {"length", "2 m"}, {"width", "1 m"}, {"thickness", "10 mm"}, {"size", "4.5 mm"}})
        .say("hold", {{"where", "edges of Plate"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "4"}});
    Progress progress;
    const auto solution = solve(said.model(), progress, {.meshErrors = false});
    if (!solution) return;
    double seconds = 0.0, most = 0.0;
    seconds = secondsOf([&] { most = slopesOfMass(**solution, 1).minCoeff(); });
    fmt::print("map of one mode over {} nodes: {:.3f} s (aim 0.3; {:.3g} Hz/kg at most)\n",
               (*solution)->mesh.nodes.size(), seconds, most);
}

void modification(const Solution& solution, const System& system)
{
    const int node = static_cast<int>(solution.structure->frame.points.size()) - 1;
    ResidualVectors beside;
    const ModifiedModes modes(solution, 40, &beside);
    const Eigen::MatrixXd motion = modes.motionOf(node).topRows<3>(), mass = 20.0 * motion.transpose() * motion,
                          none = Eigen::MatrixXd::Zero(modes.size(), modes.size());
    constexpr int times = 50;
    double lowest = 0.0;
    const double seconds = secondsOf([&] {
        for (int time = 0; time < times; ++time)
            lowest += modes.with(none, mass).hertz[0];
    });
    fmt::print("modal modification on {} vectors, {} unknowns: {:.2f} ms (aim 5)\n", modes.size(), system.size(),
               1000.0 * seconds / times);
    if (!(lowest > 0.0)) fmt::print("no frequency came out\n");
}

void list(const Model& model, const Solution& solution, const System& system)
{
    Progress progress;
    KeptRuns kept;
    RemedyOrder order;
    for (const bool words : {false, true}) {
        order.words = words;
        std::size_t found = 0;
        const double seconds = secondsOf([&] {
            if (const auto remedy = remediesFor(model, solution, system, order, progress, &kept))
                found = remedy->proposals.size();
        });
        fmt::print("ranked list of {} unknowns{}: {:.2f} s for {} proposals (aim 5)\n", system.size(),
                   words ? ", with every word" : "", seconds, found);
    }
}

} // namespace

int main()
{
    const auto document = readDocumentFile(EXAMPLES "/radar-mast.undisona.json");
    if (!document) return 1;
    Progress progress;
    Ask ask;
    ask.count = 40;
    const auto solution = solve(document->model, progress, {.ask = ask, .meshErrors = false});
    if (!solution) return 1;
    const Pass equations = equationsOf(*(*solution)->structure, planOf((*solution)->mesh), progress);
    modification(**solution, *equations.system);
    list(document->model, **solution, *equations.system);
    map();
    return 0;
}
