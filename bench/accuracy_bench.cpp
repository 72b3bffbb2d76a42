// What accuracy costs: the error of the first ten frequencies over unknowns and over seconds, for each family of
// elements on a plate and a bar whose frequencies are known in closed form. With a folder's name, plots are written
// there.
#include "bench/log_plot.hpp"
#include "core/io/export.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/mesh_file.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

#include <chrono>
#include <filesystem>
#include <fstream>

using namespace undisona;

namespace {

constexpr double pi = std::numbers::pi;
constexpr double E = 200e9, nu = 0.3, rho = 8000.0;
constexpr std::size_t modes = 10;

/// The lower root of two coupled motions of a plate or a bar of wave number k: deflection with mass and shear
/// stiffness, rotation with rotary inertia and bending stiffness (Timoshenko 1921; Mindlin 1951). Hz.
double coupled(double k2, double bending, double shear, double mass, double rotary)
{
    const double a = mass * rotary, b = -(mass * (bending * k2 + shear) + rotary * shear * k2),
                 c = shear * k2 * bending * k2;
    return std::sqrt((-b - std::sqrt(b * b - 4 * a * c)) / (2 * a)) / (2 * pi);
}

constexpr double length = 1.0, width = 0.7, thickness = 0.02;

/// Mindlin's plate, its edges supported hard.
std::vector<double> ofPlate()
{
    std::vector<double> all;
    const double h = thickness;
    for (int m = 1; m < 9; ++m)
        for (int n = 1; n < 9; ++n)
            all.push_back(coupled(std::pow(m * pi / length, 2) + std::pow(n * pi / width, 2),
                                  E * h * h * h / 12 / (1 - nu * nu), 5.0 / 6.0 * E / (2 + 2 * nu) * h, rho * h,
                                  rho * h * h * h / 12));
    std::sort(all.begin(), all.end());
    all.resize(modes);
    return all;
}

constexpr double high = 0.03, wide = 0.02;

/// Timoshenko's bar between supports that hold across it, in both directions (shear coefficient by Cowper 1966), and
/// its twisting with free warping (Saint-Venant 1855).
std::vector<double> ofBar()
{
    std::vector<double> all;
    const double area = high * wide, shear = 10 * (1 + nu) / (12 + 11 * nu) * E / (2 + 2 * nu) * area;
    for (int n = 1; n < 12; ++n)
        for (const auto& [h, b] : {std::pair{high, wide}, std::pair{wide, high}}) {
            const double inertia = b * h * h * h / 12;
            all.push_back(coupled(std::pow(n * pi / length, 2), E * inertia, shear, rho * area, rho * inertia));
        }
    double series = 0.0;
    for (int n = 1; n < 40; n += 2)
        series += std::tanh(n * pi * high / (2 * wide)) / std::pow(n, 5);
    const double torsion = high * std::pow(wide, 3) / 3 * (1 - 192 * wide / (std::pow(pi, 5) * high) * series),
                 polar = high * wide * (high * high + wide * wide) / 12;
    for (int n = 1; n < 4; ++n)
        all.push_back(n / (2 * length) * std::sqrt(E / (2 + 2 * nu) * torsion / (rho * polar)));
    std::sort(all.begin(), all.end());
    all.resize(modes);
    return all;
}

SaidModel& asked(SaidModel& model)
{
    return model.say("lowest", {{"count", std::to_string(modes + 1)}}); // one may be rigid
}

SaidModel sheetHeld(SaidModel model)
{
    for (const double x : {0.0, length})
        model.say("hold", {{"where", "edges at x = " + metres(x)}, {"directions", "x y z rx"}});
    for (const double y : {0.0, width})
        model.say("hold", {{"where", "edges at y = " + metres(y)}, {"directions", "x y z ry"}});
    return asked(model);
}

SaidModel plateOfQuadrilaterals(double size)
{
    return sheetHeld(steel().say("plate", {{"name", "Plate"},
                                           {"length", metres(length)},
                                           {"width", metres(width)},
                                           {"thickness", metres(thickness)},
                                           {"size", metres(size)}}));
}

/// The same grid with every quadrilateral cut in two, as a mesh from a file.
SaidModel plateOfTriangles(double size)
{
    const auto drawn = asked(steel().say("plate", {{"name", "Plate"},
                                                   {"length", metres(length)},
                                                   {"width", metres(width)},
                                                   {"thickness", metres(thickness)},
                                                   {"size", metres(size)}}))
                           .structure();
    Solution solution;
    FrameMesh mesh = meshOf(drawn, {}, {{size}});
    std::vector<MeshShell> cut;
    for (const auto& shell : mesh.shells)
        for (const auto& corners : {std::array{0, 1, 2}, std::array{0, 2, 3}}) {
            MeshShell piece = shell;
            for (std::size_t at = 0; at < 3; ++at)
                piece.nodes[at] = shell.nodes[static_cast<std::size_t>(corners[at])];
            piece.nodes[3] = -1;
            if (shell.corners() == 4 || corners[1] == 1) cut.push_back(piece);
        }
    mesh.shells = cut;
    solution.mesh = mesh;
    solution.structure = std::make_shared<const Structure>(drawn);
    const std::string path = (std::filesystem::temp_directory_path() / "triangles.vtu").string();
    std::ofstream(path) << solutionVtu(solution);
    SaidModel model = steel();
    for (auto& sentence : importedSentences(model.model(), *MeshFile::read(path), path)) {
        sentence.values["thickness"] =
            std::get<Value>(readValue(*sentence.kind->field("thickness"), metres(thickness), NumberStyle::file));
        model.add(std::move(sentence));
    }
    return sheetHeld(model);
}

SaidModel solidPlate(double size, const char* elements, int through)
{
    SaidModel model = steel();
    model.say("solid-box", {{"name", "Plate"},
                            {"x", metres(length)},
                            {"y", metres(width)},
                            {"z", metres(thickness)},
                            {"size", metres(size)}});
    Words words{{"what", "Plate"}, {"elements", elements}};
    if (through > 0) words["through"] = std::to_string(through);
    model.say("solid-elements", words);
    for (const double x : {0.0, length})
        model.say("hold", {{"where", "faces at x = " + metres(x) + " of Plate"}, {"directions", "y z"}});
    for (const double y : {0.0, width})
        model.say("hold", {{"where", "faces at y = " + metres(y) + " of Plate"}, {"directions", "x z"}});
    return asked(model);
}

SaidModel bar(double size, const char* elements, int through)
{
    SaidModel model = steel();
    model.say(
        "solid-box",
        {{"name", "Bar"}, {"x", metres(length)}, {"y", metres(wide)}, {"z", metres(high)}, {"size", metres(size)}});
    Words words{{"what", "Bar"}, {"elements", elements}};
    if (through > 0) words["through"] = std::to_string(through);
    model.say("solid-elements", words); // free to move along itself
    for (const double x : {0.0, length})
        model.say("hold", {{"where", "faces at x = " + metres(x) + " of Bar"}, {"directions", "y z"}});
    return asked(model);
}

SaidModel member(double size)
{
    SaidModel model = steel();
    model
        .say("run", {{"name", "Bar"},
                     {"from", "0, 0, 0 m"},
                     {"to", metres(length).insert(metres(length).find(' '), ", 0, 0")},
                     {"section", "rectangle 20x30 mm"},
                     {"elements", std::to_string(std::lround(length / size))}})
        .say("hold", {{"where", "Bar.0"}, {"directions", "y z rx"}})
        .say("hold", {{"where", "Bar.1"}, {"directions", "y z rx"}});
    return asked(model);
}

struct Family {
    const char* name;
    std::function<SaidModel(double)> model;
    std::vector<double> sizes;
};

void run(const std::string& what, const std::vector<double>& exact, const std::vector<Family>& families,
         const std::string& folder)
{
    std::vector<LogPlot> plots{
        {what + ": over unknowns", "unknowns", "root mean square of ten errors, %", {}},
        {what + ": over seconds", "seconds, mesh to modes", "root mean square of ten errors, %", {}}};
    fmt::print("\n{}\n\n| elements | size | unknowns | seconds | mean error | largest |\n|---|---|---|---|---|---|\n",
               what);
    for (const auto& family : families) {
        for (auto& plot : plots)
            plot.lines.push_back({family.name, {}});
        for (const double size : family.sizes) {
            const SaidModel said = family.model(size);
            const auto begin = std::chrono::steady_clock::now();
            Progress progress;
            const auto solution = solve(said.model(), progress);
            const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            if (!solution) {
                fmt::print("| {} | {} mm | {} |\n", family.name, 1e3 * size, oneLine(solution.findings().front()));
                continue;
            }
            double squares = 0.0, largest = 0.0;
            std::size_t mode = 0;
            for (const auto& found : (*solution)->modes) {
                if (found.rigid || mode == exact.size()) continue;
                const double error = std::abs(found.frequency / exact[mode++] - 1.0);
                squares += error * error;
                largest = std::max(largest, error);
            }
            const double mean = 100.0 * std::sqrt(squares / double(exact.size()));
            fmt::print("| {} | {:.3g} mm | {} | {:.2f} | {:.3g} % | {:.3g} % |\n", family.name, 1e3 * size,
                       (*solution)->shapes.rows(), seconds, mean, 100.0 * largest);
            std::fflush(stdout);
            plots[0].lines.back().points.emplace_back(double((*solution)->shapes.rows()), mean);
            plots[1].lines.back().points.emplace_back(seconds, mean);
        }
    }
    if (!folder.empty()) std::ofstream(folder + "/accuracy-" + what + ".svg") << svgOf(plots);
}

} // namespace

