#include "app/readings/readings_view.hpp"
#include "app/score/score_view.hpp"
#include "tests/gui/window_driver.hpp"

#include <QLabel>
#include <QTableWidget>

using namespace undisona;

TEST(Score, ClickAndKeysWalkTheNotes)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.click("note 4 of now");
    EXPECT_EQ(driver.session().shownMode(), 4);
    EXPECT_TRUE(driver.item("Mode 4 · 15.15 Hz")) << "the scene's caption";
    driver.press("Right");
    EXPECT_EQ(driver.session().shownMode(), 5);
    driver.press("Left");
    driver.press("Next");
    EXPECT_EQ(driver.session().shownMode(), 5) << "Page Down steps from anywhere";
    driver.press("Prior");
    driver.until([&] { return driver.session().staves()[1].solution != nullptr; }, "the take's modes");
    driver.press("Up");
    EXPECT_EQ(driver.session().shownStave(), 1u);
    EXPECT_EQ(driver.session().mode()->name, "second bending in y") << "the partner of the same shape";
}

TEST(Score, WheelZoomsAboutTheCursor)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const auto note = driver.item("note 4 of now")->bounds.center();
    const double before = driver.window().score().axis().high() - driver.window().score().axis().low();
    driver.wheel(note, 4);
    const double after = driver.window().score().axis().high() - driver.window().score().axis().low();
    EXPECT_LT(after, 0.7 * before);
    EXPECT_NEAR(driver.item("note 4 of now")->bounds.center().x(), note.x(), 3);
}

TEST(Score, OldNotesAreFaintAndSaySoUntilSolvedAgain)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const auto gearbox = driver.session().model().sentence("gearbox");
    driver.session().replaceSentence("heavier", gearbox->with("mass", quantityIn(300, QuantityKind::mass, "kg")));
    ASSERT_TRUE(driver.session().live().stale) << "at the moment of the change, before any run has ended";
    EXPECT_TRUE(driver.valueOf("note 1 of now").contains("before your last change"));
    EXPECT_EQ(driver.valueOf("stave now"), "before your last change");
    driver.solved();
    EXPECT_FALSE(driver.valueOf("note 1 of now").contains("before your last change"));
    // A change that cannot be solved leaves the live stave empty, with its reason.
    driver.session().changeModel("no supports", driver.session().model().removed("steel"));
    driver.pause(100);
    EXPECT_FALSE(driver.item("note 1 of now"));
    EXPECT_NE(driver.session().live().failure.front().what.find("no material"), std::string::npos);
}

TEST(Score, BandsFollowTheModelWithoutASolve)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    ASSERT_TRUE(driver.valueOf("note 4 of now").contains("clash"));
    const auto band = driver.item("band Ventilator")->bounds;
    driver.drag({band.center().x(), band.top() + 10}, {band.center().x() - 40, band.top() + 10});
    EXPECT_FALSE(driver.session().solving());
    EXPECT_FALSE(driver.valueOf("note 4 of now").contains("clash"));
    EXPECT_TRUE(driver.session().unsaved());
    driver.press("z", {"Control_L"});
    EXPECT_TRUE(driver.valueOf("note 4 of now").contains("clash")) << "one drag is one step of undo";
}

TEST(Readings, SelectingARowSelectsTheNote)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.window().readings().showPage("modes");
    driver.pause(80);
    auto* table = driver.window().findChild<QTableWidget*>("modesTable");
    ASSERT_EQ(table->rowCount(), static_cast<int>(driver.session().live().solution->modes.size()));
    driver.click(table->viewport()->mapToGlobal(table->visualItemRect(table->item(2, 1)).center()));
    EXPECT_EQ(driver.session().shownMode(), 3);
    driver.window().readings().showPage("mass");
    driver.pause(80);
    const auto& participation = driver.session().live().solution->participation;
    Eigen::Index passed = 0;
    while (participation.sumOfMovable(passed, 1) < 0.9)
        ++passed;
    EXPECT_TRUE(driver.window()
                    .findChild<QLabel*>("massWords")
                    ->text()
                    .contains(QString("passed 90 % at mode %1").arg(passed + 1)));
    driver.window().readings().showPage("compare");
    driver.until([&] { return driver.session().staves()[1].solution != nullptr; }, "the take's modes");
    driver.pause(80);
    EXPECT_GT(driver.window().findChild<QTableWidget*>("compareTable")->rowCount(), 8);
    driver.window().readings().showPage("energy");
    driver.pause(80);
    EXPECT_GT(driver.window().findChild<QTableWidget*>("energyTable")->rowCount(), 20);
}
