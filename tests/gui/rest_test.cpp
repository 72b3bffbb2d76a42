// Loads said, the state they make read and seen, and the modes about it.
#include "app/readings/part_stress_table.hpp"
#include "app/readings/readings_view.hpp"
#include "tests/gui/table_cell.hpp"
#include "tests/gui/window_driver.hpp"

#include <QComboBox>
#include <QLabel>

using namespace undisona;

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
    driver.window().grab().save("/tmp/w/r1.png");
    // The other state, and how it buckles.
    auto* states = driver.window().findChild<QComboBox*>("restState");
    states->setFocus();
    driver.press("Down");
    driver.until([&] { return driver.item("State winter").has_value(); }, "the other state in the scene");
    auto* shapes = driver.window().findChild<QComboBox*>("restShape");
    shapes->setFocus();
    driver.press("Down");
    driver.until([&] { return caption->accessibleName().startsWith("winter buckles at "); }, "how it gives way");
    driver.window().grab().save("/tmp/w/r2.png");
    driver.press("Up");
    driver.click("Stress");
    driver.calm();
    auto* stresses = driver.window().findChild<PartStressTable*>("restStresses");
    EXPECT_TRUE(stresses->isVisible());
    driver.click(cell(stresses, 0, 0));
    driver.press("Return");
    driver.calm();
    driver.window().grab().save("/tmp/w/r3.png");
    driver.click("Along a member");
    driver.calm();
    driver.window().grab().save("/tmp/w/r4.png");
    // A mode is looked at again: the state leaves the scene.
    driver.press("Page_Down");
    driver.until([&] { return driver.session().restShown() == nullptr; }, "the modes again");
    EXPECT_TRUE(driver.session().shownMode() > 0);
    driver.window().grab().save("/tmp/w/r5.png");
}
