#include "tests/outside/written_system.hpp"

#include <filesystem>
#include <fstream>
#include <random>

std::vector<std::string> generateModels(const std::string& folder)
{
    std::filesystem::create_directories(folder);
    std::vector<std::string> paths;
    const char* sections[] = {"tube 60.3x4 mm",   "rectangle 60x40 mm",  "channel 80x45x6x8 mm",
                              "angle 60x40x5 mm", "I 120x64x4.4x6.3 mm", "round 30 mm"};
    for (unsigned seed = 1; seed <= 50; ++seed) {
        std::mt19937 random(seed);
        const auto between = [&](double low, double high) {
            return low + (high - low) * double(random() % 10007) / 10006.0;
        };
        const auto metres = [](double value) { return std::to_string(value) + " m"; };
        nlohmann::ordered_json model, shape = nlohmann::json::array(), supports = nlohmann::json::array(),
                                      masses = nlohmann::json::array(), joints = nlohmann::json::array();
        const int points = 3 + static_cast<int>(random() % 4);
        nlohmann::json rows = nlohmann::json::array(), members = nlohmann::json::array();
        for (int at = 0; at < points; ++at)
            rows.push_back(
                {"p" + std::to_string(at), metres(between(-2, 2)), metres(between(-2, 2)), metres(1.1 * at)});
        shape.push_back({{"id", "points"}, {"kind", "points"}, {"rows", rows}});
        for (int at = 1; at < points; ++at)
            members.push_back({"m" + std::to_string(at), "p" + std::to_string(at - 1), "p" + std::to_string(at)});
        if (points > 3) members.push_back({"closing", "p0", "p" + std::to_string(points - 1)});
        shape.push_back({{"id", "members"},
                         {"kind", "members"},
                         {"name", "Frame"},
                         {"rows", members},
                         {"section", sections[random() % 6]},
                         {"elements", 1 + static_cast<int>(random() % 3)}});
        if (seed % 5 != 0)
            supports.push_back(
                {{"id", "hold"}, {"kind", "hold"}, {"points", "p0"}, {"directions", seed % 3 ? "all" : "x y z"}});
        if (seed % 4 == 0)
            supports.push_back({{"id", "spring"},
                                {"kind", "ground-spring"},
                                {"points", "p1"},
                                {"kx", "40 kN/m"},
                                {"kz", "9 kN/m"},
                                {"kry", "2 kN m/rad"}});
        if (seed % 7 == 0)
            supports.push_back({{"id", "tilted"},
                                {"kind", "hold"},
                                {"points", "p2"},
                                {"directions", "z"},
                                {"x-towards", "1, 1, 0"},
                                {"y-near", "0, 1, 1"}});
        masses.push_back({{"id", "mass"},
                          {"kind", "mass"},
                          {"mass", std::to_string(between(1, 80)) + " kg"},
                          {"sharing", "on"},
                          {"points", "p" + std::to_string(points - 1)},
                          {"centre", "0.1, -0.05, 0.2 m"},
                          {"inertia", "0.4, 0.5, 0.6 kg m2"}});
        if (seed % 2)
            masses.push_back({{"id", "line"}, {"kind", "mass-along"}, {"mass", "1.7 kg/m"}, {"members", "Frame"}});
        if (seed % 6 == 1)
            joints.push_back({{"id", "hinge"},
                              {"kind", "release"},
                              {"ends", "the first end"},
                              {"members", "m1"},
                              {"directions", "ry rz"},
                              {"turning", "3 kN m/rad"}});
        if (seed % 9 == 2)
            joints.push_back({{"id", "beside"}, {"kind", "offset"}, {"members", "m1"}, {"offset", "0, 30, 50 mm"}});
        model = {
            {"shape", shape},
            {"material",
             nlohmann::json::array({{{"id", "steel"},
                                     {"kind", "material"},
                                     {"what", "everything"},
                                     {"material", seed % 2 ? "structural steel" : "aluminium alloy 6082"}}})},
            {"joints", joints},
            {"supports", supports},
            {"added-mass", masses},
            {"excitation", nlohmann::json::array({{{"id", "fan"},
                                                   {"kind", "running-speed"},
                                                   {"name", "Fan"},
                                                   {"speed", std::to_string(between(200, 3000)) + " rpm"},
                                                   {"orders", "1 2"},
                                                   {"margin", "10 %"}}})},
            {"ask", nlohmann::json::array({{{"id", "ask"},
                                            {"kind", "lowest"},
                                            {"count", seed % 8 == 0 ? 500 : 5 + static_cast<int>(random() % 14)}}})}};
        const std::string path = folder + "/made-" + std::to_string(seed) + ".json";
        std::ofstream(path) << nlohmann::ordered_json{{"format", "undisona"}, {"version", 1}, {"model", model}}.dump(1);
        paths.push_back(path);
    }
    return paths;
}
