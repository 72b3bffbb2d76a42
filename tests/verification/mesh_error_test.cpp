// The estimate against computed errors: the same structure in coarse and in very fine elements.
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// Estimated over true relative error of each mode of `coarse` elements, against many.
void compare(const std::string& section, const std::string& matrix, int coarse, double low, double high)
{
    const auto build = [&](int elements) {
        SaidModel said;
        said.say("run", {{"name", "B"},
                         {"from", "0, 0, 0 m"},
                         {"to", "3, 0, 0 m"},
                         {"section", section},
                         {"elements", std::to_string(elements)}})
            .material("200 GPa", "0.3", "8000 kg/m3");
        return said.say("hold", {{"points", "B.0"}, {"directions", "all"}})
            .say("mass-matrix", {{"matrix", matrix}})
            .say("lowest", {{"count", "8"}});
    };
    const auto rough = build(coarse).solved(), fine = build(120).solved();
    int checked = 0;
    for (std::size_t at = 0; at < 4; ++at) {
        const double truth = rough->modes[at].frequency / fine->modes[at].frequency - 1.0;
        if (std::abs(truth) < 2e-6) continue;
        ++checked;
        EXPECT_GT(rough->modes[at].meshError / truth, low) << section << " " << matrix << " mode " << at + 1 << " true "
                                                           << truth << " estimate " << rough->modes[at].meshError;
        EXPECT_LT(rough->modes[at].meshError / truth, high)
            << section << " " << matrix << " mode " << at + 1 << " true " << truth << " estimate "
            << rough->modes[at].meshError;
    }
    EXPECT_GT(checked, 1);
}

} // namespace

TEST(MeshError, EstimateFollowsTheTrueErrorOfASlenderBeam)
{
    compare("rectangle 20x35 mm", "consistent", 4, 0.6, 1.6);
}
TEST(MeshError, EstimateFollowsTheTrueErrorOfAStockyBeam)
{
    compare("rectangle 300x500 mm", "consistent", 6, 0.4, 2.5);
}

TEST(MeshError, MembersAreSplitAndSolvedOnceMoreUntilTheErrorIsSmall)
{
    SaidModel said;
    said.say("run", {{"name", "B"}, {"from", "0, 0, 0 m"}, {"to", "6, 0, 0 m"}, {"section", "rectangle 20x35 mm"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    said.say("hold", {{"points", "B.0"}, {"directions", "all"}}).say("lowest", {{"count", "10"}});
    const auto solution = said.solved();
    EXPECT_GT(solution->mesh.elements.size(), 5u);
    for (const auto& mode : solution->modes)
        EXPECT_LT(std::abs(mode.meshError), 0.006);
}
