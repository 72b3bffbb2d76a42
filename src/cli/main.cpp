// The same engine as the window's, for scripts and other programs.
#include "core/assess/model_checks.hpp"
#include "core/base/number_text.hpp"
#include "core/io/export.hpp"
#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/units/display.hpp"
#include "core/units/unit.hpp"

#include <CLI/CLI.hpp>

#include <filesystem>
#include <fstream>
#include <iostream>

using namespace undisona;

namespace {

enum ExitCode { good = 0, modelError = 1, wrongUsage = 2 };

void report(const Findings& findings)
{
    for (const auto& finding : findings)
        std::cerr << oneLine(finding) << "\n";
}

int refuse(const std::string& what)
{
    std::cerr << "error: " << what << "\n";
    return wrongUsage;
}

/// The live model of a file, or the take with the name.
std::optional<Model> loadModel(const std::string& path, const std::string& take, int& code)
{
    auto document = readDocumentFile(path);
    if (!document) {
        report(document.findings());
        code = wrongUsage;
        return std::nullopt;
    }
    if (take.empty()) return document->model;
    std::string names;
    for (const auto& kept : document->takes) {
        if (kept.name == take || kept.id == take) return kept.model;
        names += (names.empty() ? "" : ", ") + kept.name;
    }
    code = refuse("there is no take \"" + take + "\" in " + path +
                  (names.empty() ? "; it has none" : "; it has: " + names));
    return std::nullopt;
}

int writeOut(const std::string& text, const std::string& path)
{
    if (path.empty()) {
        std::cout << text;
        return good;
    }
    std::ofstream stream(path, std::ios::binary);
    stream << text;
    stream.flush();
    return stream ? good : refuse(path + " cannot be written; check that its folder exists");
}

struct ModesOptions {
    std::string model, take, upTo, band, nearest, share, directions = "XY", format = "table", out;
    bool all = false;
    long count = 0;
    int threads = 0;
};

/// The ask that the options state in place of the model's own; a text when they cannot be read.
std::variant<std::optional<Ask>, std::string> askOf(const ModesOptions& options)
{
    const int ways =
        !options.upTo.empty() + !options.band.empty() + !options.nearest.empty() + !options.share.empty() + options.all;
    if (options.count < 0) return "--count must be at least 1";
    if (options.count == 0 && ways == 0) return std::optional<Ask>{};
    if (ways > 1) return "--up-to, --band, --nearest, --mass-share and --all are ways to ask; take one of them";
    Ask ask;
    ask.count = options.count > 0 ? options.count : options.nearest.empty() ? 200 : 6;
    if (options.all) ask.until = Ask::Until::all;
    const auto frequency = [](const std::string& text, const char* option) -> std::variant<double, std::string> {
        const auto read = readQuantity(text, QuantityKind::frequency, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) return option + (": " + problem->what);
        if (!(std::get<Quantity>(read).si > 0.0)) return std::string(option) + " needs frequencies above zero";
        return std::get<Quantity>(read).si;
    };
    if (!options.nearest.empty()) {
        const auto at = frequency(options.nearest, "--nearest");
        if (const auto* wrong = std::get_if<std::string>(&at)) return *wrong;
        ask.until = Ask::Until::nearest;
        ask.frequency = std::get<double>(at);
    }
    if (!options.band.empty()) {
        const auto dots = options.band.find("..");
        if (dots == std::string::npos) return "--band takes two frequencies, as in 20Hz..60Hz";
        const auto from = frequency(options.band.substr(0, dots), "--band"),
                   to = frequency(options.band.substr(dots + 2), "--band");
        for (const auto& end : {from, to})
            if (const auto* wrong = std::get_if<std::string>(&end)) return *wrong;
        ask.until = Ask::Until::band;
        ask.from = std::get<double>(from);
        ask.frequency = std::get<double>(to);
        if (!(ask.from < ask.frequency)) return "--band ends before it begins; give the lower frequency first";
    }
    if (!options.upTo.empty()) {
        const auto read = readQuantity(options.upTo, QuantityKind::frequency, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) return "--up-to: " + problem->what;
        ask.until = Ask::Until::frequency;
        ask.frequency = std::get<Quantity>(read).si;
    }
    if (!options.share.empty()) {
        const auto read = readQuantity(options.share, QuantityKind::share, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) return "--mass-share: " + problem->what;
        ask.until = Ask::Until::massShare;
        ask.share = std::get<Quantity>(read).si;
        ask.directions = {false, false, false};
        for (const char letter : lowered(options.directions)) {
            if (letter == ' ' || letter == ',') continue;
            if (letter < 'x' || letter > 'z')
                return "--directions takes letters of XYZ, not \"" + options.directions + "\"";
            ask.directions[static_cast<std::size_t>(letter - 'x')] = true;
        }
    }
    return std::optional<Ask>{ask};
}

int runModes(const ModesOptions& options)
{
    int code = good;
    const auto model = loadModel(options.model, options.take, code);
    if (!model) return code;
    const auto ask = askOf(options);
    if (const auto* wrong = std::get_if<std::string>(&ask)) return refuse(*wrong);
    limitBlasThreads(options.threads);
    Progress progress;
    const auto solution = solve(*model, progress, {std::get<0>(ask)});
    if (!solution) {
        report(solution.findings());
        return modelError;
    }
    Findings findings = (*solution)->findings;
    for (auto& finding : checkStructure(*(*solution)->structure, (*solution)->mass))
        findings.push_back(std::move(finding));
    report(findings);
    const auto clashes = clashesOf(**solution, (*solution)->structure->excitations);
    const std::string text = options.format == "json"  ? solutionJson(**solution, clashes)
                             : options.format == "csv" ? solutionCsv(**solution)
                                                       : solutionTable(**solution, clashes);
    code = writeOut(text, options.out);
    return code != good ? code : hasError(findings) ? modelError : good;
}

int runCheck(const std::string& path, const std::string& take)
{
    int code = good;
    const auto model = loadModel(path, take, code);
    if (!model) return code;
    const auto built = buildStructure(*model);
    const auto mass = massSummary(built.structure);
    Findings findings = built.findings;
    for (auto& finding : checkStructure(built.structure, mass))
        findings.push_back(std::move(finding));
    report(findings);
    std::cout << fmt::format("{} points, {} members, {:.6g} kg at {:.4g}, {:.4g}, {:.4g} m\n",
                             built.structure.frame.points.size(), built.structure.frame.members.size(), mass.mass,
                             mass.centre.x(), mass.centre.y(), mass.centre.z());
    return hasError(findings) ? modelError : good;
}

int runExport(const std::string& path, const std::string& take, const std::string& what, const std::string& to)
{
    int code = good;
    const auto model = loadModel(path, take, code);
    if (!model) return code;
    Progress progress;
    const auto solution = solve(*model, progress);
    if (!solution) {
        report(solution.findings());
        return modelError;
    }
    if (what == "system") {
        std::error_code error;
        std::filesystem::create_directories(to, error);
        if (error) return refuse(to + " cannot be made");
        const auto& system = *(*solution)->system;
        for (const auto& [name, text] :
             {std::pair{"K.mtx", matrixMarket(system.stiffness, "stiffness; rows in unknowns.csv; N/m, N, N m")},
              std::pair{"M.mtx", matrixMarket(system.mass, "mass; rows in unknowns.csv; kg, kg m, kg m2")},
              std::pair{"unknowns.csv", unknownsCsv(system)}})
            if (writeOut(text, to + "/" + name) != good) return wrongUsage;
        return good;
    }
    if (to.ends_with(".vtu")) return writeOut(solutionVtu(**solution), to);
    if (to.ends_with(".csv")) return writeOut(shapesCsv(**solution), to);
    return refuse("modes are written as .vtu or .csv; \"" + to + "\" ends in neither");
}

int runUnits(const std::string& quantity, const std::string& unitText)
{
    const auto unit = readUnit(unitText);
    if (!unit) return refuse("\"" + unitText + "\" is not a unit known here");
    const auto parts = readNumberAndUnit(quantity, NumberStyle::file);
    if (const auto* problem = std::get_if<QuantityProblem>(&parts)) return refuse(problem->what);
    const auto& given = std::get<NumberAndUnit>(parts);
    const auto own = readUnit(given.unit);
    if (!own) return refuse("\"" + given.unit + "\" is not a unit known here");
    double si = given.value * own->factor + own->offset;
    Dimension have = own->dimension, want = unit->dimension;
    if (have.angle != want.angle && have.time == -1 && want.time == -1) { // rad/s and Hz
        si *= have.angle == 1 ? 1.0 / (2.0 * std::numbers::pi) : 2.0 * std::numbers::pi;
        have.angle = want.angle;
    }
    if (!(have == want))
        return refuse(quantity + " is " + describe(own->dimension) + ", and " + unitText + " is for " +
                      describe(unit->dimension));
    std::cout << shortest(std::stod(fmt::format("{:.15g}", (si - unit->offset) / unit->factor))) << " " << unitText
              << "\n";
    return good;
}

} // namespace

