#pragma once
#include "core/model/section.hpp"
#include "core/units/quantity.hpp"

#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace undisona {

/// Reads a section in words: "round 40 mm", "tube 60.3x4 mm", "rectangle 60x40 mm", "box 80x60x4 mm",
/// "I 160x82x5x7.4 mm" (or H), "channel 80x45x6x8 mm", "angle 50x50x5 mm", "tee 60x60x6x6 mm". Height first,
/// then width, then web and flange or wall; x or ×; the last unit serves the sizes before it.
std::variant<Section, QuantityProblem> readSection(std::string_view text, NumberStyle style);

/// The sizes in a section's text as they are typed, without its word, with x or × between them.
std::vector<std::string> sizesIn(std::string text);

/// Whether the text begins like a section in words, so that it is not a name.
bool looksLikeSection(std::string_view text);

/// The shapes a section text may begin with, with their sizes in words, for the editor's hints.
struct SectionForm {
    std::string word, sizes, example;
};
const std::vector<SectionForm>& sectionForms();

} // namespace undisona
