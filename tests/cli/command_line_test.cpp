// The command line as scripts see it: what it prints, where, and with which exit code.
#include "tests/cli/ran.hpp"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <sstream>

namespace {

const char* const cantilever = R"({
  "format": "undisona", "version": 1, "name": "arm", "units": "m kg N",
  "model": {
    "shape": [ { "id": "arm", "kind": "run", "name": "Arm", "from": "0, 0, 0 m", "to": "2, 0, 0 m", "parts": 1,
                 "section": "tube 60.3x4 mm" } ],
    "material": [ { "id": "steel", "kind": "material", "what": "everything", "material": "structural steel" } ],
    "supports": [ { "id": "root", "kind": "hold", "points": "Arm.0", "directions": "all" } ],
    "ask": [ { "id": "ask", "kind": "lowest", "count": 4 } ]
  },
  "takes": []
})";

} // namespace

TEST(CommandLine, GivesEveryPromisedKeyAndAProof)
{
    const Ran ran = run("modes " + example("radar-mast") + " --format json");
    ASSERT_EQ(ran.code, 0) << ran.err;
    const auto json = nlohmann::json::parse(ran.out);
    for (const char* key :
         {"total_mass_kg", "total_by_direction", "movable_by_direction", "reference_point_m", "mass_center_m",
          "unknowns", "modes", "count_check", "clashes", "timings_s", "peak_memory_mb"})
        EXPECT_TRUE(json.contains(key)) << key;
    for (const auto& mode : json["modes"]) {
        for (const char* key : {"number", "group", "frequency_hz", "period_s", "name", "participation",
                                "effective_mass", "fraction_of_movable", "fraction_of_total", "cumulative_of_movable",
                                "cumulative_of_total", "residual", "accepted_error", "mesh_error", "rigid", "energy"})
            EXPECT_TRUE(mode.contains(key)) << key;
        EXPECT_LT(mode["accepted_error"], 1e-8);
        EXPECT_NEAR(mode["period_s"].get<double>() * mode["frequency_hz"].get<double>(), 1.0, 1e-12);
    }
    EXPECT_FALSE(json["modes"][0].contains("shape")) << "on request alone";
    const auto& check = json["count_check"];
    EXPECT_TRUE(check["proven"]);
    EXPECT_EQ(check["expected"], check["found"]);
    EXPECT_EQ(check["found"], json["modes"].size());
    for (const auto& clash : json["clashes"])
        for (const char* key : {"excitation", "order", "low_hz", "high_hz", "critical_speed_rpm", "mode",
                                "separation_percent", "strength", "verdict", "why"})
            EXPECT_TRUE(clash.contains(key)) << key;
}

TEST(CommandLine, EstimatesARunAsItTurnsOut)
{
    const Ran ahead = run("estimate " + example("davit-arm"));
    ASSERT_EQ(ahead.code, 0) << ahead.err;
    const auto json = nlohmann::json::parse(run("modes " + example("davit-arm") + " --format json").out);
    EXPECT_EQ(std::stol(ahead.out), json["unknowns"].get<long>()) << ahead.out << "sizes are stated there";
    EXPECT_NE(ahead.out.find("bodies of tetrahedra may take up to 2.5 times as many"), std::string::npos) << ahead.out;
    EXPECT_NE(ahead.out.find("What nobody asks for, and will not be there"), std::string::npos) << ahead.out;
    EXPECT_EQ(run("estimate " + example("radar-mast")).out.find("tetrahedra"), std::string::npos);
}

