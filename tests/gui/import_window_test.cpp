// Shapes from a file: chosen in the dialog, held by one radius, solved; and a file that is none.
#include "app/ledger/ledger_view.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QTemporaryDir>

using namespace undisona;

namespace {

void choose(WindowDriver& driver, const QString& path)
{
    driver.press("i", {"Control_L"});
    driver.until([] { return qobject_cast<QFileDialog*>(QApplication::activeModalWidget()) != nullptr; },
                 "the file dialog");
    driver.pause(300);
    driver.type(path);
    driver.press("Return");
}

} // namespace

TEST(Import, TheDavitArmIsReadHeldAtItsBoltsAndSolved)
{
    WindowDriver driver;
    driver.click("New structure");
    choose(driver, QString(EXAMPLES) + "/davit-arm.step");
    driver.until([&] { return driver.session().structure().frame.solids.size() == 1; }, "the arm is there", 60.0);
    EXPECT_EQ(driver.session().structure().frame.solids[0].name, "Arm");
    driver.pause(300);
    driver.window().ledger().setFocus();
    driver.press("4", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("held points");
    driver.press("Return");
    driver.type("4 faces of radius 11 mm of Arm");
    driver.press("Tab");
    driver.type("x y z");
    driver.press("Return");
    EXPECT_EQ(driver.session().structure().holds.size(), 4u);
    if (!driver.session().solvesByItself()) driver.press("F5");
    driver.until([&] { return driver.session().live().solution != nullptr && !driver.session().solving(); },
                 "its modes", 150.0);
    ASSERT_FALSE(driver.session().live().solution->modes.empty());
    EXPECT_FALSE(driver.session().live().solution->modes[0].rigid);
    EXPECT_NEAR(driver.session().mass().mass, 73.99, 0.05);
    driver.press("z", {"Control_L"});
    driver.press("z", {"Control_L"});
    driver.until([&] { return driver.session().structure().holds.empty(); }, "the support is taken back");
}

TEST(Import, AFileThatIsNoneSaysWhyAndChangesNothing)
{
    QTemporaryDir folder;
    QFile broken(folder.filePath("short.step"));
    ASSERT_TRUE(broken.open(QIODevice::WriteOnly));
    broken.write("ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=");
    broken.close();
    WindowDriver driver;
    driver.openExample("signal-lamps");
    const Document before = driver.session().document();
    choose(driver, broken.fileName());
    driver.until([] { return qobject_cast<QMessageBox*>(QApplication::activeModalWidget()) != nullptr; },
                 "the message");
    EXPECT_TRUE(qobject_cast<QMessageBox*>(QApplication::activeModalWidget())->text().contains("cut short"));
    driver.press("Return");
    EXPECT_EQ(driver.session().document(), before);
}
