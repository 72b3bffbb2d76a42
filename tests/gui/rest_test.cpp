// Loads said, the state they make read and seen, and the modes about it.
#include "app/readings/part_stress_table.hpp"
#include "app/readings/readings_view.hpp"
#include "app/session/theme.hpp"
#include "core/units/amplitude_text.hpp"
#include "tests/gui/table_cell.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QComboBox>
#include <QLabel>

using namespace undisona;

namespace {

/// A document of a model, solved.
void start(WindowDriver& driver, const SaidModel& said)
{
    Document document;
    document.model = said.model();
    driver.session().start(document, {});
    driver.solved();
}

} // namespace

TEST(Rest, TheWiresStatesAreFoundSeenAndReadAndItsModesFollowThem)
{
    WindowDriver driver;
    driver.openExample("lamp-wire");
    driver.press("r", {"Control_L", "Shift_L"});
    auto* table = driver.window().findChild<ReadingTable*>("restSupports");
    driver.until([&] { return table->isVisible() && table->rowCount() > 0; }, "what supports carry");
    driver.calm();
    auto* words = driver.window().findChild<QLabel*>("restWords");
    EXPECT_TRUE(words->text().contains("is the most that it moves")) << words->text().toStdString();
    EXPECT_TRUE(words->text().contains("it buckles at 5.9")) << words->text().toStdString();
    // What stands there is in balance with the loads that stand above it.
    const RestState& summer = (*driver.session().rest())->found.states[0];
    double up = 0.0;
    for (int row = 0; row < table->rowCount(); ++row)
        up += table->item(row, 3)->data(Qt::UserRole + 1).toDouble();
    EXPECT_NEAR(up / -summer.force.z(), 1.0, 1e-2);
    // The scene stands still at its full extent, and says what it shows.
    const auto& canvas = driver.window().scene().canvas();
    const auto* caption = driver.window().scene().findChild<QWidget*>("caption");
    EXPECT_FALSE(canvas.playing());
    EXPECT_TRUE(driver.item("State summer")) << "in the scene";
    // The other state, and how it buckles.
    auto* states = driver.window().findChild<QComboBox*>("restState");
    states->setFocus();
    driver.press("Down");
    driver.until([&] { return driver.item("State winter").has_value(); }, "the other state in the scene");
    auto* shapes = driver.window().findChild<QComboBox*>("restShape");
    shapes->setFocus();
    driver.press("Down");
    driver.until([&] { return caption->accessibleName().startsWith("winter buckles at "); }, "how it gives way");
    driver.press("Up");
    driver.click("Stress");
    driver.calm();
    auto* stresses = driver.window().findChild<PartStressTable*>("restStresses");
    EXPECT_TRUE(stresses->isVisible());
    driver.click(cell(stresses, 0, 0));
    driver.press("Return");
    driver.calm();
    driver.click("Along a member");
    driver.calm();
    // Whatever the scene colours, a state has no energy, no mesh error and no slopes to show, and goes on standing
    // there.
    for (int colouring = 0; colouring <= static_cast<int>(Colouring::plain); ++colouring) {
        driver.window().scene().paint(static_cast<Colouring>(colouring));
        driver.calm();
        EXPECT_TRUE(caption->accessibleName().startsWith("State winter")) << colouring;
    }
    // The modes about it, by one click and one step back; what was found of the states stays.
    const auto aboutNow = [&] {
        const auto& structure = driver.session().structure();
        return structure.staticStates.at(static_cast<std::size_t>(structure.aboutState)).name;
    };
    EXPECT_EQ(aboutNow(), "summer");
    driver.click("Modes about it");
    driver.until([&] { return !driver.session().solving() && aboutNow() == "winter"; }, "the modes about winter");
    driver.calm();
    EXPECT_TRUE(driver.session().rest() && *driver.session().rest());
    EXPECT_TRUE(driver.item("The modes are about it"));
    driver.press("z", {"Control_L"});
    driver.until([&] { return !driver.session().solving() && aboutNow() == "summer"; }, "those about summer again");
    // A mode is looked at again: the state leaves the scene.
    driver.press("Page_Down");
    driver.until([&] { return driver.session().restShown() == nullptr; }, "the modes again");
    EXPECT_TRUE(driver.session().shownMode() > 0);
}