TEST(CommandLine, AsksInPlaceOfTheModelsOwnAsk)
{
    const std::string arm = written("arm.json", cantilever);
    const auto modesOf = [&](const std::string& options) {
        const Ran ran = run("modes " + arm + " --format json " + options);
        EXPECT_EQ(ran.code, 0) << options << ": " << ran.err;
        return nlohmann::json::parse(ran.out)["modes"];
    };
    EXPECT_EQ(modesOf("").size(), 4u);
    const auto five = modesOf("--count 5");
    EXPECT_EQ(five.size(), 6u) << "the second of an equal pair comes along";
    const double third = five[2]["frequency_hz"];
    EXPECT_EQ(modesOf("--up-to " + std::to_string(third - 1) + "Hz").size(), 2u);
    EXPECT_EQ(modesOf("--up-to " + std::to_string(60 * (third + 1)) + "rpm").size(), 4u);
    const auto share = modesOf("--mass-share 90% --directions Y");
    EXPECT_GE(share.back()["cumulative_of_movable"][1].get<double>(), 0.9);
    ASSERT_GE(share.size(), 4u);
    EXPECT_LT(share[share.size() - 3]["cumulative_of_movable"][1].get<double>(), 0.9) << "and not further than needed";
    EXPECT_EQ(modesOf("--nearest " + std::to_string(third) + "Hz --count 2").size(), 2u);
    const auto band =
        modesOf("--band " + std::to_string(third - 1) + "Hz.." + std::to_string(60 * (third + 1)) + "rpm");
    ASSERT_EQ(band.size(), 2u) << "each end in its own unit";
    EXPECT_EQ(band[0]["number"], 1);
    EXPECT_EQ(band[0]["position"], 3) << "in the whole spectrum";
    EXPECT_EQ(modesOf("--all").size(), 6u) << "one element, one end free";
    EXPECT_LT(modesOf("--up-to 1Hz").size(), 1u) << "none below: an empty list, not an error";
}

TEST(CommandLine, SaysHowAccurateWithWhatMassAndWithoutWhat)
{
    std::string text = cantilever;
    text.replace(text.find("\"ask\""), 5,
                 "\"added-mass\": [ { \"id\": \"head\", \"kind\": \"mass\", \"mass\": \"30 kg\", \"sharing\": \"on\", "
                 "\"points\": \"Arm.1\", \"label\": \"winch\" } ],\n    \"ask\"");
    const std::string arm = written("loaded.json", text);
    const auto jsonOf = [&](const std::string& options) {
        const Ran ran = run("modes " + arm + " --format json " + options);
        EXPECT_EQ(ran.code, 0) << options << ": " << ran.err;
        return nlohmann::json::parse(ran.out);
    };
    const auto plain = jsonOf(""), bare = jsonOf("--leave-out winch"), byId = jsonOf("--leave-out head");
    EXPECT_NEAR(plain["total_mass_kg"].get<double>() - bare["total_mass_kg"].get<double>(), 30.0, 1e-9);
    EXPECT_GT(bare["modes"][0]["frequency_hz"], 1.5 * plain["modes"][0]["frequency_hz"].get<double>());
    EXPECT_EQ(byId["modes"][0]["frequency_hz"], bare["modes"][0]["frequency_hz"]);
    const auto lumped = jsonOf("--mass-matrix lumped");
    EXPECT_NE(lumped["modes"][2]["frequency_hz"], plain["modes"][2]["frequency_hz"]);
    EXPECT_EQ(lumped["total_mass_kg"], plain["total_mass_kg"]);
    for (const auto& mode : jsonOf("--tolerance 1e-11")["modes"])
        EXPECT_LT(mode["accepted_error"], 1e-11);
    const auto unproven = jsonOf("--unproven");
    EXPECT_FALSE(unproven["count_check"]["proven"]);
    EXPECT_NE(unproven["certificate"]["words"].get<std::string>().find("Not proven"), std::string::npos);
    EXPECT_EQ(unproven["modes"].size(), plain["modes"].size());
    // One vector for each way to shake, with which the static answers are exact.
    const auto residual = jsonOf("--count 2 --residual XZ --shapes");
    EXPECT_EQ(residual["residual_vectors"]["loads"], 2);
    EXPECT_EQ(residual["residual_vectors"]["vectors"].size(), 2u);
    EXPECT_LT(residual["residual_vectors"]["static_error"], 1e-8);
    EXPECT_EQ(residual["residual_vectors"]["vectors"][0]["shape"].size(), residual["modes"][0]["shape"].size());
    const auto ritz = jsonOf("--ritz Z --ritz-at Arm.1 --count 3");
    EXPECT_EQ(ritz["modes"].size(), 3u);
    EXPECT_TRUE(ritz["certificate"]["words"].get<std::string>().find("Ritz vectors") != std::string::npos);
    EXPECT_NEAR(ritz["modes"][0]["frequency_hz"], plain["modes"][0]["frequency_hz"].get<double>(),
                1e-3 * plain["modes"][0]["frequency_hz"].get<double>());
    const auto file = (scratch() / "with-residual.vtu").string();
    std::string asked = text;
    asked.replace(
        asked.find("{ \"id\": \"ask\""), 1,
        "{ \"id\": \"rest\", \"kind\": \"residual-vectors\", \"from\": \"base accelerations\", \"directions\": "
        "\"z\" },\n    {");
    const std::string with = written("with-residual.json", asked);
    ASSERT_EQ(run("export " + with + " --what modes --to \"" + file + "\"").code, 0);
    EXPECT_NE(contents(file).find("residual vector 1 translation"), std::string::npos);
    ASSERT_EQ(run("export " + with + " --what modes --to \"" + file + ".csv\"").code, 0);
    EXPECT_NE(contents(file + ".csv").find("\nresidual 1,"), std::string::npos);
    const struct {
        const char* options;
        std::vector<std::string> says;
    } wrong[] = {{"--tolerance 0.5", {"--tolerance", "0.001"}},
                 {"--tolerance small", {"--tolerance"}},
                 {"--mass-matrix heavy", {"lumped"}},
                 {"--ritz-at Arm.1", {"--ritz says along which"}},
                 {"--residual-at Arm.1", {"--residual says"}},
                 {"--residual Q", {"--residual"}},
                 {"--leave-out oil", {"\"oil\"", "winch"}},
                 {"--ritz Z --ritz-at Nowhere", {"Nowhere"}},
                 {"--mass-share 120%", {"--mass-share", "100 %"}},
                 {"--count 0", {"--count"}}};
    for (const auto& [options, says] : wrong) {
        const Ran ran = run("modes " + arm + " " + options);
        EXPECT_NE(ran.code, 0) << options;
        for (const auto& word : says)
            EXPECT_NE((ran.err + ran.out).find(word), std::string::npos)
                << options << " does not say " << word << ": " << ran.err;
    }
}

