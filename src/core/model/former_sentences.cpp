#include "core/model/former_sentences.hpp"

#include "core/base/number_text.hpp"

#include <algorithm>
#include <functional>

namespace undisona {

namespace {

/// How the words that say where must be said now.
enum class Where { asTheyAre, points, members, sheets };

struct Former {
    std::string_view kind, now;
    std::string_view field; ///< that is "where" now
    Where where;
};

constexpr Former formers[] = {
    {"hold", "hold", "points", Where::points},
    {"size-at", "size-at", "where", Where::points},
    {"bed", "bed", "members", Where::asTheyAre}, // the unit says that members are meant
    {"bed-under", "bed", "sheets", Where::asTheyAre},
    {"bed-faces", "bed", "faces", Where::asTheyAre},
    {"bed-along-edges", "bed", "edges", Where::asTheyAre},
    {"mass-along", "mass-spread", "members", Where::asTheyAre},
    {"mass-over", "mass-spread", "sheets", Where::asTheyAre},
    {"mass-edges", "mass-spread", "edges", Where::asTheyAre},
    {"mass-shared", "mass-spread", "members", Where::members},
    {"mass-spread", "mass-spread", "sheets", Where::sheets},
    {"mass-faces", "mass-spread", "faces", Where::asTheyAre},
    {"coating", "coating", "members", Where::members},
};

/// The pick with each of its terms changed; what stands between them stays.
std::string eachTerm(const std::string& pick, const std::function<std::string(const std::string&)>& changed)
{
    std::string whole, term;
    bool inQuotes = false;
    int depth = 0;
    const auto take = [&](std::string_view between) {
        const std::string_view clean = trimmed(term);
        const auto before = clean.empty() ? term.size() : term.find_first_not_of(" \t");
        whole += term.substr(0, before);
        if (!clean.empty()) whole += changed(std::string(clean)) + term.substr(before + clean.size());
        whole += between;
        term.clear();
    };
    for (std::size_t at = 0; at < pick.size(); ++at) {
        const char letter = pick[at];
        if (letter == '"') inQuotes = !inQuotes;
        if (!inQuotes && letter == '(') ++depth;
        if (!inQuotes && letter == ')') --depth;
        bool parts = false;
        for (const std::string_view between : {",", " and ", " except "})
            if (!inQuotes && depth <= 0 && !parts && std::string_view(pick).substr(at).starts_with(between)) {
                take(between);
                at += between.size() - 1;
                parts = true;
            }
        if (!parts) term += letter;
    }
    take({});
    return whole;
}

/// "4 " of "4 feet of Mast"; empty where the term begins with no whole number.
std::string countBefore(const std::string& term)
{
    const auto space = term.find(' ');
    const bool whole =
        space != std::string::npos && space > 0 &&
        std::all_of(term.begin(), term.begin() + long(space), [](char one) { return one >= '0' && one <= '9'; });
    return whole ? term.substr(0, space + 1) : std::string();
}

std::string withoutQuotes(const std::string& name)
{
    return name.size() >= 2 && name.front() == '"' && name.back() == '"' ? name.substr(1, name.size() - 2) : name;
}

} // namespace

FormerSentences::FormerSentences(const JsonNode& model)
{
    const JsonNode* shapes = model.member("shape");
    for (const auto& sentence : shapes ? shapes->items : std::vector<JsonNode>{}) {
        const JsonNode *kind = sentence.member("kind"), *name = sentence.member("name");
        if (!kind || !name) continue;
        for (const char* maker : {"members", "run", "frame", "lattice-mast", "ring"})
            if (kind->text == maker) membersNames_.insert(name->text);
        for (const char* maker : {"copies", "copies-around", "mirror"})
            if (kind->text == maker) mixedNames_.insert(name->text);
    }
}

std::string FormerSentences::pointsMeantBy(const std::string& term) const
{
    const std::string count = countBefore(term), rest = term.substr(count.size()), name = withoutQuotes(rest);
    if (name == "everything") return count + "all points";
    if (membersNames_.contains(name) || mixedNames_.contains(name)) return count + "points of " + rest;
    for (const std::string role :
         {"legs of ", "braces of ", "rings of ", "arms of ", "sides of ", "columns of ", "beams of "})
        if (rest.starts_with(role)) {
            const std::string of = rest.substr(role.size());
            return count + "points of " + (of == withoutQuotes(of) ? rest : "\"" + role + withoutQuotes(of) + "\"");
        }
    return term;
}

std::string FormerSentences::ofPoints(const std::string& pick) const
{
    return eachTerm(pick, [this](const std::string& term) { return pointsMeantBy(term); });
}

/// A total was shared over members or over sheet alone, whatever else the name stood for.
std::string FormerSentences::ofOneSort(const std::string& pick, const std::string& nouns) const
{
    return eachTerm(pick, [&](const std::string& term) {
        const std::string count = countBefore(term), rest = term.substr(count.size());
        if (rest == "everything") return count + "all " + nouns;
        return mixedNames_.contains(withoutQuotes(rest)) ? count + nouns + " of " + rest : term;
    });
}

std::optional<JsonNode> FormerSentences::now(const JsonNode& sentence) const
{
    const JsonNode* kind = sentence.member("kind");
    const auto former = std::find_if(std::begin(formers), std::end(formers),
                                     [&](const Former& one) { return kind && kind->text == one.kind; });
    if (former == std::end(formers)) return std::nullopt;
    JsonNode changed = sentence;
    for (auto& [key, value] : changed.members) {
        if (key == "kind") value.text = former->now;
        if (key != former->field) continue;
        key = "where";
        if (value.kind != JsonNode::Kind::text) continue;
        if (former->where == Where::points) value.text = ofPoints(value.text);
        if (former->where == Where::members) value.text = ofOneSort(value.text, "members");
        if (former->where == Where::sheets) value.text = ofOneSort(value.text, "sheets");
    }
    return changed;
}

} // namespace undisona
