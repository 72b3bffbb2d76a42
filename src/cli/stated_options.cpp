#include "cli/stated_options.hpp"

#include "core/model/stated.hpp"

namespace undisona {

namespace {

/// The model without its own sentences of the kinds, as if they were switched off.
Model without(Model model, const std::set<std::string>& kinds)
{
    for (const auto& sentence : model.activeIn(Group::ask)) {
        if (!kinds.contains(sentence->kind->key)) continue;
        Sentence off = *sentence;
        off.on = false;
        model = model.replaced(std::move(off));
    }
    return model;
}

/// With one sentence more; a text where a value cannot be read.
std::optional<std::string> say(Model& model, const char* option, const char* kindKey,
                               const std::map<std::string, std::string>& values)
{
    auto with = stated(model, {Statement{kindKey, {}, {}, values}});
    if (!with) return option + (": " + with.findings()[0].what);
    model = std::move(*with);
    return std::nullopt;
}

std::string spaced(const std::string& letters)
{
    std::string out;
    for (const char letter : letters)
        if (letter != ' ' && letter != ',') out += std::string(out.empty() ? "" : " ") + char(std::tolower(letter));
    return out;
}

} // namespace

std::variant<StatedModel, std::string> statedIn(const Model& own, const ModesOptions& options)
{
    StatedModel answer{own, false};
    Model& model = answer.model;
    if (!options.tolerance.empty()) {
        model = without(std::move(model), {"accuracy"});
        if (auto wrong = say(model, "--tolerance", "accuracy", {{"error", options.tolerance}})) return *wrong;
    }
    if (!options.massMatrix.empty()) {
        model = without(std::move(model), {"mass-matrix"});
        if (auto wrong = say(model, "--mass-matrix", "mass-matrix", {{"matrix", options.massMatrix}})) return *wrong;
    }
    if (options.unproven) {
        model = without(std::move(model), {"proof"});
        if (auto wrong = say(model, "--unproven", "proof", {{"proof", "Do not prove"}})) return *wrong;
    }
    if (!options.leaveOut.empty())
        if (auto wrong = say(model, "--leave-out", "leave-out", {{"what", options.leaveOut}})) return *wrong;
    if (!options.about.empty()) {
        model = without(std::move(model), {"about-state"});
        if (auto wrong = say(model, "--about", "about-state", {{"state", options.about}})) return *wrong;
    }
    const auto patterns = [](const std::string& directions, const std::string& at) {
        std::map<std::string, std::string> values{{"from", at.empty() ? "base accelerations" : "unit forces"},
                                                  {"directions", spaced(directions)}};
        if (!at.empty()) values.emplace("at", at);
        return values;
    };
    if (!options.residualAt.empty() && options.residual.empty())
        return "--residual-at says where unit forces act; --residual says along which of XYZ";
    if (!options.residual.empty()) {
        model = without(std::move(model), {"residual-vectors"});
        if (auto wrong = say(model, "--residual", "residual-vectors", patterns(options.residual, options.residualAt)))
            return *wrong;
    }
    if (!options.ritzAt.empty()) {
        if (options.ritz.empty()) return "--ritz-at says where unit forces act; --ritz says along which of XYZ";
        model = without(std::move(model),
                        {"lowest", "up-to", "band", "nearest", "every-mode", "mass-share", "ritz-vectors"});
        auto values = patterns(options.ritz, options.ritzAt);
        values.emplace("most", std::to_string(options.count > 0 ? options.count : 12));
        if (!options.share.empty()) values.emplace("share", options.share);
        if (auto wrong = say(model, "--ritz", "ritz-vectors", values)) return *wrong;
        answer.asks = true;
    }
    return answer;
}

} // namespace undisona
