// Commands beside modes: bare matrices, remedies, tolerances, modes told apart.
#include "tests/cli/ran.hpp"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <sstream>

TEST(CommandLine, FindsTheModesOfBareMatrices)
{
    const auto folder = scratch() / "system";
    for (const char* name : {"radar-mast", "hoist-gantry", "signal-lamps"}) { // the last one has a rigid motion
        ASSERT_EQ(run("export " + example(name) + " --what system --to \"" + folder.string() + "\"").code, 0);
        const std::string pair =
            "--system \"" + (folder / "K.mtx").string() + "\" \"" + (folder / "M.mtx").string() + "\"";
        const auto model = nlohmann::json::parse(run("modes " + example(name) + " --format json").out)["modes"];
        const Ran ran = run("modes " + pair + " --format json --count " + std::to_string(model.size()));
        ASSERT_EQ(ran.code, 0) << ran.err;
        const auto bare = nlohmann::json::parse(ran.out);
        ASSERT_EQ(bare["modes"].size(), model.size());
        for (std::size_t at = 0; at < model.size(); ++at) {
            const double f = model[at]["frequency_hz"];
            EXPECT_NEAR(bare["modes"][at]["frequency_hz"].get<double>(), f, 1e-8 * f + 1e-6) << name << " " << at;
            EXPECT_LT(bare["modes"][at]["accepted_error"].get<double>(), 1e-8) << name << " " << at;
        }
        EXPECT_TRUE(bare["count_check"]["proven"]);
        const double low = 0.9 * model[2]["frequency_hz"].get<double>(),
                     high = 1.1 * model[5]["frequency_hz"].get<double>();
        const auto band = nlohmann::json::parse(
            run("modes " + pair + " --format json --band " + std::to_string(low) + "Hz.." + std::to_string(high) + "Hz")
                .out);
        EXPECT_TRUE(band["count_check"]["proven"]) << name;
        EXPECT_GE(band["modes"].size(), 4u) << name;
    }
    const std::string head = "%%MatrixMarket matrix coordinate real ";
    const std::string good = written("good.mtx", head + "symmetric\n2 2 3\n1 1 3\n2 2 2\n2 1 -1\n"),
                      mass = written("mass.mtx", head + "general\n2 2 2\n1 1 1\n2 2 1\n");
    const auto two = nlohmann::json::parse(run("modes --all --format json --system " + good + " " + mass).out)["modes"];
    ASSERT_EQ(two.size(), 2u);
    EXPECT_NEAR(two[0]["lambda"], (5 - std::sqrt(5.0)) / 2, 1e-12);
    EXPECT_NEAR(two[1]["lambda"], (5 + std::sqrt(5.0)) / 2, 1e-12);
    const struct {
        std::string stiffness;
        int code;
        const char* says;
    } bad[] = {
        {written("a.mtx", "K = [1 2; 3 4]"), 2, "line 1"},
        {written("b.mtx", head + "symmetric\n2 2 3\n1 1 3\n"), 2, "ends after 1 of 3"},
        {written("c.mtx", head + "symmetric\n2 2 1\n1 1 nan\n"), 2, "line 3"},
        {written("many.mtx", head + "symmetric\n2 2 999999999999\n1 1 1\n"), 2, "MB are free"},
        {written("long.mtx", head + "symmetric\n2 2 1\n" + std::string(1 << 20, '1')), 2, "longer than a row"},
        {written("d.mtx", head + "symmetric\n2 2 1\n1 1 inf\n"), 2, "finite"},
        {written("e.mtx", head + "symmetric\n2 2 1\n3 1 1\n"), 2, "outside"},
        {written("f.mtx", head + "symmetric\n2 3 1\n1 1 1\n"), 2, "not square"},
        {written("both.mtx", head + "symmetric\n2 2 4\n1 1 3\n2 2 2\n2 1 -1\n1 2 -1\n"), 2, "one side of the diagonal"},
        {written("more.mtx", head + "symmetric\n2 2 1\n1 1 3\n2 2 3\n"), 2, "goes on after its 1 entries"},
        {written("huge.mtx", head + "symmetric\n2 2 2\n1 1 1e308\n2 2 3\n"), 2, "more than any structure has"},
        {written("g.mtx", head + "general\n2 2 4\n1 1 3\n2 2 3\n2 1 1\n1 2 2\n"), 2, "not symmetric"},
        {written("h.mtx", head + "symmetric\n3 3 3\n1 1 1\n2 2 1\n3 3 1\n"), 1, "3 rows and the mass 2"},
        {"/no/such/file.mtx", 2, "cannot be opened"},
    };
    for (const auto& one : bad) {
        const Ran ran = run("modes --count 1 --system " + one.stiffness + " " + mass);
        EXPECT_EQ(ran.code, one.code) << one.stiffness << ran.out << ran.err;
        EXPECT_NE(ran.err.find(one.says), std::string::npos)
            << one.stiffness << " does not say " << one.says << ": " << ran.err;
    }
    const std::string minus = written("i.mtx", head + "symmetric\n2 2 2\n1 1 -1\n2 2 1\n");
    const Ran noMass = run("modes --count 1 --system " + good + " " + minus);
    EXPECT_EQ(noMass.code, 1) << noMass.err;
    EXPECT_NE(noMass.err.find("the mass is not positive semidefinite: entry 1, 1 is -1"), std::string::npos)
        << noMass.err;
    // A state past buckling: its motion has no frequency, and comes first.
    const Ran buckled = run("modes --count 1 --system " + minus + " " + mass);
    EXPECT_EQ(buckled.code, 0) << buckled.err;
    EXPECT_NE(buckled.out.find("one motion releases energy and has no frequency"), std::string::npos) << buckled.out;
    const std::string coupled = written("j.mtx", head + "symmetric\n2 2 3\n1 1 1\n2 2 1\n2 1 2\n");
    const auto both =
        nlohmann::json::parse(run("modes --all --format json --system " + coupled + " " + mass).out)["modes"];
    ASSERT_EQ(both.size(), 2u);
    EXPECT_TRUE(both[0]["frequency_hz"].is_null());
    EXPECT_NEAR(both[0]["lambda"], -1.0, 1e-12);
    EXPECT_NEAR(both[1]["lambda"], 3.0, 1e-12);
    EXPECT_EQ(run("modes --mass-share 90% --system " + good + " " + mass).code, 2);
    EXPECT_EQ(run("modes " + example("radar-mast") + " --system " + good + " " + mass).code, 2);
    EXPECT_EQ(run("modes").code, 2);
}