TEST(CommandLine, TakesFormatsAndFiles)
{
    const Ran live = run("modes " + example("radar-mast") + " --format csv"),
              take = run("modes " + example("radar-mast") + " --format csv --take \"heavier braces\"");
    EXPECT_EQ(live.code, 0);
    EXPECT_EQ(take.code, 0);
    EXPECT_NE(live.out, take.out);
    EXPECT_EQ(std::count(live.out.begin(), live.out.end(), '\n'), 1 + 11) << "a head and eleven modes";
    const auto file = scratch() / "modes.csv";
    EXPECT_EQ(run("modes " + example("radar-mast") + " --format csv --out \"" + file.string() + "\"").out, "");
    EXPECT_EQ(contents(file), live.out);
    const auto vtu = scratch() / "modes.vtu";
    EXPECT_EQ(run("export " + example("signal-lamps") + " --what modes --to \"" + vtu.string() + "\"").code, 0);
    EXPECT_NE(contents(vtu).find("UnstructuredGrid"), std::string::npos);
    EXPECT_EQ(run("schema").out, contents(std::filesystem::path(EXAMPLES) / "../docs/model.schema.json"));
    EXPECT_EQ(run("units \"18 kN\" lbf").out.substr(0, 6), "4046.5");
}

TEST(CommandLine, SpeaksInTheDocumentsUnitsAndLeavesOutWhatIsNotAsked)
{
    std::string text = cantilever;
    text.replace(text.find("m kg N"), 6, "in lb lbf");
    for (auto at = text.find("Arm"); at != std::string::npos; at = text.find("Arm", at + 4))
        text.insert(at, "=");
    const std::string imperial = written("imperial.json", text);
    const Ran table = run("modes " + imperial), metric = run("modes " + written("metric.json", cantilever));
    EXPECT_NE(table.out.find(" lb at 39.37, 0, 0 in"), std::string::npos) << table.out;
    EXPECT_NE(metric.out.find(" kg at 1, 0, 0 m"), std::string::npos) << metric.out;
    EXPECT_NE(run("check " + imperial).out.find(" lb at 39.37, 0, 0 in"), std::string::npos);
    const std::string plate = written("plate.json", R"({
      "format": "undisona", "version": 1, "name": "plate", "units": "mm kg N",
      "model": {
        "shape": [ { "id": "p", "kind": "plate", "name": "Deck", "length": "1 m", "width": "0.7 m", "at": "0, 0, 0 m",
                     "thickness": "8 mm" } ],
        "material": [ { "id": "m", "kind": "material", "what": "everything", "material": "structural steel" } ],
        "supports": [ { "id": "h", "kind": "hold", "points": "edges of Deck", "directions": "z" } ],
        "ask": [ { "id": "a", "kind": "lowest", "count": 5 } ] } })");
    const auto modes = [&](const std::string& options) {
        const Ran ran = run("modes " + plate + " --format json " + options);
        EXPECT_EQ(ran.code, 0) << ran.err;
        return nlohmann::json::parse(ran.out);
    };
    const auto judged = modes(""), plain = modes("--no-mesh-error");
    ASSERT_EQ(judged["modes"].size(), plain["modes"].size());
    EXPECT_GT(judged["timings_s"].value("mesh error", 0.0), 0.0);
    EXPECT_FALSE(plain["timings_s"].contains("mesh error")) << "no time is spent on what is not shown";
    for (std::size_t at = 3; at < 5; ++at) {
        EXPECT_FALSE(judged["modes"][at]["mesh_error"].is_null());
        EXPECT_TRUE(plain["modes"][at]["mesh_error"].is_null());
        EXPECT_EQ(judged["modes"][at]["frequency_hz"], plain["modes"][at]["frequency_hz"]);
    }
    const Ran shapes = run("export " + imperial + " --what modes --to \"" + (scratch() / "shapes.csv").string() + "\"");
    EXPECT_EQ(shapes.code, 0) << shapes.err;
    EXPECT_EQ(contents(scratch() / "shapes.csv").find(",=Arm"), std::string::npos) << "a formula for a spreadsheet";
    EXPECT_NE(contents(scratch() / "shapes.csv").find(",'=Arm"), std::string::npos);
}

