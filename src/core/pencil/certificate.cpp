#include "core/pencil/certificate.hpp"

#include "core/base/number_text.hpp"
#include "core/pencil/hertz.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

std::string plural(long count, const std::string& one)
{
    return fmt::format("{} {}{}", count, one, count == 1 ? "" : "s");
}

std::string megabytes(double size)
{
    return size < 1.0 ? "less than 1 MB" : fmt::format("{:.0f} MB", size);
}

std::string provenWords(const CertificateFigures& run)
{
    const CountCheck& check = run.check;
    if (run.ritz)
        return fmt::format(
            "{} Ritz vectors, which are not modes: they are not counted, and their frequencies lie above "
            "those of modes.",
            run.modes);
    if (check.expected < 0) return "Not proven: the modes were not counted, so that one may be missing.";
    const std::string where = placeOf(check);
    if (!check.proven)
        return fmt::format("Not proven: {} modes {} counted, {} computed.", check.expected, where, check.found);
    std::string counted = fmt::format("{} counted, {} computed", check.expected, check.found);
    if (check.countedHigher()) counted += fmt::format(" below {} Hz", rounded(check.belowHz, 4));
    const auto shown = check.countedHigher() ? check.shown : check.found;
    std::string words = shown == 1 ? fmt::format("The one mode {} was found: {}.", where, counted)
                                   : fmt::format("All {} modes {} were found: {}.", shown, where, counted);
    if (check.cutHz > 0.0)
        words += fmt::format(" They are the most that may be found; {} Hz was asked, and more lie below it.",
                             rounded(check.cutHz, 4));
    if (check.before > 0) words += fmt::format(" {} more lie lower.", check.before);
    return words;
}

} // namespace

Certificate certificateOf(const CertificateFigures& run)
{
    const RunRecord& record = run.record;
    Certificate certificate{provenWords(run), {}};
    auto& lines = certificate.lines;
    const auto say = [&](const char* what, std::string figures) { lines.push_back({what, std::move(figures)}); };
    if (run.ritz) {
        say("method", "load-dependent Ritz vectors");
    } else if (record.blockSolves == 0) {
        say("method", run.all ? "dense: every mode at once" : "dense");
    } else {
        std::string method = fmt::format("block Lanczos on the inverse, blocks of {}", record.block);
        if (record.held > 0) method += fmt::format("; free parts held at {}", plural(record.held, "unknown"));
        say("method", method);
        std::string shifts;
        constexpr std::size_t most = 6;
        for (std::size_t at = 0; at < record.shifts.size() && at < most; ++at)
            shifts += (at ? ", " : "") + rounded(toHertz(std::max(0.0, record.shifts[at])), 4);
        if (record.shifts.size() > most) shifts += fmt::format(" and {} more", record.shifts.size() - most);
        say(record.shifts.size() == 1 ? "shift" : "shifts", shifts + " Hz");
    }
    if (run.check.expected >= 0)
        say("count", record.countByUpdate
                         ? "carried over from the run before by a small matrix"
                         : fmt::format("{}{}", run.check.method,
                                       record.countGrowth > 0.0
                                           ? fmt::format("; growth of the factor {:.1e}", record.countGrowth)
                                           : ""));
    say("accepted error", fmt::format("{:.1e} at most", run.acceptedError));
    say("residual", fmt::format("{:.1e} at most", run.residual));
    say("orthogonality", fmt::format("lost to {:.1e} at most", record.orthogonality));
    if (run.residualLoads > 0)
        say("residual vectors", fmt::format("{} for {}; the static answers with them are exact to {:.1e}",
                                            run.residualVectors, plural(run.residualLoads, "load"), run.staticError));
    std::string work = plural(record.factorisations, "factorisation");
    if (record.blockSolves > 0) work += ", " + plural(record.blockSolves, "block") + " solved";
    if (record.restarts > 0) work += ", " + plural(record.restarts, "restart");
    if (record.lookedAgain > 0) work += fmt::format(", looked again {}", plural(record.lookedAgain, "time"));
    say("work", work);
    if (record.factorEntries > 0.0)
        say("factor", fmt::format("{} unknowns, {}", run.unknowns, megabytes(8e-6 * record.factorEntries)));
    if (record.keptFactor) {
        std::string kept = "the factor of the stiffness";
        if (record.keptModes > 0) kept += ", " + plural(record.keptModes, "mode");
        if (record.countByUpdate) kept += ", the count";
        say("taken over", kept);
    }
    std::string time;
    double total = 0.0;
    for (const auto& [stage, seconds] : run.seconds) {
        total += seconds;
        if (seconds >= 0.01) time += fmt::format("{}{} {:.2f}", time.empty() ? "" : ", ", stage, seconds);
    }
    if (!run.seconds.empty()) say("time", fmt::format("{:.2f} s{}", total, time.empty() ? "" : " (" + time + ")"));
    if (run.peakMegabytes > 0.0) say("memory", megabytes(run.peakMegabytes) + " at most");
    return certificate;
}

} // namespace undisona
