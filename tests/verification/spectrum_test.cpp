// Whole spectra that are known beforehand: planted in sparse pairs, demanded by symmetry, or from a dense solver.
#include "bench/brick_block.hpp"
#include "core/base/number_text.hpp"
#include "core/modal/bare_pair.hpp"
#include "core/pencil/hertz.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <random>

using namespace undisona;

namespace {

/// K = T' diag(stiffness) T and M = T' diag(mass) T with a sparse T of unit diagonal: where the mass is 1 the
/// stiffness is an eigenvalue and T phi its unit vector; where it is 0 the direction has stiffness alone.
struct PlantedPair {
    Eigen::MatrixXd turn;
    Eigen::VectorXd stiffness, mass;
    SparseSymmetric k, m;
    std::vector<double> lambda; ///< the finite ones, ascending

    explicit PlantedPair(std::uint64_t seed)
    {
        std::mt19937_64 dice(seed);
        const auto upTo = [&](int most) { return static_cast<Eigen::Index>(dice() % std::uint64_t(most + 1)); };
        const auto share = [&] { return double(dice() % 100000) / 100000.0; };
        const Eigen::Index size = 60 + upTo(140);
        std::vector<double> values(static_cast<std::size_t>(upTo(9)), 0.0); // motions without energy
        const auto roomFor = [&](Eigen::Index more) { return Eigen::Index(values.size()) + more < size - 8; };
        while (roomFor(20)) {
            const double at = 5.0 + 2000.0 * share();
            const int kind = static_cast<int>(dice() % 4);
            if (kind == 0) // the same many times, beyond the size of a block too
                values.insert(values.end(), static_cast<std::size_t>(2 + upTo(12)), at);
            else if (kind == 1) // nearly the same
                for (Eigen::Index more = 0, most = 3 + upTo(8); more < most; ++more)
                    values.push_back(at * (1.0 + 1e-7 * double(more)));
            else
                values.push_back(at);
        }
        std::shuffle(values.begin(), values.end(), dice);
        turn = Eigen::MatrixXd::Identity(size, size);
        stiffness.resize(size);
        mass.resize(size);
        SparseAssembler forK(size), forM(size);
        for (Eigen::Index at = 0; at < size; ++at) {
            const bool massless = at >= Eigen::Index(values.size());
            stiffness[at] = massless ? 30.0 + 1e3 * share() : values[static_cast<std::size_t>(at)];
            mass[at] = massless ? 0.0 : 1.0;
            std::vector<int> touched{static_cast<int>(at)};
            for (int more = 0; more < 3 && at > 0; ++more) {
                const auto other = static_cast<int>(upTo(static_cast<int>(at) - 1));
                if (std::find(touched.begin(), touched.end(), other) == touched.end()) touched.push_back(other);
            }
            Eigen::VectorXd row(static_cast<Eigen::Index>(touched.size()));
            for (std::size_t which = 0; which < touched.size(); ++which) {
                row[static_cast<Eigen::Index>(which)] = which == 0 ? 1.0 : 0.5 * share() - 0.25;
                turn(at, touched[which]) = row[static_cast<Eigen::Index>(which)];
            }
            forK.add(touched, stiffness[at] * row * row.transpose());
            forM.add(touched, mass[at] * row * row.transpose());
        }
        k = forK.finish();
        m = forM.finish();
        lambda = std::move(values);
        std::sort(lambda.begin(), lambda.end());
    }

