#include "core/model/mode_names.hpp"

namespace undisona {

namespace {

constexpr std::string_view kindOfName = "call-mode";

} // namespace

ModeNames modeNamesOf(const Model& model)
{
    ModeNames names;
    for (const auto& sentence : model.activeIn(Group::ask))
        if (sentence->kind->key == kindOfName) names.emplace(sentence->text("mode"), sentence->text("name"));
    return names;
}

Model withModeName(Model model, const std::string& mode, const std::string& name)
{
    for (const auto& sentence : model.activeIn(Group::ask)) {
        if (sentence->kind->key != kindOfName || sentence->text("mode") != mode) continue;
        if (name.empty()) return model.removed(sentence->id);
        Sentence next = *sentence;
        next.values["name"] = name;
        return model.replaced(std::move(next));
    }
    if (name.empty()) return model;
    Sentence called = newSentence(*kindNamed(kindOfName), model.freeId());
    called.values["mode"] = mode;
    called.values["name"] = name;
    return model.inserted(std::move(called));
}

} // namespace undisona
