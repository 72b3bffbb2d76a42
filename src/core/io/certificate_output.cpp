#include "core/io/certificate_output.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace undisona {

std::string certificateText(const Certificate& certificate)
{
    std::string text = certificate.words + "\n";
    for (const auto& line : certificate.lines)
        text += fmt::format("  {:<15} {}\n", line.what, line.figures);
    return text;
}

nlohmann::ordered_json certificateJson(const Certificate& certificate, const RunRecord& record)
{
    return {{"words", certificate.words},
            {"shifts", record.shifts},
            {"held_unknowns", record.held},
            {"factorisations", record.factorisations},
            {"block", record.block},
            {"block_solves", record.blockSolves},
            {"restarts", record.restarts},
            {"looked_again", record.lookedAgain},
            {"factor_entries", record.factorEntries},
            {"orthogonality_loss", record.orthogonality},
            {"count_growth", record.countGrowth},
            {"kept_factor", record.keptFactor},
            {"kept_modes", record.keptModes},
            {"count_by_update", record.countByUpdate}};
}

} // namespace undisona