    /// How much of a mode of that eigenvalue lies in the directions planted for it.
    double within(const Eigen::VectorXd& phi, double at) const
    {
        const Eigen::VectorXd own = turn * phi;
        double sum = 0.0;
        for (Eigen::Index row = 0; row < own.size(); ++row)
            if (mass[row] > 0.0 && std::abs(stiffness[row] - at) <= 1e-5 * at + 1e-9) sum += own[row] * own[row];
        return sum;
    }
    std::size_t below(double hertz) const
    {
        return static_cast<std::size_t>(std::lower_bound(lambda.begin(), lambda.end(), toLambda(hertz)) -
                                        lambda.begin());
    }
    /// A frequency midway between two planted ones that are not neighbours in a cluster; `at` is moved up to it.
    double gapAbove(std::size_t& at) const
    {
        while (at + 1 < lambda.size() && lambda[at + 1] < 1.001 * lambda[at] + 1e-6)
            ++at;
        const double next = at + 1 < lambda.size() ? lambda[at + 1] : 1.1 * lambda[at];
        return (toHertz(lambda[at]) + toHertz(next)) / 2.0;
    }
};

void expectPlanted(const PlantedPair& pair, const Extraction& found, std::size_t first, const std::string& what)
{
    EXPECT_TRUE(found.check.proven) << what << ": " << found.check.expected << " expected, " << found.check.found;
    ASSERT_LE(first + static_cast<std::size_t>(found.lambda.size()), pair.lambda.size()) << what;
    for (Eigen::Index at = 0; at < found.lambda.size(); ++at) {
        const double truth = pair.lambda[first + static_cast<std::size_t>(at)];
        EXPECT_NEAR(std::sqrt(std::max(0.0, found.lambda[at])), std::sqrt(truth),
                    (1e-9 + 10.0 * found.floor[at]) * std::sqrt(truth) + 1e-5)
            << what << ", mode " << at;
        EXPECT_NEAR(pair.within(found.shapes.col(at), truth), 1.0, 1e-9) << what << ", mode " << at;
    }
    const Eigen::MatrixXd gram = found.shapes.transpose() * (pair.m * found.shapes);
    EXPECT_LT((gram - Eigen::MatrixXd::Identity(gram.rows(), gram.cols())).cwiseAbs().maxCoeff(), 1e-8) << what;
}

/// K phi = lambda M phi by a dense solver on M phi = mu (K + a M) phi: all of it, ascending.
struct DenseSpectrum {
    Eigen::VectorXd lambda;
    Eigen::MatrixXd shapes; ///< unit modal mass
};
DenseSpectrum denseSpectrum(const SparseSymmetric& stiffness, const SparseSymmetric& mass, double a)
{
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(stiffness.size, stiffness.size);
    const Eigen::MatrixXd k = stiffness * identity, m = mass * identity;
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen(m, k + a * m);
    std::vector<Eigen::Index> finite;
    for (Eigen::Index at = k.rows(); at-- > 0;)
        if (eigen.eigenvalues()[at] > 1e-13 * eigen.eigenvalues()[k.rows() - 1]) finite.push_back(at);
    const Eigen::VectorXd mu = eigen.eigenvalues()(finite);
    return {mu.cwiseInverse().array() - a,
            eigen.eigenvectors()(Eigen::all, finite) * mu.cwiseSqrt().cwiseInverse().asDiagonal()};
}

/// The sine of the largest angle, in M, between a group of modes and the dense solver's modes of its frequency.
double angle(const DenseSpectrum& truth, const SparseSymmetric& mass, const Eigen::MatrixXd& group, double lambda)
{
    std::vector<Eigen::Index> own;
    for (Eigen::Index at = 0; at < truth.lambda.size(); ++at)
        if (std::abs(truth.lambda[at] - lambda) <= 1e-5 * lambda) own.push_back(at);
    const Eigen::MatrixXd space = truth.shapes(Eigen::all, own);
    const Eigen::MatrixXd outside = group - space * (space.transpose() * (mass * group));
    const Eigen::MatrixXd gram = outside.transpose() * (mass * outside);
    return std::sqrt(std::max(0.0, Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(gram).eigenvalues().maxCoeff()));
}

/// How many modes share each frequency, in order.
std::vector<int> copies(const std::vector<double>& hertz)
{
    std::vector<int> list;
    for (std::size_t at = 0; at < hertz.size(); ++at)
        if (at > 0 && hertz[at] < hertz[at - 1] * (1.0 + 1e-6))
            ++list.back();
        else
            list.push_back(1);
    return list;
}

std::vector<double> elasticHertz(const Solution& solution)
{
    std::vector<double> list;
    for (const auto& mode : solution.modes)
        if (!mode.rigid) list.push_back(mode.frequency);
    return list;
}

} // namespace

