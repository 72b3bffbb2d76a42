// How far the estimated mesh error can be trusted: the table of docs/theory/mesh-error.md.
#include "tests/mesh_error_cases.hpp"

#include <fmt/format.h>

using namespace undisona;

int main(int count, char** arguments)
{
    testing::InitGoogleTest(&count, arguments);
    fmt::print("| case | pieces | modes | good | least reach | true error, % | estimate, % "
               "|\n|---|---|---|---|---|---|---|\n");
    for (const auto& one : meshErrorCases()) {
        if (count > 1 && one.name.find(arguments[1]) == std::string::npos) continue;
        const MeshErrorReport report = reportOf(one);
        if (report.modes.empty()) continue;
        std::array<double, 2> truth{1e300, -1e300}, estimate = truth;
        for (const auto& mode : report.modes) {
            truth = {std::min(truth[0], 100.0 * mode.truth), std::max(truth[1], 100.0 * mode.truth)};
            estimate = {std::min(estimate[0], 100.0 * mode.estimate), std::max(estimate[1], 100.0 * mode.estimate)};
        }
        fmt::print("| {} | {} | {} | {:.0f} % | {:.2f} | {:.2f} to {:.2f} | {:.2f} to {:.2f} |\n", one.name,
                   report.pieces, report.modes.size(), 100.0 * report.good(), report.least(), truth[0], truth[1],
                   estimate[0], estimate[1]);
        std::fflush(stdout);
        if (count < 2) continue; // any word: mode by mode
        for (const auto& mode : report.modes)
            fmt::print("    {:10.3f} Hz true {:8.4f} % estimate {:8.4f} +- {:.4f} %{}\n", mode.hertz,
                       100.0 * mode.truth, 100.0 * mode.estimate, 100.0 * mode.either, mode.isGood() ? "" : "  <");
    }
}
