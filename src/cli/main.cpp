// The same engine as the window's, for scripts and other programs.
#include "cli/film.hpp"
#include "cli/kept.hpp"
#include "cli/loaded_model.hpp"
#include "cli/remedies.hpp"
#include "cli/rest.hpp"
#include "cli/stresses.hpp"
#include "cli/stated_options.hpp"
#include "core/assess/before_run.hpp"
#include "core/assess/model_checks.hpp"
#include "core/base/archive.hpp"
#include "core/base/memory.hpp"
#include "core/base/number_text.hpp"
#include "core/engine/serve.hpp"
#include "core/io/export.hpp"
#include "core/io/gltf.hpp"
#include "core/mesh/tetrahedralize.hpp"
#include "core/modal/bare_pair.hpp"
#include "core/modal/first_mesh.hpp"
#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/mesh_file.hpp"
#include "core/shapes/shape_file.hpp"
#include "core/studies/cost.hpp"
#include "core/units/unit.hpp"
#include "core/vtu/read_vtu.hpp"

#include <CLI/CLI.hpp>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <iostream>

#include <unistd.h>

using namespace undisona;

namespace {

/// Modes of two Matrix Market files.
int runSystem(const ModesOptions& options)
{
    if (!options.model.empty()) return refuse("--system stands in place of a model; give one of them");
    for (const auto& [given, option] :
         {std::pair(&options.take, "--take"), std::pair(&options.leaveOut, "--leave-out"),
          std::pair(&options.about, "--about"), std::pair(&options.residual, "--residual"),
          std::pair(&options.residualAt, "--residual-at"), std::pair(&options.massMatrix, "--mass-matrix"),
          std::pair(&options.share, "--mass-share"), std::pair(&options.of, "--of"),
          std::pair(&options.results, "--results"), std::pair(&options.ritz, "--ritz"),
          std::pair(&options.ritzAt, "--ritz-at")})
        if (!given->empty())
            return refuse(std::string(option) + " needs a model; two matrices have no supports, masses or directions");
    const auto ask = askOf(options);
    if (const auto* wrong = std::get_if<std::string>(&ask)) return refuse(*wrong);
    std::array<SparseSymmetric, 2> matrices;
    for (std::size_t at = 0; at < 2; ++at) {
        auto read = readMatrixMarket(options.system[at]);
        if (!read) {
            report(read.findings());
            return wrongUsage;
        }
        matrices[at] = std::move(*read);
    }
    limitBlasThreads(options.threads);
    Progress progress;
    const auto modes = modesOfPair(matrices[0], matrices[1], std::get<0>(ask).value_or(Ask{}), progress);
    if (!modes) {
        report(modes.findings());
        return modelError;
    }
    const int code = writeOut(options.format == "json"  ? pairJson(*modes, progress.timings())
                              : options.format == "csv" ? pairCsv(*modes)
                                                        : pairTable(*modes),
                              options.out, options.system);
    return code != good ? code : modes->check.proven || options.unproven ? good : modelError;
}

int runModes(const ModesOptions& options)
{
    if (!options.system.empty()) return runSystem(options);
    if (options.model.empty()) return refuse("modes needs a model file, or --system with two matrix files");
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    const auto ask = askOf(options);
    if (const auto* wrong = std::get_if<std::string>(&ask)) return refuse(*wrong);
    const auto stated = statedIn(loaded->model, options);
    if (const auto* wrong = std::get_if<std::string>(&stated)) return refuse(*wrong);
    const auto& [said, asks] = std::get<StatedModel>(stated);
    const auto own = asks ? std::nullopt : std::get<0>(ask);
    std::shared_ptr<const Solution> kept;
    if (!options.results.empty()) {
        if (own) return refuse("--results are of what the model asks for; leave out what asks for something else");
        kept = keptSolution(options.results, said, code);
        if (code != good) return code;
        if (!kept) report({noteAt({}, options.results + " keeps nothing of this model: it is solved")});
    }
    limitBlasThreads(options.threads);
    Progress progress;
    const auto solution = kept ? Result<std::shared_ptr<const Solution>>(kept)
                               : solve(said, progress, {.ask = own, .meshErrors = !options.noMeshError});
    if (!solution) {
        report(solution.findings());
        return modelError;
    }
    Findings findings = (*solution)->findings;
    for (auto& finding : checkStructure(*(*solution)->structure, (*solution)->mass, said))
        findings.push_back(std::move(finding));
    report(findings);
    const auto clashes = clashesOf(**solution, (*solution)->structure->excitations, (*solution)->structure->modeNames);
    const std::string text = options.format == "json" ? solutionJson(**solution, clashes, options.shapes)
                             : options.format == "csv"
                                 ? solutionCsv(**solution)
                                 : solutionTable(**solution, clashes, loaded->units, options.foldLocal);
    code = writeOut(text, options.out, loaded->inputs);
    return code != good ? code : hasError(findings) ? modelError : good;
}

int runSettle(const std::string& path, const std::string& take, const std::string& format, const std::string& out)
{
    int code = good;
    const auto loaded = loadModel(path, take, code);
    if (!loaded) return code;
    Progress progress;
    const auto solution = solve(loaded->model, progress);
    if (!solution) {
        report(solution.findings());
        return modelError;
    }
    const auto settling = settle(loaded->model, **solution, progress);
    if (!settling) {
        report(settling.findings());
        return modelError;
    }
    report(settling->remarks);
    return writeOut(format == "csv" ? settlingCsv(**solution, *settling) : settlingTable(**solution, *settling), out,
                    loaded->inputs);
}

/// Where every kilogram comes from; nothing is solved.
int runMass(const std::string& path, const std::string& take, const std::string& format, const std::string& out)
{
    int code = good;
    const auto loaded = loadModel(path, take, code);
    if (!loaded) return code;
    const auto built = buildStructure(loaded->model);
    report(built.findings);
    if (hasError(built.findings)) return modelError;
    const MassSummary summary = massSummary(built.structure);
    report(summary.problems);
    const MassBook book = massBook(built.structure, loaded->model, summary);
    code = writeOut(format == "csv" ? massBookCsv(book) : massBookTable(book, loaded->units), out, loaded->inputs);
    return code != good ? code : hasError(summary.problems) ? modelError : good;
}

/// What a run would cost, before it is made.
int runEstimate(const std::string& path, const std::string& take)
{
    int code = good;
    const auto loaded = loadModel(path, take, code);
    if (!loaded) return code;
    const auto built = buildStructure(loaded->model);
    report(built.findings);
    if (hasError(built.findings)) return modelError;
    Progress progress;
    KeptRuns kept;
    const auto estimate = costStudy().run(loaded->model, {}, {progress, kept});
    if (!estimate || estimate->words.empty())
        return refuse("a run of this model cannot be estimated: nothing in it can move, or it is far too large");
    std::cout << fmt::format(
        "{} unknowns on the first mesh; {}; factor {:.0f} MB, matrices {:.0f} MB, modes {:.0f} MB\n",
        estimate->unknowns, estimate->words, estimate->factorMegabytes + estimate->frontMegabytes,
        estimate->matrixMegabytes, estimate->basisMegabytes);
    if (!built.structure.solids.empty())
        std::cout << fmt::format("bodies of tetrahedra may take up to {:g} times as many, where thin parts want them\n",
                                 mostTimesForDetail);
    for (const auto& told :
         toldBeforeRun(loaded->model, built.structure, massSummary(built.structure), loaded->units)) {
        std::cout << "\n" << told.heading << "\n";
        for (const auto& line : told.lines)
            std::cout << "  " << line << "\n";
    }
    report(estimate->refused);
    return estimate->refused.empty() ? good : modelError;
}

/// Any study's answer, member by member.
int runStudy(const std::string& key, const std::string& path, const std::string& take)
{
    const Study* study = studyNamed(key);
    if (!study) {
        std::string known;
        for (const auto& one : studies())
            known += fmt::format("\n  {}: {}", one.key, one.finds);
        return refuse(fmt::format("there is no study called \"{}\"; there are{}", key, known));
    }
    int code = good;
    const auto loaded = loadModel(path, take, code);
    if (!loaded) return code;
    Progress progress;
    KeptRuns kept;
    const auto json = study->json(study->run(loaded->model, study->usual, {progress, kept}));
    std::cout << json.text << '\n';
    return json.answered ? good : modelError;
}

/// With `whole` up to what a run would refuse.
int runCheck(const std::string& path, const std::string& take, bool whole = true)
{
    int code = good;
    const auto loaded = loadModel(path, take, code);
    if (!loaded) return code;
    const auto built = buildStructure(loaded->model);
    const auto mass = massSummary(built.structure);
    Findings findings = built.findings;
    for (auto& finding : checkStructure(built.structure, mass, loaded->model))
        findings.push_back(std::move(finding));
    if (whole && !hasError(findings)) {
        Progress progress;
        for (auto& finding : refusalOf(built.structure, progress))
            findings.push_back(std::move(finding));
    }
    report(findings);
    std::cout << fmt::format("{} points, {} members, {}\n", built.structure.frame.points.size(),
                             built.structure.frame.members.size(), massWords(mass, loaded->units));
    return hasError(findings) ? modelError : good;
}

int runExport(const std::string& path, const std::string& take, const std::string& what, const std::string& to)
{
    int code = good;
    const auto loaded = loadModel(path, take, code);
    if (!loaded) return code;
    if (what == "shapes") {
        const auto built = buildStructure(loaded->model);
        const auto text = stepText(built.structure.frame);
        if (text) return writeOut(*text, to, loaded->inputs);
        report(text.findings());
        return modelError;
    }
    Progress progress;
    const auto solution = solve(loaded->model, progress);
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
             {std::pair{"K.mtx",
                        matrixMarket(exportedStiffness(system), "stiffness; rows in unknowns.csv; N/m, N, N m")},
              std::pair{"M.mtx", matrixMarket(system.mass, "mass; rows in unknowns.csv; kg, kg m, kg m2")},
              std::pair{"M_held.mtx", heldMassMarket(system)},
              std::pair{"unknowns.csv", unknownsCsv(system.motions.unknowns)},
              std::pair{"held.csv", unknownsCsv(system.motions.held)}})
            if (writeOut(text, to + "/" + name, loaded->inputs) != good) return wrongUsage;
        if (system.motions.apart.empty()) return good;
        return writeOut(relationsMarket(system), to + "/relations.mtx", loaded->inputs);
    }
    if (to.ends_with(".vtu")) return writeOut(solutionVtu(**solution), to, loaded->inputs);
    if (to.ends_with(".csv")) return writeOut(shapesCsv(**solution), to, loaded->inputs);
    const bool page = to.ends_with(".html");
    if (page || to.ends_with(".glb")) {
        const std::string motion = page ? motionPage(**solution, loaded->document.name) : modesGlb(**solution);
        return motion.empty() ? refuse("there is nothing to draw: neither members nor sheets nor solids")
                              : writeOut(motion, to, loaded->inputs);
    }
    return refuse("modes are written as .vtu, .csv, .glb or .html; \"" + to + "\" ends in none of these");
}

