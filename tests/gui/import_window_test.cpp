// Shapes from a file: chosen in the dialog, held by one radius, solved; and a file that is none.
#include "app/ledger/ledger_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/session/theme.hpp"
#include "core/base/file_writer.hpp"
#include "core/io/export.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/shape_file.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QProgressDialog>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTimer>

using namespace undisona;

namespace {

void choose(WindowDriver& driver, const QString& path)
{
    driver.press("i", {"Control_L"});
    driver.until([] { return qobject_cast<QFileDialog*>(QApplication::activeModalWidget()) != nullptr; },
                 "the file dialog");
    driver.calm();
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
    driver.calm();
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
    const auto asks = driver.session().model().activeIn(Group::ask);
    ASSERT_EQ(asks.size(), 1u);
    driver.session().changeModel("few modes", driver.session().model().replaced(asks[0]->with("count", 2L)));
    driver.calm();
    if (!driver.session().solving()) driver.press("F5");
    driver.until([&] { return driver.session().live().solution != nullptr && !driver.session().solving(); },
                 "its modes", 150.0);
    ASSERT_TRUE(driver.session().live().solution);
    ASSERT_FALSE(driver.session().live().solution->modes.empty());
    EXPECT_FALSE(driver.session().live().solution->modes[0].rigid);
    EXPECT_NEAR(driver.session().mass().mass, 73.99, 0.05);
    for (int step = 0; step < 3; ++step)
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

TEST(Import, AThinBracketLosesItsRoundsAndBecomesSheetByTheKeyboard)
{
    QTemporaryDir folder;
    const std::string path = folder.filePath("bracket.step").toStdString();
    auto drawn = steel();
    drawn
        .say("extrusion", {{"name", "Bracket"},
                           {"rows", "0 m|0 m|8 mm\n120 mm|0 m\n120 mm|3 mm\n3 mm|3 mm|5 mm\n3 mm|80 mm\n0 m|80 mm"},
                           {"length", "200 mm"}})
        .say("solid-cylinder", {{"name", "Bore"},
                                {"diameter", "3 mm"},
                                {"length", "20 mm"},
                                {"at", "60, -10, 100 mm"},
                                {"along", "0, 1, 0"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "Bracket"}});
    ASSERT_FALSE(writeWholeFile(path, *stepText(drawn.structure().frame)));
    WindowDriver driver;
    driver.click("New structure");
    choose(driver, QString::fromStdString(path));
    driver.until([&] { return driver.session().structure().frame.solids.size() == 1; }, "the bracket is there", 60.0);
    const auto says = [&](const char* words) {
        for (const auto& finding : driver.session().findings())
            if (oneLine(finding).find(words) != std::string::npos) return true;
        return false;
    };
    EXPECT_TRUE(says("Bracket is 3 mm thick everywhere")) << "it is offered";
    const auto faces = driver.session().structure().frame.faces->faces.size();
    const auto add = [&](const char* title, std::initializer_list<const char*> words) {
        driver.calm();
        driver.window().ledger().setFocus();
        driver.press("1", {"Control_L"});
        driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
        driver.type(title);
        driver.press("Return");
        for (const char* word : words) {
            driver.type(word);
            driver.press(word == *(words.end() - 1) ? "Return" : "Tab");
        }
    };
    add("small features", {"holes", "4 mm", "Bracket"});
    driver.until([&] { return says("left out of Bracket: 1 hole of 3 mm"); }, "the hole is listed");
    EXPECT_EQ(driver.session().structure().frame.faces->faces.size(), faces - 1);
    add("thin solid as sheet", {"Bracket"});
    driver.until([&] { return driver.session().structure().frame.sheets.size() == 1; }, "it is sheet");
    EXPECT_NEAR(driver.session().structure().frame.sheets[0].thickness, 0.003, 1e-7);
    driver.press("z", {"Control_L"});
    driver.press("z", {"Control_L"});
    driver.until([&] { return driver.session().structure().frame.sheets.empty(); }, "a solid again");
}

TEST(Import, AMeshFromElsewhereIsUsedAsItIs)
{
    QTemporaryDir folder;
    const auto drawn =
        steel()
            .say("plate", {{"name", "Deck"}, {"length", "0.9 m"}, {"width", "0.6 m"}, {"thickness", "5 mm"}})
            .say("hold", {{"where", "edges at x = 0 m of Deck"}, {"directions", "all"}})
            .say("lowest", {{"count", "6"}});
    const auto solved = drawn.solved();
    const auto put = [&](const char* name, const std::string& text) {
        QFile file(folder.filePath(name));
        EXPECT_TRUE(file.open(QIODevice::WriteOnly));
        file.write(QByteArray::fromStdString(text));
        return file.fileName();
    };
    const std::string written = solutionVtu(*solved);
    WindowDriver driver;
    driver.click("New structure");
    choose(driver, put("deck.vtu", written));
    driver.until([&] { return driver.session().structure().frame.sheets.size() == 1; }, "the deck is there", 60.0);
    EXPECT_EQ(driver.session().structure().frame.sheets[0].name, "Deck");
    driver.calm();
    driver.window().ledger().setFocus();
    driver.press("4", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("held points");
    driver.press("Return");
    driver.type("edges at x = 0 m of Deck");
    driver.press("Tab");
    driver.type("all");
    driver.press("Return");
    if (!driver.session().solvesByItself()) driver.press("F5");
    driver.until(
        [&] {
            const Stave& now = driver.session().live();
            return now.solution && !now.stale && !now.solution->modes.empty() && !now.solution->modes[0].rigid;
        },
        "its modes", 60.0);
    // The same mesh, material and support: the same first frequency.
    const Mode& mode = driver.session().live().solution->modes.at(0);
    const double steelHere = std::sqrt(210e9 / 7850.0), steelThere = std::sqrt(200e9 / 8000.0);
    EXPECT_NEAR(mode.frequency / solved->modes[0].frequency, steelHere / steelThere, 2e-3);

    // One that is cut short is said, and nothing changes.
    const Document before = driver.session().document();
    choose(driver, put("short.vtu", written.substr(0, written.size() / 2)));
    driver.until([] { return qobject_cast<QMessageBox*>(QApplication::activeModalWidget()) != nullptr; },
                 "the message");
    EXPECT_TRUE(qobject_cast<QMessageBox*>(QApplication::activeModalWidget())->text().contains("cut short"));
    driver.press("Return");
    EXPECT_EQ(driver.session().document(), before);
}

TEST(Import, APartThatIsFaultyIsOutlinedInRedAndTheRestIsThere)
{
    QTemporaryDir folder;
    const QString path = folder.filePath("cube.vtu");
    QFile file(path);
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write("<VTKFile type=\"UnstructuredGrid\" version=\"0.1\"><UnstructuredGrid><Piece NumberOfPoints=\"8\" "
               "NumberOfCells=\"1\"><Points><DataArray type=\"Float64\" NumberOfComponents=\"3\" format=\"ascii\">"
               "0 0 1 1 0 0 1 1 0 0 1 0 0 0 0 1 0 1 1 1 1 0 1 1</DataArray></Points><Cells>"
               "<DataArray type=\"Int64\" Name=\"connectivity\" format=\"ascii\">0 1 2 3 4 5 6 7</DataArray>"
               "<DataArray type=\"Int64\" Name=\"offsets\" format=\"ascii\">8</DataArray>"
               "<DataArray type=\"UInt8\" Name=\"types\" format=\"ascii\">12</DataArray></Cells></Piece>"
               "</UnstructuredGrid></VTKFile>");
    file.close();
    WindowDriver driver;
    driver.click("New structure");
    driver.session().changeModel("a block",
                                 driver.session().model().inserted(newSentence(*kindNamed("solid-box"), "b")));
    const auto red = [&] {
        driver.calm();
        const QImage picture = driver.window().scene().grab().toImage();
        const QColor wanted = Theme::now().red;
        int count = 0;
        for (int y = 0; y < picture.height(); ++y)
            for (int x = 0; x < picture.width(); ++x) {
                const QColor here = picture.pixelColor(x, y);
                count += std::abs(here.red() - wanted.red()) + std::abs(here.green() - wanted.green()) +
                             std::abs(here.blue() - wanted.blue()) <
                         60;
            }
        return count;
    };
    const int before = red();
    choose(driver, path);
    driver.until([&] { return driver.session().structure().frame.solids.size() == 2; }, "both are there", 60.0);
    EXPECT_GT(red(), before + 300);
    EXPECT_TRUE(hasError(driver.session().findings()));
}

TEST(Import, JoiningThatTakesLongIsStoppedAndChangesNothing)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    const Document before = driver.session().document();
    auto said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "4 m"}, {"y", "0.08 m"}, {"z", "0.06 m"}, {"at", "0, 0, 0 m"}})
        .say("solid-cylinder",
             {{"name", "Bore"}, {"diameter", "10 mm"}, {"length", "1 m"}, {"at", "0.02, 0.04, -0.1 m"}})
        .say("copies", {{"name", "Bores"}, {"what", "Bore"}, {"count", "90"}, {"step", "0.04, 0, 0 m"}})
        .say("solid-cut", {{"tool", "Bore, Bores"}, {"body", "Block"}});
    bool asked = false, alive = false;
    QTimer::singleShot(1500, &driver.window(), [&] {
        auto* dialog = qobject_cast<QProgressDialog*>(QApplication::activeModalWidget());
        asked = dialog != nullptr && dialog->objectName() == "longWork";
        alive = driver.window().isVisible(); // the window went on handling its events
        if (dialog) dialog->findChild<QPushButton*>()->click();
    });
    driver.session().changeModel("many bores", said.model());
    EXPECT_TRUE(asked);
    EXPECT_TRUE(alive);
    EXPECT_EQ(driver.session().document(), before);
}
