#include "core/units/tolerance.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

Tolerance rangeOf(const std::string& text, QuantityKind kind, NumberStyle style = NumberStyle::file)
{
    const auto read = readTolerated(text, {kind}, style);
    if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
        ADD_FAILURE() << text << ": " << problem->what;
        return {};
    }
    const auto range = toleranceOf(std::get<Quantity>(read).text, kind);
    EXPECT_TRUE(range) << text;
    return range.value_or(Tolerance{});
}

std::string refused(const std::string& text, QuantityKind kind, NumberStyle style = NumberStyle::file)
{
    const auto read = readTolerated(text, {kind}, style);
    const auto* problem = std::get_if<QuantityProblem>(&read);
    EXPECT_TRUE(problem) << text << " should not read";
    return problem ? problem->what : std::string();
}

} // namespace

TEST(Tolerance, IsReadInItsUnitInThatOfTheValueAndInPerCent)
{
    using K = QuantityKind;
    const struct {
        std::string text;
        K kind;
        double low, high;
    } cases[] = {
        {"2.5 mm +- 0.1", K::length, 2.4e-3, 2.6e-3},
        {"2.5 mm ± 50 um", K::length, 2.45e-3, 2.55e-3},
        {"2.5 +- 0.1 mm", K::length, 2.4e-3, 2.6e-3},
        {"38 kg +-10 %", K::mass, 34.2, 41.8},
        {"38 kg +/- 2 lb", K::mass, 38.0 - 2 * 0.45359237, 38.0 + 2 * 0.45359237},
        {"20 kN/mm 12..35", K::stiffness, 12e6, 35e6},
        {"20 kN/mm 12000..35000 N/mm", K::stiffness, 12e6, 35e6},
        {"-3 mm +- 1", K::length, -4e-3, -2e-3},
        {"2 % +- 0.5 %", K::share, 0.015, 0.025}, // of shares themselves
        {"7850 kg/m3 +- 1e2", K::density, 7750.0, 7950.0},
        {"0 mm -1..2", K::length, -1e-3, 2e-3},
    };
    for (const auto& one : cases) {
        const Tolerance range = rangeOf(one.text, one.kind);
        EXPECT_NEAR(range.low, one.low, 1e-12 * std::abs(one.low)) << one.text;
        EXPECT_NEAR(range.high, one.high, 1e-12 * std::abs(one.high)) << one.text;
    }
    const Tolerance typed = rangeOf("2,5 mm +- 0,1", K::length, NumberStyle::typed);
    EXPECT_NEAR(typed.low, 2.4e-3, 1e-15);
    EXPECT_FALSE(toleranceOf("2.5 mm", K::length));
}

TEST(Tolerance, ThatIsNoneSaysSo)
{
    using K = QuantityKind;
    EXPECT_THAT(refused("2.5 mm +- 0", K::length), HasSubstr("more than zero"));
    EXPECT_THAT(refused("2.5 mm +- -1", K::length), HasSubstr("more than zero"));
    EXPECT_THAT(refused("2.5 mm +- 1 kg", K::length), HasSubstr("tolerance"));
    EXPECT_THAT(refused("2.5 mm +-", K::length), HasSubstr("tolerance"));
    EXPECT_THAT(refused("20 kN/mm 35..12", K::stiffness), HasSubstr("lower one first"));
    EXPECT_THAT(refused("20 kN/mm 25..35", K::stiffness), HasSubstr("between"));
    EXPECT_THAT(refused("20 kN/mm ..35", K::stiffness), HasSubstr("tolerance"));
    EXPECT_THAT(refused("12..35 kN/mm", K::stiffness), HasSubstr("the value itself"));
    // Where none is followed none is read.
    const auto read = readQuantity("2 m +- 1", K::length, NumberStyle::typed);
    ASSERT_TRUE(std::holds_alternative<QuantityProblem>(read));
    EXPECT_THAT(std::get<QuantityProblem>(read).what, HasSubstr("no tolerance"));
}
