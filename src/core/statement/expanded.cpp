#include "core/statement/left_out.hpp"

#include "core/base/number_text.hpp"

#include <fmt/format.h>

namespace undisona {

std::set<std::string> leftOut(const Model& model, Findings& findings)
{
    std::set<std::string> out;
    for (const auto& asking : model.activeIn(Group::ask)) {
        if (asking->kind->key != "leave-out") continue;
        for (const auto& piece : splitAt(asking->text("what"), ",")) {
            const std::string name(trimmed(piece));
            bool found = false;
            std::string known;
            for (const Group group : {Group::addedMass, Group::supports})
                for (const auto& sentence : model.group(group)) {
                    const std::string label = sentence->has("label") ? sentence->text("label") : std::string();
                    if (!label.empty()) known += (known.empty() ? "" : ", ") + label;
                    if (name != label && name != sentence->id) continue;
                    out.insert(sentence->id);
                    found = true;
                }
            if (!found)
                findings.push_back(errorAt(asking->id,
                                           fmt::format("no added mass and no support is called \"{}\"", name),
                                           known.empty() ? "Give it a label first: choose its + and then what it is."
                                                         : "There are: " + known + "."));
        }
    }
    return out;
}

} // namespace undisona
