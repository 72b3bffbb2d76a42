#include "app/ledger/ledger_view.hpp"
#include "app/session/theme.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QDir>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QTemporaryDir>

using namespace undisona;

class EveryExample : public testing::TestWithParam<const char*> {};

TEST_P(EveryExample, OpensAndSolves)
{
    WindowDriver driver;
    driver.openExample(GetParam());
    EXPECT_TRUE(driver.item("note 4 of now"));
    ASSERT_TRUE(driver.session().live().solution);
    EXPECT_TRUE(driver.session().live().solution->count.proven);
}
INSTANTIATE_TEST_SUITE_P(Harbour, EveryExample,
                         testing::Values("radar-mast", "hoist-gantry", "signal-lamps", "pump-skid", "ramp-flap",
                                         "office-floor", "bilge-line", "hung-line", "mooring-fender", "vent-housing",
                                         "landing-pontoon",
                                         "fog-bell")); // the davit arm is imported and solved elsewhere

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
    driver.calm();
    auto* box = driver.window().findChild<QMessageBox*>("openProblem");
    ASSERT_TRUE(box);
    EXPECT_TRUE(box->text().contains("ends in the middle")) << box->text().toStdString();
    driver.press("Return");
    EXPECT_EQ(driver.session().document().name, "radar mast");
}

TEST(Window, AFileWithAWordThatCannotBeReadOpensAndIsMendedInItsSentence)
{
    QTemporaryDir folder;
    QFile example(QString(EXAMPLES) + "/signal-lamps.undisona.json");
    ASSERT_TRUE(example.open(QIODevice::ReadOnly));
    QByteArray text = example.readAll();
    const auto at = text.indexOf(" kg\"", text.indexOf("\"lamps\""));
    ASSERT_GT(at, 0);
    text.insert(at + 3, 'g');
    QFile file(folder.filePath("lamps.undisona.json"));
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write(text);
    file.close();

    WindowDriver driver;
    EXPECT_TRUE(driver.window().openFile(file.fileName()));
    driver.calm();
    const auto wrong = [&] {
        const auto& findings = driver.session().findings();
        return std::any_of(findings.begin(), findings.end(), [](const Finding& finding) {
            return finding.severity == Severity::error && finding.sentence == "lamps" &&
                   finding.what.find("kgg") != std::string::npos;
        });
    };
    EXPECT_TRUE(wrong());
    EXPECT_TRUE(driver.valueOf("sentence lamps").contains("kgg")) << "as it was typed";
    driver.window().ledger().showSentence("lamps");
    driver.calm();
    driver.click("word lamps.mass");
    driver.type("40 kg");
    driver.press("Return");
    EXPECT_FALSE(wrong());
    driver.solved();
    EXPECT_FALSE(driver.session().live().solution->modes.empty());
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

TEST(Window, FilesOpenedLatelyAreOffered)
{
    QTemporaryDir folder;
    const QString path = folder.filePath("quay crane.undisona.json");
    {
        WindowDriver driver;
        driver.openExample("signal-lamps");
        ASSERT_FALSE(driver.session().save(path));
    }
    WindowDriver driver;
    driver.click("quay crane.undisona.json");
    driver.solved();
    EXPECT_EQ(driver.session().path(), path);
    QFile::remove(path);
}

TEST(Window, ARunCanBeStoppedAndLosesNothing)
{
    WindowDriver driver;
    driver.click("New structure");
    // Large enough not to be over before the hand is at the button.
    Sentence frame = newSentence(*kindNamed("frame"), "house");
    for (const char* key : {"bays-x", "bays-y", "storeys"})
        frame = frame.with(key, 14L);
    Model model = driver.session().model().inserted(frame);
    model = model.inserted(newSentence(*kindNamed("hold"), "feet").with("where", std::string("feet of Frame")));
    driver.session().changeModel("a large frame", model);
    driver.calm();
    EXPECT_FALSE(driver.session().solving()) << "a large model waits to be asked";
    const auto button = [&] {
        auto* solve = driver.window().findChild<QPushButton*>("solve");
        return solve->mapToGlobal(solve->rect().center());
    };
    driver.click(button());
    ASSERT_TRUE(driver.session().solving());
    driver.click("word house.storeys"); // meanwhile the window answers
    EXPECT_TRUE(driver.window().findChild<QLineEdit*>("wordLine")->isVisible());
    driver.press("Escape");
    driver.click(button());
    driver.until([&] { return !driver.session().solving(); }, "the run to stop", 30);
    EXPECT_EQ(driver.session().model(), model);
    EXPECT_FALSE(driver.session().live().solution && !driver.session().live().solution->stopped);
}

TEST(Window, ABandIsAskedForInTheLedgerAndProvenInTheStrip)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const auto all = driver.session().live().solution;
    driver.window().ledger().setFocus();
    driver.window().ledger().showSentence("ask");
    driver.press("Delete");
    driver.press("8", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("in a band");
    driver.press("Return");
    driver.type("10 Hz");
    driver.press("Tab");
    driver.type("1800 rpm");
    driver.press("Return");
    driver.solved();
    auto* proof = driver.window().findChild<QLabel*>("proof");
    EXPECT_TRUE(proof->text().startsWith("6 of 6 modes between 10.0 and 30.0 Hz found, 2 lower"))
        << proof->text().toStdString();
    ASSERT_TRUE(driver.session().live().solution);
    const auto inside = driver.session().live().solution->modes;
    ASSERT_EQ(inside.size(), 6u);
    EXPECT_NEAR(inside[1].frequency, all->modes[3].frequency, 2e-3 * inside[1].frequency);
    driver.click("note 2 of now");
    EXPECT_TRUE(driver.item(QString("Mode 2 · %1 Hz").arg(inside[1].frequency, 0, 'f', 2)))
        << "its shape is in the scene";
    EXPECT_TRUE(driver.valueOf("note 2 of now").contains("clash"));
}

TEST(Theme, TextStandsOutFromEveryGround)
{
    // Contrast as the Web Content Accessibility Guidelines 2.1 define it: 4.5 for text, 3 for quiet words and marks.
    const auto light = [](const QColor& colour) {
        const auto part = [](double c) { return c <= 0.03928 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
        return 0.2126 * part(colour.redF()) + 0.7152 * part(colour.greenF()) + 0.0722 * part(colour.blueF());
    };
    const auto contrast = [&](const QColor& a, const QColor& b) {
        const double high = std::max(light(a), light(b)), low = std::min(light(a), light(b));
        return (high + 0.05) / (low + 0.05);
    };
    for (const bool dark : {true, false}) {
        Theme::set(dark);
        const Theme& theme = Theme::now();
        for (const auto& ground : {theme.panel, theme.paper, theme.selection}) {
            for (const auto& text : {theme.ink, theme.accent, theme.red})
                EXPECT_GE(contrast(text, ground), 4.5)
                    << text.name().toStdString() << " on " << ground.name().toStdString();
            for (const auto& mark : {theme.quiet, theme.amber})
                EXPECT_GE(contrast(mark, ground), 3.0)
                    << mark.name().toStdString() << " on " << ground.name().toStdString();
        }
        EXPECT_GE(contrast(theme.ink, theme.amberGround), 4.5);
        for (const auto& axis : theme.axis)
            EXPECT_GE(contrast(axis, theme.panel), 3.0) << axis.name().toStdString();
    }
}
