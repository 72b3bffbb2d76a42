#include "core/picks/pick.hpp"

#include "core/base/number_text.hpp"
#include "core/base/same_place.hpp"
#include "core/model/value.hpp"
#include "core/picks/edge_rules.hpp"
#include "core/picks/face_rules.hpp"
#include "core/picks/part_rule.hpp"
#include "core/picks/place_range.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <numeric>

namespace undisona {

namespace {

/// Whether the next "and" belongs to a range.
bool opensRange(const std::string& term)
{
    const auto at = term.rfind(" between ");
    return at != std::string::npos && term.find(" and ", at) == std::string::npos;
}

/// Splits at commas and the word "and", but not inside quotes or parentheses, nor at that of "between z = 0 and 16 m".
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
        } else if (open && text.substr(at).starts_with(" and ") && !opensRange(term)) {
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

/// What a term finds.
struct Found : Picked {
    bool known = false; ///< whether the term means anything at all

    Found() = default;
    Found(Target target, std::vector<int> indices) : known(true) { of(target) = std::move(indices); }
};

/// Resolves single terms; what is meant decides what a name with several things behind it stands for.
class TermReader {
public:
    TermReader(const Frame& frame, Targets meant) : frame_(frame), meant_(meant) {}

    Found read(const std::string& term) const
    {
        if (const auto ranged = RangedTerm::read(frame_, term)) return inRange(*ranged);
        if (auto found = named(unquoted(term)); found.known) return found;
        for (const Target target : everyTarget)
            if (target != Target::edge && target != Target::face) // those have rules of their own
                if (const std::string nouns = std::string(nounOf(target)) + "s";
                    term == nouns || term == "all " + nouns)
                    return all(target);
        if (auto found = roleOf(term); found.known) return found;
        if (auto found = EdgeRules(frame_).read(term); found) return {Target::edge, *found};
        if (auto found = FaceRules(frame_).read(term); found) return {Target::face, *found};
        if (auto found = atCoordinate(term); found.known) return found;
        if (auto found = extreme(term); found.known) return found;
        if (auto found = membersLike(term); found.known) return found;
        return nearest(term);
    }

private:
    Found inRange(const RangedTerm& ranged) const
    {
        Found found;
        if (ranged.problem.empty()) {
            found = read(ranged.rule);
            if (!frame_.faces && found.sheets.size() + found.solids.size() > 0) { // of the group Shape
                found.problem = "how far sheets and solids reach is not known while shapes are being made";
                found.remedy = "Name them.";
                return found;
            }
            for (const Target target : everyTarget)
                std::erase_if(found.of(target), [&](int at) { return !ranged.range.holds(frame_, target, at); });
            return found;
        }
        found.problem = ranged.problem;
        found.remedy = "Write \"points between z = 0 m and 16 m\" or \"points within 2 m of (1, 0, 3 m)\".";
        return found;
    }

    Found all(Target target) const
    {
        const std::size_t counts[] = {frame_.points.size(), frame_.members.size(), 0, frame_.sheets.size(), 0,
                                      frame_.solids.size()};
        std::vector<int> list(counts[static_cast<std::size_t>(target)]);
        std::iota(list.begin(), list.end(), 0);
        return {target, target == Target::solid ? there(std::move(list)) : std::move(list)};
    }

    std::vector<int> there(std::vector<int> solids) const
    {
        std::erase_if(solids, [&](int at) { return frame_.solids[static_cast<std::size_t>(at)].spent; });
        return solids;
    }

    Found allParts() const
    {
        Found parts;
        parts.known = true;
        for (const Target target : {Target::member, Target::sheet, Target::solid})
            parts.of(target) = all(target).of(target);
        return parts;
    }

    /// Of the parts, those that are meant; their points where only such are; else what there is, which is wrong here.
    Found ofParts(Found parts, std::vector<int> points) const
    {
        if (!(parts.kinds() & meant_).none()) {
            for (const Target target : everyTarget)
                if (!meant_.has(target)) parts.of(target).clear();
            return parts;
        }
        // The corners of a plate are not what its name means.
        const bool frameAlone = !parts.members.empty() || parts.size() == 0;
        if (meant_.has(Target::point) && frameAlone) return {Target::point, std::move(points)};
        if (parts.size() == 0) return {Target::point, std::move(points)};
        return parts;
    }

    Found everything() const
    {
        Found parts = allParts();
        if (!(parts.kinds() & meant_).none()) return ofParts(std::move(parts), {});
        if (!parts.sheets.empty() || !parts.solids.empty()) return parts; // not their corners
        return all(Target::point);
    }

    Found group(const FrameGroup& group) const
    {
        Found parts;
        parts.known = true;
        parts.members = group.members;
        parts.sheets = group.sheets;
        parts.solids = there(group.solids);
        Found found = ofParts(std::move(parts), pointsOf(group));
        return found.size() == 0 ? Found{} : found;
    }

    /// Those of the group, or the ends of its members where it has none by itself.
    std::vector<int> pointsOf(const FrameGroup& group) const
    {
        if (!group.points.empty()) return group.points;
        std::vector<int> ends;
        for (const int member : group.members) {
            ends.push_back(frame_.members[static_cast<std::size_t>(member)].from);
            ends.push_back(frame_.members[static_cast<std::size_t>(member)].to);
        }
        return ends;
    }

    Found named(const std::string& name) const
    {
        if (name == "everything") return everything();
        Found other; // has the name, and is not meant here
        const auto take = [&](Target target, int at) {
            if (at >= 0 && meant_.has(target)) return true;
            if (at >= 0 && !other.known) other = Found(target, {at});
            return false;
        };
        if (const int at = frame_.pointNamed(name); take(Target::point, at)) return {Target::point, {at}};
        if (const int at = frame_.memberNamed(name); take(Target::member, at)) return {Target::member, {at}};
        for (std::size_t at = 0; at < frame_.sheets.size(); ++at)
            if (frame_.sheets[at].name == name && take(Target::sheet, static_cast<int>(at)))
                return {Target::sheet, {static_cast<int>(at)}};
        for (std::size_t at = 0; at < frame_.solids.size(); ++at)
            if (frame_.solids[at].name == name && !frame_.solids[at].spent && take(Target::solid, static_cast<int>(at)))
                return {Target::solid, {static_cast<int>(at)}};
        if (const auto found = frame_.groups.find(name); found != frame_.groups.end())
            if (Found of = group(found->second); of.known && (!(of.kinds() & meant_).none() || !other.known)) return of;
        return other;
    }

    /// "points of Mast", "members of Mast", "legs of Mast".
    Found roleOf(const std::string& term) const
    {
        const auto at = term.find(" of ");
        if (at == std::string::npos) return {};
        const std::string role = term.substr(0, at), name = unquoted(trimmed(std::string_view(term).substr(at + 4)));
        if (const auto part = frame_.groups.find(role + " of " + name); part != frame_.groups.end())
            return group(part->second);
        if (const auto own = frame_.groups.find(name); own != frame_.groups.end()) {
            if (role == "points") return {Target::point, pointsOf(own->second)};
            if (role == "members") return {Target::member, own->second.members};
            if (role == "sheets") return {Target::sheet, own->second.sheets};
            if (role == "solids") return {Target::solid, there(own->second.solids)};
        }
        if (const int member = frame_.memberNamed(name); role == "points" && member >= 0) {
            const FrameMember& own = frame_.members[static_cast<std::size_t>(member)];
            return {Target::point, {own.from, own.to}};
        }
        return {};
    }

    Found atCoordinate(const std::string& term) const
    {
        const AtCoordinate at = undisona::atCoordinate(term, "points");
        if (!at.meant || !at.value) return {};
        const double tolerance = sameCoordinate(frame_.span());
        Found found(Target::point, {});
        for (std::size_t point = 0; point < frame_.points.size(); ++point)
            if (std::abs(frame_.points[point].place[at.axis] - *at.value) <= tolerance)
                found.points.push_back(static_cast<int>(point));
        return found;
    }

    Found extreme(const std::string& term) const
    {
        const bool lowest = term.starts_with("lowest points"), highest = term.starts_with("highest points");
        if (!lowest && !highest) return {};
        Found among = all(Target::point);
        if (const auto at = term.find(" of "); at != std::string::npos) {
            const auto group = frame_.groups.find(unquoted(trimmed(std::string_view(term).substr(at + 4))));
            if (group == frame_.groups.end()) return {};
            among.points = group->second.points;
        }
        double edge = lowest ? 1e300 : -1e300;
        for (const int at : among.points) {
            const double z = frame_.points[static_cast<std::size_t>(at)].place.z();
            edge = lowest ? std::min(edge, z) : std::max(edge, z);
        }
        const double tolerance = sameCoordinate(frame_.span());
        std::erase_if(among.points, [&](int at) {
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
        Found among = all(Target::member);
        if (const auto at = rule.rfind(" in "); at != std::string::npos) {
            const auto group = frame_.groups.find(unquoted(trimmed(std::string_view(rule).substr(at + 4))));
            if (group != frame_.groups.end()) { // else it is the inch of "12 in long"
                among.members = group->second.members;
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
        std::erase_if(among.members, [&](int at) { return !fits(frame_.members[static_cast<std::size_t>(at)]); });
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
        return {Target::point, {best}};
    }

    const Frame& frame_;
    Targets meant_;
};

/// "a sheet", "members and sheets": what was found in place of what is meant.
std::string foundWords(const Picked& found, Targets which)
{
    std::size_t count = 0;
    Target last = Target::point;
    for (const Target target : everyTarget)
        if (which.has(target) && !found.of(target).empty()) {
            count += found.of(target).size();
            last = target;
        }
    if (count != 1) return wordsOf(which, "and");
    return (last == Target::edge ? "an " : "a ") + std::string(nounOf(last));
}

const char* ruleFor(Targets meant)
{
    if (meant.has(Target::point)) return "\"points at z = 0 m\"";
    if (meant.has(Target::member)) return "\"legs of Mast\"";
    if (meant.has(Target::edge)) return "\"edges of Plate\"";
    if (meant.has(Target::face)) return "\"faces of Block\"";
    return "\"everything\"";
}

/// Reads the terms of a pick into what it finds, and says what is wrong with one.
class PickReader {
public:
    PickReader(const Frame& frame, Targets meant) : frame_(frame), meant_(meant), terms_(frame, meant) {}

    Picked read(std::string_view text)
    {
        // "everything" of a structure that has no shape yet is right, and nothing.
        const bool empty = frame_.members.empty() && frame_.sheets.empty() && frame_.solids.empty() &&
                           (frame_.points.empty() || !meant_.has(Target::point));
        if (text == "everything" && empty) return {};
        const auto except = text.find(" except ");
        Picked picked;
        collect(text, text.substr(0, except), picked);
        if (except != std::string_view::npos && (problem_.problem.empty() || problem_.onlyCountDiffers)) {
            Picked unwanted;
            collect(text, text.substr(except + 8), unwanted);
            for (const Target target : everyTarget)
                std::erase_if(picked.of(target), [&](int at) {
                    const auto& list = unwanted.of(target);
                    return std::binary_search(list.begin(), list.end(), at);
                });
        }
        picked.problem = problem_.problem;
        picked.remedy = problem_.remedy;
        picked.onlyCountDiffers = problem_.onlyCountDiffers && picked.size() > 0;
        if (picked.size() == 0 && picked.problem.empty())
            picked.problem = fmt::format("\"{}\" finds no {}", text, oneOf(meant_));
        return picked;
    }

private:
    void collect(std::string_view text, std::string_view part, Picked& into)
    {
        for (const auto& term : termsOf(part)) {
            Found found = terms_.read(term);
            long expected = -1;
            if (!found.known) { // "4 feet of Mast": a count before a rule
                const auto space = term.find(' ');
                const auto count = space == std::string::npos ? std::nullopt : readPlainNumber(term.substr(0, space));
                if (count && *count >= 0 && *count == std::floor(*count)) {
                    expected = static_cast<long>(*count);
                    found = terms_.read(std::string(trimmed(std::string_view(term).substr(space + 1))));
                }
            }
            if (!found.problem.empty()) return say(found.problem, found.remedy);
            if (!found.known) return unknown(text, term);
            if (!accepted(term, found)) return;
            for (const Target target : everyTarget)
                sortUnique(found.of(target));
            if (found.size() == 0 && problem_.problem.empty())
                say(fmt::format("\"{}\" finds no {}", term, oneOf(meant_)),
                    "Was it renamed, moved or taken away? Pick again.");
            if (expected >= 0 && expected != static_cast<long>(found.size()) && problem_.problem.empty()) {
                say(fmt::format("\"{}\" found {} when it was made, and finds {} now", term, expected, found.size()),
                    fmt::format("If {} is right, write it so; else pick again.", found.size()));
                problem_.onlyCountDiffers = true;
            }
            for (const Target target : everyTarget)
                into.of(target).insert(into.of(target).end(), found.of(target).begin(), found.of(target).end());
        }
        for (const Target target : everyTarget)
            sortUnique(into.of(target));
    }

    static void sortUnique(std::vector<int>& indices)
    {
        std::sort(indices.begin(), indices.end());
        indices.erase(std::unique(indices.begin(), indices.end()), indices.end());
    }

    void say(std::string problem, std::string remedy)
    {
        problem_.problem = std::move(problem);
        problem_.remedy = std::move(remedy);
        problem_.onlyCountDiffers = false;
    }

    void unknown(std::string_view text, const std::string& term)
    {
        const std::string one = oneOf(meant_);
        std::string remedy =
            fmt::format("Pick it in the scene, or write the name of {} {}, of a Shape sentence, or a rule such as {}.",
                        one.starts_with("edge") ? "an" : "a", one, ruleFor(meant_));
        for (const auto& point : frame_.points)
            if (point.name.find(',') != std::string::npos && text.find(point.name) != std::string_view::npos)
                remedy = fmt::format("A name with a comma stands in quotes: '\"{}\"'.", point.name);
        const std::string quoted = term.starts_with('"') ? std::string(term) : fmt::format("\"{}\"", term);
        say(fmt::format("there is no {} or group of them called {}", one, quoted), std::move(remedy));
    }

    /// Whether all that the term found is meant here.
    bool accepted(const std::string& term, const Found& found)
    {
        Targets wrong;
        for (const Target target : everyTarget)
            if (found.kinds().has(target) && !meant_.has(target)) wrong = wrong | target;
        if (wrong.none()) return true;
        const std::string what =
            fmt::format("\"{}\" means {}, and {} are meant here", term, foundWords(found, wrong), wordsOf(meant_));
        std::vector<std::string> ways; // to say what of a part is meant
        const bool sheets = !found.sheets.empty(), solids = !found.solids.empty();
        if (meant_.has(Target::edge) && (sheets || solids)) ways.push_back(fmt::format("\"edges of {}\"", term));
        if (meant_.has(Target::face) && solids) ways.push_back(fmt::format("\"faces of {}\"", term));
        if (meant_.has(Target::point) && (sheets || solids))
            ways.push_back(fmt::format("\"points of {}\" for its corners alone", term));
        std::string remedy = fmt::format("Name {}, or pick them in the scene.", wordsOf(meant_));
        if (term == "everything" && meant_.has(Target::point))
            remedy = "Write \"all points\" for those alone, or name edges or faces.";
        else if (term != "everything" && !ways.empty())
            remedy = fmt::format("Write {}.", fmt::join(ways, ", or "));
        say(what, std::move(remedy));
        return false;
    }

    const Frame& frame_;
    Targets meant_;
    TermReader terms_;
    Picked problem_; ///< its words alone
};

} // namespace

std::vector<int>& Picked::of(Target target)
{
    std::vector<int>* lists[] = {&points, &members, &edges, &sheets, &faces, &solids};
    return *lists[static_cast<std::size_t>(target)];
}

const std::vector<int>& Picked::of(Target target) const
{
    return const_cast<Picked*>(this)->of(target);
}

std::size_t Picked::size() const
{
    return points.size() + members.size() + edges.size() + sheets.size() + faces.size() + solids.size();
}

Targets Picked::kinds() const
{
    Targets kinds;
    for (const Target target : everyTarget)
        if (!of(target).empty()) kinds = kinds | target;
    return kinds;
}

Picked pick(const Frame& frame, std::string_view text, Targets meant)
{
    return PickReader(frame, meant).read(trimmed(text));
}

std::string quotedName(std::string_view name)
{
    const bool plain = name.find_first_of(",()\"") == std::string_view::npos &&
                       name.find(" and ") == std::string_view::npos && name.find(" of ") == std::string_view::npos &&
                       name.find(" except ") == std::string_view::npos;
    return plain ? std::string(name) : "\"" + std::string(name) + "\"";
}

} // namespace undisona
