#include "core/base/memory.hpp"
#include "core/base/number_text.hpp"
#include "core/io/certificate_output.hpp"
#include "core/io/export.hpp"
#include "core/pencil/hertz.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace undisona {

namespace {

using Json = nlohmann::ordered_json;

/// None where the motion releases energy.
std::optional<double> hertzOf(const Extraction& modes, Eigen::Index at)
{
    return modes.lambda[at] < 0.0 ? std::nullopt : std::optional(toHertz(modes.lambda[at]));
}

std::string releasedText(const Extraction& modes)
{
    const auto released = (modes.lambda.array() < 0.0).count();
    if (released == 0) return {};
    return fmt::format(
        "{} release{} energy and {} no frequency: a state past buckling, or a wrong sign in the stiffness\n",
        released == 1 ? "one motion" : fmt::format("{} motions", released), released == 1 ? "s" : "",
        released == 1 ? "has" : "have");
}

} // namespace

std::string pairTable(const Extraction& modes)
{
    std::string out =
        fmt::format("{:>5} {:>14} {:>16} {:>10} {:>10}\n", "mode", "Hz", "lambda", "accepted", "residual");
    for (Eigen::Index at = 0; at < modes.lambda.size(); ++at) {
        const auto hertz = hertzOf(modes, at);
        out += fmt::format("{:>5} {:>14} {:>16.8g} {:>10.1e} {:>10.1e}\n", modes.check.before + at + 1,
                           hertz ? fmt::format("{:.8g}", *hertz) : "none", modes.lambda[at], modes.acceptedError[at],
                           modes.residual[at]);
    }
    return out + releasedText(modes) + certificateText(certificateOf(modes));
}

std::string pairCsv(const Extraction& modes)
{
    std::string out = "mode,frequency_hz,lambda,accepted_error,residual\n";
    for (Eigen::Index at = 0; at < modes.lambda.size(); ++at)
        out += fmt::format("{},{},{},{},{}\n", modes.check.before + at + 1,
                           hertzOf(modes, at) ? shortest(*hertzOf(modes, at)) : "", shortest(modes.lambda[at]),
                           shortest(modes.acceptedError[at]), shortest(modes.residual[at]));
    return out;
}

std::string pairJson(const Extraction& modes, const std::map<std::string, double>& timings)
{
    nlohmann::ordered_json out;
    out["unknowns"] = modes.shapes.rows();
    out["modes"] = nlohmann::ordered_json::array();
    for (Eigen::Index at = 0; at < modes.lambda.size(); ++at)
        out["modes"].push_back({{"position", modes.check.before + at + 1},
                                {"frequency_hz", hertzOf(modes, at) ? Json(*hertzOf(modes, at)) : Json()},
                                {"lambda", modes.lambda[at]},
                                {"accepted_error", modes.acceptedError[at]},
                                {"residual", modes.residual[at]}});
    out["count_check"] = {{"above_hz", modes.check.aboveHz}, {"below_hz", modes.check.belowHz},
                          {"before", modes.check.before},    {"expected", modes.check.expected},
                          {"found", modes.check.found},      {"method", modes.check.method},
                          {"proven", modes.check.proven}};
    out["certificate"] = certificateJson(certificateOf(modes), modes.record);
    out["timings_s"] = timings;
    out["peak_memory_mb"] = peakMegabytes();
    return out.dump(1) + "\n";
}

} // namespace undisona
