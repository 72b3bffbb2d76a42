// Where every kilogram comes from, and what the scale says.
#include "core/assess/mass_book.hpp"
#include "core/io/export.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// A deck of 2 m2 and 10 mm on four legs of 1 m, with what stands on it.
SaidModel deckOnLegs()
{
    SaidModel said = steel();
    said.say("plate",
             {{"name", "Deck"}, {"length", "2 m"}, {"width", "1 m"}, {"at", "0, 0, 1 m"}, {"thickness", "10 mm"}})
        .say("points", {{"rows", "a|0 m|0 m|0 m\nb|2 m|0 m|0 m\nc|2 m|1 m|0 m\nd|0 m|1 m|0 m\npump|1 m|0.5 m|1 m"}})
        .say("members", {{"name", "Legs"},
                         {"rows", "one|a|Deck.1\ntwo|b|Deck.2\nthree|c|Deck.3\nfour|d|Deck.4"},
                         {"section", "rectangle 50x40 mm"}})
        .say("mass", {{"mass", "30 kg"}, {"points", "pump"}})
        .say("mass-spread", {{"mass", "5 kg/m2"}, {"where", "Deck"}})
        .say("mass-spread", {{"mass", "3 kg/m"}, {"where", "edges at x = 0 m of Deck"}});
    return said;
}

MassBook bookOf(const SaidModel& said)
{
    const Structure structure = said.structure();
    return massBook(structure, said.model(), massSummary(structure));
}

} // namespace

TEST(MassBook, HasEveryKilogramOnceUnderWhatBringsIt)
{
    const MassBook book = bookOf(deckOnLegs());
    std::vector<std::pair<std::string, double>> rows;
    for (const auto& row : book.rows)
        rows.emplace_back(row.what, row.mass);
    const double deck = rho * 2.0 * 0.01, legs = 4.0 * rho * 0.05 * 0.04;
    const std::vector<std::pair<std::string, double>> byHand{{"Deck", deck},
                                                             {"Legs", legs},
                                                             {"30 kg at pump", 30.0},
                                                             {"5 kg/m2 spread over Deck", 10.0},
                                                             {"3 kg/m spread over edges at x = 0 m of Deck", 3.0}};
    ASSERT_EQ(rows.size(), byHand.size());
    double sum = 0.0;
    for (std::size_t at = 0; at < rows.size(); ++at) {
        EXPECT_THAT(rows[at].first, HasSubstr(byHand[at].first.substr(0, 5)));
        EXPECT_NEAR(rows[at].second / byHand[at].second, 1.0, 1e-12) << rows[at].first;
        sum += rows[at].second;
    }
    EXPECT_NEAR(book.total() / sum, 1.0, 1e-12);
    EXPECT_NEAR(book.material / (deck + legs), 1.0, 1e-12);
    EXPECT_NEAR(book.added / 43.0, 1.0, 1e-12);
    // Its centre, and the deck's own.
    EXPECT_LT((book.rows[0].centre - Eigen::Vector3d(1.0, 0.5, 1.0)).norm(), 1e-12);
    EXPECT_NEAR(book.centre.x(), (deck + legs + 30.0 + 10.0) / book.total(), 1e-12);
    EXPECT_NEAR(book.centre.z(), (deck + 0.5 * legs + 43.0) / book.total(), 1e-12);
    // One mass in three directions is one mass; where it acts along one, the others have none.
    EXPECT_LT((book.acting - Eigen::Vector3d::Constant(book.total())).norm(), 1e-9 * book.total());
    const MassBook vertical = bookOf(deckOnLegs().say("mass-acts", {{"directions", "z"}}));
    EXPECT_NEAR(vertical.total() / book.total(), 1.0, 1e-12);
    EXPECT_NEAR(vertical.acting.z() / book.total(), 1.0, 1e-12);
    EXPECT_NEAR(vertical.acting.x(), 0.0, 1e-9);
}

TEST(MassBook, SetsWhatTheScaleSaysBesideTheModel)
{
    SaidModel said = deckOnLegs();
    said.say("weighed", {{"what", "Deck"}, {"mass", "180 kg"}, {"source", "the drawing"}})
        .say("weighed", {{"what", "Legs, pump"}, {"mass", "95 kg"}})
        .say("weighed", {{"what", "everything"}, {"mass", "280 kg"}});
    const MassBook book = bookOf(said);
    ASSERT_EQ(book.rows.size(), 8u);
    const double deck = rho * 2.0 * 0.01, legs = 4.0 * rho * 0.05 * 0.04;
    EXPECT_NEAR(book.rows[5].mass, deck + 10.0 + 3.0, 1e-9) << "with what is spread over it and along its edge";
    EXPECT_EQ(book.rows[5].said, 180.0);
    EXPECT_EQ(book.rows[5].source, "the drawing");
    EXPECT_NEAR(book.rows[6].mass, legs + 30.0, 1e-9);
    EXPECT_NEAR(book.rows[7].mass / book.total(), 1.0, 1e-12);
    EXPECT_EQ(book.weighed, 280.0);
    EXPECT_NEAR(book.total(), bookOf(deckOnLegs()).total(), 1e-12) << "it changes nothing";
    EXPECT_TRUE(kindNamed("weighed")->leavesModes());
    // As text: full precision, and a name that a spreadsheet would run is not run.
    const std::string csv = massBookCsv(book);
    EXPECT_THAT(csv, HasSubstr("\r\nweighed,s"));
    EXPECT_THAT(csv, HasSubstr(",180,the drawing\r\n"));
    EXPECT_THAT(massBookTable(book), HasSubstr("in all, 224.0 kg of material and 43.00 kg added"));
}

