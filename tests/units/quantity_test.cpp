#include "core/base/number_text.hpp"
#include "core/units/quantity.hpp"
#include "core/units/unit.hpp"

#include <gtest/gtest.h>

#include <random>

using namespace undisona;

namespace {

double si(const std::string& text, QuantityKind kind, NumberStyle style = NumberStyle::typed)
{
    const auto read = readQuantity(text, kind, style);
    if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
        ADD_FAILURE() << text << ": " << problem->what;
        return 0.0;
    }
    return std::get<Quantity>(read).si;
}

QuantityProblem problemOf(const std::string& text, QuantityKind kind, NumberStyle style = NumberStyle::typed)
{
    const auto read = readQuantity(text, kind, style);
    const auto* problem = std::get_if<QuantityProblem>(&read);
    EXPECT_TRUE(problem) << text << " should not read";
    return problem ? *problem : QuantityProblem{};
}

} // namespace

TEST(Quantity, ReadsEveryUnitOfTheTrade)
{
    using K = QuantityKind;
    const struct {
        const char* text;
        K kind;
        double si;
    } cases[] = {
        {"2.5 mm", K::length, 2.5e-3},
        {"3 in", K::length, 0.0762},
        {"1 ft", K::length, 0.3048},
        {"14 lb", K::mass, 6.35029318},
        {"1.5 t", K::mass, 1500},
        {"250 g", K::mass, 0.25},
        {"18 kN", K::force, 18000},
        {"1 lbf", K::force, 4.4482216152605},
        {"1 kip", K::force, 4448.2216152605},
        {"210 GPa", K::stress, 210e9},
        {"1 bar", K::stress, 1e5},
        {"1 psi", K::stress, 6894.757293168361},
        {"1 ksi", K::stress, 6894757.293168361},
        {"235 N/mm2", K::stress, 235e6},
        {"7.85 t/m3", K::density, 7850},
        {"7.85 g/cm3", K::density, 7850},
        {"0.284 lb/in3", K::density, 7861.092},
        {"7850 kg/m³", K::density, 7850},
        {"1480 rpm", K::frequency, 1480 / 60.0},
        {"50 Hz", K::frequency, 50},
        {"314.1592653589793 rad/s", K::frequency, 50},
        {"90 deg", K::angle, std::numbers::pi / 2},
        {"90°", K::angle, std::numbers::pi / 2},
        {"2 rad", K::angle, 2},
        {"25 kN/mm", K::stiffness, 25e6},
        {"1 lbf/in", K::stiffness, 175.12683524637913},
        {"3 kg m2", K::inertia, 3},
        {"10 kN m/rad", K::turningStiffness, 1e4},
        {"10 kN m", K::turningStiffness, 1e4},
        {"2 g0", K::acceleration, 19.6133},
        {"15 %", K::share, 0.15},
        {"0.15", K::share, 0.15},
        {"20 °C", K::temperature, 293.15},
        {"3.2 kg/m", K::massPerLength, 3.2},
        {"0 mm", K::length, 0},
        {"0", K::length, 0},
        {"1e-3 m", K::length, 1e-3},
        {"-5 mm", K::length, -5e-3},
        {"1 250 kg", K::mass, 1250},
        {"1 250.5 kg", K::mass, 1250.5},
        {"1,250,000 kg", K::mass, 1250000},
        {"2,5 mm", K::length, 2.5e-3},
        {"1.250,75 kg", K::mass, 1250.75},
        {"0,125 m", K::length, 0.125},
        {"12kg", K::mass, 12},
    };
    for (const auto& one : cases)
        EXPECT_NEAR(si(one.text, one.kind), one.si, std::abs(one.si) * 1e-6) << one.text;
    EXPECT_DOUBLE_EQ(si("1 in", K::length), 0.0254);
}

TEST(Quantity, RefusesAWrongDimensionAndSaysWhatWasExpected)
{
    const auto weight = problemOf("18 kN", QuantityKind::mass);
    EXPECT_EQ(weight.what, "a mass is needed here; 18 kN is a force. As a weight it is 1\u2009835 kg: use that?");
    ASSERT_EQ(weight.suggestions.size(), 1u);
    EXPECT_NEAR(si(weight.suggestions[0], QuantityKind::mass), 18000 / 9.80665, 1e-3);
    EXPECT_NE(problemOf("3 mm", QuantityKind::mass).what.find("is a length"), std::string::npos);
    EXPECT_EQ(problemOf("85", QuantityKind::mass).suggestions.at(0), "85 kg");
    EXPECT_EQ(problemOf("85 KG", QuantityKind::mass).suggestions.at(0), "85 kg");
    EXPECT_EQ(problemOf("90", QuantityKind::share).suggestions.at(0), "90 %");
    EXPECT_NE(problemOf("1e400 m", QuantityKind::length).what.find("not a number"), std::string::npos);
    EXPECT_FALSE(problemOf("", QuantityKind::length).what.empty());
    EXPECT_FALSE(problemOf("kg", QuantityKind::mass).what.empty());
    EXPECT_FALSE(problemOf("nan m", QuantityKind::length).what.empty());
    EXPECT_FALSE(problemOf("inf m", QuantityKind::length).what.empty());
}

