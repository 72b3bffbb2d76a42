#include "core/model/other_words.hpp"

#include "core/base/number_text.hpp"
#include "core/model/grammar.hpp"

#include <algorithm>
#include <numeric>

namespace undisona {

namespace {

struct Meant {
    std::string_view word;
    std::vector<std::string> kinds;
};

const std::vector<Meant>& meantWords()
{
    static const std::vector<Meant> words{
        {"beam", {"run", "members"}},
        {"bar", {"run", "rods"}},
        {"column", {"run"}},
        {"girder", {"run"}},
        {"truss", {"rods", "members"}},
        {"pipe", {"pipe", "contents", "lining", "elbow"}},
        {"cable", {"rods"}},
        {"node", {"point", "points"}},
        {"joint", {"point", "release"}},
        {"shell", {"plate", "cylinder-shell", "sheet-box"}},
        {"panel", {"plate"}},
        {"slab", {"plate"}},
        {"block", {"solid-box"}},
        {"brick", {"solid-elements", "solid-box"}},
        {"tetrahedr", {"solid-elements"}},
        {"ball", {"solid-sphere"}},
        {"tube", {"solid-cylinder", "cylinder-shell"}},
        {"step", {"imported"}},
        {"import", {"imported", "mesh-part"}},
        {"steel", {"material"}},
        {"density", {"own-material"}},
        {"modulus", {"own-material"}},
        {"wood", {"orthotropic"}},
        {"constraint", {"hold", "rigid"}},
        {"boundary", {"hold"}},
        {"support", {"hold", "ground-spring"}},
        {"fixed", {"hold"}},
        {"fix", {"hold"}},
        {"clamp", {"hold"}},
        {"pinned", {"hold"}},
        {"anchor", {"hold"}},
        {"elastic", {"ground-spring", "bed"}},
        {"foundation", {"bed", "ground-spring"}},
        {"soil", {"bed", "ground-spring"}},
        {"mount", {"mount", "ground-spring", "spring", "layer"}},
        {"isolator", {"ground-spring", "mount", "spring", "layer"}},
        {"bushing", {"mount", "spring", "layer"}},
        {"hinge", {"release", "join"}},
        {"pin", {"release"}},
        {"link", {"rigid"}},
        {"tie", {"rigid", "join"}},
        {"weld", {"join", "rigid"}},
        {"bond", {"join", "layer"}},
        {"glue", {"join", "layer"}},
        {"adhesive", {"layer", "join"}},
        {"contact", {"join", "layer"}},
        {"rubber", {"layer", "bed"}},
        {"gasket", {"layer"}},
        {"cork", {"layer"}},
        {"pad", {"layer", "bed"}},
        {"gap", {"rests-on", "one-sided", "join"}},
        {"one-sided", {"rests-on", "one-sided", "bears-as-said"}},
        {"lift", {"rests-on"}},
        {"hanger", {"rests-on", "ground-spring"}},
        {"stop", {"rests-on", "one-sided"}},
        {"rope", {"one-sided", "pretension"}},
        {"cable", {"one-sided", "pretension"}},
        {"chain", {"one-sided"}},
        {"slack", {"one-sided"}},
        {"buffer", {"one-sided", "rests-on"}},
        {"strut", {"one-sided", "ground-spring"}},
        {"snubber", {"ground-spring", "one-sided"}},
        {"shock", {"ground-spring"}},
        {"damper", {"ground-spring"}},
        {"uplift", {"rests-on"}},
        {"settle", {"shift"}},
        {"subsid", {"shift"}},
        {"misalign", {"shift"}},
        {"imposed", {"shift"}},
        {"unilateral", {"rests-on", "one-sided"}},
        {"guide", {"hold", "rests-on"}},
        {"bolt", {"bolt", "centre"}},
        {"bearing", {"centre", "mount"}},
        {"hub", {"centre"}},
        {"spider", {"centre", "rigid"}},
        {"device", {"carried", "mass"}},
        {"machine", {"carried", "mass", "running-speed"}},
        {"screw", {"bolt"}},
        {"fastener", {"bolt"}},
        {"slid", {"join", "release"}},
        {"stiffener", {"join", "offset"}},
        {"scale", {"weighed"}},
        {"weigh", {"weighed", "weight"}},
        {"lump", {"mass"}},
        {"inertia", {"mass"}},
        {"equipment", {"mass", "carried"}},
        {"payload", {"mass", "mass-spread", "weight"}},
        {"live", {"weight"}},
        {"imposed", {"weight"}},
        {"snow", {"weight", "coating"}},
        {"mass-", {"mass-spread"}},
        {"bed-", {"bed"}},
        {"paint", {"coating"}},
        {"insulation", {"coating", "mass-spread"}},
        {"growth", {"coating"}},
        {"water", {"contents", "mass-spread"}},
        {"liquid", {"contents"}},
        {"content", {"contents"}},
        {"lining", {"lining", "coating"}},
        {"load list", {"loads"}},
        {"load case", {"combined-state", "own-weight"}},
        {"gravity", {"own-weight"}},
        {"self weight", {"own-weight"}},
        {"torque", {"moment"}},
        {"wind", {"force", "pressure"}},
        {"thrust", {"force"}},
        {"tension", {"pretension"}},
        {"prestress", {"pretension", "about-state"}},
        {"tighten", {"pretension"}},
        {"thermal", {"warming"}},
        {"heat", {"warming", "softening"}},
        {"hot modulus", {"softening"}},
        {"yield", {"strength"}},
        {"allowable", {"strength"}},
        {"cold", {"warming"}},
        {"buckl", {"about-state", "own-weight"}},
        {"static", {"own-weight", "about-state", "combined-state"}},
        {"combin", {"combined-state"}},
        {"centrifug", {"spin"}},
        {"rotat", {"spin"}},
        {"blade", {"spin"}},
        {"rotor", {"spin", "running-speed"}},
        {"engine", {"running-speed"}},
        {"motor", {"running-speed"}},
        {"rpm", {"running-speed", "speed-range"}},
        {"speed", {"running-speed", "speed-range"}},
        {"propeller", {"speed-range"}},
        {"modes", {"lowest", "up-to"}},
        {"frequenc", {"lowest", "up-to"}},
        {"mesh", {"fineness", "size-at", "refine"}},
        {"element", {"fineness", "solid-elements"}},
        {"symmetr", {"mirror"}},
        {"array", {"copies"}},
        {"pattern", {"copies", "copies-around"}},
        {"hole", {"holes", "opening"}},
        {"piping", {"pipe"}},
        {"empty", {"state", "leave-out"}},
        {"iced", {"state", "coating"}},
        {"variant", {"state"}},
        {"broken", {"state"}},
        {"diaphragm", {"centre", "rigid"}},
        {"floor", {"frame", "plate", "centre"}},
        {"laminate", {"layers"}},
        {"composite", {"layers"}},
        {"sandwich", {"layers"}},
        {"ply", {"layers"}},
        {"plies", {"layers"}},
        {"elbow", {"pipe", "elbow"}},
        {"bend", {"pipe", "arc", "elbow"}},
        {"tee", {"pipe"}},
        {"valve", {"mass"}},
        {"curved", {"arc", "circle", "pipe"}},
        {"arch", {"arc"}},
        {"hoop", {"circle"}},
    };
    return words;
}

/// How many letters must be put in, taken out or changed (Levenshtein 1966).
std::size_t lettersApart(std::string_view one, std::string_view other)
{
    std::vector<std::size_t> row(other.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t(0));
    for (std::size_t at = 1; at <= one.size(); ++at) {
        std::size_t before = std::exchange(row[0], at);
        for (std::size_t to = 1; to <= other.size(); ++to) {
            const std::size_t changed = before + (one[at - 1] == other[to - 1] ? 0 : 1);
            before = row[to];
            row[to] = std::min({changed, row[to] + 1, row[to - 1] + 1});
        }
    }
    return row.back();
}

} // namespace

std::vector<std::string> kindsMeantBy(std::string_view word)
{
    const std::string low = lowered(word);
    std::vector<std::string> kinds;
    for (const auto& [part, meant] : meantWords())
        if (low.starts_with(part) || (part.size() > 3 && low.find(part) != std::string::npos))
            for (const auto& kind : meant)
                if (std::find(kinds.begin(), kinds.end(), kind) == kinds.end()) kinds.push_back(kind);
    return kinds;
}

std::string aboutForces(std::string_view word)
{
    const std::string low = lowered(word);
    for (const char* part : {"force", "load", "pressure", "weight", "gravity", "moment", "torque"})
        if (low.find(part) != std::string::npos)
            return "Forces play no part in natural frequencies unless these are asked for about a static state: say "
                   "them under Loads, and \"modes about a static state\" under Ask. Weight counts as mass: add a mass, "
                   "or a weight that stands there. Something that shakes the structure is an excitation: add its speed "
                   "or frequency.";
    return {};
}

std::vector<std::string> kindsSpeltLike(std::string_view word)
{
    constexpr std::size_t longest = 40; // no key is nearly so long
    if (word.size() > longest) return {};
    const std::string low = lowered(word);
    std::vector<std::pair<std::size_t, std::string>> near;
    for (const auto& kind : sentenceKinds())
        if (const std::size_t apart = lettersApart(low, kind.key);
            apart <= std::max<std::size_t>(1, kind.key.size() / 4))
            near.emplace_back(apart, kind.key);
    std::stable_sort(near.begin(), near.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<std::string> kinds;
    for (auto& [apart, key] : near)
        kinds.push_back(std::move(key));
    return kinds;
}

} // namespace undisona
