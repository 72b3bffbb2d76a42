#include "core/geometry/pick.hpp"

#include "core/base/number_text.hpp"
#include "core/geometry/edge_rules.hpp"
#include "core/geometry/face_rules.hpp"
#include "core/model/value.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Splits at commas and the word "and", but not inside quotes or parentheses.
std::vector<std::string> termsOf(std::string_view text)
{
    std::vector<std::string> terms;
    std::string term;
    bool inQuotes = false;
    int depth = 0;
    const auto take = [&] {
        if (const auto clean = trimmed(term); !clean.empty()) terms.emplace_back(clean);
        term.clear();
    };
    for (std::size_t at = 0; at < text.size(); ++at) {
        const char letter = text[at];
        if (letter == '"') inQuotes = !inQuotes;
        if (!inQuotes && letter == '(') ++depth;
        if (!inQuotes && letter == ')') --depth;
        const bool open = !inQuotes && depth <= 0;
        if (open && letter == ',') {
            take();
        } else if (open && text.substr(at).starts_with(" and ")) {
            take();
            at += 4;
        } else {
            term += letter;
        }
    }
    take();
    return terms;
}

std::string unquoted(std::string_view term)
{
    if (term.size() >= 2 && term.front() == '"' && term.back() == '"') term = term.substr(1, term.size() - 2);
    return std::string(term);
}

struct Found {
    std::vector<int> indices;
    bool known = false; ///< whether the term means anything at all
    std::vector<int> edges{}, sheets{}, solids{}, faces{};

    std::size_t size() const { return indices.size() + edges.size() + sheets.size() + solids.size() + faces.size(); }
    bool empty() const { return size() == 0; }
};

/// Resolves single terms; `wantsPoints` decides what a group's name stands for.
class TermReader {
public:
    TermReader(const Frame& frame, bool wantsPoints) : frame_(frame), wantsPoints_(wantsPoints) {}

    /// Why a term that names something does not say which points are meant.
    const std::string& misread() const { return misread_; }

    Found read(const std::string& term) const
    {
        misread_.clear();
        if (wantsPoints_ && meansParts(unquoted(term))) {
            misread_ = term;
            return {};
        }
        if (auto found = named(unquoted(term)); found.known) return found;
        if (term == "everything" || term == (wantsPoints_ ? "all points" : "all members")) return everything();
        if (auto found = roleOf(term); found.known) return found;
        if (!wantsPoints_) return membersLike(term);
        if (auto found = EdgeRules(frame_).read(term); found) return {{}, true, *found, {}};
        if (auto found = FaceRules(frame_).read(term); found) return {{}, true, {}, {}, {}, *found};
        if (auto found = atCoordinate(term); found.known) return found;
        if (auto found = extreme(term); found.known) return found;
        return nearest(term);
    }

private:
    /// Sheet or solids, of which some points alone would be taken, as the corners of a plate.
    bool meansParts(const std::string& name) const
    {
        if (frame_.pointNamed(name) >= 0) return false;
        const bool any = !frame_.sheets.empty() || !frame_.solids.empty();
        if (name == "everything") return any;
        const auto group = frame_.groups.find(name);
        if (group == frame_.groups.end()) return false;
        return group->second.members.empty() && (!group->second.sheets.empty() || !group->second.solids.empty());
    }

    const std::vector<int>& side(const FrameGroup& group) const { return wantsPoints_ ? group.points : group.members; }

    Found everything() const
    {
        Found all{{}, true};
        const std::size_t count = wantsPoints_ ? frame_.points.size() : frame_.members.size();
        for (std::size_t at = 0; at < count; ++at)
            all.indices.push_back(static_cast<int>(at));
        for (std::size_t at = 0; at < frame_.sheets.size() && !wantsPoints_; ++at)
            all.sheets.push_back(static_cast<int>(at));
        for (std::size_t at = 0; at < frame_.solids.size() && !wantsPoints_; ++at)
            if (!frame_.solids[at].spent) all.solids.push_back(static_cast<int>(at));
        return all;
    }

