#include "cli/remedies.hpp"

#include "cli/answer_options.hpp"
#include "cli/loaded_model.hpp"
#include "core/io/remedy_table.hpp"
#include "core/io/sweep_table.hpp"
#include "core/io/tolerance_table.hpp"
#include "core/model/stated.hpp"
#include "core/model/takes.hpp"
#include "core/studies/remedy.hpp"
#include "core/studies/sweep.hpp"
#include "core/studies/tolerances.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// The order that the options state; a text where they cannot be read.
std::variant<RemedyOrder, std::string> orderOf(const RemedyOptions& options)
{
    RemedyOrder order;
    order.mode = options.mode;
    const auto read = [](const std::string& text, QuantityKind kind, double& value) -> std::string {
        const auto quantity = readQuantity(text, kind, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&quantity)) return problem->what;
        value = std::get<Quantity>(quantity).si;
        return {};
    };
    std::string wrong;
    if (!options.above.empty() && !options.below.empty()) return std::string("--above and --below exclude each other");
    if (!options.above.empty() || !options.below.empty()) {
        order.way = options.below.empty() ? RemedyWay::above : RemedyWay::below;
        wrong = read(options.above + options.below, QuantityKind::frequency, order.hertz);
        if (wrong.empty() && order.mode == 0) return std::string("--above and --below need --mode, its number");
    }
    if (wrong.empty() && !options.most.empty()) {
        wrong = read(options.most, QuantityKind::mass, order.mostMass);
        if (wrong.empty() && !(order.mostMass > 0.0)) wrong = "--most must be a mass above zero";
    }
    if (!wrong.empty()) return wrong;
    order.everyWord = options.words;
    order.notOn = options.notOn;
    order.sections = options.sections;
    if (!options.only.empty()) {
        const auto wanted = [&](const char* kind) {
            return std::find(options.only.begin(), options.only.end(), kind) != options.only.end();
        };
        order.masses = wanted("mass");
        order.props = wanted("prop");
        order.struts = wanted("strut");
        order.words = wanted("word");
    }
    return order;
}

/// Tells what is found of an answer; whether it is one.
template <class Answer>
bool isAnswered(const Result<Answer>& found)
{
    const Findings& findings = found ? found->findings : found.findings();
    report(findings);
    return found && !hasError(findings);
}

/// The document with a proposal as a new take.
int keepTake(const RemedyOptions& options, const LoadedModel& loaded, const Remedy& remedy)
{
    if (options.choose > static_cast<int>(remedy.proposals.size()))
        return refuse(fmt::format("there is no proposal {}: there are {}", options.choose, remedy.proposals.size()));
    const Proposal& proposal = remedy.proposals[static_cast<std::size_t>(options.choose - 1)];
    const Cure& change = proposal.change;
    const auto changed = stated(loaded.model, change.statements);
    if (!changed) {
        report(changed.findings());
        return modelError;
    }
    Document document = loaded.document;
    std::string from = document.from;
    for (const auto& take : document.takes)
        if (take.model == loaded.model) from = take.id;
    undisona::keepTake(document, change.words, *changed, from);
    document.takes.back().note = proposal.promise();
    const auto problem = writeDocumentFile(document, options.to, {.inputs = loaded.inputs});
    if (problem) report({*problem});
    return problem ? wrongUsage : good;
}

} // namespace

CLI::App* addRemedyCommand(CLI::App& app, RemedyOptions& options)
{
    auto* remedy =
        app.add_subcommand("remedy", "say what moves a mode out of the way: a mass, a prop, a strut, another "
                                     "thickness or section, and what else that moves");
    remedy->add_option("model", options.model, "model file")->required();
    remedy->add_option("--mode", options.mode, "the mode's number; without it every clash is to be cleared")
        ->check(CLI::PositiveNumber);
    remedy->add_option("--above", options.above, "the frequency that it is wanted above, such as 15.3Hz");
    remedy->add_option("--below", options.below, "or below");
    remedy->add_option("--most", options.most,
                       "the mass that a change may add, such as 20kg; a quarter of what there "
                       "is otherwise");
    remedy->add_option("--not-on", options.notOn, "what nothing may be put on or fastened to, such as \"Deck\"");
    remedy->add_option("--section", options.sections, "the only sections for struts and members; may be said again");
    remedy->add_option("--only", options.only, "the kinds of change that are looked for")
        ->check(CLI::IsMember({"mass", "prop", "strut", "word"}));
    remedy->add_flag("--words", options.words, "what each word of the model is worth to the mode, in place of changes");
    remedy->add_option("--choose", options.choose, "the proposal of that number as a take of the model, into --to")
        ->check(CLI::PositiveNumber);
    remedy->add_option("--to", options.to, "model file to write with it");
    addAnswerOptions(*remedy, options);
    return remedy;
}