int main(int argc, char** argv)
{
    CLI::App app{"Natural frequencies, mode shapes and what shakes them, from a model file."};
    app.require_subcommand(1);

    ModesOptions options;
    auto* modes = app.add_subcommand("modes", "find modes and print what is read of them");
    modes->add_option("model", options.model, "model file")->required();
    modes->add_option("--count", options.count, "the number of lowest modes, or the most of them")
        ->check(CLI::PositiveNumber);
    modes->add_option("--up-to", options.upTo, "every mode up to a frequency, such as 60Hz");
    modes->add_option("--band", options.band, "every mode between two frequencies, such as 20Hz..60Hz");
    modes->add_option("--nearest", options.nearest, "the modes nearest to a frequency; --count says how many");
    modes->add_flag("--all", options.all, "every mode of a small model");
    modes->add_option("--mass-share", options.share, "until this share of the movable mass takes part, such as 90%");
    modes->add_option("--directions", options.directions, "directions of --mass-share, letters of XYZ");
    modes->add_option("--format", options.format, "table, csv or json")->check(CLI::IsMember({"table", "csv", "json"}));
    modes->add_option("--out", options.out, "file to write instead of standard output");
    modes->add_option("--take", options.take, "a take by name instead of the live model");
    modes->add_option("--threads", options.threads, "no more threads than this; all of the machine's otherwise")
        ->check(CLI::PositiveNumber);

    std::string model, take, what, to, quantity, unit;
    auto* check = app.add_subcommand("check", "read a model and say what is wrong or odd about it");
    check->add_option("model", model, "model file")->required();
    check->add_option("--take", take, "a take by name instead of the live model");

    auto* exporting = app.add_subcommand("export", "write matrices or mode shapes for other programs");
    exporting->add_option("model", model, "model file")->required();
    exporting->add_option("--what", what, "system (K.mtx, M.mtx, unknowns.csv) or modes (.vtu, .csv)")
        ->required()
        ->check(CLI::IsMember({"system", "modes"}));
    exporting->add_option("--to", to, "folder for a system, file for modes")->required();
    exporting->add_option("--take", take, "a take by name instead of the live model");

    auto* units = app.add_subcommand("units", "convert a quantity: units \"18 kN\" lbf");
    units->add_option("quantity", quantity, "number with unit")->required();
    units->add_option("unit", unit, "unit to express it in")->required();

    auto* schema = app.add_subcommand("schema", "print the JSON Schema of the model file");

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        return app.exit(error) == 0 ? good : wrongUsage;
    }
    try {
        if (*modes) return runModes(options);
        if (*check) return runCheck(model, take);
        if (*exporting) return runExport(model, take, what, to);
        if (*units) return runUnits(quantity, unit);
        if (*schema) std::cout << documentSchema();
    } catch (const std::bad_alloc&) {
        std::cerr << "error: the memory of this machine is not enough for this model\n";
        return modelError;
    }
    return good;
}