    Found named(const std::string& name) const
    {
        const int index = wantsPoints_ ? frame_.pointNamed(name) : frame_.memberNamed(name);
        if (index >= 0) return {{index}, true};
        for (std::size_t at = 0; at < frame_.sheets.size() && !wantsPoints_; ++at)
            if (frame_.sheets[at].name == name) return {{}, true, {}, {static_cast<int>(at)}};
        for (std::size_t at = 0; at < frame_.solids.size() && !wantsPoints_; ++at)
            if (frame_.solids[at].name == name && !frame_.solids[at].spent)
                return {{}, true, {}, {}, {static_cast<int>(at)}};
        const auto group = frame_.groups.find(name);
        if (group == frame_.groups.end()) return {};
        Found found{side(group->second), true};
        if (!wantsPoints_) {
            found.sheets = group->second.sheets;
            for (const int solid : group->second.solids)
                if (!frame_.solids[static_cast<std::size_t>(solid)].spent) found.solids.push_back(solid);
        }
        return found.empty() ? Found{} : found;
    }

    Found roleOf(const std::string& term) const
    {
        const auto at = term.find(" of ");
        if (at == std::string::npos) return {};
        const std::string role = term.substr(0, at), name = unquoted(trimmed(std::string_view(term).substr(at + 4)));
        if (role == "lowest points" || role == "highest points") return {};
        const auto group = frame_.groups.find(name);
        if (group == frame_.groups.end()) return {};
        if ((role == "points" && wantsPoints_) || (role == "members" && !wantsPoints_))
            return {side(group->second), true};
        const auto part = frame_.groups.find(role + " of " + name);
        if (part == frame_.groups.end()) return {};
        if (!wantsPoints_) return {part->second.members, true};
        if (!part->second.points.empty()) return {part->second.points, true};
        Found ends{{}, true}; // the points of the members of that role
        for (const int member : part->second.members) {
            ends.indices.push_back(frame_.members[static_cast<std::size_t>(member)].from);
            ends.indices.push_back(frame_.members[static_cast<std::size_t>(member)].to);
        }
        return ends;
    }

    Found atCoordinate(const std::string& term) const
    {
        constexpr std::string_view lead = "points at ";
        if (!term.starts_with(lead) || term.size() < lead.size() + 3) return {};
        const int axis = term[lead.size()] - 'x';
        const auto equals = term.find('=');
        if (axis < 0 || axis > 2 || equals == std::string::npos) return {};
        const auto value = readQuantity(term.substr(equals + 1), QuantityKind::length, NumberStyle::file);
        if (!std::holds_alternative<Quantity>(value)) return {};
        const double wanted = std::get<Quantity>(value).si;
        const double tolerance = 1e-6 * std::max(1.0, frame_.span());
        return filtered(frame_.points.size(),
                        [&](std::size_t at) { return std::abs(frame_.points[at].place[axis] - wanted) <= tolerance; });
    }

    Found extreme(const std::string& term) const
    {
        const bool lowest = term.starts_with("lowest points"), highest = term.starts_with("highest points");
        if (!lowest && !highest) return {};
        Found among = everything();
        if (const auto at = term.find(" of "); at != std::string::npos) {
            const auto group = frame_.groups.find(unquoted(trimmed(std::string_view(term).substr(at + 4))));
            if (group == frame_.groups.end()) return {};
            among.indices = group->second.points;
        }
        double edge = lowest ? 1e300 : -1e300;
        for (const int at : among.indices) {
            const double z = frame_.points[static_cast<std::size_t>(at)].place.z();
            edge = lowest ? std::min(edge, z) : std::max(edge, z);
        }
        const double tolerance = 1e-6 * std::max(1.0, frame_.span());
        std::erase_if(among.indices, [&](int at) {
            return std::abs(frame_.points[static_cast<std::size_t>(at)].place.z() - edge) > tolerance;
        });
        return among;
    }

