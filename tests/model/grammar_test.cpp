#include "core/model/rename.hpp"
#include "core/model/kind_families.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

TEST(Grammar, EveryKindIsWholeAndItsFallbacksRead)
{
    std::set<std::string> keys;
    for (const auto& kind : sentenceKinds()) {
        EXPECT_TRUE(keys.insert(kind.key).second) << kind.key;
        EXPECT_FALSE(kind.help.empty()) << kind.key;
        std::set<std::string> shown;
        for (const auto& piece : piecesOf(kind))
            if (!piece.field.empty()) {
                EXPECT_TRUE(kind.field(piece.field)) << kind.key << " shows " << piece.field;
                shown.insert(piece.field);
            }
        for (const auto& field : kind.fields) {
            EXPECT_TRUE(shown.contains(field.key)) << kind.key << " never shows " << field.key;
            if (field.type == FieldType::table) continue;
            const auto read = readValue(field, field.fallback, NumberStyle::file);
            EXPECT_TRUE(std::holds_alternative<Value>(read)) << kind.key << "." << field.key << " = " << field.fallback;
        }
    }
}

TEST(Sentence, ReadsLikeANotebook)
{
    SaidModel said;
    said.say("mass", {{"mass", "85 kg"}, {"points", "head"}, {"centre", "0, 0, 240 mm"}, {"label", "gearbox"}});
    said.say("running-speed", {{"name", "Antenna"}, {"speed", "24 rpm"}, {"orders", "1 2 6"}, {"margin", "15 %"}});
    said.say("hold", {{"where", "4 feet of Mast"}, {"directions", "x y z"}, {"kz", "25 kN/mm"}});
    EXPECT_EQ(wordsOf(*said.model().group(Group::addedMass)[0]), "85 kg on head, centre 0, 0, 240 mm from it: gearbox");
    EXPECT_EQ(wordsOf(*said.model().group(Group::excitation)[0]),
              "Antenna turns at 24 rpm, orders 1 2 6, keep 15 % clear");
    EXPECT_EQ(wordsOf(*said.model().group(Group::supports)[0]),
              "Hold 4 feet of Mast in x y z, elastic 25 kN/mm along z");
}

TEST(Model, CopiesShareAndEditsLeaveTheOldOneAlone)
{
    SaidModel said;
    said.say("lowest", {{"count", "7"}}).say("mass-matrix");
    const Model before = said.model();
    const auto first = before.group(Group::ask)[0];
    const Model after = before.replaced(first->with("count", 9L));
    EXPECT_EQ(before.group(Group::ask)[0]->count("count"), 7);
    EXPECT_EQ(after.group(Group::ask)[0]->count("count"), 9);
    EXPECT_EQ(before.group(Group::ask)[1], after.group(Group::ask)[1]) << "the same object, not a copy";
    EXPECT_FALSE(before == after);
    EXPECT_EQ(after.replaced(first->with("count", 7L)), before);
    EXPECT_NE(solveKey(before), solveKey(after));
    EXPECT_EQ(after.moved(first->id, 1).group(Group::ask)[1]->id, first->id);
    EXPECT_EQ(after.removed(first->id).group(Group::ask).size(), 1u);
}

TEST(Model, ExcitationAndLabelsNeedNoNewSolve)
{
    SaidModel said;
    said.say("running-speed").say("mass", {{"points", "a"}, {"label", "pump"}});
    const auto speed = said.model().group(Group::excitation)[0];
    const Model faster = said.model().replaced(speed->with("speed", quantityIn(40.0, QuantityKind::frequency, "Hz")));
    EXPECT_EQ(solveKey(faster), solveKey(said.model()));
    const auto mass = said.model().group(Group::addedMass)[0];
    EXPECT_EQ(solveKey(said.model().replaced(mass->with("label", std::string("motor")))), solveKey(said.model()));
    EXPECT_NE(solveKey(said.model().replaced(mass->switched(false))), solveKey(said.model()));
}

TEST(Model, RenamingAPatternIsCarriedIntoWhatNamesIt)
{
    SaidModel said;
    said.say("hold", {{"where", "4 feet of Mast, Mast.3.1, Masts"}}).say("mass-spread", {{"where", "legs of Mast"}});
    const Model changed = renamed(said.model(), "Mast", "Tower");
    EXPECT_EQ(changed.group(Group::supports)[0]->text("where"), "4 feet of Tower, Tower.3.1, Masts");
    EXPECT_EQ(changed.group(Group::addedMass)[0]->text("where"), "legs of Tower");
}

TEST(Grammar, EveryKindIsInOneFamilyOfItsGroup)
{
    std::map<std::string_view, int> times;
    for (const auto& family : kindFamilies()) {
        const auto* first = kindNamed(family.keys.front());
        ASSERT_TRUE(first) << family.title;
        for (const auto key : family.keys) {
            const auto* kind = kindNamed(key);
            ASSERT_TRUE(kind) << key;
            EXPECT_EQ(kind->group, first->group) << key;
            ++times[key];
        }
    }
    for (const auto& kind : sentenceKinds()) {
        EXPECT_EQ(times[kind.key], 1) << kind.key;
        EXPECT_NO_THROW(familyOf(kind));
    }
}
