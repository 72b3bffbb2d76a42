#include "app/score/score_drawing.hpp"
#include "app/score/score_view.hpp"
#include "app/session/theme.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QImage>

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
    driver.calm();
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

TEST(Score, StaysLegibleWithTwoHundredModes)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    Model model = driver.session().model();
    for (const auto& sentence : model.group(Group::ask))
        model = model.removed(sentence->id);
    model = model.inserted(newSentence(*kindNamed("lowest"), "many").with("count", 200L));
    driver.session().changeModel("many modes", model);
    driver.until([&] { return !driver.session().solving() && !driver.session().live().stale; }, "the modes", 60);
    auto& score = driver.window().score();
    score.showAll();
    driver.calm();
    ASSERT_GE(driver.session().live().solution->modes.size(), 200u);
    const auto labels = score.labels();
    EXPECT_GT(labels.size(), 8u);
    const QRectF inside = QRectF(score.rect()).adjusted(2, 2, -2, -2);
    for (std::size_t a = 0; a < labels.size(); ++a) {
        EXPECT_TRUE(inside.contains(labels[a].first)) << labels[a].second.toStdString() << " touches the frame";
        for (std::size_t b = a + 1; b < labels.size(); ++b)
            EXPECT_FALSE(labels[a].first.intersects(labels[b].first))
                << labels[a].second.toStdString() << " collides with " << labels[b].second.toStdString();
    }
    // Near to each other they stand, but each can be reached: by keys one after the other, and by zooming.
    driver.click("note 150 of now");
    const int first = driver.session().shownMode();
    EXPECT_NEAR(first, 150, 5);
    driver.press("Right");
    EXPECT_EQ(driver.session().shownMode(), first + 1);
    driver.wheel(driver.item(QString("note %1 of now").arg(first + 1))->bounds.center(), 25);
    driver.click(QString("note %1 of now").arg(first + 1));
    EXPECT_EQ(driver.session().shownMode(), first + 1);
}

TEST(Score, LeavesModesFarAboveWhatShakesOutAtFirstAndSaysSo)
{
    // A round post: each bending mode twice; what shakes it ends at 24 Hz.
    SaidModel said;
    said.say(
            "run",
            {{"name", "Post"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, 4 m"}, {"parts", "4"}, {"section", "tube 80x5 mm"}})
        .say("material")
        .say("hold", {{"where", "Post.0"}, {"directions", "all"}})
        .say("running-speed", {{"name", "Fan"}, {"speed", "1200 rpm"}, {"orders", "1"}, {"margin", "20 %"}})
        .say("lowest", {{"count", "14"}});
    WindowDriver driver;
    driver.click("New structure");
    driver.session().changeModel("a post", said.model());
    driver.solved();
    auto& score = driver.window().score();
    driver.calm();
    const auto& modes = driver.session().live().solution->modes;
    ASSERT_GT(modes.back().frequency, 300.0);
    EXPECT_LT(score.axis().high(), 0.5 * modes.back().frequency);
    EXPECT_GT(score.axis().high(), 24.0);
    const auto beyond = std::count_if(modes.begin(), modes.end(),
                                      [&](const Mode& mode) { return mode.frequency > score.axis().high(); });
    EXPECT_GT(beyond, 3);
    EXPECT_EQ(score.modesBeyond(), beyond);
    const auto labels = score.labels();
    EXPECT_TRUE(std::any_of(labels.begin(), labels.end(), [](const auto& label) { return label.second == "1 2"; }))
        << "two notes in one place carry both numbers";
    score.setFocus();
    driver.press("0");
    EXPECT_GT(score.axis().high(), modes.back().frequency);
    driver.press("0");
    EXPECT_LT(score.axis().high(), 0.5 * modes.back().frequency) << "and back";
    driver.press("End");
    EXPECT_GT(score.axis().high(), modes.back().frequency) << "the mode in view is seen";
}

TEST(Score, AModeThatMixesTwoHasALineToEach)
{
    const auto post = [](const char* turned) {
        SaidModel said;
        said.say("run", {{"name", "Post"},
                         {"from", "0, 0, 0 m"},
                         {"to", "0, 0, 4 m"},
                         {"parts", "4"},
                         {"section", "rectangle 60x90 mm"},
                         {"turned", turned}})
            .say("material")
            .say("hold", {{"where", "Post.0"}, {"directions", "all"}});
        return said.say("lowest", {{"count", "4"}}).model();
    };
    WindowDriver driver;
    driver.click("New structure");
    Session& session = driver.session();
    session.changeModel("a post", post("0 deg"));
    session.keepTake("upright");
    session.changeModel("turned", post("45 deg"));
    driver.until([&] { return !session.solving() && !session.live().stale && session.staves()[1].solution; }, "both");
    driver.calm();
    const auto& mixed = session.mixedWithNext(0);
    ASSERT_FALSE(mixed.empty());
    EXPECT_EQ(mixed[0].of, (std::array{1, 2}));
    // Neither is its partner, so that what stands between the notes is the line of the mixture alone.
    EXPECT_EQ(session.pairsWithNext(0)[0].second, 0);
    auto& score = driver.window().score();
    const QImage seen = score.grab().toImage();
    const auto centreOf = [&](const QString& note) { return score.mapFromGlobal(driver.item(note)->bounds.center()); };
    for (const char* above : {"note 1 of upright", "note 2 of upright"}) {
        const QPointF from = centreOf("note 1 of now"), to = centreOf(above);
        int drawn = 0;
        for (double share = 0.25; share < 0.6; share += 0.01)
            for (int beside = -4; beside <= 4; ++beside) {
                const QPointF at = from + share * (to - from) + QPointF(beside, 0);
                drawn += seen.pixelColor(at.toPoint()).lightness() < 215;
            }
        EXPECT_GT(drawn, 6) << above;
    }
}

TEST(Score, AxisReadsInEveryUnitAndScale)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& score = driver.window().score();
    const double hertz = driver.session().live().solution->modes[3].frequency;
    for (const auto unit : {AxisUnit::hertz, AxisUnit::rpm, AxisUnit::radPerSecond})
        for (const bool logarithmic : {false, true}) {
            score.setUnit(unit);
            score.setLogarithmic(logarithmic);
            score.showAll();
            driver.calm();
            const auto note = driver.item("note 4 of now");
            ASSERT_TRUE(note);
            const double pixel = score.mapFromGlobal(note->bounds.center()).x();
            EXPECT_NEAR(score.axis().hertzAt(pixel), hertz, 0.03 * hertz);
        }
}

TEST(Score, IsDrawnAsLinesAndWords)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.solved();
    driver.window().setDark(true);
    const std::string svg = scoreDrawing(driver.session(), "score.svg");
    EXPECT_NE(svg.find("<svg"), std::string::npos);
    for (const char* words : {"Ventilator", "Hz", "clash"})
        EXPECT_NE(svg.find(words), std::string::npos) << words;
    EXPECT_NE(svg.find("#0072b2"), std::string::npos) << "Z as it is on light ground, whatever the window's look";
    EXPECT_TRUE(Theme::now().dark) << "which stays";
    EXPECT_TRUE(scoreDrawing(driver.session(), "score.pdf").starts_with("%PDF"));
    EXPECT_FALSE(QImage::fromData(QByteArray::fromStdString(scoreDrawing(driver.session(), "score.png"))).isNull());
    driver.window().setDark(false);
}