    /// "members along z", "members with section brace", "members 3 m long", each with an optional "in Mast".
    Found membersLike(const std::string& term) const
    {
        constexpr std::string_view lead = "members ";
        if (!term.starts_with(lead)) return {};
        std::string rule = term.substr(lead.size());
        Found among = everything();
        if (const auto at = rule.rfind(" in "); at != std::string::npos) {
            const auto group = frame_.groups.find(unquoted(trimmed(std::string_view(rule).substr(at + 4))));
            if (group != frame_.groups.end()) { // else it is the inch of "12 in long"
                among.indices = group->second.members;
                rule.resize(at);
            }
        }
        std::function<bool(const FrameMember&)> fits;
        if (rule == "along x" || rule == "along y" || rule == "along z") {
            const int axis = rule.back() - 'x';
            fits = [this, axis](const FrameMember& member) {
                return std::abs(frame_.direction(member)[axis]) > 1.0 - 1e-9;
            };
        } else if (rule.starts_with("with section ")) {
            const std::string section = unquoted(trimmed(std::string_view(rule).substr(13)));
            fits = [section](const FrameMember& member) { return member.section && member.section->text == section; };
        } else if (rule.ends_with(" long")) {
            const auto length = readQuantity(std::string_view(rule).substr(0, rule.size() - 5), QuantityKind::length,
                                             NumberStyle::file);
            if (!std::holds_alternative<Quantity>(length)) return {};
            const double wanted = std::get<Quantity>(length).si;
            fits = [this, wanted](const FrameMember& member) {
                return std::abs(frame_.length(member) - wanted) <= 1e-6 * wanted;
            };
        } else {
            return {};
        }
        std::erase_if(among.indices, [&](int at) { return !fits(frame_.members[static_cast<std::size_t>(at)]); });
        return among;
    }

    Found nearest(const std::string& term) const
    {
        constexpr std::string_view lead = "nearest to ";
        if (!term.starts_with(lead) || frame_.points.empty()) return {};
        const auto read =
            readVector(std::string_view(term).substr(lead.size()), QuantityKind::length, NumberStyle::file);
        if (!std::holds_alternative<Vector>(read)) return {};
        const auto& si = std::get<Vector>(read).si;
        const Eigen::Vector3d wanted(si[0], si[1], si[2]);
        int best = 0;
        for (std::size_t at = 1; at < frame_.points.size(); ++at)
            if ((frame_.points[at].place - wanted).norm() <
                (frame_.points[static_cast<std::size_t>(best)].place - wanted).norm() - 1e-9)
                best = static_cast<int>(at);
        return {{best}, true};
    }

    static Found filtered(std::size_t count, const std::function<bool(std::size_t)>& fits)
    {
        Found found{{}, true};
        for (std::size_t at = 0; at < count; ++at)
            if (fits(at)) found.indices.push_back(static_cast<int>(at));
        return found;
    }

    const Frame& frame_;
    bool wantsPoints_;
    mutable std::string misread_;
};

void sortUnique(std::vector<int>& indices)
{
    std::sort(indices.begin(), indices.end());
    indices.erase(std::unique(indices.begin(), indices.end()), indices.end());
}