int runRemedy(const RemedyOptions& options)
{
    if ((options.choose > 0) == options.to.empty()) return refuse("--choose and --to belong together");
    const auto order = orderOf(options);
    if (const auto* wrong = std::get_if<std::string>(&order)) return refuse(*wrong);
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    Progress progress;
    KeptRuns kept;
    const auto remedy = remedyStudy().run(loaded->model, {std::get<RemedyOrder>(order), {}}, {progress, kept});
    if (!isAnswered(remedy)) return modelError;
    if (options.choose > 0) return keepTake(options, *loaded, *remedy);
    const std::string text = options.format == "json"  ? jsonOf(*remedy).dump(2) + "\n"
                             : options.format == "csv" ? remedyCsv(*remedy, options.words)
                                                       : remedyTable(*remedy, loaded->units, options.words);
    code = writeOut(text, options.out, loaded->inputs);
    const bool reached = !remedy->proposals.empty() && remedy->proposals.front().reaches;
    return code != good ? code : options.words || reached ? good : modelError;
}

CLI::App* addSweepCommand(CLI::App& app, SweepOptions& options)
{
    auto* sweep = app.add_subcommand("sweep", "let one word of the model go from a value to another and say where the "
                                              "frequencies go, where they cross and where they veer");
    sweep->add_option("model", options.model, "model file")->required();
    sweep->add_option("--word", options.word, "its name, as remedy --words lists them, or the beginning of it")
        ->required();
    sweep->add_option("--from", options.from, "the first value, such as 6mm; the one that is said, otherwise");
    sweep->add_option("--to", options.to, "the last value")->required();
    sweep->add_option("--steps", options.steps, "runs beyond the first; 12 otherwise")->check(CLI::Range(1, 200));
    addAnswerOptions(*sweep, options);
    return sweep;
}

int runSweep(const SweepOptions& options)
{
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    const auto word = wordNamed(loaded->model, options.word);
    if (!word) {
        report(word.findings());
        return wrongUsage;
    }
    SweepOrder order{*word, word->value, 0.0, options.steps};
    for (const auto& [text, value] : {std::pair(&options.from, &order.from), std::pair(&options.to, &order.to)}) {
        if (text->empty()) continue;
        const auto read = readQuantity(*text, word->kind, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) return refuse(problem->what);
        *value = std::get<Quantity>(read).si;
    }
    Progress progress;
    KeptRuns kept;
    const auto found = sweepStudy().run(loaded->model, order, {progress, kept});
    if (!isAnswered(found)) return modelError;
    const std::string text = options.format == "json"  ? jsonOf(*found).dump(2) + "\n"
                             : options.format == "csv" ? sweepCsv(*found)
                                                       : sweepTable(*found);
    return writeOut(text, options.out, loaded->inputs);
}

CLI::App* addToleranceCommand(CLI::App& app, ToleranceOptions& options)
{
    auto* tolerances = app.add_subcommand(
        "tolerances", "how far the frequencies go within the tolerances that the model says, such as 38 kg +- 10 %, "
                      "which word causes most, and how likely a clash is");
    tolerances->add_option("model", options.model, "model file")->required();
    tolerances
        ->add_option("--samples", options.samples,
                     "runs with all values drawn at once, beside those with each "
                     "alone at its ends")
        ->check(CLI::Range(0, 10000));
    tolerances->add_option("--seed", options.seed, "of the values drawn; 1 otherwise");
    tolerances->add_flag("--no-corners", options.noCorners, "leave out the runs with all values at their worst");
    addAnswerOptions(*tolerances, options);
    return tolerances;
}

int runTolerances(const ToleranceOptions& options)
{
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    Progress progress;
    KeptRuns kept;
    const ToleranceOrder order{!options.noCorners, options.samples, options.seed};
    const auto found = toleranceStudy().run(loaded->model, {order, {}}, {progress, kept});
    if (!isAnswered(found)) return modelError;
    const std::string text = options.format == "json"  ? jsonOf(*found).dump(2) + "\n"
                             : options.format == "csv" ? toleranceCsv(*found)
                                                       : toleranceTable(*found);
    return writeOut(text, options.out, loaded->inputs);
}

} // namespace undisona