TEST(CommandLine, RemediesAsTableCsvAndJsonAndAsATakeOfTheModel)
{
    const std::string mast = example("radar-mast");
    const Ran table = run("remedy " + mast);
    EXPECT_EQ(table.code, 0) << table.err;
    EXPECT_NE(table.out.find("every clash cleared"), std::string::npos);
    const Ran answer = run("remedy " + mast + " --mode 3 --above 12Hz --only prop --only strut --format json");
    ASSERT_EQ(answer.code, 0) << answer.err;
    const auto json = nlohmann::json::parse(answer.out);
    EXPECT_EQ(json["goal"], "mode 3 above 12 Hz");
    const auto& best = json["proposals"][0];
    EXPECT_TRUE(best["reaches"].get<bool>());
    EXPECT_GE(best["after"].get<double>(), 12.0);
    for (const auto& one : json["proposals"])
        EXPECT_TRUE(one["kind"] == "prop" || one["kind"] == "strut" || one["kind"] == "two") << one["kind"];
    const Ran csv = run("remedy " + mast + " --words --format csv");
    EXPECT_EQ(csv.code, 0) << csv.err;
    EXPECT_NE(csv.out.find("deck plates and railing"), std::string::npos);

    // The proposal as a take of the same document, solved: what was promised comes.
    const auto to = scratch() / "taken.undisona.json";
    const Ran taken = run("remedy " + mast + " --mode 3 --above 12Hz --only prop --choose 1 --to " + to.string());
    ASSERT_EQ(taken.code, 0) << taken.err;
    const auto document = nlohmann::json::parse(contents(to));
    const std::string name = document["takes"].back()["name"];
    EXPECT_EQ(document["takes"].size(), 2U);
    const Ran solved = run("modes " + to.string() + " --take \"" + name + "\" --count 8 --format json");
    ASSERT_EQ(solved.code, 0) << solved.err;
    double nearest = 1e9;
    const auto answered = nlohmann::json::parse(solved.out);
    for (const auto& mode : answered["modes"])
        nearest = std::min(nearest, std::abs(mode["frequency_hz"].get<double>() / best["after"].get<double>() - 1.0));
    EXPECT_LT(nearest, 2e-3);

    // What cannot be meant is refused; what cannot be done is said, and exits so.
    EXPECT_EQ(run("remedy " + mast + " --above 12Hz").code, 2);
    EXPECT_EQ(run("remedy " + mast + " --mode 3 --above 12Hz --below 9Hz").code, 2);
    EXPECT_EQ(run("remedy " + mast + " --mode 3 --above 12kg").code, 2);
    EXPECT_EQ(run("remedy " + mast + " --choose 1").code, 2);
    EXPECT_EQ(run("remedy " + mast + " --mode 3 --above 9Hz").code, 1);
    const Ran far = run("remedy " + mast + " --mode 1 --above 300Hz --only mass --only strut");
    EXPECT_EQ(far.code, 1);
    EXPECT_NE(far.err.find("within these limits"), std::string::npos) << far.err;
    EXPECT_EQ(run("remedy " + mast + " --choose 1 --to " + mast).code, 2); // read by the same run
}

