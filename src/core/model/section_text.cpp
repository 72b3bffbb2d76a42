#include "core/model/section_text.hpp"

#include "core/base/number_text.hpp"
#include "core/units/tolerance.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

struct Form {
    SectionForm words;
    std::size_t sizes;
    Section (*make)(const std::vector<double>&);
    /// Empty if the sizes make a section, else what is wrong.
    std::string (*check)(const std::vector<double>&);
};

std::string fine(const std::vector<double>&)
{
    return {};
}

std::string wallInTube(const std::vector<double>& s)
{
    return 2.0 * s[1] < s[0] ? "" : "the wall is thicker than the radius";
}

std::string wallInBox(const std::vector<double>& s)
{
    return 2.0 * s[2] < std::min(s[0], s[1]) ? "" : "the wall is thicker than half the width";
}

std::string webAndTwoFlanges(const std::vector<double>& s)
{
    if (2.0 * s[3] >= s[0]) return "the flanges are thicker than half the height";
    return s[2] < s[1] ? "" : "the web is thicker than the width";
}

std::string wallInAngle(const std::vector<double>& s)
{
    return s[2] < std::min(s[0], s[1]) ? "" : "the wall is thicker than a leg is long";
}

std::string webAndFlange(const std::vector<double>& s)
{
    if (s[3] >= s[0]) return "the flange is thicker than the height";
    return s[2] < s[1] ? "" : "the web is thicker than the width";
}

const std::vector<Form>& forms()
{
    using S = const std::vector<double>&;
    static const std::string webFlange = "height x width x web x flange";
    static const std::vector<Form> all{
        {{"round", "diameter", "round 40 mm"}, 1, [](S s) { return roundSection(s[0]); }, fine},
        {{"tube", "diameter x wall", "tube 60.3x4 mm"}, 2, [](S s) { return tubeSection(s[0], s[1]); }, wallInTube},
        {{"rectangle", "height x width", "rectangle 60x40 mm"},
         2,
         [](S s) { return rectangleSection(s[0], s[1]); },
         fine},
        {{"box", "height x width x wall", "box 80x60x4 mm"},
         3,
         [](S s) { return boxSection(s[0], s[1], s[2]); },
         wallInBox},
        {{"I", webFlange, "I 160x82x5x7.4 mm"},
         4,
         [](S s) { return iSection(s[0], s[1], s[2], s[3]); },
         webAndTwoFlanges},
        {{"H", webFlange, "H 160x160x8x13 mm"},
         4,
         [](S s) { return iSection(s[0], s[1], s[2], s[3]); },
         webAndTwoFlanges},
        {{"channel", webFlange, "channel 80x45x6x8 mm"},
         4,
         [](S s) { return channelSection(s[0], s[1], s[2], s[3]); },
         webAndTwoFlanges},
        {{"angle", "height x width x wall", "angle 50x50x5 mm"},
         3,
         [](S s) { return angleSection(s[0], s[1], s[2]); },
         wallInAngle},
        {{"tee", webFlange, "tee 60x60x6x6 mm"},
         4,
         [](S s) { return teeSection(s[0], s[1], s[2], s[3]); },
         webAndFlange},
    };
    return all;
}

const Form* formOf(std::string_view text)
{
    const auto end = text.find_first_of(" 0123456789");
    const std::string word(text.substr(0, end));
    for (const auto& form : forms())
        if (form.words.word == word || (word.size() > 1 && lowered(word) == form.words.word)) return &form;
    return nullptr;
}

} // namespace

std::vector<std::string> sizesIn(std::string text)
{
    for (auto at = text.find("×"); at != std::string::npos; at = text.find("×"))
        text.replace(at, std::string_view("×").size(), "x");
    return splitAt(text, "x");
}

bool looksLikeSection(std::string_view text)
{
    text = trimmed(text);
    return formOf(text) != nullptr && text.find_first_of("0123456789") != std::string_view::npos;
}

const std::vector<SectionForm>& sectionForms()
{
    static const std::vector<SectionForm> words = [] {
        std::vector<SectionForm> list;
        for (const auto& form : forms())
            list.push_back(form.words);
        return list;
    }();
    return words;
}

std::variant<Section, QuantityProblem> readSection(std::string_view text, NumberStyle style)
{
    text = trimmed(text);
    const Form* form = formOf(text);
    if (!form)
        return QuantityProblem{fmt::format("\"{}\" is not a section; write a shape and its sizes, such as "
                                           "\"tube 60.3x4 mm\", or the name of a section sentence",
                                           text),
                               {}};
    const auto parts = sizesIn(std::string(trimmed(text.substr(form->words.word.size()))));
    if (parts.size() != form->sizes)
        return QuantityProblem{fmt::format("{} takes {}: {}, such as \"{}\"", form->words.word,
                                           form->sizes == 1 ? "one size" : fmt::format("{} sizes", form->sizes),
                                           form->words.sizes, form->words.example),
                               {}};
    auto last = readNumberAndUnit(parts.back(), style);
    if (auto* problem = std::get_if<QuantityProblem>(&last)) return *problem;
    const std::string lastUnit = std::get<NumberAndUnit>(last).unit;
    std::vector<double> sizes;
    for (const auto& part : parts) {
        auto own = readNumberAndUnit(part, style);
        if (auto* problem = std::get_if<QuantityProblem>(&own)) return *problem;
        std::string complete = part;
        if (std::get<NumberAndUnit>(own).unit.empty()) complete = withUnit(part, lastUnit);
        auto size = readTolerated(complete, {QuantityKind::length}, style);
        if (auto* problem = std::get_if<QuantityProblem>(&size)) return QuantityProblem{problem->what, {}};
        sizes.push_back(std::get<Quantity>(size).si);
        if (sizes.back() <= 0.0)
            return QuantityProblem{fmt::format("the sizes of \"{}\" must be more than zero", text), {}};
    }
    if (auto wrong = form->check(sizes); !wrong.empty())
        return QuantityProblem{fmt::format("\"{}\" is no section: {}", text, wrong), {}};
    Section section = form->make(sizes);
    section.text = std::string(text);
    return section;
}

} // namespace undisona