int runImport(const std::string& path, const std::string& to)
{
    std::error_code error;
    const std::string whole = std::filesystem::absolute(path, error).lexically_normal().string();
    if (error || path.empty()) return refuse(path.empty() ? "name the file to import" : "this folder is gone");
    Document document;
    document.name = std::filesystem::path(path).stem().string();
    const auto sentencesOf = [&](const auto& file) -> std::optional<std::vector<Sentence>> {
        if (file.problem.empty()) return importedSentences(document.model, file, whole);
        refuse(path + ": " + file.problem + ". " + file.remedy);
        return std::nullopt;
    };
    const auto sentences =
        isMeshFile(path) ? sentencesOf(*MeshFile::read(whole)) : sentencesOf(*ShapeFile::read(whole));
    if (!sentences) return wrongUsage;
    for (const auto& sentence : *sentences)
        document.model = document.model.inserted(sentence);
    for (const char* kind : {"material", "lowest"})
        document.model = document.model.inserted(newSentence(*kindNamed(kind), document.model.freeId()));
    if (const auto problem = writeDocumentFile(document, to)) {
        report({*problem});
        return wrongUsage;
    }
    return runCheck(to, {}, false);
}

/// Hands over what the work gives; what a library may print on the way must not get between.
template <class Work>
int answerOther(const Work& work)
{
    const int answers = dup(STDOUT_FILENO);
    dup2(STDERR_FILENO, STDOUT_FILENO);
    const std::string bytes = work();
    for (std::size_t at = 0; at < bytes.size();) {
        const auto put = write(answers, bytes.data() + at, bytes.size() - at);
        if (put < 0 && errno != EINTR) return modelError;
        if (put > 0) at += static_cast<std::size_t>(put);
    }
    return good;
}