TEST(CommandLine, FrequenciesWithinTolerancesAsTableCsvAndJson)
{
    std::string text = contents(example("radar-mast"));
    const auto swap = [&](const std::string& from, const std::string& to) {
        const auto at = text.find(from);
        ASSERT_NE(at, std::string::npos) << from;
        text.replace(at, from.size(), to);
    };
    swap("\"85 kg\"", "\"85 kg +- 10 %\"");
    const std::string mast = written("tolerated.undisona.json", text);
    const Ran table = run("tolerances " + mast);
    ASSERT_EQ(table.code, 0) << table.err;
    EXPECT_NE(table.out.find("85 kg +- 10 %"), std::string::npos) << table.out;
    EXPECT_NE(table.out.find("nine of ten"), std::string::npos);
    const Ran answer = run("tolerances " + mast + " --samples 4 --seed 3 --format json");
    ASSERT_EQ(answer.code, 0) << answer.err;
    const auto json = nlohmann::json::parse(answer.out);
    ASSERT_EQ(json["words"].size(), 1U);
    EXPECT_EQ(json["samples"], 4);
    for (const auto& mode : json["modes"]) {
        EXPECT_LE(mode["low"].get<double>(), mode["sampledLow"].get<double>() + 1e-6);
        EXPECT_GE(mode["high"].get<double>(), mode["sampledHigh"].get<double>() - 1e-6);
    }
    const Ran again = run("tolerances " + mast + " --samples 4 --seed 3 --format json");
    EXPECT_EQ(again.out, answer.out); // the same draws
    const Ran csv = run("tolerances " + mast + " --no-corners --format csv");
    EXPECT_EQ(csv.code, 0) << csv.err;
    EXPECT_NE(csv.out.find("at its low end"), std::string::npos);
    const Ran none = run("tolerances " + example("radar-mast"));
    EXPECT_EQ(none.code, 1);
    EXPECT_NE(none.err.find("38 kg +- 10 %"), std::string::npos) << none.err;
}

TEST(CommandLine, RefusesForMatricesWhatNeedsAModel)
{
    for (const char* option :
         {"--take a", "--leave-out ice", "--residual X", "--mass-matrix lumped", "--mass-share 90%"}) {
        const Ran ran = run(std::string("modes --system K.mtx M.mtx ") + option);
        EXPECT_EQ(ran.code, 2) << option;
        EXPECT_NE(ran.err.find("needs a model"), std::string::npos) << ran.err;
    }
}

TEST(CommandLine, ScalesAModeAndTellsModesApart)
{
    const Ran ran = run("stress " + example("radar-mast") + " --mode 3 --velocity 20mm/s --format json");
    ASSERT_EQ(ran.code, 0) << ran.err;
    const auto json = nlohmann::json::parse(ran.out);
    EXPECT_NEAR(json["velocity_m_s"].get<double>(), 0.02, 1e-12);
    const double omega = 2.0 * M_PI * json["frequency_hz"].get<double>();
    EXPECT_NEAR(json["displacement_m"].get<double>() * omega, 0.02, 1e-9);
    EXPECT_NEAR(json["equivalent_pa"].get<double>(), json["parts"][0]["stress"]["equivalent_pa"].get<double>(), 1e-3);
    // The other way round: what motion belongs to that stress.
    const auto again =
        nlohmann::json::parse(run("stress " + example("radar-mast") + " --mode 3 --format json --stress " +
                                  std::to_string(json["equivalent_pa"].get<double>() / 1e6) + "MPa")
                                  .out);
    EXPECT_NEAR(again["velocity_m_s"].get<double>(), 0.02, 1e-6);
    EXPECT_EQ(run("stress " + example("radar-mast") + " --mode 99").code, 2);
    EXPECT_EQ(run("stress " + example("radar-mast") + " --mode 3 --velocity 3kg").code, 2);
    EXPECT_EQ(run("stress " + example("radar-mast") + " --mode 3 --energy 1J --stress 5MPa").code, 2);
    EXPECT_EQ(run("stress " + example("radar-mast") + " --mode 3 --at nowhere").code, 2);
    const auto lines = [](const std::string& text) {
        return static_cast<std::size_t>(std::count(text.begin(), text.end(), '\n'));
    };
    EXPECT_EQ(lines(run("stress " + example("radar-mast") + " --mode 3 --format csv").out), 1 + json["parts"].size());

    const std::string folded = run("modes " + example("hoist-gantry") + " --fold-local --no-mesh-error").out,
                      whole = run("modes " + example("hoist-gantry") + " --no-mesh-error").out;
    EXPECT_NE(folded.find("left out, of "), std::string::npos);
    EXPECT_LT(lines(folded), lines(whole));
    EXPECT_NE(whole.find("carries no mass: "), std::string::npos);
}

