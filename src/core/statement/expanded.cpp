#include "core/statement/expanded.hpp"

#include "core/base/number_text.hpp"
#include "core/model/states.hpp"
#include "core/model/unread.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

std::set<std::string> leftOut(const Model& model, Findings& findings)
{
    std::set<std::string> out;
    for (const auto& asking : model.activeIn(Group::ask)) {
        if (asking->kind->key != "leave-out") continue;
        for (const auto& piece : splitAt(asking->text("what"), ",")) {
            const std::string name(trimmed(piece));
            bool found = false;
            std::string known;
            for (const auto& sentence : canBeLeftOut(model)) {
                const std::string label = sentence->has("label") ? sentence->text("label") : std::string();
                if (!label.empty()) known += (known.empty() ? "" : ", ") + label;
                if (name != label && name != sentence->id) continue;
                out.insert(sentence->id);
                found = true;
            }
            if (!found)
                findings.push_back(errorAt(asking->id,
                                           fmt::format("no added mass, support or rope is called \"{}\"", name),
                                           known.empty() ? "Give it a label first: choose its + and then what it is."
                                                         : "There are: " + known + "."));
        }
    }
    return out;
}

} // namespace

Expanded expanded(const Model& stated)
{
    Expanded whole{stated, {}, unreadWords(stated)};
    if (!whole.findings.empty()) whole.model = withoutUnread(stated);
    for (auto& finding : stateFindings(whole.model))
        whole.findings.push_back(std::move(finding));
    whole.leftOut = leftOut(whole.model, whole.findings);
    for (const auto& id : whole.leftOut)
        whole.model = whole.model.removed(id);
    return whole;
}

} // namespace undisona