int main(int count, char** arguments)
{
    testing::InitGoogleTest(&count, arguments);
    const std::string folder = count > 1 ? arguments[1] : "";
    const std::vector<double> coarse{0.1, 0.05, 0.025, 0.0125};
    run("plate", ofPlate(),
        {{"quadrilaterals, 4 nodes", plateOfQuadrilaterals, coarse},
         {"triangles, 3 nodes", plateOfTriangles, coarse},
         {"bricks, 20 nodes, 1 through",
          [](double size) { return solidPlate(size, "20-node bricks", 1); },
          {0.1, 0.05, 0.025}},
         {"bricks, 20 nodes, 2 through",
          [](double size) { return solidPlate(size, "20-node bricks", 2); },
          {0.1, 0.05, 0.025}},
         {"bricks, 8 nodes, 2 through", [](double size) { return solidPlate(size, "8-node bricks", 2); }, coarse},
         {"tetrahedra, 10 nodes", [](double size) { return solidPlate(size, "tetrahedra", 0); }, {0.1, 0.05, 0.025}}},
        folder);
    run("bar", ofBar(),
        {{"members", member, {0.25, 0.125, 0.0625, 0.03125}},
         {"bricks, 20 nodes, 1 through", [](double size) { return bar(size, "20-node bricks", 0); }, {0.2, 0.1, 0.05}},
         {"bricks, 20 nodes, 2 through",
          [](double size) { return bar(size, "20-node bricks", 2); },
          {0.2, 0.1, 0.05, 0.02}},
         {"bricks, 8 nodes, 2 through", [](double size) { return bar(size, "8-node bricks", 2); }, coarse},
         {"tetrahedra, 10 nodes", [](double size) { return bar(size, "tetrahedra", 0); }, {0.06, 0.03, 0.015, 0.0075}}},
        folder);
}