TEST(PlantedSpectrum, IsFoundHoweverItIsAskedForInTwoHundredPairs)
{
    int free = 0, many = 0;
    for (std::uint64_t seed = 1; seed <= 200; ++seed) {
        const PlantedPair pair(seed);
        const std::string what = "seed " + std::to_string(seed);
        std::mt19937_64 dice(seed);
        const std::size_t zeros = pair.below(1e-3), finite = pair.lambda.size();
        free += zeros > 0;
        Ask ask;
        Progress progress;
        std::size_t first = 0, last = zeros + dice() % (finite / 2), begin = zeros + finite / 4;
        switch (seed % 5) {
        case 0:
            ask.count = static_cast<long>(1 + dice() % (finite - 1));
            many += 2 * ask.count > Eigen::Index(pair.stiffness.size());
            break;
        case 1:
            ask.until = Ask::Until::frequency;
            ask.frequency = pair.gapAbove(last);
            ask.count = 10000;
            break;
        case 2:
            ask.until = Ask::Until::band;
            ask.from = pair.gapAbove(begin);
            last = begin + 1 + dice() % (finite / 4);
            ask.frequency = pair.gapAbove(last);
            ask.count = 10000;
            first = begin + 1;
            break;
        case 3:
            ask.until = Ask::Until::all;
            break;
        default:
            ask.until = Ask::Until::nearest;
            ask.frequency = pair.gapAbove(begin) * 1.0001;
            ask.count = static_cast<long>(1 + dice() % 12);
        }
        const auto found = modesOfPair(pair.k, pair.m, ask, progress);
        ASSERT_TRUE(found) << what << ": " << found.findings()[0].what;
        const auto size = static_cast<std::size_t>(found->lambda.size());
        if (ask.until == Ask::Until::count) EXPECT_GE(size, std::size_t(ask.count)) << what;
        if (ask.until == Ask::Until::frequency) EXPECT_EQ(size, last + 1) << what;
        if (ask.until == Ask::Until::band) EXPECT_EQ(size, last - begin) << what;
        if (ask.until == Ask::Until::all) EXPECT_EQ(size, finite) << what << ": the rank of the mass";
        if (ask.until == Ask::Until::nearest) {
            EXPECT_GE(size, std::size_t(ask.count)) << what;
            first = static_cast<std::size_t>(found->check.before);
        }
        expectPlanted(pair, *found, first, what);
    }
    EXPECT_GT(free, 100);
    EXPECT_GT(many, 10);
}

