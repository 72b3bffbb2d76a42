#include "core/model/states.hpp"

#include "core/base/number_text.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace undisona {

namespace {

std::vector<std::string> namesIn(const Sentence& state, const char* key)
{
    std::vector<std::string> names;
    if (!state.has(key) || state.text(key) == "nothing") return names;
    for (const auto& piece : splitAt(state.text(key), ","))
        names.emplace_back(trimmed(piece));
    return names;
}

/// By the id in the file, the label, or the name that it gives.
bool isCalled(const Sentence& sentence, const std::string& name)
{
    if (sentence.id == name) return true;
    for (const char* key : {"label", "name"})
        if (sentence.kind->field(key) && sentence.has(key) && sentence.text(key) == name) return true;
    return false;
}

/// Of static states, as loads and what is made of them name them; some may be off, and come with a state.
std::vector<std::string> staticNames(const Model& model)
{
    std::vector<std::string> names;
    const auto& loads = model.group(Group::loads);
    for (const auto& load : loads)
        for (const auto& name : load->kind->key == "combined-state" ? std::vector<std::string>{load->text("name")}
                                                                    : namesIn(*load, "state"))
            if (std::find(names.begin(), names.end(), name) == names.end()) names.push_back(name);
    if (names.empty() && !loads.empty()) names.emplace_back(unnamedState);
    return names;
}

bool tellsState(const Sentence& sentence)
{
    return sentence.kind->key == "state";
}

} // namespace

std::vector<SentencePtr> canBeLeftOut(const Model& model)
{
    std::vector<SentencePtr> all;
    for (const Group group : {Group::addedMass, Group::supports, Group::joints})
        for (const auto& sentence : model.group(group))
            if (group != Group::joints || sentence->kind->field("label")) all.push_back(sentence);
    return all;
}

std::vector<State> statesOf(const Model& model)
{
    std::vector<State> states;
    for (const auto& told : model.activeIn(Group::ask)) {
        if (!tellsState(*told)) continue;
        State state{told->id, told->text("name"), model};
        for (const auto& other : model.group(Group::ask))
            if (tellsState(*other)) state.model = state.model.removed(other->id);
        for (const auto& name : namesIn(*told, "with"))
            for (const auto& sentence : model.sentences())
                if (!sentence->on && isCalled(*sentence, name)) {
                    Sentence on = *sentence;
                    on.on = true;
                    state.model = state.model.replaced(std::move(on));
                }
        if (!namesIn(*told, "without").empty()) {
            Sentence leaveOut = newSentence(*kindNamed("leave-out"), told->id);
            leaveOut.values["what"] = told->text("without");
            state.model = state.model.inserted(std::move(leaveOut));
        }
        if (told->has("about")) {
            for (const auto& other : model.activeIn(Group::ask))
                if (other->kind->key == "about-state") state.model = state.model.removed(other->id);
            Sentence about = newSentence(*kindNamed("about-state"),
                                         state.model.sentence(told->id) ? state.model.freeId() : told->id);
            about.values["state"] = told->text("about");
            state.model = state.model.inserted(std::move(about));
        }
        states.push_back(std::move(state));
    }
    return states;
}

Findings stateFindings(const Model& model)
{
    Findings findings;
    std::set<std::string> names;
    const auto rests = staticNames(model);
    for (const auto& told : model.activeIn(Group::ask)) {
        if (!tellsState(*told)) continue;
        if (told->has("about") && std::find(rests.begin(), rests.end(), told->text("about")) == rests.end())
            findings.push_back(errorAt(told->id, fmt::format("no static state is called \"{}\"", told->text("about")),
                                       rests.empty() ? "No load makes one: add a sentence to the group Loads."
                                                     : fmt::format("There are: {}.", fmt::join(rests, ", "))));
        if (!names.insert(told->text("name")).second)
            findings.push_back(errorAt(told->id, fmt::format("there are two states called \"{}\"", told->text("name")),
                                       "Give one of them another name."));
        const auto say = [&](const std::string& name, const char* what, const std::string& known) {
            findings.push_back(errorAt(told->id, fmt::format("{} is called \"{}\"", what, name),
                                       known.empty() ? "Give it a label first: choose its + and then what it is."
                                                     : "There are: " + known + "."));
        };
        const auto knownOf = [](const std::vector<SentencePtr>& all, bool on) {
            std::string known;
            for (const auto& sentence : all)
                for (const char* key : {"label", "name"})
                    if (sentence->on == on && sentence->kind->field(key) && sentence->has(key))
                        known += (known.empty() ? "" : ", ") + sentence->text(key);
            return known;
        };
        const auto movable = canBeLeftOut(model);
        for (const auto& name : namesIn(*told, "without"))
            if (std::none_of(movable.begin(), movable.end(), [&](const auto& one) {
                    return one->id == name || (one->has("label") && one->text("label") == name);
                }))
                say(name, "no added mass, support or rope", knownOf(movable, true));
        const auto all = model.sentences();
        if (namesIn(*told, "without").empty() && namesIn(*told, "with").empty() && !told->has("about")) {
            const std::string known = knownOf(movable, true);
            findings.push_back(errorAt(told->id, fmt::format("the state \"{}\" changes nothing", told->text("name")),
                                       known.empty()
                                           ? "Give a mass or a support a label, and say that it is without it."
                                           : "Say what it is without: " + known + "."));
        }
        for (const auto& name : namesIn(*told, "with"))
            if (std::none_of(all.begin(), all.end(), [&](const auto& one) { return !one->on && isCalled(*one, name); }))
                say(name, "no sentence that is off", knownOf(all, false));
    }
    return findings;
}

} // namespace undisona
