#include "cli/rest.hpp"

#include "cli/answer_options.hpp"
#include "cli/loaded_model.hpp"
#include "core/io/rest_table.hpp"
#include "core/io/rest_vtu.hpp"
#include "core/studies/rest.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// The states of a model; nothing where that has been reported, or none is called as asked.
std::optional<RestAnswer> answerOf(const LoadedModel& loaded, const RestOptions& options, long factors, int& code)
{
    Progress progress;
    KeptRuns kept;
    auto answer = restStudy().run(loaded.model, {{}, factors}, {progress, kept});
    if (!answer) {
        report(answer.findings());
        code = modelError;
        return std::nullopt;
    }
    std::vector<std::string> names;
    for (const auto& state : answer->found.states) {
        if (options.state.empty() || state.name == options.state) return std::move(*answer);
        names.push_back("\"" + state.name + "\"");
    }
    code = refuse(fmt::format("there is no static state \"{}\"; there {} {}", options.state,
                              names.size() == 1 ? "is" : "are", fmt::join(names, ", ")));
    return std::nullopt;
}

/// Those that are asked for.
std::vector<RestState> statesOf(const RestAnswer& answer, const RestOptions& options)
{
    std::vector<RestState> states;
    for (const auto& state : answer.found.states)
        if (options.state.empty() || state.name == options.state) states.push_back(state);
    return states;
}

} // namespace

CLI::App* addRestCommand(CLI::App& app, RestOptions& options)
{
    auto* rest = app.add_subcommand("rest", "say where the structure comes to rest under its loads: what supports "
                                            "carry, how far it moves, section forces and stresses");
    rest->add_option("model", options.model, "model file")->required();
    rest->add_option("--state", options.state, "one static state by name; every one otherwise");
    rest->add_option("--at", options.at, "a point whose displacement and stress are said; again for others");
    addAnswerOptions(*rest, options, {"table", "csv", "json", "vtu"});
    return rest;
}

CLI::App* addBucklingCommand(CLI::App& app, RestOptions& options)
{
    auto* buckling = app.add_subcommand("buckling", "say by which factors the static states of a model buckle");
    buckling->add_option("model", options.model, "model file")->required();
    buckling->add_option("--state", options.state, "one static state by name; every one otherwise");
    buckling->add_option("--count", options.count, "factors of each state, 4 unless said")->check(CLI::Range(1, 100));
    addAnswerOptions(*buckling, options);
    return buckling;
}

int runRest(const RestOptions& options)
{
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    const bool drawn = options.format == "vtu"; // with the shapes in which they buckle
    constexpr long factors = 4;
    const auto answer = answerOf(*loaded, options, drawn ? factors : 0, code);
    if (!answer) return code;
    const auto states = statesOf(*answer, options);
    RestPlaces places;
    if (!options.at.empty()) {
        if (options.format != "table" && options.format != "json") return refuse("--at belongs to a table or to JSON");
        auto found = restPlaces(loaded->model, *answer, options.at);
        if (!found) {
            report(found.findings());
            return modelError;
        }
        places = std::move(*found);
    }
    if (options.format == "csv" && states.size() > 1) return refuse("CSV holds one state; say which by --state");
    std::string text;
    if (drawn) {
        auto vtu = restVtu(loaded->model, *answer, options.state);
        if (!vtu) {
            report(vtu.findings());
            return modelError;
        }
        text = std::move(*vtu);
    } else if (options.format == "json")
        text = restJson(states, places);
    else if (options.format == "csv")
        text = restCsv(loaded->model, states.front());
    else
        for (const auto& state : states)
            text += (text.empty() ? "" : "\n") + restTable(loaded->model, state, loaded->units) +
                    placesTable(places, state.name, loaded->units);
    return writeOut(text, options.out, loaded->inputs);
}

int runBuckling(const RestOptions& options)
{
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    const auto answer = answerOf(*loaded, options, options.count, code);
    if (!answer) return code;
    const auto states = statesOf(*answer, options);
    const std::string text = options.format == "json"  ? bucklingJson(states)
                             : options.format == "csv" ? bucklingCsv(states)
                                                       : bucklingTable(states);
    return writeOut(text, options.out, loaded->inputs);
}

} // namespace undisona
