#include "core/assess/forgotten_supports.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/number_text.hpp"
#include "core/base/same_place.hpp"
#include "core/picks/edge_rules.hpp"
#include "core/picks/face_rules.hpp"
#include "core/picks/likeness.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Whether a support is said so that more may be added to it: nothing is left out of it on purpose.
bool isMeantWhole(const Sentence& hold)
{
    return hold.kind->key == "hold" && !hold.has("others") && hold.text("where").find(" except ") == std::string::npos;
}

/// That a support is all that there is to be, which its sentence keeps.
Cure leaveFree(const std::string& sentence, bool one)
{
    return {one ? "Leave it free" : "Leave them free", {{{}, sentence, {}, {{"others", "and no others like them"}}}}};
}

/// A point at the height of held ones, where as many members meet, that is not held: one forgotten foot.
void forgottenPoints(const Structure& structure, const Model& model, const std::vector<int>& meeting,
                     Findings& findings)
{
    std::set<int> held;
    for (const auto& hold : structure.holds)
        held.insert(hold.point());
    for (const auto& tie : structure.ties)
        for (const int point : tie.points()) // what is tied is held by what it is tied to
            held.insert(point);
    for (const auto& mean : structure.means)
        held.insert(mean.point);
    std::vector<std::string> alike;
    std::string sentence;
    for (std::size_t at = 0; at < meeting.size(); ++at) {
        if (held.contains(static_cast<int>(at)) || meeting[at] == 0) continue;
        int same = 0;
        for (const auto& hold : structure.holds) {
            if (hold.on != Target::point) continue;
            const auto other = static_cast<std::size_t>(hold.at);
            if (std::abs(structure.frame.points[other].place.z() - structure.frame.points[at].place.z()) < 1e-6 &&
                meeting[other] == meeting[at]) {
                ++same;
                sentence = hold.sentence;
            }
        }
        // Only where being held is the rule at that height, and not on a ground beam with many points.
        if (same >= 2) alike.push_back(structure.frame.points[at].name);
    }
    if (alike.empty() || alike.size() > std::max<std::size_t>(1, structure.holds.size() / 2)) return;
    const SentencePtr hold = model.sentence(sentence);
    const bool mayBeMended = hold && isMeantWhole(*hold);
    if (hold && hold->has("others")) return;
    const std::string names = someOf(alike);
    findings.push_back(warningAt(sentence,
                                 fmt::format("{} {} like the held points but {} not held", names,
                                             alike.size() == 1 ? "is" : "are", alike.size() == 1 ? "is" : "are"),
                                 "Hold it too, if a mounting point was forgotten."));
    // Said after what is held; what is left out of a rule on purpose is not put back.
    if (mayBeMended) {
        std::string points = hold->text("where");
        for (const auto& name : alike)
            points += ", " + name;
        findings.back().cures = {{fmt::format("Hold {} too", names), {{{}, sentence, {}, {{"where", points}}}}},
                                 leaveFree(sentence, alike.size() == 1)};
    }
}

/// Those of a kind that are like two held ones of a sentence at least, and fewer than half of them.
void forgottenOf(const Structure& structure, const Model& model, Target target, Findings& findings)
{
    std::set<int> taken; // held or tied
    std::map<std::string, std::vector<int>> heldBy;
    for (const auto& hold : structure.holds)
        if (hold.on == target && taken.insert(hold.at).second) heldBy[hold.sentence].push_back(hold.at);
    if (heldBy.empty()) return;
    for (const auto& tie : structure.ties)
        if (tie.on == target) taken.insert(tie.at);
    const Frame& frame = structure.frame;
    std::vector<std::pair<int, Likeness>> left;
    for (std::size_t at = 0, count = target == Target::face ? frame.faces->faces.size() : frame.faces->edges.size();
         at < count; ++at)
        if (!taken.contains(static_cast<int>(at)))
            if (const auto likeness = likenessOf(frame, target, static_cast<int>(at)))
                left.emplace_back(static_cast<int>(at), *likeness);
    for (const auto& [id, held] : heldBy) {
        const SentencePtr said = model.sentence(id);
        if (!said || !isMeantWhole(*said)) continue;
        std::vector<std::pair<Likeness, std::size_t>> kinds; // and how many of each are held
        for (const int at : held)
            if (const auto own = likenessOf(frame, target, at)) {
                const auto known =
                    std::find_if(kinds.begin(), kinds.end(), [&](const auto& kind) { return kind.first == *own; });
                if (known == kinds.end())
                    kinds.emplace_back(*own, 1);
                else
                    ++known->second;
            }
        for (const auto& [likeness, count] : kinds) {
            std::vector<int> missing;
            for (const auto& [at, own] : left)
                if (own == likeness) missing.push_back(at);
            if (count < 2 || missing.empty() || missing.size() > std::max<std::size_t>(1, count / 2)) continue;
            std::string where = said->text("where");
            std::vector<std::string> places;
            for (const int at : missing) {
                const std::string rule = target == Target::face ? ruleForFace(frame, at) : ruleForEdge(frame, at);
                where += ", " + rule;
                places.push_back("the " + rule);
            }
            const std::string names = someOf(places);
            const char* is = missing.size() == 1 ? "is" : "are";
            Finding finding =
                warningAt(id,
                          fmt::format("{} {} like {} held {} of {} but {} not held", names, is, count,
                                      target == Target::face ? "faces" : "rims", frame.partName(likeness.part), is),
                          "Hold it too, if a mounting place was forgotten.");
            finding.cures = {
                {missing.size() == 1 ? "Hold it too" : "Hold them too", {{{}, id, {}, {{"where", where}}}}},
                leaveFree(id, missing.size() == 1)};
            findings.push_back(std::move(finding));
        }
    }
}

} // namespace

void findForgottenSupports(const Structure& structure, const Model& model, const std::vector<int>& meeting,
                           Findings& findings)
{
    forgottenPoints(structure, model, meeting, findings);
    if (!structure.frame.faces) return;
    forgottenOf(structure, model, Target::edge, findings);
    forgottenOf(structure, model, Target::face, findings);
}

} // namespace undisona