TEST(DenseSolver, GivesTheSameFrequenciesAndTheSameSpacesOnGeneratedFrames)
{
    for (std::uint64_t seed = 1; seed <= 24; ++seed) {
        std::mt19937_64 dice(seed);
        const auto number = [&](int low, int high) {
            return std::to_string(low + int(dice() % std::uint64_t(high - low + 1)));
        };
        SaidModel said;
        const bool square = dice() % 2 == 0, held = dice() % 3 > 0, light = dice() % 4 == 0;
        const std::string bays = number(1, 2), storeys = number(1, 2);
        said.say("frame", {{"bays-x", bays},
                           {"bays-y", square ? bays : "1"},
                           {"bay-y", square ? "4 m" : "5.5 m"},
                           {"storeys", storeys},
                           {"columns", "tube 100x5 mm"},
                           {"elements", number(1, 2)}})
            .say("material");
        if (light) said.say("material-mass", {{"factor", "0 %"}}); // then mass on points alone: a singular M
        said.say("mass", {{"mass", number(20, 900) + " kg"},
                          {"points", "roof of Frame"},
                          {"sharing", "on each of"},
                          {"centre", square ? "0, 0, 0.2 m" : "0.3, 0.1, 0.2 m"},
                          {"inertia", light ? "1, 1, 2 kg m2" : "0, 0, 0 kg m2"}});
        if (dice() % 3 == 0)
            said.say("release",
                     {{"members", "Frame.beam-x.1.0.1"}, {"ends", "the first end"}, {"directions", "ry rz"}});
        if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", dice() % 2 ? "all" : "x y z"}});
        said.say("lowest", {{"count", number(3, 40)}});
        const auto solution = said.solved();
        ASSERT_TRUE(solution) << seed;
        const auto& system = *solution->system;
        const auto truth = denseSpectrum(system.stiffness, system.mass, held ? 0.0 : 1e3);
        const std::size_t rigid = held ? 0 : 6;
        EXPECT_TRUE(solution->count.proven) << seed;
        for (std::size_t at = rigid; at < solution->modes.size(); ++at) {
            const Mode& mode = solution->modes[at];
            EXPECT_NEAR(std::sqrt(mode.lambda / truth.lambda[static_cast<Eigen::Index>(at)]), 1.0,
                        1e-9 + 10 * mode.floor)
                << "seed " << seed << ", mode " << mode.number;
            if (at > rigid && mode.group == solution->modes[at - 1].group) continue;
            std::vector<Eigen::Index> group;
            for (std::size_t other = at; other < solution->modes.size(); ++other)
                if (solution->modes[other].group == mode.group) group.push_back(static_cast<Eigen::Index>(other));
            const Eigen::MatrixXd shapes = solution->shapes(Eigen::all, group);
            // Of a shape as much is lost as its neighbours are near: error over gap.
            EXPECT_LT(angle(truth, system.mass, shapes, mode.lambda), 1e-6 + 1e5 * mode.floor)
                << "seed " << seed << ", group " << mode.group;
        }
    }
}

