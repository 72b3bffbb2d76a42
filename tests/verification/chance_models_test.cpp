// Models as nobody would draw them on purpose: whatever is said of them must be true, or a message.
#include "tests/chance_models.hpp"

using namespace undisona;

namespace {

/// The modes of a model under an ask of its own or another; nothing where the model is refused with a reason.
std::shared_ptr<const Solution> answerTo(const Model& model, const SolveOptions& options, const std::string& where)
{
    Progress progress;
    const auto answer = solve(model, progress, options);
    if (!answer) {
        bool error = false;
        for (const auto& finding : answer.findings()) {
            error = error || finding.severity == Severity::error;
            EXPECT_EQ(finding.what.find("program is at fault"), std::string::npos) << where << oneLine(finding);
        }
        EXPECT_TRUE(error) << where << "refused without a reason";
        return nullptr;
    }
    for (const auto& mode : (*answer)->modes)
        EXPECT_TRUE(std::isfinite(mode.frequency) && mode.frequency >= 0.0 && mode.frequency < 1e12) << where;
    for (const auto& finding : (*answer)->findings)
        EXPECT_NE(finding.what.find("only "), 0u) << where << oneLine(finding);
    return *answer;
}

Ask askFor(long count)
{
    Ask ask;
    ask.count = count;
    if (count == 0) ask.until = Ask::Until::all;
    return ask;
}

std::vector<double> elastic(const Solution& solution)
{
    std::vector<double> hertz;
    for (const auto& mode : solution.modes)
        if (!mode.rigid && !mode.mechanism) hertz.push_back(mode.frequency);
    return hertz;
}

/// Leaves a model that failed where a person can open it.
struct Keeper {
    const Model& model;
    std::string path;
    bool failedBefore;
    ~Keeper()
    {
        if (failedBefore || !testing::Test::HasFailure()) return;
        Document document;
        document.model = model;
        writeDocumentFile(document, path);
    }
};

class ByChance : public testing::TestWithParam<std::tuple<ChanceFamily, unsigned>> {};

} // namespace

TEST_P(ByChance, AnswersAreOneAndTheSameHoweverAsked)
{
    const auto [family, block] = GetParam();
    const unsigned each = family == ChanceFamily::frame ? 20 : family == ChanceFamily::sheet ? 10 : 4;
    for (unsigned number = block * each; number < (block + 1) * each; ++number) {
        const Model model = chanceModel(family, number).model();
        const bool failedBefore = HasFailure();
        const Keeper keep{model, fmt::format("{}chance-{}-{}.undisona.json", testing::TempDir(), int(family), number),
                          failedBefore};
        const std::string where = fmt::format("model {}: ", number);
        answerTo(model, {}, where + "as it asks: ");
        const auto six =
            answerTo(model, {.ask = askFor(6), .meshErrors = family == ChanceFamily::frame}, where + "six: ");
        if (!six) continue;
        const auto all =
            six->system->size() < 700
                ? answerTo(model, {.ask = askFor(0), .plan = planOf(six->mesh), .meshErrors = false}, where + "all: ")
                : nullptr;
        if (all) {
            const auto few = elastic(*six), whole = elastic(*all);
            ASSERT_LE(few.size(), whole.size()) << where;
            for (std::size_t at = 0; at < few.size(); ++at)
                EXPECT_NEAR(few[at], whole[at], 1e-6 * whole[at] + 1e-7 * few.back()) << where << "mode " << at + 1;
        }
        // Stiff springs in place of what is rigid: far below what they do by themselves they change nothing.
        const double stiff = family == ChanceFamily::solid ? 1e13 : 1e12; // beside what a corner of a solid gives way
        const auto soft = withStiffSprings(model, stiff, stiff / 10.0);
        if (!soft) continue;
        const auto sprung = answerTo(*soft, {.ask = askFor(6), .plan = planOf(six->mesh), .meshErrors = false},
                                     where + "stiff springs: ");
        if (!sprung) continue;
        const auto rigid = elastic(*six), springs = elastic(*sprung);
        for (std::size_t at = 0; at < std::min(rigid.size(), springs.size()); ++at)
            if (springs[at] < 500.0 || rigid[at] < 500.0)
                EXPECT_NEAR(rigid[at], springs[at], 2e-3 * springs[at] + 1e-4) << where << "mode " << at + 1;
    }
}

INSTANTIATE_TEST_SUITE_P(Frames, ByChance,
                         testing::Combine(testing::Values(ChanceFamily::frame), testing::Range(0u, 5u)));
INSTANTIATE_TEST_SUITE_P(Sheets, ByChance,
                         testing::Combine(testing::Values(ChanceFamily::sheet), testing::Range(0u, 3u)));
INSTANTIATE_TEST_SUITE_P(Solids, ByChance,
                         testing::Combine(testing::Values(ChanceFamily::solid), testing::Range(0u, 5u)));