TEST(Rest, WhatLiftsOffIsSaidAndWithoutLoadsItSaysWhatIsMissing)
{
    WindowDriver driver;
    SaidModel beam = steel();
    beam.say("points", {{"rows", "a|0 m|0 m|0 m\nm|2 m|0 m|0 m\nb|4 m|0 m|0 m"}})
        .say("members", {{"name", "Pipe"}, {"rows", "one|a|m\ntwo|m|b"}, {"section", "tube 60.3x4 mm"}})
        .say("hold", {{"where", "a"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "b"}, {"directions", "y z"}})
        .say("rests-on", {{"points", "m"}, {"direction", "0, 0, 1"}});
    start(driver, beam);
    driver.press("r", {"Control_L", "Shift_L"});
    auto* words = driver.window().findChild<QLabel*>("restWords");
    driver.until([&] { return words->text().contains("no load is stated"); }, "what is missing");
    SaidModel lifted(driver.session().model());
    lifted.say("force", {{"load", "400 N"}, {"direction", "0, 0, 1"}, {"where", "m"}});
    driver.session().changeModel("a force", lifted.model());
    driver.solved();
    driver.press("r", {"Control_L", "Shift_L"});
    auto* table = driver.window().findChild<ReadingTable*>("restSupports");
    driver.until([&] { return table->isVisible() && table->rowCount() == 3; }, "two that carry and one that does not");
    EXPECT_TRUE(words->text().contains("1 of 1 that bear on one side alone are open")) << words->text().toStdString();
    EXPECT_TRUE(table->item(2, 0)->text().startsWith("m, open by ")) << table->item(2, 0)->text().toStdString();
    // After a change the state is no longer that of the model.
    lifted.say("mass", {{"mass", "5 kg"}, {"points", "m"}});
    driver.session().changeModel("a valve", lifted.model());
    driver.solved();
    EXPECT_FALSE(table->isVisible());
    EXPECT_EQ(driver.session().restShown(), nullptr);
}

TEST(Rest, WhatSlidesWhatIsTooWeakAndWhatAPlaceBearsAreRead)
{
    WindowDriver driver;
    SaidModel arm = steel();
    arm.say("strength", {{"material", "m"}, {"strength", "80 MPa"}})
        .say("points", {{"rows", "a|0 m|0 m|0 m\nm|1.5 m|0 m|0 m\nb|3 m|0 m|0 m"}})
        .say("members", {{"name", "Pipe"}, {"rows", "one|a|m\ntwo|m|b"}, {"section", "tube 60.3x4 mm"}})
        .say("hold", {{"where", "a"}, {"directions", "all"}})
        .say("rests-on", {{"points", "b"}, {"direction", "0, 0, 1"}, {"friction", "0.3"}})
        .say("force", {{"load", "1 kN"}, {"direction", "0, 0, -1"}, {"where", "m"}, {"state", "pushed"}})
        .say("force", {{"load", "2 kN"}, {"direction", "0, 1, 0"}, {"where", "m"}, {"state", "pushed"}})
        .say("force", {{"load", "1 kN"}, {"direction", "0, 0, -1"}, {"where", "m"}, {"state", "calm"}});
    start(driver, arm);
    driver.press("r", {"Control_L", "Shift_L"});
    auto* table = driver.window().findChild<ReadingTable*>("restSupports");
    driver.until([&] { return table->isVisible() && table->rowCount() == 3; }, "two that carry, one that slides");
    const RestState& pushed = (*driver.session().rest())->found.states[0];
    const double held = pushed.contacts[0].sideways.norm();
    EXPECT_NEAR(held / (0.3 * pushed.contacts[0].force), 1.0, 1e-9);
    EXPECT_EQ(table->item(2, 0)->text(), "b, sliding");
    EXPECT_NEAR(std::abs(table->item(2, 2)->data(Qt::UserRole + 1).toDouble()) / held, 1.0, 1e-3) << "across it, N";
    auto* words = driver.window().findChild<QLabel*>("restWords");
    EXPECT_TRUE(words->text().contains("% of what its material bears")) << words->text().toStdString();
    EXPECT_TRUE(words->text().contains("✕ one has 371 %")) << words->text().toStdString();
    driver.click("Stress");
    driver.calm();
    auto* stresses = driver.window().findChild<PartStressTable*>("restStresses");
    ASSERT_TRUE(stresses->horizontalHeaderItem(2)->text().startsWith("of strength"));
    EXPECT_NEAR(stresses->item(0, 2)->data(Qt::UserRole + 1).toDouble(), pushed.parts[0].most.equivalent / 80e6, 1e-9);
    EXPECT_EQ(stresses->item(0, 2)->foreground().color(), Theme::now().red);

    // A place that is kept tells how far it goes and what it bears, in each state.
    auto& canvas = driver.window().scene().canvas();
    const int middle = driver.session().structure().frame.pointNamed("m");
    const Eigen::Vector3d pixel = canvas.pixelOf(middle);
    driver.moveTo(canvas.mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y()))));
    driver.press("v", {"Control_L", "Alt_L"});
    ASSERT_EQ(driver.session().valuePlaces().size(), 1u);
    driver.click("At places");
    driver.calm();
    auto* values = driver.window().findChild<ReadingTable*>("restValuesTable");
    ASSERT_TRUE(values->isVisible() && values->rowCount() == 1);
    const auto look = [&](std::size_t state) {
        const Rest& rest = (*driver.session().rest())->found;
        const auto& shapes = *driver.session().restShown()->shapes;
        const double moves = shapes.motion(middle, state).head<3>().norm();
        const auto stress = equivalentAtNodes(shapes.mesh, rest.fields, static_cast<Eigen::Index>(state));
        const DisplayUnits units = driver.session().units();
        EXPECT_EQ(values->item(0, 0)->text(), "m");
        EXPECT_EQ(values->item(0, 1)->text().toStdString(), amplitudeText(moves, QuantityKind::length, units));
        EXPECT_EQ(values->item(0, 2)->text().toStdString(), amplitudeText(stress[middle], QuantityKind::stress, units));
        return moves;
    };
    const double hard = look(0);
    auto* states = driver.window().findChild<QComboBox*>("restState");
    states->setFocus();
    driver.press("Down");
    driver.until([&] { return driver.item("State calm").has_value(); }, "the other state in the scene");
    driver.calm();
    EXPECT_LT(look(1), 0.8 * hard);
    EXPECT_FALSE(words->text().contains("✕"));
    driver.click(cell(values, 0, 0));
    driver.click("Let it go");
    EXPECT_TRUE(driver.session().valuePlaces().empty());
}