int runFillSurface()
{
    return answerOther([] {
        const std::string asked{std::istreambuf_iterator<char>(std::cin), {}};
        try {
            return fillForOther(asked);
        } catch (const ArchiveError&) {
            return std::string();
        }
    });
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

int runEngine(double memoryLimit)
{
    // What a library may print must not get between the answers.
    const int answers = dup(STDOUT_FILENO);
    dup2(STDERR_FILENO, STDOUT_FILENO);
    return serveEngine(STDIN_FILENO, answers, memoryLimit);
}

} // namespace

/// More modes than anybody reads; those of small models are had with --all.
constexpr int mostModes = 10000;

int main(int argc, char** argv)
{
    std::signal(SIGXFSZ, SIG_IGN); // a file that may grow no further is a write that fails, and is said
    CLI::App app{"Natural frequencies, mode shapes and what shakes them, from a model file."};
    app.require_subcommand(1);

    ModesOptions options;
    auto* modes = app.add_subcommand("modes", "find modes and print what is read of them");
    modes->add_option("model", options.model, "model file");
    modes->add_option("--system", options.system, "stiffness and mass as Matrix Market files, in place of a model")
        ->expected(2);
    modes->add_option("--count", options.count, "the number of lowest modes, or the most of them")
        ->check(CLI::Range(1, mostModes));
    modes->add_option("--up-to", options.upTo, "every mode up to a frequency, such as 60Hz");
    modes->add_option("--band", options.band, "every mode between two frequencies, such as 20Hz..60Hz");
    modes->add_option("--nearest", options.nearest, "the modes nearest to a frequency; --count says how many");
    modes->add_flag("--all", options.all, "every mode of a small model");
    modes->add_option("--mass-share", options.share, "until this share of the mass takes part, such as 90%");
    modes->add_option("--directions", options.directions, "directions of --mass-share, letters of XYZ");
    modes->add_option("--of", options.of, "what --mass-share counts of: the total mass, or the movable mass alone")
        ->check(CLI::IsMember({"total", "movable"}));
    modes->add_option(
        "--ritz", options.ritz,
        "load-dependent Ritz vectors from base accelerations along letters of XYZ; --count says how many, "
        "--mass-share until when");
    modes->add_option("--ritz-at", options.ritzAt, "points where unit forces along --ritz act, in place of the base");
    modes->add_option("--residual", options.residual,
                      "residual vectors beside the modes, for base accelerations along letters of XYZ");
    modes->add_option("--residual-at", options.residualAt, "points where unit forces along --residual act instead");
    modes->add_option("--tolerance", options.tolerance, "the largest error of an eigenvalue, 1e-8 unless said");
    modes->add_option("--mass-matrix", options.massMatrix, "consistent or lumped mass");
    modes->add_flag("--unproven", options.unproven, "leave out the count that proves that none is missed");
    modes->add_flag("--no-mesh-error", options.noMeshError,
                    "leave out the estimate of how far off the mesh leaves each mode");
    modes->add_flag("--fold-local", options.foldLocal,
                    "leave modes of a small part alone out of the table, but those that meet an excitation");
    modes->add_option("--leave-out", options.leaveOut,
                      "masses and supports to do without, by label or id, such as \"ice, left mount\"");
    modes->add_option("--about", options.about, "a static state that the modes are about, by name");
    modes->add_option("--format", options.format, "table, csv or json")->check(CLI::IsMember({"table", "csv", "json"}));
    modes->add_flag("--shapes", options.shapes, "in JSON also the nodes and every mode's motion of them");
    modes->add_option("--out", options.out, "file to write instead of standard output");
    modes->add_option("--take", options.take, "a take or a state by name instead of the live model");
    modes->add_option("--results", options.results, "results file: what it keeps of the model is not solved again");
    modes->add_option("--threads", options.threads, "no more threads than this; all of the machine's otherwise")
        ->check(CLI::PositiveNumber);

    std::string model, take, what, to, quantity, unit;
    auto* settling = app.add_subcommand("settle", "find modes on coarser and finer meshes too, and what each "
                                                  "frequency settles at");
    settling->add_option("model", model, "model file")->required();
    settling->add_option("--take", take, "a take or a state by name instead of the live model");
    settling->add_option("--format", options.format, "table or csv")->check(CLI::IsMember({"table", "csv"}));
    settling->add_option("--out", options.out, "file to write instead of standard output");

    auto* mass = app.add_subcommand("mass", "print the mass book: where every kilogram comes from, and what the scale "
                                            "says");
    mass->add_option("model", model, "model file")->required();
    mass->add_option("--take", take, "a take or a state by name instead of the live model");
    mass->add_option("--format", options.format, "table or csv")->check(CLI::IsMember({"table", "csv"}));
    mass->add_option("--out", options.out, "file to write instead of standard output");

    std::string studyKey;
    auto* study = app.add_subcommand("study", "print all that a study finds, member by member, as JSON: study modes "
                                              "tower.undisona.json");
    study->add_option("study", studyKey, "its name; another word lists them")->required();
    study->add_option("model", model, "model file")->required();
    study->add_option("--take", take, "a take or a state by name instead of the live model");

    auto* check = app.add_subcommand("check", "read a model and say what is wrong or odd about it");
    check->add_option("model", model, "model file")->required();
    check->add_option("--take", take, "a take or a state by name instead of the live model");

    auto* estimating = app.add_subcommand("estimate", "say how large a run of a model is, before it is made");
    estimating->add_option("model", model, "model file")->required();
    estimating->add_option("--take", take, "a take or a state by name instead of the live model");

    auto* exporting = app.add_subcommand("export", "write matrices or mode shapes for other programs");
    exporting->add_option("model", model, "model file")->required();
    exporting
        ->add_option("--what", what,
                     "system (K.mtx, M.mtx, M_held.mtx, unknowns.csv, held.csv), "
                     "modes (.vtu, .csv; in motion .glb, .html) or shapes (.step)")
        ->required()
        ->check(CLI::IsMember({"system", "modes", "shapes"}));
    exporting->add_option("--to", to, "folder for a system, file for modes or shapes")->required();
    exporting->add_option("--take", take, "a take or a state by name instead of the live model");

    auto* importing =
        app.add_subcommand("import", "make a model of the bodies of a STEP or BREP file, or of the mesh in a VTU file");
    importing->add_option("file", quantity, "the file")->required();
    importing->add_option("--to", to, "the model file to write")->required();

    auto* units = app.add_subcommand("units", "convert a quantity: units \"18 kN\" lbf");
    units->add_option("quantity", quantity, "number with unit")->required();
    units->add_option("unit", unit, "unit to express it in")->required();

    double memoryLimit = 0.0;
    auto* engine = app.add_subcommand("engine", "serve the window: orders on standard input, answers on standard "
                                                "output, in a binary form of its own");
    engine->add_option("--memory-limit", memoryLimit, "megabytes it may take; what the machine gives otherwise")
        ->check(CLI::PositiveNumber);

    auto* reading = app.add_subcommand("read-shapes", "read a STEP or BREP file for another process, in a binary form");
    reading->add_option("file", quantity, "the file")->required();

    auto* readingMesh = app.add_subcommand("read-mesh", "read a VTU file for another process, in a binary form");
    readingMesh->add_option("file", quantity, "the file")->required();

    auto* filling = app.add_subcommand("fill-surface", "fill a closed surface for another process, in a binary form");

    for (auto* inner : {engine, reading, readingMesh, filling}) // for the program's own processes
        inner->group("");

    FilmOptions filmOptions;
    auto* film = app.add_subcommand("film", "film modes in motion to a .webm, .mp4 or .gif file, or picture one as a "
                                            ".png, without a window");
    film->add_option("model", filmOptions.model, "model file")->required();
    film->add_option("--to", filmOptions.to, "the film or picture to write")->required();
    film->add_option("--mode", filmOptions.modes, "4, or 1-6,9, or all: one after the other; 1 otherwise");
    film->add_option("--take", filmOptions.take, "a take or a state by name instead of the live model");
    film->add_option("--size", filmOptions.size, "pixels, such as 1920x1080; 1280x720 otherwise");
    film->add_option("--seconds", filmOptions.seconds, "of each mode; 4 otherwise");
    film->add_option("--turns", filmOptions.turns, "of the phase in that time; 4 otherwise");
    film->add_option("--from", filmOptions.from, "side it is seen from")
        ->check(CLI::IsMember({"front", "back", "left", "right", "top", "corner"}));
    film->add_flag("--bare", filmOptions.bare, "without words and axes");
    film->add_flag("--dark", filmOptions.dark, "as the dark window has it");

    ReportOptions reportOptions;
    auto* reporting = app.add_subcommand("report", "write what is found of a model to one .html or .pdf file that "
                                                   "another engineer can check, without a window");
    reporting->add_option("model", reportOptions.model, "model file")->required();
    reporting->add_option("--to", reportOptions.to, "the file to write")->required();
    reporting->add_option("--modes", reportOptions.modes,
                          "that are pictured: 4, or 1-6,9, or all; those that meet an excitation or matter otherwise");
    reporting->add_option(
        "--without", reportOptions.without,
        "parts to leave out, with commas: verdict, model, mass, rest, modes, shapes, clashes, tolerances, "
        "takes, proof, findings");
    reporting->add_option("--take", reportOptions.take, "a take or a state by name instead of the live model");
    reporting->add_option("--from", reportOptions.from, "side it is seen from")
        ->check(CLI::IsMember({"front", "back", "left", "right", "top", "corner"}));

    RemedyOptions remedyOptions;
    auto* remedy = addRemedyCommand(app, remedyOptions);
    SweepOptions sweepOptions;
    auto* sweeping = addSweepCommand(app, sweepOptions);
    ToleranceOptions toleranceOptions;
    auto* tolerating = addToleranceCommand(app, toleranceOptions);
    HandOptions handOptions;
    auto* byHand = addHandCommand(app, handOptions);
    KeptOptions keptOptions;
    auto* takes = addTakesCommand(app, keptOptions);
    auto* results = addResultsCommand(app, keptOptions);
    RestOptions restOptions;
    auto* resting = addRestCommand(app, restOptions);
    auto* buckling = addBucklingCommand(app, restOptions);
    StressOptions stressOptions;
    auto* stressing = addStressCommand(app, stressOptions);

    auto* schema = app.add_subcommand("schema", "print the JSON Schema of the model file");

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        return app.exit(error) == 0 ? good : wrongUsage;
    }
    const auto run = [&]() -> int {
        if (*modes) return runModes(options);
        if (*film) return refuse(filmInstead(filmOptions));
        if (*reporting) return refuse(reportInstead(reportOptions));
        if (*mass) return runMass(model, take, options.format, options.out);
        if (*remedy) return runRemedy(remedyOptions);
        if (*sweeping) return runSweep(sweepOptions);
        if (*tolerating) return runTolerances(toleranceOptions);
        if (*byHand) return runHand(handOptions);
        if (*takes) return runTakes(keptOptions);
        if (*results) return runResults(keptOptions);
        if (*resting) return runRest(restOptions);
        if (*buckling) return runBuckling(restOptions);
        if (*stressing) return runStress(stressOptions);
        if (*settling) return runSettle(model, take, options.format, options.out);
        if (*study) return runStudy(studyKey, model, take);
        if (*check) return runCheck(model, take);
        if (*estimating) return runEstimate(model, take);
        if (*exporting) return runExport(model, take, what, to);
        if (*importing) return runImport(quantity, to);
        if (*readingMesh) return answerOther([&] { return MeshFile::packed(readVtu(quantity)); });
        if (*reading) return answerOther([&] { return ShapeFile::readForOther(quantity); });
        if (*filling) return runFillSurface();
        if (*units) return runUnits(quantity, unit);
        if (*engine) return runEngine(memoryLimit);
        if (*schema) std::cout << documentSchema();
        return good;
    };
    // The dense library asks for its rooms again and again where there are none.
    constexpr double leastMegabytes = 150.0;
    if ((*modes || *settling || *remedy || *sweeping || *tolerating || *resting || *buckling || *study || *results ||
         *exporting || *engine) &&
        availableMegabytes() < leastMegabytes) {
        report({errorAt({},
                        fmt::format("this process may take {:.0f} MB more of memory; {:.0f} MB are the least",
                                    availableMegabytes(), leastMegabytes),
                        "Raise its limit (ulimit -v), or end other programs.")});
        return modelError;
    }
    int code = modelError;
    try {
        code = run();
    } catch (const std::bad_alloc&) {
        report({memoryRanOut()});
    } catch (const std::exception& thrown) {
        report({programFault(thrown, app.get_subcommands().front()->get_name())});
    }
    if (const auto problem = closeStandardOutput()) {
        report({*problem});
        return wrongUsage;
    }
    return code;
}