TEST(CommandLine, CheckRefusesWhatARunRefuses)
{
    // A mass that is held where it is, and a body whose elements would be far too many.
    const std::string held = written("held.json", R"({
      "format": "undisona", "version": 1, "name": "mass", "units": "m kg N",
      "model": {
        "shape": [ { "id": "p", "kind": "points", "rows": [ [ "a", "0 m", "0 m", "0 m" ] ] } ],
        "supports": [ { "id": "h", "kind": "hold", "points": "a", "directions": "all" } ],
        "added-mass": [ { "id": "m", "kind": "mass", "mass": "5 kg", "sharing": "on each of", "points": "a" } ],
        "ask": [ { "id": "a", "kind": "lowest", "count": 4 } ] } })");
    const std::string fine = written("fine.json", R"({
      "format": "undisona", "version": 1, "name": "block", "units": "m kg N",
      "model": {
        "shape": [ { "id": "b", "kind": "solid-box", "name": "Block", "x": "1 m", "y": "1 m", "z": "1 m",
                     "at": "0, 0, 0 m", "size": "2 mm" } ],
        "material": [ { "id": "m", "kind": "material", "what": "everything", "material": "structural steel" } ],
        "ask": [ { "id": "a", "kind": "lowest", "count": 4 } ] } })");
    for (const std::string& model : {held, fine}) {
        const Ran ran = run("modes " + model), checked = run("check " + model);
        EXPECT_EQ(ran.code, 1) << ran.err;
        EXPECT_EQ(checked.code, 1) << checked.err;
    }
    EXPECT_EQ(run("check " + written("arm.json", cantilever)).code, 0);
}