TEST(Rest, ABasePlateBearsHereAndLiftsThere)
{
    WindowDriver driver;
    SaidModel block = steel();
    block
        .say("solid-box",
             {{"name", "Base"}, {"at", "0, 0, 0 m"}, {"x", "0.4 m"}, {"y", "0.1 m"}, {"z", "0.4 m"}, {"size", "0.1 m"}})
        .say("hold", {{"where", "faces at z = 0 m of Base"}, {"directions", "x y"}})
        .say("rests-on", {{"points", "faces at z = 0 m of Base"}, {"direction", "0, 0, 1"}, {"stiffness", "1 N/mm3"}})
        .say("own-weight")
        .say("force", {{"load", "430 N"}, {"direction", "1, 0, 0"}, {"where", "faces at z = 0.4 m of Base"}});
    start(driver, block);
    driver.press("r", {"Control_L", "Shift_L"});
    auto* table = driver.window().findChild<ReadingTable*>("restSupports");
    driver.until([&] { return table->isVisible() && table->rowCount() >= 2; }, "what the ground carries");
    const RestContact& bed = (*driver.session().rest())->found.states[0].contacts.at(0);
    EXPECT_GT(bed.bearing, 0);
    EXPECT_LT(bed.bearing, bed.places);
    const QString last = table->item(table->rowCount() - 1, 0)->text();
    EXPECT_TRUE(last.startsWith(
        QString("faces at z = 0 m of Base, %1 of %2 places bear, open by up to ").arg(bed.bearing).arg(bed.places)))
        << last.toStdString();
    // Pressed on everywhere there is no such line.
    SaidModel calm(driver.session().model());
    for (const auto& sentence : block.model().group(Group::loads))
        if (sentence->kind->key == "force") calm = SaidModel(calm.model().removed(sentence->id));
    driver.session().changeModel("no wind", calm.model());
    driver.solved();
    driver.press("r", {"Control_L", "Shift_L"});
    driver.until([&] { return table->isVisible() && table->rowCount() > 0; }, "the calm state");
    for (int row = 0; row < table->rowCount(); ++row)
        EXPECT_FALSE(table->item(row, 0)->text().contains(" places bear")) << row;
}