TEST(Repeated, SymmetryDemandsPairsAndTriples)
{
    // A free ring: for each number of waves a pair in its plane and a pair across it.
    SaidModel ring;
    std::string rows, members;
    constexpr int corners = 24;
    for (int at = 0; at < corners; ++at) {
        const double angle = 2.0 * std::numbers::pi * at / corners;
        rows += fmt::format("p{}|{} m|{} m|0 m\n", at, shortest(std::cos(angle)), shortest(std::sin(angle)));
        members += fmt::format("m{0}|p{0}|p{1}\n", at, (at + 1) % corners);
    }
    ring.say("points", {{"rows", rows}})
        .say("members", {{"rows", members}, {"section", "round 40 mm"}, {"elements", "1"}})
        .say("material")
        .say("lowest", {{"count", "12"}}); // beside the six rigid motions
    const auto free = ring.solved();
    EXPECT_TRUE(free->count.proven);
    EXPECT_EQ(copies(elasticHertz(*free)), (std::vector<int>{2, 2, 2, 2, 2, 2}));
    // In its plane f = (1/2 pi) n (n^2 - 1) / sqrt(n^2 + 1) sqrt(EI / rho A R^4) (Timoshenko, Young and Weaver 1974,
    // art. 5.20); the polygon of 24 sides stands within two per cent of the circle.
    const auto& section = *free->structure->frame.members[0].section;
    const auto& material = *free->structure->members[0].material;
    const double scale =
        std::sqrt(material.modulus * section.iy / (material.density * section.area)) / (2 * std::numbers::pi);
    for (const double n : {2.0, 3.0}) {
        const double wanted = n * (n * n - 1) / std::sqrt(n * n + 1) * scale;
        const auto hertz = elasticHertz(*free);
        EXPECT_TRUE(
            std::any_of(hertz.begin(), hertz.end(), [&](double f) { return std::abs(f / wanted - 1.0) < 0.02; }))
            << wanted << " Hz, " << n << " waves";
    }

    // A square grid of beams on pinned edges: a mode and its image in the diagonal have one frequency, unless it is
    // its own image.
    SaidModel grid;
    std::string points, beams;
    for (int i = 0; i <= 4; ++i)
        for (int j = 0; j <= 4; ++j) {
            points += fmt::format("g{0}{1}|{0} m|{1} m|0 m\n", i, j);
            if (i < 4) beams += fmt::format("x{0}{1}|g{0}{1}|g{2}{1}\n", i, j, i + 1);
            if (j < 4) beams += fmt::format("y{0}{1}|g{0}{1}|g{0}{2}\n", i, j, j + 1);
        }
    grid.say("points", {{"rows", points}})
        .say("members", {{"rows", beams}, {"section", "round 40 mm"}, {"elements", "2"}})
        .say("material");
    for (const char* edge : {"x = 0 m", "x = 4 m", "y = 0 m", "y = 4 m"})
        grid.say("hold", {{"where", std::string("points at ") + edge}, {"directions", "x y z rz"}});
    grid.say("lowest", {{"count", "9"}});
    const auto grate = grid.solved();
    EXPECT_TRUE(grate->count.proven);
    const auto first = copies(elasticHertz(*grate));
    EXPECT_EQ((std::vector<int>(first.begin(), first.begin() + 3)), (std::vector<int>{1, 2, 1}))
        << "half waves 1 1, then 1 2 with 2 1, then 2 2";

    // The edges of a cube, free: its group of symmetry has triples.
    SaidModel cube;
    std::string corner, edge;
    for (int at = 0; at < 8; ++at) {
        corner += fmt::format("c{}|{} m|{} m|{} m\n", at, 2 * (at & 1), at & 2, (at & 4) / 2);
        for (const int step : {1, 2, 4})
            if (!(at & step)) edge += fmt::format("e{0}{1}|c{0}|c{1}\n", at, at + step);
    }
    cube.say("points", {{"rows", corner}})
        .say("members", {{"rows", edge}, {"section", "round 50 mm"}, {"elements", "3"}})
        .say("material")
        .say("lowest", {{"count", "40"}});
    const auto edges = cube.solved();
    EXPECT_TRUE(edges->count.proven);
    const auto groups = copies(elasticHertz(*edges));
    EXPECT_GE(std::count(groups.begin(), groups.end(), 3), 3);
    EXPECT_EQ(*std::max_element(groups.begin(), groups.end()), 3);
}

TEST(Repeated, ACubeOfBricksHasTriplesAndEveryOneIsFound)
{
    const MatrixPair pair = brickBlock(4, 4, 4, 1.0, false);
    const auto truth = denseSpectrum(pair.stiffness, pair.mass, 1e7);
    Ask ask;
    for (const long count : {20L, 60L, 150L}) {
        ask.count = count;
        Progress progress;
        const auto found = modesOfPair(pair.stiffness, pair.mass, ask, progress);
        ASSERT_TRUE(found);
        EXPECT_TRUE(found->check.proven);
        EXPECT_EQ(found->mechanisms, 6) << "the rigid motions of a body whose parts are not known";
        std::vector<double> hertz;
        for (Eigen::Index at = 6; at < found->lambda.size(); ++at) {
            hertz.push_back(toHertz(found->lambda[at]));
            EXPECT_NEAR(hertz.back() / toHertz(truth.lambda[at]), 1.0, 1e-9 + 10 * found->floor[at]) << at;
        }
        const auto groups = copies(hertz);
        EXPECT_GE(std::count(groups.begin(), groups.end(), 3), 3) << "of " << count;
        EXPECT_EQ(*std::max_element(groups.begin(), groups.end()), 3) << "no accident beyond what symmetry demands";
    }
}