TEST(CommandLine, ExitCodesTellWhoseFaultItIs)
{
    const std::string half = written("half.json", std::string(cantilever).substr(0, 200));
    std::string text = cantilever;
    const std::string wrongUnit =
        written("unit.json", std::string(text).replace(text.find("2, 0, 0 m"), 9, "2, 0, 0 kg"));
    const std::string newer =
        written("newer.json", std::string(text).replace(text.find("\"version\": 1"), 12, "\"version\": 99"));
    const std::string noSteel =
        written("soft.json", std::string(text).replace(text.find("structural steel"), 16, "moon cheese"));
    const struct {
        std::string arguments;
        int code;
        std::vector<std::string> says;
    } cases[] = {
        {"", 2, {}},
        {"dance", 2, {}},
        {"modes", 2, {"model"}},
        {"modes /no/such/file.json", 2, {"/no/such/file.json"}},
        {"modes " + half, 2, {"half.json", "ends in the middle"}},
        {"modes " + wrongUnit, 2, {"unit.json, line 4", "kg"}},
        {"modes " + newer, 2, {"newer.json", "99"}},
        {"modes " + noSteel, 1, {"moon cheese", "steel"}},
        {"modes " + example("radar-mast") + " --take gone", 2, {"gone", "heavier braces"}},
        {"modes " + example("radar-mast") + " --up-to 5kg", 2, {"--up-to", "kg"}},
        {"modes " + example("radar-mast") + " --count -3", 2, {}},
        {"modes " + example("radar-mast") + " --band 60Hz..20Hz", 2, {"--band", "lower"}},
        {"modes " + example("radar-mast") + " --band 60Hz", 2, {"--band", ".."}},
        {"modes " + example("radar-mast") + " --nearest 0Hz", 2, {"--nearest", "above zero"}},
        {"modes " + example("radar-mast") + " --nearest 5Hz --all", 2, {"one of them"}},
        {"modes " + example("radar-mast") + " --mass-share 90% --directions Q", 2, {"XYZ"}},
        {"modes " + example("radar-mast") + " --out /no/such/folder/a.csv", 2, {"/no/such/folder"}},
        {"export " + example("signal-lamps") + " --what modes --to shapes.doc", 2, {".vtu"}},
        {"units \"3 apples\" kg", 2, {"apples"}},
        {"units \"3 kg\" mm", 2, {"mass", "length"}},
        {"check " + example("hoist-gantry"), 0, {}},
    };
    for (const auto& one : cases) {
        const Ran ran = run(one.arguments);
        EXPECT_EQ(ran.code, one.code) << one.arguments << "\n" << ran.err;
        for (const auto& word : one.says)
            EXPECT_NE(ran.err.find(word), std::string::npos) << one.arguments << " does not say " << word << ":\n"
                                                             << ran.err;
        if (one.code != 0) EXPECT_FALSE(ran.err.empty() && ran.out.empty()) << one.arguments;
    }
}

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

