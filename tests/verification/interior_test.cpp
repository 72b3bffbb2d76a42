// Bands and the modes nearest to a frequency, against the whole spectrum of the same equations.
#include "core/pencil/interior.hpp"
#include "tests/said_model.hpp"

#include <random>

using namespace undisona;

namespace {

/// Two storeys, held or free, with an eccentric mass; elements are stated, so that every ask has one mesh.
SaidModel house(bool held)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "2"}, {"elements", "2"}}).say("material");
    if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    return said.say("mass", {{"mass", "900 kg"}, {"points", "Frame.1.1.2"}, {"centre", "0.3, 0.2, 0.1 m"}});
}

std::shared_ptr<const Solution> asked(SaidModel said, const char* kind, const Words& words)
{
    return said.say(kind, words).solved();
}

std::string hertz(double value)
{
    return fmt::format("{:.17g} Hz", value);
}

/// The found modes are those of `all` from `first` on: frequencies, and shapes up to mixtures within a group.
void expectPart(const Solution& found, const Solution& all, std::size_t first)
{
    ASSERT_LE(first + found.modes.size(), all.modes.size());
    const auto& mass = all.system->mass;
    for (std::size_t at = 0; at < found.modes.size(); ++at) {
        const auto& truth = all.modes[first + at];
        EXPECT_NEAR(found.modes[at].frequency, truth.frequency, 1e-7 * truth.frequency + 1e-4) << first + at;
        if (truth.rigid || truth.frequency <= 0.0) continue;
        EXPECT_LT(found.modes[at].acceptedError, 1e-8) << first + at;
        const Eigen::VectorXd phi = found.shapes.col(static_cast<Eigen::Index>(at));
        double inGroup = 0.0; // how much of it lies in the space of the modes of that frequency
        for (std::size_t other = 0; other < all.modes.size(); ++other)
            if (std::abs(all.modes[other].frequency - truth.frequency) < 1e-5 * truth.frequency)
                inGroup += std::pow(all.shapes.col(static_cast<Eigen::Index>(other)).dot((mass * phi).col(0)), 2);
        EXPECT_NEAR(inGroup, 1.0, 1e-6) << first + at;
    }
    EXPECT_TRUE(found.count.proven);
    EXPECT_EQ(found.count.before, static_cast<std::int64_t>(first));
}

} // namespace

TEST(Band, HoldsExactlyTheModesBetweenItsEnds)
{
    for (const bool held : {true, false}) {
        const auto all = asked(house(held), "every-mode", {});
        ASSERT_TRUE(all->allModes);
        std::mt19937_64 dice(held ? 3 : 4);
        for (int trial = 0; trial < 12; ++trial) {
            std::size_t from = 7 + dice() % (all->modes.size() / 2), to = from + dice() % 30;
            const double low = (all->modes[from - 1].frequency + all->modes[from].frequency) / 2,
                         high = (all->modes[to].frequency + all->modes[to + 1].frequency) / 2;
            if (all->modes[from].group == all->modes[from - 1].group ||
                all->modes[to].group == all->modes[to + 1].group)
                continue; // the ends would stand on a frequency
            const auto found = asked(house(held), "band", {{"from", hertz(low)}, {"to", hertz(high)}});
            ASSERT_EQ(found->modes.size(), to - from + 1) << low << " to " << high;
            expectPart(*found, *all, from);
        }
    }
}

TEST(Band, IsSlicedWhenItHoldsMany)
{
    const auto all = asked(house(true), "every-mode", {});
    const double high = (all->modes[109].frequency + all->modes[110].frequency) / 2,
                 low = (all->modes[9].frequency + all->modes[10].frequency) / 2;
    expectPart(*asked(house(true), "band", {{"from", hertz(low)}, {"to", hertz(high)}}), *all, 10);
    const auto some = asked(house(true), "band", {{"from", hertz(low)}, {"to", hertz(high)}, {"most", "20"}});
    EXPECT_GE(some->modes.size(), 20u);
    EXPECT_LE(some->modes.size(), 22u);
    expectPart(*some, *all, 10);
    EXPECT_LT(some->count.belowHz, high) << "it says how far it has looked";
}

