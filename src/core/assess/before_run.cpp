#include "core/assess/before_run.hpp"

#include "core/base/alike_findings.hpp"
#include "core/modal/contacts.hpp"
#include "core/model/states.hpp"
#include "core/statement/touching.hpp"

namespace undisona {

namespace {

constexpr std::size_t mostLines = 8;

std::string counted(std::size_t count, std::string_view one, std::string_view more)
{
    return fmt::format("{} {}", count, count == 1 ? one : more);
}

void add(std::vector<std::string>& parts, std::size_t count, std::string_view one, std::string_view more)
{
    if (count > 0) parts.push_back(counted(count, one, more));
}

std::string listed(const std::vector<std::string>& parts)
{
    std::string text;
    for (std::size_t at = 0; at < parts.size(); ++at)
        text += (at == 0 ? "" : at + 1 == parts.size() ? " and " : ", ") + parts[at];
    return text;
}

void cutShort(std::vector<std::string>& lines)
{
    if (lines.size() <= mostLines) return;
    const std::size_t more = lines.size() - mostLines;
    lines.resize(mostLines);
    lines.push_back(fmt::format("and {} more", more));
}

bool says(const Model& model, std::string_view kind)
{
    const auto active = model.active();
    return std::any_of(active.begin(), active.end(), [&](const SentencePtr& one) { return one->kind->key == kind; });
}

/// Which of what bears on one side alone does so in the modes.
std::string bearingLine(const Structure& structure)
{
    const std::string all =
        counted(structure.contacts.size(), "one-sided support or joint", "one-sided supports and joints");
    if (structure.aboutState >= 0)
        return fmt::format("{} as in the state \"{}\"", all,
                           structure.staticStates[static_cast<std::size_t>(structure.aboutState)].name);
    std::vector<std::string> open;
    const auto bear = bearUnasked(structure);
    for (std::size_t at = 0; at < bear.size(); ++at)
        if (!bear[at]) open.push_back(structure.contacts[at].name);
    if (open.empty()) return all + ", which all bear";
    return fmt::format("{}, of which {} open in the modes: {}", all,
                       open.size() == 1 ? "1 is" : fmt::format("{} are", open.size()), someOf(open));
}

std::vector<std::string> solved(const Model& model, const Structure& structure, const MassSummary& mass,
                                const DisplayUnits& units)
{
    std::vector<std::string> parts, lines;
    add(parts, structure.frame.members.size(), "member", "members");
    add(parts, structure.frame.sheets.size(), "sheet", "sheets");
    add(parts, structure.frame.solids.size(), "body", "bodies");
    if (parts.empty()) add(parts, structure.frame.points.size(), "point", "points");
    lines.push_back(fmt::format("{}, {}", listed(parts), units.text(mass.mass, QuantityKind::mass)));
    std::set<std::string> holds;
    for (const auto& hold : structure.holds)
        holds.insert(hold.sentence);
    for (const auto& contact : structure.contacts)
        holds.insert(contact.sentence);
    lines.push_back(holds.empty() ? "held by nothing: it floats"
                                  : "held by " + counted(holds.size(), "sentence", "sentences") + " of supports");
    if (!structure.contacts.empty()) lines.push_back(bearingLine(structure));
    const auto states = statesOf(model);
    if (!states.empty()) {
        std::vector<std::string> names;
        for (const auto& state : states)
            names.push_back(state.name);
        lines.push_back(fmt::format("beside it its {}: {}", states.size() == 1 ? "state" : "states", listed(names)));
    }
    return lines;
}

std::vector<std::string> asked(const Model& model, const Structure& structure)
{
    std::vector<std::string> lines;
    for (const auto& sentence : model.activeIn(Group::ask))
        if (sentence->kind->key != "call-mode") lines.push_back(wordsOf(*sentence));
    cutShort(lines);
    const Ask& ask = structure.ask;
    if (ask.sentence.empty()) lines.push_back(fmt::format("the {} lowest modes, as nobody asks for others", ask.count));
    lines.push_back(ask.prove ? "a count proves that none is missed" : "no count: that none is missed is not proven");
    return lines;
}

std::vector<std::string> readable(const Structure& structure)
{
    const Ask& ask = structure.ask;
    const bool modes = ask.until != Ask::Until::ritz;
    std::vector<std::string> lines{
        modes ? "frequencies, shapes and names of the modes, where their energy sits, what they strain"
              : "Ritz vectors, which are no modes: neither counted nor named",
        "how much mass takes part in each direction, and which part of it sits on supports"};
    if (modes && ask.meshErrors) lines.push_back("how far off the mesh leaves each frequency");
    if (ask.residual) lines.push_back("residual vectors, with which a response at rest is exact");
    std::vector<std::string> sources;
    for (const auto& excitation : structure.excitations)
        sources.push_back(excitation.name);
    if (!sources.empty()) {
        cutShort(sources);
        lines.push_back("which mode meets " + listed(sources) + ", and what moves it out of the way");
    }
    if (!structure.handChecks.empty())
        lines.push_back(counted(structure.handChecks.size(), "check by hand", "checks by hand") + " beside it");
    return lines;
}

std::vector<std::string> assumed(const Structure& structure)
{
    const Frame& frame = structure.frame;
    std::vector<std::string> lines, joined;
    for (const auto& pair : touchingParts(structure))
        if (pair.joined && frame.partSentence(pair.first) != frame.partSentence(pair.second))
            joined.push_back(fmt::format("{} and {}", frame.partName(pair.first), frame.partName(pair.second)));
    const bool stiffEnds = std::none_of(structure.members.begin(), structure.members.end(), [](const auto& member) {
        return member.rod || std::count(member.released.begin(), member.released.end(), true) > 0;
    });
    if (frame.members.size() > 1)
        lines.push_back(stiffEnds ? "members that meet are rigid with each other, all of them"
                                  : "members that meet are rigid with each other where nothing lets them go");
    if (!joined.empty()) {
        cutShort(joined);
        lines.push_back("joined where they touch: " + listed(joined));
    }
    const bool statedSizes =
        !structure.localSizes.empty() || structure.discretised.elements > 0 ||
        structure.discretised.sheetSizes != 1.0 ||
        std::any_of(frame.sheets.begin(), frame.sheets.end(), [](const Sheet& one) { return one.size > 0.0; }) ||
        std::any_of(frame.solids.begin(), frame.solids.end(), [](const Solid& one) { return one.size > 0.0; });
    lines.push_back(statedSizes ? "elements as large as stated, and elsewhere as the frequencies asked want them"
                                : "elements as large as the frequencies asked want them");
    lines.push_back(structure.discretised.lumped ? "lumped mass: without rotary inertia of the elements"
                                                 : "consistent mass");
    if (!structure.discretised.allMassActs()) lines.push_back("mass acts in some directions alone");
    lines.push_back("small motions about the structure as drawn, without damping and without what loads do to its "
                    "stiffness");
    return lines;
}

std::vector<std::string> missing(const Model& model, const Structure& structure)
{
    const Ask& ask = structure.ask;
    std::vector<std::string> lines;
    if (ask.until == Ask::Until::count)
        lines.push_back(fmt::format("modes above the lowest {}: ask up to a frequency, or until enough mass takes part",
                                    ask.count));
    if (ask.until == Ask::Until::frequency || ask.until == Ask::Until::massShare)
        lines.push_back(fmt::format("modes beyond that, and more than {}", ask.count));
    if (ask.inside()) lines.push_back("modes below: they are counted, not found; sums of mass are of those found");
    if (structure.excitations.empty()) lines.push_back("clashes: nothing is said of what shakes it");
    if (!ask.residual && ask.until != Ask::Until::ritz)
        lines.push_back("residual vectors: a response made of these modes is not exact at rest");
    if (!ask.refine && ask.until != Ask::Until::ritz)
        lines.push_back("a finer mesh where the error is too large: ask to refine, or look at other meshes afterwards");
    if (!says(model, "weighed")) lines.push_back("a comparison with a scale: nothing is said to have been weighed");
    return lines;
}

} // namespace

std::vector<ToldBefore> toldBeforeRun(const Model& model, const Structure& structure, const MassSummary& mass,
                                      const DisplayUnits& units)
{
    return {{"What is solved", solved(model, structure, mass, units)},
            {"What is asked", asked(model, structure)},
            {"What can be read afterwards", readable(structure)},
            {"What is assumed", assumed(structure)},
            {"What nobody asks for, and will not be there", missing(model, structure)}};
}

} // namespace undisona