TEST(Quantity, AsksAboutAnAmbiguousCommaAndNeverGuesses)
{
    for (const char* text : {"1,250 kg", "1.250 kg"}) {
        const auto problem = problemOf(text, QuantityKind::mass);
        ASSERT_EQ(problem.suggestions.size(), 2u) << text;
        EXPECT_DOUBLE_EQ(si(problem.suggestions[0], QuantityKind::mass), 1.25);
        EXPECT_DOUBLE_EQ(si(problem.suggestions[1], QuantityKind::mass), 1250.0);
    }
    EXPECT_DOUBLE_EQ(si("1.250 kg", QuantityKind::mass, NumberStyle::file), 1.25);
    EXPECT_NE(problemOf("1,250 kg", QuantityKind::mass, NumberStyle::file).what.find("comma"), std::string::npos);
    EXPECT_NE(problemOf("2,5 mm", QuantityKind::length, NumberStyle::file).what.find("comma"), std::string::npos);
}

TEST(Quantity, WhatTheProgramWritesReadsBackTheSame)
{
    std::mt19937_64 random(7);
    const char* units[] = {"m", "mm", "in", "ft"};
    for (int round = 0; round < 4000; ++round) {
        const double value = std::ldexp(static_cast<double>(random()) / 1e19, static_cast<int>(random() % 60) - 30);
        const auto made = quantityIn(value, QuantityKind::length, units[round % 4]);
        EXPECT_NEAR(si(made.text, QuantityKind::length, NumberStyle::file), value, 1e-14 * value) << made.text;
    }
}

TEST(Quantity, TextOfAnyKindEitherReadsOrIsRefusedButNeverFails)
{
    std::mt19937 random(11);
    const std::string letters = "0123456789.,-+eE kgmNPa/°%²· \t\"'()rpm\xC3\xA9";
    for (int round = 0; round < 20000; ++round) {
        std::string text;
        for (unsigned length = random() % 14; length > 0; --length)
            text += letters[random() % letters.size()];
        const auto read = readQuantity(text, static_cast<QuantityKind>(random() % 21),
                                       round % 2 ? NumberStyle::file : NumberStyle::typed);
        if (const auto* quantity = std::get_if<Quantity>(&read))
            EXPECT_TRUE(std::isfinite(quantity->si)) << text;
        else
            EXPECT_FALSE(std::get<QuantityProblem>(read).what.empty()) << text;
    }
}

TEST(Quantity, ReadsTheUnitsOfEveryTradeAndRefusesWhatNobodyBuilds)
{
    EXPECT_NEAR(si("50 psf", QuantityKind::stress), 50 * 47.88026, 1e-3);
    EXPECT_NEAR(si("2 kN/m/m", QuantityKind::stiffnessPerLength), 2000.0, 1e-9);
    EXPECT_NEAR(si("1 klf", QuantityKind::stiffness), 14593.903, 1e-3);
    EXPECT_NEAR(si("3 kip-ft/rad", QuantityKind::turningStiffness), si("3 kip ft/rad", QuantityKind::turningStiffness),
                1e-9);
    for (const char* absurd : {"1e308 kg", "1e40 kg", "1e-60 kg"})
        EXPECT_NE(problemOf(absurd, QuantityKind::mass).what.find("anything that is built"), std::string::npos)
            << absurd;
}

TEST(Quantity, OfSeveralKindsIsToldByItsUnit)
{
    using K = QuantityKind;
    const std::vector<K> masses{K::mass, K::massPerLength, K::massPerArea, K::density},
        stiffnesses{K::stiffness, K::stiffnessPerLength, K::stiffnessPerArea, K::stiffnessPerVolume};
    const auto read = [](const char* text, const std::vector<K>& kinds) {
        return readQuantity(text, kinds, NumberStyle::typed);
    };
    const struct {
        const char* text;
        const std::vector<K>& kinds;
        K kind;
        double si;
    } good[] = {{"3 t", masses, K::mass, 3000.0},
                {"2 g/mm", masses, K::massPerLength, 2.0},
                {"12 kg/m2", masses, K::massPerArea, 12.0},
                {"0.4 g/cm3", masses, K::density, 400.0},
                {"0", masses, K::mass, 0.0},
                {"2 kN/mm", stiffnesses, K::stiffness, 2e6},
                {"5 MPa", stiffnesses, K::stiffnessPerLength, 5e6},
                {"20 MN/m3", stiffnesses, K::stiffnessPerArea, 2e7},
                {"3 N/mm4", stiffnesses, K::stiffnessPerVolume, 3e12}};
    for (const auto& one : good) {
        const auto found = read(one.text, one.kinds);
        ASSERT_TRUE(std::holds_alternative<Quantity>(found)) << one.text;
        EXPECT_EQ(std::get<Quantity>(found).kind, one.kind) << one.text;
        EXPECT_NEAR(std::get<Quantity>(found).si, one.si, 1e-12 * one.si) << one.text;
    }
    const auto problem = [&](const char* text, const std::vector<K>& kinds) {
        return std::get<QuantityProblem>(read(text, kinds));
    };
    EXPECT_EQ(problem("2 kN", stiffnesses).what,
              "a stiffness, in all or per length, per area or per volume is needed here; 2 kN is a force");
    EXPECT_EQ(problem("5", masses).suggestions, (std::vector<std::string>{"5 kg", "5 kg/m", "5 kg/m2", "5 kg/m3"}));
    EXPECT_EQ(problem("1.96133 kN/m2", masses).suggestions.front(), "200 kg/m2") << "a weight for a mass";
}
