#include "app/ledger/ledger_view.hpp"
#include "app/scene/scene_view.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QClipboard>
#include <QLabel>
#include <QLineEdit>

using namespace undisona;

TEST(Ledger, WordOpensInPlaceRefusesAndRestores)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.click("word gearbox.mass");
    auto* line = driver.window().findChild<QLineEdit*>("wordLine");
    auto* hint = driver.window().findChild<QLabel*>("wordHint");
    ASSERT_TRUE(line->isVisible());
    EXPECT_EQ(line->text(), "85 kg");
    driver.type("12 mm");
    EXPECT_TRUE(hint->text().contains("a mass is needed here; 12 mm is a length")) << hint->text().toStdString();
    driver.press("Return");
    EXPECT_TRUE(line->isVisible()) << "it stays open on a mistake";
    driver.press("Escape");
    EXPECT_FALSE(line->isVisible());
    EXPECT_EQ(driver.valueOf("word gearbox.mass"), "85 kg");
    EXPECT_FALSE(driver.session().unsaved());
    driver.click("word gearbox.mass");
    driver.type("1,250 kg");
    EXPECT_TRUE(hint->text().contains("which one")) << hint->text().toStdString();
    driver.press("Return");
    EXPECT_EQ(line->text(), "1.25 kg");
    driver.press("Escape");
}

TEST(Ledger, TickSwitchesOffAndTheTotalsFollow)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const double before = driver.session().mass().mass;
    driver.press("F6", {"Shift_L"});
    driver.window().ledger().showSentence("gearbox");
    driver.click("tick gearbox");
    EXPECT_NEAR(driver.session().mass().mass, before - 85.0, 1e-9);
    EXPECT_TRUE(driver.valueOf("sentence gearbox").contains("85 kg"));
    driver.press("z", {"Control_L"});
    EXPECT_NEAR(driver.session().mass().mass, before, 1e-9);
}

TEST(Ledger, DeleteSaysHowToUndoAndKeysWalk)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.window().ledger().setFocus();
    driver.press("Down");
    EXPECT_EQ(driver.session().selectedSentence(), "mast");
    driver.press("Down");
    driver.press("Down");
    EXPECT_EQ(driver.session().selectedSentence(), "head");
    driver.press("Delete");
    EXPECT_FALSE(driver.session().model().find("head"));
    EXPECT_TRUE(driver.window().findChild<QLabel*>("message")->text().contains("Ctrl+Z"));
    EXPECT_TRUE(driver.item("finding gearbox")) << "the mass has lost its point and says so";
    driver.press("z", {"Control_L"});
    EXPECT_TRUE(driver.session().model().find("head"));
    EXPECT_FALSE(driver.item("finding gearbox"));
}

TEST(Ledger, LookingForAForceIsAnswered)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.press("5", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("force");
    auto* help = QApplication::activeModalWidget()->findChild<QLabel*>("chooserHelp");
    EXPECT_TRUE(help->text().contains("Forces play no part in natural frequencies")) << help->text().toStdString();
    driver.press("Escape");
}

TEST(Ledger, TableTakesAPasteFromASpreadsheet)
{
    WindowDriver driver;
    driver.click("New structure");
    driver.press("1", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("table of points");
    driver.press("Return");
    QString rows;
    for (int at = 0; at < 500; ++at)
        rows += QString("n%1\t%2\t0\t%3 ft\n").arg(at).arg(at * 0.5).arg(at % 7);
    QApplication::clipboard()->setText(rows);
    driver.press("v", {"Control_L"});
    driver.press("Return", {"Control_L"});
    ASSERT_EQ(driver.session().structure().frame.points.size(), 500u);
    EXPECT_NEAR(driver.session().structure().frame.points[3].place.x(), 1.5, 1e-12);
    EXPECT_NEAR(driver.session().structure().frame.points[3].place.z(), 3 * 0.3048, 1e-12);
}

TEST(Scene, PickedMemberLightsItsSentenceAndFillsAnOpenWord)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& canvas = driver.window().scene().canvas();
    canvas.setPhase(0.0);
    driver.pause(120);
    const int point = driver.session().structure().frame.pointNamed("Platform.1");
    const auto on = [&](const Eigen::Vector3d& pixel) {
        return canvas.mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y())));
    };
    const auto& frame = driver.session().structure().frame;
    // Near its corner the platform's side stands clear of the mast behind it.
    const Eigen::Vector3d corner = frame.points[static_cast<std::size_t>(point)].place,
                          next = frame.points[static_cast<std::size_t>(frame.pointNamed("Platform.4"))].place;
    driver.click(on(canvas.pixelOf(Eigen::Vector3d(0.7 * corner + 0.3 * next))));
    EXPECT_EQ(driver.session().selectedSentence(), "platform");
    driver.window().ledger().showSentence("gearbox");
    driver.click("word gearbox.points");
    driver.click(on(canvas.pixelOf(point)));
    EXPECT_EQ(driver.window().findChild<QLineEdit*>("wordLine")->text(), "Platform.1");
    driver.press("Escape");
}

TEST(Scene, MembersAreDrawnFromPointToPoint)
{
    WindowDriver driver;
    driver.click("New structure");
    Sentence points = newSentence(*kindNamed("points"), "pts");
    const auto metres = [](double value) { return quantityIn(value, QuantityKind::length, "m"); };
    std::vector<Row> rows{{std::string("a"), metres(0), metres(0), metres(0)},
                          {std::string("b"), metres(3), metres(0), metres(0)},
                          {std::string("c"), metres(3), metres(0), metres(2)}};
    points = points.with("rows", Table{std::make_shared<const std::vector<Row>>(rows)});
    driver.session().changeModel("points", driver.session().model().inserted(points));
    auto& canvas = driver.window().scene().canvas();
    canvas.lookFrom("front");
    driver.pause(200);
    driver.press("d", {"Control_L"});
    for (int point : {0, 1, 2}) {
        const auto pixel = canvas.pixelOf(point);
        driver.click(canvas.mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y()))));
    }
    driver.press("Escape");
    const auto& frame = driver.session().structure().frame;
    ASSERT_EQ(frame.members.size(), 2u);
    EXPECT_EQ(frame.points[static_cast<std::size_t>(frame.members[1].to)].name, "c");
    driver.press("z", {"Control_L"});
    EXPECT_EQ(driver.session().structure().frame.members.size(), 1u) << "each stroke is one step of undo";
}

TEST(Ledger, ASectionIsDrawnWhileItIsTyped)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.click("word mast.legs");
    auto* drawing = driver.window().findChild<QWidget*>("sectionDrawing");
    EXPECT_TRUE(drawing->isVisible());
    driver.type("channel 100x50");
    EXPECT_FALSE(drawing->isVisible()) << "half a section is none";
    driver.type("x4x6 mm");
    EXPECT_TRUE(drawing->isVisible());
    driver.press("Escape");
    EXPECT_EQ(driver.valueOf("word mast.legs"), "tube 60.3x4");
}