TEST(Singular, AMassHeldByNothingIsARigidMotionOfItsOwnAndMasslessPartsHaveNoModes)
{
    // A massless mast with a mass at its head and three masses that nothing holds.
    SaidModel said = straightBeam(2.0, 0.05, 0.05, 4);
    said.say("material-mass", {{"factor", "0 %"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("mass", {{"mass", "10 kg"}, {"points", "Beam.1"}})
        .say("points", {{"rows", "adrift|5 m|0 m|0 m"}})
        .say("mass", {{"mass", "3 kg"}, {"points", "adrift"}, {"inertia", "1, 1, 1 kg m2"}})
        .say("lowest", {{"count", "50"}});
    Progress progress;
    const auto solution = solve(said.model(), progress);
    ASSERT_TRUE(solution) << solution.findings()[0].what;
    EXPECT_EQ((*solution)->modes.size(), 9u) << "six of what drifts, three of the head";
    EXPECT_TRUE((*solution)->allModes);
    const auto rigid = std::count_if((*solution)->modes.begin(), (*solution)->modes.end(),
                                     [](const Mode& mode) { return mode.rigid; });
    EXPECT_EQ(rigid, 6);
    EXPECT_THAT((*solution)->findings.front().what, testing::HasSubstr("not fully held"));
    const double across = std::sqrt(3 * 200e9 * std::pow(0.05, 4) / 12 / 8.0 / 10.0) / (2 * std::numbers::pi);
    EXPECT_NEAR((*solution)->modes[6].frequency, across, 2e-3 * across) << "3 EI / L^3, shear and all";
    const double along = std::sqrt(200e9 * 0.0025 / 2.0 / 10.0) / (2 * std::numbers::pi);
    EXPECT_NEAR((*solution)->modes[8].frequency, along, 1e-9 * along);
}

TEST(RigidConnection, IsExactNextToAnySoftness)
{
    // A body on a rigid link, beside the same body stated by its offset: one and the same, to the last digits, though
    // the link stands for a stiffness without end; and the spring below is as soft as can be.
    for (const char* spring : {"1 N/m", "1e6 N/m", "1e12 N/m"}) {
        const auto build = [&](bool linked) {
            SaidModel said = straightBeam(3.0, 0.08, 0.06, 5);
            said.say("hold", {{"where", "Beam.0"}, {"directions", "x rx ry rz"}})
                .say("ground-spring", {{"points", "Beam.0"}, {"ky", spring}, {"kz", spring}});
            if (linked)
                said.say("points", {{"rows", "far|3.5 m|0.4 m|0.7 m"}})
                    .say("rigid", {{"points", "far"}, {"to", "Beam.1"}})
                    .say("mass", {{"mass", "25 kg"}, {"points", "far"}, {"inertia", "0.3, 0.4, 0.5 kg m2"}});
            else
                said.say("mass", {{"mass", "25 kg"},
                                  {"points", "Beam.1"},
                                  {"centre", "0.5, 0.4, 0.7 m"},
                                  {"inertia", "0.3, 0.4, 0.5 kg m2"}});
            return said.say("lowest", {{"count", "8"}}).solved();
        };
        const auto linked = build(true), stated = build(false);
        for (std::size_t at = 0; at < 8; ++at)
            EXPECT_NEAR(linked->modes[at].frequency / stated->modes[at].frequency, 1.0,
                        1e-9 + 10 * stated->modes[at].floor)
                << spring << ", mode " << at + 1;
    }
}

TEST(RigidMotions, AreZeroAndSayWhatEnergyTheCheckFound)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "2"}})
        .say("material")
        .say("mass", {{"mass", "700 kg"}, {"points", "Frame.1.1.2"}, {"centre", "0.4, 0.2, 0.1 m"}})
        .say("lowest", {{"count", "8"}});
    const auto solution = said.solved();
    for (std::size_t at = 0; at < 6; ++at) {
        EXPECT_TRUE(solution->modes[at].rigid);
        EXPECT_EQ(solution->modes[at].frequency, 0.0);
        EXPECT_LT(solution->modes[at].acceptedError, 1e-10) << "its energy over the first elastic eigenvalue";
        const Eigen::VectorXd phi = solution->shapes.col(static_cast<Eigen::Index>(at));
        const double energy = std::abs(phi.dot((solution->system->stiffness * phi).col(0)));
        EXPECT_NEAR(energy / solution->modes[6].lambda, solution->modes[at].acceptedError, 1e-12);
    }
    // Translations first, then turns about the mass centre, which shift nothing on the whole.
    const auto& participation = solution->participation;
    for (Eigen::Index at = 0; at < 3; ++at)
        EXPECT_NEAR(participation.ofMovable(at, static_cast<int>(at)), 1.0, 1e-10);
    for (Eigen::Index at = 3; at < 6; ++at)
        for (int direction = 0; direction < 3; ++direction)
            EXPECT_LT(participation.ofMovable(at, direction), 1e-12);
}