TEST(MassBook, MaterialCountsByPart)
{
    const double deck = rho * 2.0 * 0.01, legs = 4.0 * rho * 0.05 * 0.04;
    SaidModel said = deckOnLegs();
    said.say("material-mass", {{"factor", "110 %"}}).say("material-mass", {{"factor", "50 %"}, {"what", "Legs"}});
    const MassBook book = bookOf(said);
    EXPECT_NEAR(book.rows[0].mass / (1.1 * deck), 1.0, 1e-12);
    EXPECT_NEAR(book.rows[1].mass / (0.5 * legs), 1.0, 1e-12);
    // What is said last of a part holds, and the modes follow: a leg of half its mass is higher by the root of two.
    const auto leg = [](const char* factor) {
        SaidModel alone = straightBeam(1.0, 0.05, 0.04, 8);
        alone.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
            .say("material-mass", {{"factor", "300 %"}})
            .say("material-mass", {{"factor", factor}, {"what", "Beam"}})
            .say("lowest", {{"count", "1"}});
        return alone.frequencies().at(0);
    };
    EXPECT_NEAR(leg("50 %") / leg("100 %"), std::sqrt(2.0), 1e-9);
}

TEST(MassBook, AStoreyStandsAsOneBodyWithWhatAllOfItHas)
{
    // Two beams across, one loaded, a mass beside its point: mass, centre and inertia of the whole by hand.
    SaidModel said = steel();
    said.say("points", {{"rows", "a|0 m|0 m|3 m\nb|4 m|0 m|3 m\nc|4 m|2 m|3 m\nFloor|1 m|1 m|3 m"}})
        .say("members", {{"name", "Beams"}, {"rows", "ab|a|b\nbc|b|c"}, {"section", "rectangle 50x40 mm"}})
        .say("mass-spread", {{"mass", "10 kg/m"}, {"where", "bc"}})
        .say("mass", {{"mass", "60 kg"}, {"points", "c"}, {"centre", "0, 0, 0.5 m"}, {"inertia", "1, 2, 3 kg m2"}});
    const auto before = massSummary(said.structure());
    said.say("one-body", {{"what", "members of Beams, c"}, {"point", "Floor"}});
    const Structure structure = said.structure();
    ASSERT_EQ(said.problems(), "");
    ASSERT_EQ(structure.pointMasses.size(), 1u);
    const PointMass& body = structure.pointMasses[0];
    const double area = 0.05 * 0.04, ab = 4.0 * rho * area, bc = 2.0 * (rho * area + 10.0), mass = ab + bc + 60.0;
    EXPECT_NEAR(body.mass, mass, 1e-12 * mass);
    const Eigen::Vector3d centre =
        (ab * Eigen::Vector3d(2, 0, 3) + bc * Eigen::Vector3d(4, 1, 3) + 60.0 * Eigen::Vector3d(4, 2, 3.5)) / mass;
    EXPECT_LT((Eigen::Vector3d(1, 1, 3) + body.centre - centre).norm(), 1e-12);
    const auto about = [&](double one, double x, double y) {
        return one * (std::pow(x - centre.x(), 2) + std::pow(y - centre.y(), 2));
    };
    const double turning =
        ab * 16.0 / 12.0 + bc * 4.0 / 12.0 + about(ab, 2, 0) + about(bc, 4, 1) + about(60, 4, 2) + 3.0;
    EXPECT_NEAR(body.inertia(2, 2) / turning, 1.0, 1e-4);
    // Rigid motions of the whole cost what they did: all of it, to the section's own inertia.
    const auto after = massSummary(structure);
    EXPECT_LT((after.aboutOrigin - before.aboutOrigin).norm(), 1e-9 * before.aboutOrigin.norm());
    const MassBook book = bookOf(said);
    EXPECT_NEAR(book.total(), mass, 1e-9);
    EXPECT_NEAR(book.rows.back().mass, mass, 1e-9) << "all of it stands under the one sentence";

    said.say("mass", {{"mass", "5 kg"}, {"points", "c"}, {"only", "z"}});
    EXPECT_THAT(said.problems(), HasSubstr("acts in some directions alone"));
}
