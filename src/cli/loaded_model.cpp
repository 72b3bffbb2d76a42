#include "cli/loaded_model.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/file_writer.hpp"
#include "core/model/states.hpp"

#include <iostream>

namespace undisona {

void report(const Findings& findings)
{
    for (const auto& finding : alikeAsOne(findings))
        std::cerr << oneLine(finding) << "\n";
}

int refuse(const std::string& what)
{
    std::cerr << "error: " << what << "\n";
    return wrongUsage;
}

std::optional<LoadedModel> loadModel(const std::string& path, const std::string& take, int& code)
{
    auto document = readDocumentFile(path);
    if (!document) {
        report(document.findings());
        code = wrongUsage;
        return std::nullopt;
    }
    std::vector<std::string> inputs = filesOf(*document);
    inputs.push_back(path);
    if (take.empty()) return LoadedModel{*document, document->model, DisplayUnits(document->units), inputs};
    std::string names;
    for (const auto& kept : document->takes) {
        if (kept.name == take || kept.id == take)
            return LoadedModel{*document, kept.model, DisplayUnits(document->units), inputs};
        names += (names.empty() ? "" : ", ") + kept.name;
    }
    for (const auto& state : statesOf(document->model)) {
        if (state.name == take) return LoadedModel{*document, state.model, DisplayUnits(document->units), inputs};
        names += (names.empty() ? "" : ", ") + state.name;
    }
    code = refuse("there is no take \"" + take + "\" in " + path +
                  (names.empty() ? "; it has none" : "; it has: " + names));
    return std::nullopt;
}

int writeOut(const std::string& text, const std::string& path, const std::vector<std::string>& inputs)
{
    if (path.empty()) {
        std::cout << text;
        return good;
    }
    const auto problem = writeWholeFile(path, text, {.inputs = inputs});
    if (problem) report({*problem});
    return problem ? wrongUsage : good;
}

} // namespace undisona
