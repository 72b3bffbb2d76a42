// The command line as scripts see it: what it prints, where, and with which exit code.
#include "tests/cli/ran.hpp"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <sstream>

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
