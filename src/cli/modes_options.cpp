#include "cli/modes_options.hpp"

#include "core/base/number_text.hpp"

namespace undisona {

std::variant<std::optional<Ask>, std::string> askOf(const ModesOptions& options)
{
    const int ways = !options.upTo.empty() + !options.band.empty() + !options.nearest.empty() +
                     (!options.share.empty() || !options.ritz.empty()) + options.all; // Ritz vectors may aim at a share
    if (options.count < 0) return "--count must be at least 1";
    if (options.count == 0 && ways == 0) return std::optional<Ask>{};
    if (ways > 1) return "--up-to, --band, --nearest, --mass-share, --ritz and --all are ways to ask; take one of them";
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
        const auto limit = frequency(options.upTo, "--up-to");
        if (const auto* wrong = std::get_if<std::string>(&limit)) return *wrong;
        ask.until = Ask::Until::frequency;
        ask.frequency = std::get<double>(limit);
    }
    const auto directions = [&](const std::string& text, const char* option) -> std::optional<std::string> {
        ask.directions = {false, false, false};
        for (const char letter : lowered(text)) {
            if (letter == ' ' || letter == ',') continue;
            if (letter < 'x' || letter > 'z')
                return std::string(option) + " takes letters of XYZ, not \"" + text + "\"";
            ask.directions[static_cast<std::size_t>(letter - 'x')] = true;
        }
        return std::nullopt;
    };
    if (!options.share.empty()) {
        const auto read = readQuantity(options.share, QuantityKind::share, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) return "--mass-share: " + problem->what;
        ask.until = Ask::Until::massShare;
        ask.ofMovable = options.of == "movable";
        ask.share = std::get<Quantity>(read).si;
        if (!(ask.share > 0.0 && ask.share <= 1.0)) return "--mass-share takes more than 0 % and at most 100 %";
        if (const auto wrong = directions(options.directions, "--directions")) return *wrong;
    }
    if (!options.ritz.empty()) {
        ask.until = Ask::Until::ritz;
        ask.count = options.count > 0 ? options.count : 12;
        if (const auto wrong = directions(options.ritz, "--ritz")) return *wrong;
        ask.ritz.directions = ask.directions;
    }
    ask.prove = !options.unproven;
    if (!options.tolerance.empty()) { // models have it from a sentence, bare matrices from here
        const auto read = readPlainNumber(options.tolerance);
        if (!read || !(*read >= 1e-12 && *read <= 1e-3)) return "--tolerance takes a number from 1e-12 to 1e-3";
        ask.tolerance = *read;
    }
    return std::optional<Ask>{ask};
}

} // namespace undisona
