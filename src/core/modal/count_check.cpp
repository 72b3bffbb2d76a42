#include "core/modal/count_check.hpp"

#include "core/base/number_text.hpp"

#include <fmt/format.h>

namespace undisona {

std::string wordsOf(const CountCheck& check, int digits)
{
    const std::string where = check.aboveHz > 0.0 ? fmt::format("between {} and {}", rounded(check.aboveHz, digits),
                                                                rounded(check.belowHz, digits))
                                                  : "below " + rounded(check.belowHz, digits);
    return fmt::format("{} of {} mode{} {} Hz found{}", check.found, check.expected, check.expected == 1 ? "" : "s",
                       where, check.before > 0 ? fmt::format(", {} lower", check.before) : "");
}

} // namespace undisona
