#include "core/base/number_text.hpp"
#include "core/units/display.hpp"

#include <gtest/gtest.h>

using namespace undisona;

TEST(Display, ShowsTheSameQuantityInEverySet)
{
    EXPECT_EQ(DisplayUnits("m kg N").text(1284.3, QuantityKind::mass), "1\u2009284 kg");
    EXPECT_EQ(DisplayUnits("mm t N").text(1284.3, QuantityKind::mass), "1.284 t");
    EXPECT_EQ(DisplayUnits("in lb lbf").text(0.0254, QuantityKind::length), "1.000 in");
    EXPECT_EQ(DisplayUnits("mm kg N").text(25e6, QuantityKind::stiffness), "25\u2009000 N/mm");
    for (const auto& name : DisplayUnits::names())
        for (int kind = 1; kind < 21; ++kind)
            EXPECT_FALSE(DisplayUnits(name).unit(static_cast<QuantityKind>(kind)).empty()) << name << kind;
}

TEST(Display, RoundsWithoutLosingTheNumber)
{
    EXPECT_EQ(rounded(0.0), "0");
    EXPECT_EQ(rounded(11.8234, 4), "11.82");
    EXPECT_EQ(rounded(-1234567.0, 4), "-1\u2009234\u2009567");
    EXPECT_EQ(rounded(1e9, 3), "1.00e+09");
    EXPECT_EQ(rounded(std::nan(""), 3), "-");
    EXPECT_EQ(shortest(-0.0), "0");
    EXPECT_EQ(shortest(0.1), "0.1");
}