TEST(Band, EmptyOnesAndThoseOnRigidMotionsAreRight)
{
    const auto all = asked(house(false), "every-mode", {});
    const double low = all->modes[8].frequency * 1.00001, high = all->modes[9].frequency * 0.99999;
    const auto none = asked(house(false), "band", {{"from", hertz(low)}, {"to", hertz(high)}});
    EXPECT_TRUE(none->modes.empty());
    EXPECT_TRUE(none->count.proven);
    EXPECT_EQ(none->count.before, 9);
    SaidModel upsideDown = house(true);
    upsideDown.say("band", {{"from", "60 Hz"}, {"to", "20 Hz"}});
    ASSERT_FALSE(upsideDown.findings().empty());
    EXPECT_NE(upsideDown.findings()[0].what.find("ends before it begins"), std::string::npos);
}

TEST(Nearest, AreTheOnesNearestByFrequency)
{
    for (const bool held : {true, false}) {
        const auto all = asked(house(held), "every-mode", {});
        std::mt19937_64 dice(held ? 5 : 6);
        for (int trial = 0; trial < 12; ++trial) {
            const double target = all->modes[6 + dice() % 60].frequency * (0.9 + 0.2 * double(dice() % 1000) / 1000.0);
            const std::size_t count = 1 + dice() % 12;
            const auto found =
                asked(house(held), "nearest", {{"count", std::to_string(count)}, {"frequency", hertz(target)}});
            ASSERT_GE(found->modes.size(), count);
            std::vector<double> far;
            for (const auto& mode : all->modes)
                far.push_back(std::abs(mode.frequency - target));
            std::sort(far.begin(), far.end());
            double farthest = 0.0;
            for (const auto& mode : found->modes)
                farthest = std::max(farthest, std::abs(mode.frequency - target));
            EXPECT_LE(farthest, far[found->modes.size() - 1] * (1 + 1e-6) + 1e-3) << target << " x " << count;
            EXPECT_TRUE(found->count.proven) << target << " x " << count;
        }
    }
}

TEST(Nearest, FindsEveryCopyOfARepeatedFrequency)
{
    SaidModel said; // twenty equal posts: more copies than the block has columns
    std::string rows, members;
    for (int at = 0; at < 20; ++at) {
        rows += fmt::format("a{0}|{0} m|0 m|0 m\nb{0}|{0} m|0 m|2 m\n", at);
        members += fmt::format("m{0}|a{0}|b{0}\n", at);
    }
    said.say("points", {{"rows", rows}})
        .say("members", {{"rows", members}, {"section", "rectangle 60x30 mm"}, {"elements", "4"}})
        .say("material")
        .say("hold", {{"where", "points at z = 0 m"}, {"directions", "all"}});
    SaidModel lowest = said;
    const double first = lowest.say("lowest", {{"count", "21"}}).solved()->modes[20].frequency;
    const auto found = said.say("nearest", {{"count", "3"}, {"frequency", hertz(1.01 * first)}}).solved();
    EXPECT_EQ(found->modes.size(), 20u) << "one frequency is never cut apart";
    EXPECT_TRUE(found->count.proven);
    EXPECT_EQ(found->count.before, 20) << "those of the other plane";
    EXPECT_EQ(found->modes.front().group, found->modes.back().group);
}

TEST(Stop, AtAnyMomentGivesWhatThereIsAndNoProof)
{
    for (const char* kind : {"lowest", "band", "nearest", "mass-share"}) {
        SaidModel said = house(true);
        said.say(kind, kind == std::string("lowest") ? Words{{"count", "40"}}
                       : kind == std::string("band") ? Words{{"from", "10 Hz"}, {"to", "80 Hz"}}
                                                     : Words{});
        const auto whole = said.solved();
        int last = 0;
        for (int moment = 1; moment <= 60; ++moment) {
            int events = 0;
            Progress* running = nullptr;
            Progress progress([&](const std::string&, double) {
                if (++events == moment) running->stop();
            });
            running = &progress;
            const auto stopped = solve(said.model(), progress, {}, {.frequencies = [&](const std::vector<double>&) {
                                           if (++events == moment) running->stop();
                                       }});
            if (events < moment) break; // it was over before
            last = moment;
            if (!stopped) continue; // stopped before there was anything: a finding, no crash
            EXPECT_NE((*stopped)->stopped, (*stopped)->count.proven) << kind << " at " << moment;
            if (!(*stopped)->stopped)
                EXPECT_EQ((*stopped)->modes.size(), whole->modes.size()) << kind << " at " << moment;
            for (const auto& mode : (*stopped)->modes) // what it keeps is as good as ever
                EXPECT_LT(mode.acceptedError, 1e-7) << kind << " at " << moment << ", mode " << mode.number;
        }
        EXPECT_GT(last, 4) << kind;
        EXPECT_EQ(said.solved()->modes.size(), whole->modes.size()) << "and a stop leaves nothing behind";
    }
}
