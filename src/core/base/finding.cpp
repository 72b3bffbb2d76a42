#include "core/base/finding.hpp"

namespace undisona {

Finding errorAt(std::string sentence, std::string what, std::string remedy)
{
    return {Severity::error, std::move(what), std::move(remedy), std::move(sentence), {}};
}

Finding warningAt(std::string sentence, std::string what, std::string remedy)
{
    return {Severity::warning, std::move(what), std::move(remedy), std::move(sentence), {}};
}

Finding noteAt(std::string sentence, std::string what, std::string remedy)
{
    return {Severity::note, std::move(what), std::move(remedy), std::move(sentence), {}};
}

Finding programFault(const std::exception& thrown, const std::string& doing)
{
    return errorAt({}, "the program is at fault here: " + std::string(thrown.what()) + ", while doing: " + doing,
                   "The model is as it was. Save it and send it to those who make this program.");
}

std::string oneLine(const Finding& finding)
{
    std::string line = finding.severity == Severity::error     ? "error: "
                       : finding.severity == Severity::warning ? "warning: "
                                                               : "note: ";
    if (!finding.place.empty()) line += finding.place + ": ";
    line += finding.what;
    if (!finding.sentence.empty()) line += " (sentence " + finding.sentence + ")";
    if (!finding.remedy.empty()) line += ". " + finding.remedy;
    return line;
}

bool hasError(const Findings& findings)
{
    for (const auto& finding : findings)
        if (finding.severity == Severity::error) return true;
    return false;
}

} // namespace undisona
