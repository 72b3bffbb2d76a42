#include "core/base/memory.hpp"
#include "core/base/number_text.hpp"
#include "core/io/certificate_output.hpp"
#include "core/io/export.hpp"
#include "core/modal/hertz.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace undisona {

std::string pairTable(const Extraction& modes)
{
    std::string out =
        fmt::format("{:>5} {:>14} {:>16} {:>10} {:>10}\n", "mode", "Hz", "lambda", "accepted", "residual");
    for (Eigen::Index at = 0; at < modes.lambda.size(); ++at)
        out += fmt::format("{:>5} {:>14.8g} {:>16.8g} {:>10.1e} {:>10.1e}\n", modes.check.before + at + 1,
                           toHertz(modes.lambda[at]), modes.lambda[at], modes.acceptedError[at], modes.residual[at]);
    return out + certificateText(certificateOf(modes));
}

std::string pairCsv(const Extraction& modes)
{
    std::string out = "mode,frequency_hz,lambda,accepted_error,residual\n";
    for (Eigen::Index at = 0; at < modes.lambda.size(); ++at)
        out += fmt::format("{},{},{},{},{}\n", modes.check.before + at + 1, shortest(toHertz(modes.lambda[at])),
                           shortest(modes.lambda[at]), shortest(modes.acceptedError[at]), shortest(modes.residual[at]));
    return out;
}

std::string pairJson(const Extraction& modes, const std::map<std::string, double>& timings)
{
    nlohmann::ordered_json out;
    out["unknowns"] = modes.shapes.rows();
    out["modes"] = nlohmann::ordered_json::array();
    for (Eigen::Index at = 0; at < modes.lambda.size(); ++at)
        out["modes"].push_back({{"position", modes.check.before + at + 1},
                                {"frequency_hz", toHertz(modes.lambda[at])},
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
