#include "cli/stresses.hpp"

#include "cli/answer_options.hpp"
#include "cli/loaded_model.hpp"
#include "core/io/hand_table.hpp"
#include "core/io/stress_table.hpp"
#include "core/modal/solve.hpp"
#include "core/studies/by_hand.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// How strongly the options say that the mode moves, the place left out; a text where they cannot be read.
std::variant<ModalScale, std::string> scaleOf(const StressOptions& options)
{
    using By = ModalScale::By;
    struct Stated {
        const std::string& text;
        QuantityKind kind;
        By by;
    };
    ModalScale scale;
    int stated = 0;
    for (const Stated& one : {Stated{options.displacement, QuantityKind::length, By::displacement},
                              Stated{options.velocity, QuantityKind::velocity, By::velocity},
                              Stated{options.acceleration, QuantityKind::acceleration, By::acceleration},
                              Stated{options.energy, QuantityKind::energy, By::energy},
                              Stated{options.stress, QuantityKind::stress, By::stress}}) {
        if (one.text.empty()) continue;
        const auto quantity = readQuantity(one.text, one.kind, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&quantity)) return problem->what;
        scale.by = one.by;
        scale.value = std::get<Quantity>(quantity).si;
        if (!(scale.value > 0.0)) return one.text + " is not above zero";
        ++stated;
    }
    if (stated > 1) return std::string("say one of the displacement, velocity, acceleration, energy and stress");
    if (!options.at.empty() && (scale.by == By::energy || scale.by == By::stress))
        return std::string("--at belongs to a displacement, a velocity or an acceleration");
    return scale;
}

} // namespace

CLI::App* addStressCommand(CLI::App& app, StressOptions& options)
{
    auto* stress = app.add_subcommand("stress", "say what a mode strains: stresses and section forces when it moves so "
                                                "strongly, and what motion belongs to a stress");
    stress->add_option("model", options.model, "model file")->required();
    stress->add_option("--mode", options.mode, "the mode's number")->required()->check(CLI::PositiveNumber);
    stress->add_option("--displacement", options.displacement, "amplitude, 1mm unless another figure is said");
    stress->add_option("--velocity", options.velocity, "its amplitude, such as 20mm/s");
    stress->add_option("--acceleration", options.acceleration, "its amplitude, such as 2m/s2");
    stress->add_option("--energy", options.energy, "of the whole motion, such as 5J");
    stress->add_option("--stress", options.stress, "the largest equivalent one, such as 60MPa");
    stress->add_option("--at", options.at, "the point whose motion is meant; the largest anywhere otherwise");
    addAnswerOptions(*stress, options);
    return stress;
}

int runStress(const StressOptions& options)
{
    auto scale = scaleOf(options);
    if (const auto* wrong = std::get_if<std::string>(&scale)) return refuse(*wrong);
    auto& stated = std::get<ModalScale>(scale);
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    Progress progress;
    const auto solution = solve(loaded->model, progress, {.meshErrors = false});
    if (!solution) {
        report(solution.findings());
        return modelError;
    }
    const auto count = static_cast<int>((*solution)->modes.size());
    if (options.mode > count) return refuse(fmt::format("there is no mode {}: there are {}", options.mode, count));
    if (!options.at.empty()) {
        stated.point = (*solution)->structure->frame.pointNamed(options.at);
        if (stated.point < 0) return refuse(fmt::format("there is no point called \"{}\"", options.at));
    }
    const StressReading reading = stressReading(**solution, progress);
    const ModalStress& own = reading.modes[static_cast<std::size_t>(options.mode - 1)];
    const auto at = scaled(**solution, own, stated);
    if (!at) {
        report(at.findings());
        return modelError;
    }
    const std::string text = options.format == "json"  ? stressJson(**solution, own, *at)
                             : options.format == "csv" ? stressCsv(own, *at)
                                                       : stressTable(**solution, own, *at, loaded->units);
    return writeOut(text, options.out, loaded->inputs);
}

CLI::App* addHandCommand(CLI::App& app, HandOptions& options)
{
    auto* hand = app.add_subcommand("hand", "estimates by hand beside the modes: self weight, stiffness and mass at a "
                                            "point, closed forms; differences explained or flagged");
    hand->add_option("model", options.model, "model file")->required();
    addAnswerOptions(*hand, options);
    return hand;
}

int runHand(const HandOptions& options)
{
    int code = good;
    const auto loaded = loadModel(options.model, options.take, code);
    if (!loaded) return code;
    Progress progress;
    KeptRuns kept;
    const auto reading = handStudy().run(loaded->model, {{loaded->units.name()}, {}}, {progress, kept});
    report(reading ? reading->findings : reading.findings());
    if (!reading) return modelError;
    const std::string text = options.format == "json"  ? jsonOf(*reading).dump(2) + "\n"
                             : options.format == "csv" ? handCsv(*reading)
                                                       : handTable(*reading);
    return writeOut(text, options.out, loaded->inputs);
}

} // namespace undisona