/// Beside no stiffness at all there is no measure for what is next to nothing.
TEST(NegativeEigenvalues, AreNotWhatRoundingLeavesOfMassesThatNothingHolds)
{
    for (const double mass : {0.3, 1.0, 7.0, 85.0})
        for (const int n : {1, 2, 5}) {
            SparseAssembler k(n), m(n);
            for (int at = 0; at < n; ++at) {
                k.add({at}, Eigen::MatrixXd::Zero(1, 1));
                m.add({at}, Eigen::MatrixXd::Constant(1, 1, mass * (at + 1)));
            }
            Ask ask;
            ask.count = n;
            Progress progress;
            const auto found = modesOfPair(k.finish(), m.finish(), ask, progress);
            ASSERT_TRUE(found) << found.findings()[0].what;
            EXPECT_EQ(found->mechanisms, n) << mass << " kg, " << n << " of them";
            EXPECT_TRUE(found->check.proven) << wordsOf(found->check);
        }
    SaidModel said; // the same as a structure: a mass that a spring holds along x alone
    said.say("point", {{"name", "a"}, {"at", "0, 0, 0 m"}})
        .say("mass", {{"mass", "85 kg"}, {"points", "a"}, {"only", "z"}})
        .say("lowest", {{"count", "3"}});
    EXPECT_TRUE(said.solved()->count.proven);
}

/// A chain of n unit masses between unit springs, each pushed off its place by so much: lambda_k = 4 sin^2(k pi / 2 (n
/// + 1))
/// - push (Rayleigh 1877, art. 120). Pushed hard enough the lowest motions release energy.
TEST(NegativeEigenvalues, AreResultsThatComeFirstAndAreCounted)
{
    for (const std::int64_t n : {40L, 300L, 6000L})
        for (const double push : {0.5, 1e-6, 3.9})
            for (const long count : {3L, 25L}) {
                SparseAssembler k(n), m(n);
                for (int at = 0; at < n; ++at) {
                    k.add({at}, Eigen::MatrixXd::Constant(1, 1, 2.0 - push));
                    m.add({at}, Eigen::MatrixXd::Identity(1, 1));
                    if (at > 0) k.add({at - 1, at}, (Eigen::MatrixXd(2, 2) << 0.0, -1.0, -1.0, 0.0).finished());
                }
                Ask ask;
                ask.count = count;
                Progress progress;
                const auto found = modesOfPair(k.finish(), m.finish(), ask, progress);
                const std::string what = fmt::format("{} masses pushed by {}, {} asked", n, push, count);
                ASSERT_TRUE(found) << what << ": " << found.findings()[0].what;
                EXPECT_GE(found->lambda.size(), count) << what;
                EXPECT_TRUE(found->check.proven) << what << ": " << wordsOf(found->check);
                for (Eigen::Index at = 0; at < found->lambda.size(); ++at) {
                    const double angle = double(at + 1) * std::numbers::pi / (2.0 * double(n + 1));
                    const double wanted = 4.0 * std::pow(std::sin(angle), 2) - push;
                    EXPECT_NEAR(found->lambda[at], wanted, 1e-8 * std::abs(wanted) + 1e-12) << what << ", " << at;
                }
            }
}
