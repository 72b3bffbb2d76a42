#include "cli/kept.hpp"

#include "cli/answer_options.hpp"
#include "core/io/csv_text.hpp"
#include "core/modal/solve.hpp"
#include "core/model/differences.hpp"
#include "core/model/takes.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/studies/results_file.hpp"

#include <fmt/format.h>

#include <iostream>

namespace undisona {

namespace {

/// "now" for the live model.
const std::string& nameOf(const TakeInTree& row)
{
    static const std::string now = "now";
    return row.take ? row.take->name : now;
}

std::vector<std::string> changesOf(const Document& document, const TakeInTree& row)
{
    return row.from ? differences(row.from->model, row.take ? row.take->model : document.model)
                    : std::vector<std::string>();
}

std::string takesAsJson(const Document& document)
{
    Json list = Json::array();
    for (const auto& row : treeOf(document))
        list.push_back({{"id", row.take ? row.take->id : ""},
                        {"name", nameOf(row)},
                        {"from", row.from ? Json(row.from->id) : Json(nullptr)},
                        {"kept", row.take ? row.take->kept : ""},
                        {"note", row.take ? row.take->note : ""},
                        {"changes", changesOf(document, row)}});
    return list.dump(2) + "\n";
}

std::string takesAsCsv(const Document& document)
{
    std::string out = "name,from,kept,note,changes\n";
    for (const auto& row : treeOf(document)) {
        std::string changes;
        for (const auto& line : changesOf(document, row))
            changes += (changes.empty() ? "" : "; ") + line;
        out += fmt::format("{},{},{},{},{}\n", csvText(nameOf(row)), csvText(row.from ? row.from->name : ""),
                           row.take ? row.take->kept : "", csvText(row.take ? row.take->note : ""), csvText(changes));
    }
    return out;
}

std::string takesAsTable(const Document& document)
{
    std::string out;
    for (const auto& row : treeOf(document)) {
        const std::string indent(static_cast<std::size_t>(2 * row.depth), ' ');
        out += fmt::format("{}{}{}\n", indent, nameOf(row),
                           row.take && !row.take->kept.empty() ? "  (" + localTime(row.take->kept) + ")" : "");
        if (row.take && !row.take->note.empty()) out += fmt::format("{}    note: {}\n", indent, row.take->note);
        for (const auto& line : changesOf(document, row))
            out += fmt::format("{}    {}\n", indent, line);
    }
    return out;
}

/// What a file keeps, one run a line; exit code as writeOut has it.
int tellKept(const KeptOptions& options)
{
    const auto kept = runsIn(options.model);
    if (!kept) {
        report(kept.findings());
        return wrongUsage;
    }
    std::string text;
    if (options.format == "json") {
        Json list = Json::array();
        for (const auto& run : *kept)
            list.push_back({{"key", fmt::format("{:016x}", run.key)},
                            {"name", run.name},
                            {"found", run.found},
                            {"program", run.program},
                            {"modes", run.modes},
                            {"nodes", run.nodes},
                            {"lowest_Hz", run.lowest},
                            {"highest_Hz", run.highest}});
        text = list.dump(2) + "\n";
    } else if (options.format == "csv") {
        text = "key,name,found,program,modes,nodes,lowest_Hz,highest_Hz\n";
        for (const auto& run : *kept)
            text += fmt::format("{:016x},{},{},{},{},{},{:.17g},{:.17g}\n", run.key, csvText(run.name), run.found,
                                csvText(run.program), run.modes, run.nodes, run.lowest, run.highest);
    } else {
        for (const auto& run : *kept)
            text += fmt::format("{}: {} modes, {:.5g} to {:.5g} Hz, of {} nodes; found {} by {}\n", run.name, run.modes,
                                run.lowest, run.highest, run.nodes, localTime(run.found), run.program);
        if (kept->empty()) text = "nothing is kept in it\n";
    }
    return writeOut(text, options.out, {options.model});
}

} // namespace

std::shared_ptr<const Solution> keptSolution(const std::string& results, const Model& model, int& code)
{
    code = good;
    try {
        auto kept = keptModes(results, model);
        if (!kept) {
            report(kept.findings());
            code = wrongUsage;
            return nullptr;
        }
        if (!*kept) return nullptr;
        auto solution = solutionOf(model, Result<ModesAnswer>(std::move(**kept)));
        if (solution) return *solution;
        report(solution.findings());
        code = modelError;
    } catch (const ArchiveError& problem) {
        Finding finding = errorAt({}, std::string("what is kept does not fit this model: ") + problem.what(),
                                  "Solve without it, and keep the results anew.");
        finding.place = results;
        report({finding});
        code = wrongUsage;
    }
    return nullptr;
}

CLI::App* addTakesCommand(CLI::App& app, KeptOptions& options)
{
    auto* takes =
        app.add_subcommand("takes", "say which take came from which, when, with its note and what was changed");
    takes->add_option("model", options.model, "model file")->required();
    takes->add_option("--format", options.format, "table, csv or json")->check(CLI::IsMember({"table", "csv", "json"}));
    takes->add_option("--out", options.out, "file to write instead of standard output");
    return takes;
}

int runTakes(const KeptOptions& options)
{
    int code = good;
    const auto loaded = loadModel(options.model, {}, code);
    if (!loaded) return code;
    const std::string text = options.format == "json"  ? takesAsJson(loaded->document)
                             : options.format == "csv" ? takesAsCsv(loaded->document)
                                                       : takesAsTable(loaded->document);
    return writeOut(text, options.out, loaded->inputs);
}

CLI::App* addResultsCommand(CLI::App& app, KeptOptions& options)
{
    auto* results =
        app.add_subcommand("results", "say what a results file (HDF5) keeps; or, with --to, find the modes of "
                                      "a model, its states and its takes and keep them in one");
    results->add_option("file", options.model, "results file; with --to a model file")->required();
    results->add_option("--to", options.to, "results file to write; what it keeps of these models is not solved again");
    results->add_flag("--anew", options.anew, "solve what it keeps too");
    results->add_option("--format", options.format, "table, csv or json")
        ->check(CLI::IsMember({"table", "csv", "json"}));
    results->add_option("--out", options.out, "file to write instead of standard output");
    results->add_option("--threads", options.threads, "no more threads than this; all of the machine's otherwise")
        ->check(CLI::PositiveNumber);
    return results;
}

int runResults(const KeptOptions& options)
{
    if (options.to.empty()) return tellKept(options);
    int code = good;
    const auto loaded = loadModel(options.model, {}, code);
    if (!loaded) return code;
    const auto models = modelsOf(loaded->document);
    std::set<std::uint64_t> kept;
    if (!options.anew)
        if (const auto runs = runsIn(options.to))
            for (const auto& run : *runs)
                kept.insert(run.key);
    limitBlasThreads(options.threads);
    std::vector<RunToKeep> runs;
    bool all = true;
    for (const auto& [name, model] : models) {
        if (kept.contains(lastingKey(model))) {
            runs.push_back({name, &model, nullptr});
            continue;
        }
        Progress progress;
        const auto solution = solve(model, progress);
        if (!solution) {
            std::cerr << name << ":\n";
            report(solution.findings());
            all = false;
            continue;
        }
        runs.push_back({name, &model, *solution});
    }
    Progress progress;
    if (const auto problem = keepResults(options.to, runs, progress, {.inputs = loaded->inputs})) {
        report({*problem});
        return wrongUsage;
    }
    KeptOptions told = options;
    told.model = options.to;
    code = tellKept(told);
    return code == good && !all ? modelError : code;
}

} // namespace undisona