TEST(CommandLine, OneThreadAndTwoGiveTheSame)
{
    // Above the size from which both are used.
    std::string house = cantilever;
    const auto from = house.find("{ \"id\": \"arm\""), to = house.find("} ],", from);
    house.replace(from, to - from,
                  "{ \"id\": \"h\", \"kind\": \"frame\", \"name\": \"Arm\", \"bays-x\": 9, \"bay-x\": \"4 m\", "
                  "\"bays-y\": 9, \"bay-y\": \"4 m\", \"storeys\": 9, \"storey\": \"3 m\", \"columns\": \"tube 100x5 "
                  "mm\", \"beams\": \"tube 80x4 mm\", \"elements\": 2 ");
    house.replace(house.find("\"Arm.0\""), 7, "\"feet of Arm\"");
    const std::string path = written("house.json", house);
    const Ran one = run("modes " + path + " --format json --threads 1"),
              two = run("modes " + path + " --format json --threads 2");
    ASSERT_EQ(one.code, 0) << one.err;
    ASSERT_EQ(two.code, 0) << two.err;
    const auto a = nlohmann::json::parse(one.out), b = nlohmann::json::parse(two.out);
    EXPECT_GT(a["unknowns"], 20000);
    ASSERT_EQ(a["modes"].size(), b["modes"].size());
    for (std::size_t at = 0; at < a["modes"].size(); ++at) {
        const double fa = a["modes"][at]["frequency_hz"], fb = b["modes"][at]["frequency_hz"];
        EXPECT_NEAR(fa, fb, 1e-10 * fa);
    }
    EXPECT_TRUE(a["count_check"]["proven"]);
    EXPECT_NE(run("modes " + path + " --threads 0").code, 0);
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

TEST(CommandLine, NeverWritesOverWhatItReads)
{
    const std::string model = written("own.undisona.json", cantilever);
    const std::string flap = written("flap.undisona.json", contents(example("ramp-flap")));
    for (const auto& [order, own] : {std::pair("modes " + model + " --format json --out " + model, model),
                                     std::pair("export " + flap + " --what shapes --to " + flap, flap),
                                     std::pair("settle " + model + " --out " + model, model)}) {
        const std::string path = own.substr(1, own.size() - 2), before = contents(path);
        const Ran ran = run(order);
        EXPECT_EQ(ran.code, 2) << order;
        EXPECT_NE(ran.err.find("read by the same run"), std::string::npos) << ran.err;
        EXPECT_EQ(contents(path), before) << order;
    }
    const auto folder = scratch() / "system";
    ASSERT_EQ(run("export " + model + " --what system --to \"" + folder.string() + "\"").code, 0);
    const auto k = folder / "K.mtx", m = folder / "M.mtx";
    const std::string stiffness = contents(k);
    EXPECT_EQ(run("modes --system " + k.string() + " " + m.string() + " --out " + k.string()).code, 2);
    EXPECT_EQ(contents(k), stiffness);
}

TEST(CommandLine, SaysWhenItsOutputIsCutShort)
{
    for (const std::string& order : {std::string("schema"), "check " + example("signal-lamps"),
                                     "modes " + example("signal-lamps"), std::string("units '18 kN' lbf")}) {
        const auto err = scratch() / "err";
        const int status = std::system((std::string(CLI) + " " + order + " > /dev/full 2> " + err.string()).c_str());
        EXPECT_EQ(WEXITSTATUS(status), 2) << order;
        EXPECT_NE(contents(err).find("standard output"), std::string::npos) << order << ": " << contents(err);
    }
}

TEST(CommandLine, AFileThatDoesNotFitLeavesTheEarlierOneAndNothingBeside)
{
    const auto folder = scratch() / "full";
    std::filesystem::create_directories(folder);
    const auto out = folder / "modes.json";
    std::ofstream(out) << "kept";
    // What the process may write of one file ends after a kilobyte, as on a disk that has no more room.
    const std::string order = "ulimit -f 1; exec " + std::string(CLI) + " modes " + example("signal-lamps") +
                              " --format json --out " + out.string();
    const auto err = scratch() / "err";
    const int status = std::system(("bash -c '" + order + "' 2> " + err.string()).c_str());
    ASSERT_TRUE(WIFEXITED(status)) << "it must not die of it";
    EXPECT_EQ(WEXITSTATUS(status), 2);
    EXPECT_NE(contents(err).find("modes.json"), std::string::npos) << contents(err);
    EXPECT_EQ(contents(out), "kept");
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder), {}), 1) << "no half a file is left beside it";
}

