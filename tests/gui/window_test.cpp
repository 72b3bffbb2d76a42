#include "app/session/theme.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QDir>
#include <QLineEdit>
#include <QMessageBox>
#include <QTemporaryDir>

using namespace undisona;

TEST(Window, EveryExampleOpensAndSolves)
{
    WindowDriver driver;
    for (const char* name : {"radar-mast", "hoist-gantry", "signal-lamps"}) {
        driver.openExample(name);
        EXPECT_TRUE(driver.item("note 4 of now")) << name;
        EXPECT_TRUE(driver.session().live().solution->count.proven) << name;
    }
}

TEST(Window, ABrokenFileIsRefusedAndNothingIsLost)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    QTemporaryDir folder;
    QFile file(folder.filePath("half.undisona.json"));
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write("{ \"format\": \"undisona\", \"version\": 1, \"model\": { \"shape\": [");
    file.close();
    EXPECT_FALSE(driver.window().openFile(file.fileName()));
    driver.pause(100);
    auto* box = driver.window().findChild<QMessageBox*>("openProblem");
    ASSERT_TRUE(box);
    EXPECT_TRUE(box->text().contains("ends in the middle")) << box->text().toStdString();
    driver.press("Return");
    EXPECT_EQ(driver.session().document().name, "radar mast");
}

TEST(Window, SavesReopensAndTitlesSayUnsaved)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    QTemporaryDir folder;
    const QString path = folder.filePath("kept \"ü\".undisona.json");
    const auto lamps = driver.session().model().sentence("lamps");
    driver.session().replaceSentence("lighter", lamps->with("mass", quantityIn(6, QuantityKind::mass, "kg")));
    EXPECT_TRUE(driver.window().windowTitle().startsWith("* "));
    ASSERT_FALSE(driver.session().save(path));
    EXPECT_FALSE(driver.window().windowTitle().startsWith("* "));
    const Document kept = driver.session().document();
    ASSERT_TRUE(driver.window().openFile(path));
    EXPECT_EQ(driver.session().document(), kept);
}

TEST(Window, ActionsAreFoundByName)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    const bool dark = Theme::now().dark;
    driver.press("k", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the finder");
    driver.type("light or dark");
    driver.press("Return");
    EXPECT_NE(Theme::now().dark, dark);
    driver.press("l", {"Control_L", "Shift_L"});
    EXPECT_EQ(Theme::now().dark, dark);
}

TEST(Window, KeysGoRoundTheRegions)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    std::set<QString> seen;
    for (int step = 0; step < 4; ++step) {
        driver.press("F6");
        for (QWidget* at = QApplication::focusWidget(); at; at = at->parentWidget())
            if (QStringList{"ledger", "scene", "readings", "score"}.contains(at->objectName()))
                seen.insert(at->objectName());
    }
    EXPECT_EQ(seen.size(), 4u);
}

TEST(Window, KeepsATakeAndGoesBackToIt)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    driver.press("t", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the name");
    driver.press("a", {"Control_L"});
    driver.type("bare");
    driver.press("Return");
    ASSERT_EQ(driver.session().document().takes.size(), 1u);
    const auto box = driver.session().model().sentence("box");
    driver.session().replaceSentence("no box", box->switched(false));
    driver.solved();
    EXPECT_TRUE(driver.item("note 5 of bare"));
    EXPECT_TRUE(driver.item("note 5 of now"));
    driver.session().useTake("t1");
    EXPECT_TRUE(driver.session().model().sentence("box")->on);
}
