#include "core/statement/told_apart.hpp"

#include "core/units/size_text.hpp"

#include <algorithm>
#include <numeric>

namespace undisona {

namespace {

/// A kind before it has its place: kinds stand in the order of their rank, then of their count.
struct Told {
    std::string name; ///< empty: none
    double rank = 0.0;
};

Told ofMaterial(const MadeOf& made)
{
    return {made.material ? made.material->name : std::string()};
}

Told ofThickness(const Sheet& sheet, const DisplayUnits& units)
{
    const auto text = [&](double thickness) { return sizeText(thickness, units); };
    if (!sheet.taper) return {text(sheet.thickness), sheet.thickness};
    const auto [least, most] = std::minmax(sheet.taper->thickness[0], sheet.taper->thickness[1]);
    return {text(least) + " to " + text(most), least};
}

/// By member the least group that has it: "legs of Mast" before "Mast".
std::vector<std::string> groupsOf(const Frame& frame)
{
    std::vector<std::string> names(frame.members.size());
    std::vector<std::size_t> sizes(frame.members.size(), SIZE_MAX);
    for (const auto& [name, group] : frame.groups)
        for (const int member : group.members)
            if (group.members.size() < sizes[static_cast<std::size_t>(member)]) {
                names[static_cast<std::size_t>(member)] = name;
                sizes[static_cast<std::size_t>(member)] = group.members.size();
            }
    return names;
}

/// Of something placed with a file, its name; else what is said of the model's own.
template <class First>
std::string placedOf(const Frame& frame, int at, First first, std::size_t (*count)(const Frame&))
{
    for (const auto& one : frame.placed)
        if (at >= one.*first && at < one.*first + static_cast<int>(count(*one.frame))) return one.name;
    return "the model itself";
}

} // namespace

ToldApart toldApart(const Structure& structure, ToldBy by, const DisplayUnits& units)
{
    const Frame& frame = structure.frame;
    std::vector<Told> members(frame.members.size()), parts(frame.parts());
    const auto groups = by == ToldBy::part ? groupsOf(frame) : std::vector<std::string>();
    for (std::size_t at = 0; at < members.size(); ++at) {
        const FrameMember& own = frame.members[at];
        if (by == ToldBy::material) members[at] = ofMaterial(structure.members[at]);
        if (by == ToldBy::section && own.section) members[at] = {own.section->text};
        if (by == ToldBy::part) members[at] = {groups[at].empty() ? own.name : groups[at]};
        if (by == ToldBy::subAssembly)
            members[at] = {placedOf(
                frame, static_cast<int>(at), &PlacedFrame::firstMember,
                +[](const Frame& one) { return one.members.size(); })};
    }
    for (std::size_t at = 0; at < parts.size(); ++at) {
        const bool isSheet = at < frame.sheets.size();
        const int own = static_cast<int>(isSheet ? at : at - frame.sheets.size());
        if (by == ToldBy::material)
            parts[at] = isSheet ? ofMaterial(structure.sheets[at])
                                : ofMaterial(structure.solids[static_cast<std::size_t>(own)]);
        if (by == ToldBy::thickness && isSheet) parts[at] = ofThickness(frame.sheets[at], units);
        if (by == ToldBy::part) parts[at] = {frame.partName(static_cast<int>(at))};
        if (by == ToldBy::subAssembly)
            parts[at] = {
                isSheet
                    ? placedOf(
                          frame, own, &PlacedFrame::firstSheet, +[](const Frame& one) { return one.sheets.size(); })
                    : placedOf(
                          frame, own, &PlacedFrame::firstSolid, +[](const Frame& one) { return one.solids.size(); })};
    }

    struct Kind : ToldApart::Kind {
        double rank;
    };
    std::vector<Kind> kinds;
    std::map<std::string, std::size_t> known;
    for (const auto* list : {&members, &parts})
        for (const Told& told : *list) {
            if (told.name.empty()) continue;
            const auto [at, isNew] = known.emplace(told.name, kinds.size());
            if (isNew) kinds.push_back({{told.name, 0}, told.rank});
            ++kinds[at->second].count;
        }
    std::stable_sort(kinds.begin(), kinds.end(), [](const Kind& a, const Kind& b) {
        return a.rank != b.rank ? a.rank < b.rank : a.count > b.count;
    });
    ToldApart apart;
    for (std::size_t at = 0; at < kinds.size(); ++at) {
        known[kinds[at].name] = at;
        apart.kinds.push_back(kinds[at]);
    }
    const auto numbered = [&](const std::vector<Told>& list) {
        std::vector<int> numbers;
        for (const Told& told : list)
            numbers.push_back(told.name.empty() ? -1 : static_cast<int>(known.at(told.name)));
        return numbers;
    };
    apart.ofMembers = numbered(members);
    apart.ofParts = numbered(parts);
    return apart;
}

} // namespace undisona