TEST(CommandLine, StaticStatesAsTableJsonAndVtu)
{
    const std::string wire = example("lamp-wire");
    const Ran table = run("rest " + wire + " --state winter");
    ASSERT_EQ(table.code, 0) << table.err;
    EXPECT_NE(table.out.find("state winter"), std::string::npos);
    EXPECT_EQ(table.out.find("state summer"), std::string::npos);
    const auto json = nlohmann::json::parse(run("rest " + wire + " --format json").out);
    EXPECT_EQ(run("rest " + wire + " --state spring").code, 2);
    const auto placed = nlohmann::json::parse(run("rest " + wire + " --at red --at a --format json").out);
    for (const auto& state : placed["states"]) {
        ASSERT_EQ(state["at_points"].size(), 2u);
        const std::array<double, 3> lamp = state["at_points"][0]["moves_m"], foot = state["at_points"][1]["moves_m"];
        EXPECT_LT(lamp[2], -1e-3) << "the lamp hangs down";
        EXPECT_LE(std::hypot(lamp[0], lamp[1], lamp[2]), state["moves"].get<double>() * (1 + 1e-9));
        EXPECT_EQ(std::hypot(foot[0], foot[1], foot[2]), 0.0);
        EXPECT_GT(state["at_points"][1]["equivalent_pa"].get<double>(), 1e6);
    }
    EXPECT_NE(run("rest " + wire + " --at red").out.find("\nat point"), std::string::npos);
    EXPECT_NE(run("rest " + wire + " --at nowhere").err.find("there is no point called \"nowhere\""),
              std::string::npos);
    EXPECT_EQ(run("rest " + wire + " --at red --format csv --state winter").code, 2);
    const auto path = scratch() / "states.vtu";
    const Ran drawn = run("rest " + wire + " --format vtu --out " + path.string());
    ASSERT_EQ(drawn.code, 0) << drawn.err;
    const std::string vtu = contents(path);
    const auto figuresOf = [&](const std::string& name) {
        std::vector<double> figures;
        const auto head = vtu.find("Name=\"" + name);
        EXPECT_NE(head, std::string::npos) << name;
        if (head == std::string::npos) return figures;
        const auto first = vtu.find('>', head) + 1;
        std::istringstream text(vtu.substr(first, vtu.find('<', first) - first));
        for (double figure = 0.0; text >> figure;)
            figures.push_back(figure);
        return figures;
    };
    ASSERT_EQ(json["states"].size(), 2u);
    for (const auto& state : json["states"]) {
        const std::string name = state["name"];
        const auto moved = figuresOf(name + " displacement"), stress = figuresOf(name + " equivalent stress");
        ASSERT_EQ(moved.size(), 3 * stress.size());
        double most = 0.0, stressed = 0.0;
        for (std::size_t at = 0; at < moved.size(); at += 3)
            most = std::max(most, std::hypot(moved[at], moved[at + 1], moved[at + 2]));
        for (const auto& part : state["parts"])
            stressed = std::max(stressed, part["most"]["equivalent"].get<double>());
        EXPECT_NEAR(most / state["moves"].get<double>(), 1.0, 1e-9) << name;
        EXPECT_NEAR(*std::max_element(stress.begin(), stress.end()) / stressed, 1.0, 0.02) << name;
        EXPECT_FALSE(figuresOf(name + " buckling 1 at").empty());
    }
}