Picked pick(const Frame& frame, std::string_view text, bool wantsPoints)
{
    Picked picked;
    // "everything" of a structure that has no shape yet is right, and nothing.
    if (text == "everything" &&
        (wantsPoints ? frame.points.empty() : frame.members.empty() && frame.sheets.empty() && frame.solids.empty()))
        return picked;
    const char* noun = wantsPoints ? "point" : frame.sheets.empty() && frame.solids.empty() ? "member" : "part";
    const auto except = text.find(" except ");
    const TermReader reader(frame, wantsPoints);
    const auto collect = [&](std::string_view part, Picked& into) {
        for (const auto& term : termsOf(part)) {
            Found found = reader.read(term);
            long expected = -1;
            if (!found.known) { // "4 feet of Mast": a count before a rule
                const auto space = term.find(' ');
                const auto count = space == std::string::npos ? std::nullopt : readPlainNumber(term.substr(0, space));
                if (count && *count >= 0 && *count == std::floor(*count)) {
                    expected = static_cast<long>(*count);
                    found = reader.read(std::string(trimmed(std::string_view(term).substr(space + 1))));
                }
            }
            for (auto* list : {&found.indices, &found.edges, &found.sheets, &found.solids, &found.faces})
                sortUnique(*list);
            if (!found.known && !reader.misread().empty()) {
                const std::string& name = reader.misread();
                picked.problem = fmt::format("\"{}\" names parts, and points, edges or faces are meant here", name);
                picked.remedy = name == "everything"
                                    ? std::string("Write \"all points\" for those alone, or name edges or faces.")
                                    : fmt::format("Write \"edges of {0}\" or \"faces of {0}\", or \"points of {0}\" for "
                                                  "its corners alone.",
                                                  name);
                picked.onlyCountDiffers = false;
                return;
            }
            if (!found.known) {
                picked.problem = fmt::format("there is no {} or group of them called \"{}\"", noun, term);
                picked.remedy =
                    fmt::format("Pick it in the scene, or write the name of a {}, of a Shape sentence, or a rule "
                                "such as {}.",
                                noun, wantsPoints ? "\"points at z = 0 m\"" : "\"legs of Mast\"");
                for (const auto& point : frame.points)
                    if (point.name.find(',') != std::string::npos && text.find(point.name) != std::string_view::npos)
                        picked.remedy = fmt::format("A name with a comma stands in quotes: '\"{}\"'.", point.name);
                picked.onlyCountDiffers = false;
                return;
            }
            if (found.empty() && picked.problem.empty()) {
                picked.problem = fmt::format("\"{}\" finds no {}", term, noun);
                picked.remedy = "Was it renamed, moved or taken away? Pick again.";
            }
            if (expected >= 0 && expected != static_cast<long>(found.size()) && picked.problem.empty()) {
                picked.problem =
                    fmt::format("\"{}\" found {} when it was made, and finds {} now", term, expected, found.size());
                picked.remedy = fmt::format("If {} is right, write it so; else pick again.", found.size());
                picked.onlyCountDiffers = true;
            }
            into.indices.insert(into.indices.end(), found.indices.begin(), found.indices.end());
            into.edges.insert(into.edges.end(), found.edges.begin(), found.edges.end());
            into.sheets.insert(into.sheets.end(), found.sheets.begin(), found.sheets.end());
            into.solids.insert(into.solids.end(), found.solids.begin(), found.solids.end());
            into.faces.insert(into.faces.end(), found.faces.begin(), found.faces.end());
        }
    };
    constexpr std::vector<int> Picked::*lists[] = {&Picked::indices, &Picked::edges, &Picked::sheets, &Picked::solids,
                                                   &Picked::faces};
    collect(text.substr(0, except), picked);
    for (const auto list : lists)
        sortUnique(picked.*list);
    if (except != std::string_view::npos && (picked.problem.empty() || picked.onlyCountDiffers)) {
        Picked unwanted;
        collect(text.substr(except + 8), unwanted);
        for (const auto list : lists)
            std::erase_if(picked.*list, [&](int at) {
                return std::find((unwanted.*list).begin(), (unwanted.*list).end(), at) != (unwanted.*list).end();
            });
    }
    if (picked.size() == 0 && picked.problem.empty()) picked.problem = fmt::format("\"{}\" finds no {}", text, noun);
    if (picked.size() == 0) picked.onlyCountDiffers = false;
    return picked;
}

} // namespace

Picked pickPoints(const Frame& frame, std::string_view text)
{
    return pick(frame, trimmed(text), true);
}
Picked pickMembers(const Frame& frame, std::string_view text)
{
    return pick(frame, trimmed(text), false);
}

std::string quotedName(std::string_view name)
{
    const bool plain = name.find_first_of(",()\"") == std::string_view::npos &&
                       name.find(" and ") == std::string_view::npos && name.find(" of ") == std::string_view::npos &&
                       name.find(" except ") == std::string_view::npos;
    return plain ? std::string(name) : "\"" + std::string(name) + "\"";
}

} // namespace undisona