TEST(CommandLine, AFileSystemThatFillsKeepsTheEarlierFileAndIsNamed)
{
    const auto folder = scratch() / "small";
    std::filesystem::create_directories(folder);
    // A file system of its own in memory, where the machine lets a user make one.
    const std::string inside =
        "unshare -rm sh -c 'mount -t tmpfs -o size=64k none " + folder.string() + " && cd " + folder.string() + " && ";
    if (std::system((inside + "true' 2> /dev/null").c_str()) != 0) GTEST_SKIP() << "no file system can be made here";
    const auto err = (scratch() / "err").string(), left = (scratch() / "left").string();
    const struct {
        std::string order, file;
    } all[] = {{"modes " + example("radar-mast") + " --format json --out", "modes.json"},
               {"export " + example("radar-mast") + " --what modes --to", "modes.vtu"}};
    for (const auto& [order, file] : all) {
        const std::string command = inside + "head -c 40000 /dev/zero > other && printf kept > " + file + " && { " +
                                    CLI + " " + order + " " + file + " 2> " + err + "; echo $?; cat " + file +
                                    "; echo; ls; } > " + left + "'";
        ASSERT_EQ(std::system(command.c_str()), 0) << command;
        EXPECT_EQ(contents(left), "2\nkept\n" + file + "\nother\n") << order;
        EXPECT_NE(contents(err).find("the disk is full"), std::string::npos) << order << contents(err);
    }
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

TEST(CommandLine, HandsOverModesInMotionThatABrowserPlays)
{
    const auto page = scratch() / "modes.html", file = scratch() / "modes.glb";
    const Ran ran = run("export " + example("hoist-gantry") + " --what modes --to " + page.string());
    ASSERT_EQ(ran.code, 0) << ran.err;
    EXPECT_EQ(run("export " + example("hoist-gantry") + " --what modes --to " + file.string()).code, 0);
    EXPECT_EQ(contents(file).substr(0, 4), "glTF");
    EXPECT_EQ(run("export " + example("hoist-gantry") + " --what modes --to modes.obj").code, 2);
    if (std::system("command -v chromium > /dev/null 2>&1") != 0) GTEST_SKIP() << "no chromium to play it in";
    const auto dom = scratch() / "dom.html";
    const std::string command = "timeout 50 chromium --headless --no-sandbox --use-gl=angle --use-angle=swiftshader "
                                "--enable-unsafe-swiftshader --virtual-time-budget=3000 --dump-dom file://" +
                                page.string() + " > " + dom.string() + " 2> /dev/null";
    ASSERT_EQ(std::system(command.c_str()), 0);
    const std::string after = contents(dom);
    EXPECT_NE(after.find("data-ready=\"19\""), std::string::npos) << "all modes taken in by the page's player";
    EXPECT_NE(after.find("first twisting</option>"), std::string::npos);
}

TEST(CommandLine, TheScriptsOfTheManualRun)
{
    // Each block of Python in it, as it stands there.
    const std::string manual = contents(std::string(EXAMPLES) + "/../docs/scripting.md");
    std::vector<std::string> scripts;
    for (std::size_t at = manual.find("```python\n"); at != std::string::npos;
         at = manual.find("```python\n", at + 1)) {
        const std::size_t begin = at + 10;
        scripts.push_back(manual.substr(begin, manual.find("```", begin) - begin));
    }
    ASSERT_EQ(scripts.size(), 4u);
    std::vector<std::string> said;
    for (const auto& script : scripts) {
        EXPECT_LE(std::count(script.begin(), script.end(), '\n'), 20);
        std::ofstream(scratch() / "script.py") << script;
        const std::string command = "cd " + scratch().string() + " && UNDISONA=" + CLI + " MODEL=" + EXAMPLES +
                                    "/radar-mast.undisona.json /usr/bin/python3 script.py > said 2> wrong";
        ASSERT_EQ(std::system(command.c_str()), 0) << contents(scratch() / "wrong");
        said.push_back(contents(scratch() / "said"));
    }
    EXPECT_EQ(std::count(said[0].begin(), said[0].end(), '\n'), 5) << said[0];
    EXPECT_NE(said[0].find("2.9189"), std::string::npos) << "85 kg is the model as it is: " << said[0];
    EXPECT_NE(said[1].find("as it is: 856.2 kg, 1 clashes"), std::string::npos) << said[1];
    EXPECT_NE(said[1].find("Ventilator x 1: mode 4, second bending in y, +5.1 %"), std::string::npos) << said[1];
    EXPECT_NE(said[3].find("now, found 20"), std::string::npos) << said[3];
    EXPECT_NE(said[3].find("  mode 1, 2.9189 Hz: most at "), std::string::npos) << said[3];
    EXPECT_NE(contents(scratch() / "taking-part.svg").find("</svg>"), std::string::npos);
}
