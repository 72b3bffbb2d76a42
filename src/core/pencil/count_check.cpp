#include "core/pencil/count_check.hpp"

#include "core/base/number_text.hpp"

#include <fmt/format.h>

namespace undisona {

std::string placeOf(const CountCheck& check, int digits)
{
    const std::string below = rounded(check.belowHz, digits);
    if (check.aboveHz > 0.0) return fmt::format("between {} and {} Hz", rounded(check.aboveHz, digits), below);
    return check.countedHigher() ? fmt::format("up to {} Hz", rounded(check.lastHz, digits))
                                 : fmt::format("below {} Hz", below);
}

std::string wordsOf(const CountCheck& check, int digits)
{
    const auto found = check.countedHigher() ? check.shown : check.found,
               expected = check.countedHigher() ? check.shown : check.expected;
    std::string words =
        fmt::format("{} of {} mode{} {} found", found, expected, expected == 1 ? "" : "s", placeOf(check, digits));
    if (check.before > 0) words += fmt::format(", {} lower", check.before);
    if (check.cutHz > 0.0) words += fmt::format("; more up to the {} Hz asked", rounded(check.cutHz, digits));
    return words;
}

} // namespace undisona
