// A plate from nothing: drawn, holed, held and solved by the keyboard, then looked at and picked with the mouse.
#include "app/ledger/ledger_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/scene/symbols.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QTableWidget>

#include <set>

using namespace undisona;

namespace {

/// The ramp flap so that it solves within a second.
const std::vector<std::pair<QByteArray, QByteArray>> coarse{
    {"\"60 Hz\"", "\"25 Hz\""},
    {"\"ask\": [", R"("ask": [ { "id": "coarse", "kind": "sheet-mesh", "fineness": "coarse" },)"}};

QPoint onScreen(SceneCanvas& canvas, const Eigen::Vector3d& place)
{
    const Eigen::Vector3d pixel = canvas.pixelOf(place);
    return canvas.mapToGlobal(QPointF(pixel.x(), pixel.y()).toPoint());
}

} // namespace

TEST(Sheet, APlateWithFourHolesIsDrawnHeldAndSolvedByTheKeyboardAlone)
{
    WindowDriver driver;
    driver.click("New structure");
    driver.addSentence("1", "rectangular plate");
    driver.type("Lid");
    driver.press("Tab");
    driver.type("900 mm");
    driver.press("Tab");
    driver.type("600 mm");
    driver.press("Tab"); // the corner stays
    driver.press("Tab");
    driver.type("5 mm");
    driver.press("Return");
    driver.addSentence("1", "grid of round holes");
    for (const char* word : {"2", "2", "120 mm", "Lid", "200 mm", "150 mm", "500 mm", "300 mm"}) {
        driver.type(word);
        driver.press(std::string(word) == "300 mm" ? "Return" : "Tab");
    }
    driver.addSentence("4", "held points");
    driver.type("4 edges of Lid");
    driver.press("Tab");
    driver.type("all");
    driver.press("Return");
    driver.solved();
    SaidModel same;
    same.say("plate", {{"name", "Lid"}, {"length", "900 mm"}, {"width", "600 mm"}, {"thickness", "5 mm"}})
        .say("hole-grid", {{"columns", "2"},
                           {"lines", "2"},
                           {"diameter", "120 mm"},
                           {"sheet", "Lid"},
                           {"x", "200 mm"},
                           {"y", "150 mm"},
                           {"apart-x", "500 mm"},
                           {"apart-y", "300 mm"}})
        .say("material")
        .say("hold", {{"where", "edges of Lid"}, {"directions", "all"}})
        .say("lowest", {{"count", "12"}});
    const auto solution = driver.session().live().solution;
    EXPECT_EQ(solution->structure->frame.sheets[0].flat[0].holes.size(), 4u);
    EXPECT_NEAR(solution->modes[0].frequency / same.frequencies()[0], 1.0, 1e-9);
    EXPECT_EQ(driver.valueOf("group Shape"), "1 sheet");
}

TEST(Sheet, MovesInTheSceneIsPickedThereAndItsEdgesAreToo)
{
    WindowDriver driver;
    driver.openExample("ramp-flap", coarse);
    driver.solved();
    SceneCanvas& canvas = driver.window().scene().canvas();
    // A mode of the deck is drawn, in motion, in more than one colour.
    const auto& modes = driver.session().live().solution->modes;
    int strongest = 0;
    for (std::size_t at = 0; at < modes.size(); ++at)
        if (driver.session().live().solution->participation.ofMovable(static_cast<Eigen::Index>(at), 2) >
            driver.session().live().solution->participation.ofMovable(strongest, 2))
            strongest = static_cast<int>(at);
    driver.session().showMode(0, strongest + 1);
    driver.until([&] { return canvas.drawn() != nullptr; }, "the mode is drawn");
    canvas.play(false);
    canvas.setPhase(0.25);
    driver.calm();
    const auto colours = [&] {
        const QImage picture = canvas.picture();
        std::set<QRgb> seen;
        for (int y = 0; y < picture.height(); y += 3)
            for (int x = 0; x < picture.width(); x += 3)
                seen.insert(picture.pixel(x, y) & 0xfff0f0f0u);
        return seen.size();
    };
    EXPECT_GT(colours(), 40u) << "the sequential map over the deck";
    // Hovered, the deck lights its sentence; clicked, it is chosen.
    canvas.setPhase(0.0); // at rest
    driver.calm();
    const QPoint deck = onScreen(canvas, {1.2, 1.15, 0.0});
    driver.moveTo(deck);
    driver.until([&] { return canvas.hoveredPart() == 0; }, "the deck is under the cursor");
    const auto& lit = driver.session().spotlight().sentences;
    EXPECT_NE(std::find(lit.begin(), lit.end(), "deck"), lit.end());
    EXPECT_NE(std::find(lit.begin(), lit.end(), "covering"), lit.end()) << "the mass over it too";
    driver.click(deck);
    EXPECT_EQ(driver.session().selectedSentence(), "deck");
    // While a word wants points, a click on an edge fills it with that edge.
    driver.window().ledger().showSentence("hinge");
    driver.click("word hinge.where");
    const QPoint edge = onScreen(canvas, {1.8, 0.0, 0.0});
    driver.moveTo(edge);
    driver.until([&] { return canvas.hoveredEdge() >= 0; }, "the edge is under the cursor");
    driver.click(edge);
    EXPECT_EQ(driver.window().findChild<QLineEdit*>("wordLine")->text(), "edge nearest to 1.8 0 0 m");
    auto* choices = driver.window().findChild<QListWidget*>("wordChoices");
    QStringList offered;
    for (int row = 0; row < choices->count(); ++row)
        offered << choices->item(row)->text();
    EXPECT_TRUE(offered.contains("more like this: 14 edges of Deck")) << offered.join(" | ").toStdString();
    EXPECT_FALSE(choices->findItems("edges of Deck", Qt::MatchExactly).isEmpty());
    driver.press("Escape");
}

TEST(Sheet, ABedTakesWhatIsClickedAndItsUnitSaysOfWhat)
{
    WindowDriver driver;
    driver.openExample("ramp-flap", coarse);
    driver.solved();
    const double before = driver.session().live().solution->modes[4].frequency; // of the deck, above those of the stays
    SceneCanvas& canvas = driver.window().scene().canvas();
    driver.addSentence("4", "an elastic bed");
    const std::string bed = driver.session().selectedSentence();
    canvas.play(false);
    driver.calm();
    const QPoint deck = onScreen(canvas, {1.2, 1.15, 0.0});
    driver.moveTo(deck);
    driver.until([&] { return canvas.hoveredPart() == 0; }, "the deck is under the cursor");
    driver.click(deck);
    auto* line = driver.window().findChild<QLineEdit*>("wordLine");
    auto* hint = driver.window().findChild<QLabel*>("wordHint");
    EXPECT_EQ(line->text(), "Deck");
    driver.press("Tab");
    driver.type("2 MN/m3");
    EXPECT_TRUE(hint->text().endsWith("a stiffness per area")) << hint->text().toStdString();
    driver.press("Return");
    driver.solved();
    const auto& solution = driver.session().live().solution;
    const Attachment& stated = solution->structure->attachments.front();
    EXPECT_EQ(stated.sentence, bed);
    EXPECT_EQ(stated.over, Target::sheet);
    EXPECT_DOUBLE_EQ(stated.perExtent(), 2e6);
    EXPECT_GT(solution->modes[4].frequency, 1.1 * before);
    // So much per area is not meant of edges.
    driver.click(QString::fromStdString("word " + bed + ".where"));
    driver.type("edges of Deck");
    EXPECT_TRUE(hint->text().contains("means edges, and sheets or faces are meant here")) << hint->text().toStdString();
    driver.press("Escape");
    EXPECT_EQ(driver.valueOf(QString::fromStdString("word " + bed + ".where")), "Deck");
}

TEST(Sheet, ACrateOnTheDeckFollowsItsMeanByTheWordsAndAClick)
{
    WindowDriver driver;
    driver.openExample("ramp-flap", coarse);
    SaidModel with(driver.session().model());
    with.say("points", {{"rows", "crate|1.2 m|1.0 m|0.4 m"}});
    driver.session().changeModel("a place for a crate", with.model());
    driver.solved();
    const double before = driver.session().live().solution->modes[4].frequency;
    SceneCanvas& canvas = driver.window().scene().canvas();
    canvas.play(false);
    driver.addSentence("3", "a point that follows the mean of others");
    const std::string mean = driver.session().selectedSentence();
    driver.type("crate");
    driver.press("Tab");
    driver.calm();
    const QPoint deck = onScreen(canvas, {1.2, 1.15, 0.0});
    driver.moveTo(deck);
    driver.until([&] { return canvas.hoveredPart() == 0; }, "the deck is under the cursor");
    driver.click(deck);
    driver.press("Return");
    EXPECT_EQ(driver.valueOf(QString::fromStdString("word " + mean + ".point")), "crate");
    EXPECT_EQ(driver.valueOf(QString::fromStdString("word " + mean + ".of")), "Deck");
    driver.addSentence("5", "a mass at points");
    const std::string mass = driver.session().selectedSentence();
    driver.type("90 kg");
    driver.press("Tab");
    driver.press("Tab");
    driver.type("crate");
    driver.press("Return");
    driver.solved();
    const auto& solution = driver.session().live().solution;
    EXPECT_EQ(solution->system->motions.apart.size(), 3u) << "the crate's turns are not wanted";
    EXPECT_LT(solution->modes[4].frequency, 0.98 * before);
    EXPECT_TRUE(solution->count.proven);
    EXPECT_FALSE(hasError(driver.session().findings()));
    // Drawn as spokes over the deck, that end before it.
    std::size_t spokes = 0;
    for (const auto& symbol : symbolsOf(*solution->structure, solution->mesh, 0.05))
        if (symbol.sentence == mean) spokes += symbol.lines.size() / 2;
    EXPECT_GT(spokes, 20u);
}

TEST(Sheet, AFacingIsGluedOnAPanelByTheTradesWordsAndItsSeamIsDrawn)
{
    // The fender with its facing not fastened: the panel alone moves on the rubber, the facing is loose.
    const QByteArray fastened = R"(
      { "id": "bolted", "kind": "join",
        "what": "Facing",
        "other": "Panel" })";
    WindowDriver driver;
    driver.openExample("mooring-fender", {{"\"along\": \"0.012 N/mm3\" }," + fastened, "\"along\": \"0.012 N/mm3\" }"},
                                          {"\"count\": 8", "\"count\": 2"}});
    const auto drawnFor = [&](const std::string& sentence) {
        const auto& solution = *driver.session().live().solution;
        std::size_t lines = 0;
        for (const auto& symbol : symbolsOf(*solution.structure, solution.mesh, 0.07))
            if (symbol.sentence == sentence) lines += symbol.lines.size() / 2;
        return lines;
    };
    EXPECT_TRUE(driver.session().live().solution->modes[0].rigid) << "nothing holds the facing";
    EXPECT_GT(drawnFor("rubber"), 100u);
    driver.addSentence("3", "glue");
    const std::string seam = driver.session().selectedSentence();
    EXPECT_EQ(driver.valueOf(QString::fromStdString("sentence " + seam)), "Join Facing to Panel")
        << "it begins with the parts that are nearest to each other";
    driver.type("Facing");
    driver.press("Tab");
    // What would be joined is shown and said while its words are still being written.
    const auto* hint = driver.window().ledger().findChild<QLabel*>("wordHint");
    driver.type("Back");
    driver.until([&] { return hint->text().contains("Facing and Back face each other over"); }, "what it would join");
    EXPECT_TRUE(hint->text().contains("nodes of Facing")) << hint->text().toStdString();
    ASSERT_TRUE(driver.session().draft());
    EXPECT_EQ(driver.session().draft()->sentence.text("other"), "Back");
    EXPECT_EQ(driver.session().model().sentence(seam)->text("other"), "Panel") << "nothing is taken yet";
    driver.press("a", {"Control_L"});
    driver.type("Panel");
    driver.until([&] { return hint->text().contains("Facing and Panel face each other over 2.09 m2"); }, "the panel");
    driver.press("Return");
    EXPECT_FALSE(driver.session().draft());
    driver.solved();
    const auto& solution = driver.session().live().solution;
    EXPECT_FALSE(solution->modes[0].rigid);
    EXPECT_NEAR(solution->modes[0].frequency, 23.88, 0.05);
    EXPECT_GT(drawnFor(seam), 30u);
    EXPECT_EQ(driver.valueOf(QString::fromStdString("sentence " + seam)), "Join Facing to Panel");
    // What it joins is said; out of reach it says how far it is, and undo brings it back.
    const auto found = [&](const char* words) {
        const auto findings = driver.session().findings();
        return std::any_of(findings.begin(), findings.end(), [&](const Finding& finding) {
            return finding.sentence == seam && finding.what.find(words) != std::string::npos;
        });
    };
    EXPECT_TRUE(found("over 2.09 m2, across a gap of 20 mm"));
    const Model& model = driver.session().model();
    const auto reach = readValue(*kindNamed("join")->field("reach"), "5 mm", NumberStyle::file);
    driver.session().changeModel("reach", model.replaced(model.sentence(seam)->with("reach", std::get<Value>(reach))));
    driver.until(
        [&] { return !driver.session().solving() && found("nothing of the two sides faces each other within 5 mm"); },
        "the seam to be refused", 60.0);
    driver.press("z", {"Control_L"});
    ASSERT_TRUE(driver.until([&] { return !found("within 5 mm"); }, "the seam is back"));
    // As if it were not joined, by one click: a take beside it, in which the facing is loose.
    driver.click(QString::fromStdString("detail " + seam));
    driver.press("Up");
    driver.press("Return");
    ASSERT_EQ(driver.session().document().takes.size(), 2u); // beside the one of softer rubber
    EXPECT_EQ(driver.session().document().takes[1].name, "without \"Join Facing to Panel\"");
    driver.until([&] { return driver.session().staves().size() == 3 && driver.session().staves()[1].solution; },
                 "the take to be solved");
    EXPECT_TRUE(driver.session().staves()[1].solution->modes[0].rigid);
    EXPECT_FALSE(driver.session().live().solution->modes[0].rigid);
}

TEST(Sheet, TheHousingIsLookedIntoAndItsJointsAreTakenApart)
{
    WindowDriver driver;
    driver.openExample("vent-housing");
    driver.solved();
    SceneCanvas& canvas = driver.window().scene().canvas();
    canvas.play(false);
    canvas.setPhase(0.0);
    driver.until([&] { return canvas.drawn() != nullptr; }, "the mode is drawn");
    driver.moveTo(driver.window().ledger().mapToGlobal(QPoint(10, 10)));
    driver.calm();
    const QImage closed = canvas.picture();
    const auto differs = [&] { return canvas.picture() != closed; };
    // What is under the cursor is hidden, and comes back; faded, it is still there in part.
    const QPoint front = onScreen(canvas, {0.45, 0.0, 0.62});
    for (const char* key : {"h", "f"}) {
        driver.moveTo(front);
        driver.until([&] { return canvas.hoveredPart() >= 0; }, "the front is under the cursor");
        driver.press(key, {"Control_L", "Alt_L"});
        const auto& set = *key == 'h' ? canvas.look().hidden : canvas.look().faded;
        EXPECT_EQ(set, std::set<std::string>{"Housing.front"}) << key;
        driver.moveTo(driver.window().ledger().mapToGlobal(QPoint(10, 10)));
        driver.calm();
        EXPECT_TRUE(differs()) << key;
        driver.press("a", {"Control_L", "Alt_L"});
        driver.until([&] { return !differs(); }, "all parts are back");
    }
    // The cut shows its bar, and closes.
    driver.press("x", {"Control_L", "Alt_L"});
    auto* bar = driver.window().findChild<QWidget*>("cutBar");
    ASSERT_TRUE(bar->isVisible());
    driver.calm();
    EXPECT_TRUE(differs());
    driver.press("x", {"Control_L", "Alt_L"});
    EXPECT_FALSE(bar->isVisible());
    driver.until([&] { return !differs(); }, "the cut is closed");
    // How the mesh came out; the worst element is marked.
    driver.click("Mesh");
    auto* table = driver.window().findChild<QTableWidget*>("meshTable");
    ASSERT_TRUE(table);
    driver.until([&] { return table->isVisible(); }, "the elements are listed");
    EXPECT_EQ(table->rowCount(), 50);
    EXPECT_GT(table->item(0, 1)->text().toDouble(), 0.2);
    driver.click(table->viewport()->mapToGlobal(table->visualItemRect(table->item(2, 0)).center()));
    EXPECT_EQ(driver.session().spotlight().elements.size(), 1u);
    // What is taken for joined is said, and taken apart from there; undo joins it again.
    driver.click("joined Housing.top Stiffener");
    driver.press("Down");
    driver.press("Return");
    const auto apart = driver.session().model().activeIn(Group::joints);
    ASSERT_EQ(apart.size(), 2u); // beside the tie of the ventilator's feet
    EXPECT_EQ(wordsOf(*apart[1]), "Housing.top and Stiffener are not joined");
    EXPECT_FALSE(driver.item("joined Housing.top Stiffener"));
    driver.solved();
    EXPECT_TRUE(driver.session().live().solution->modes[0].rigid) << "the stiffener is loose";
    driver.press("z", {"Control_L"});
    EXPECT_TRUE(driver.item("joined Housing.top Stiffener"));
}

TEST(Solid, ABlockIsDrawnHeldByAPickedFaceAndSolved)
{
    WindowDriver driver;
    driver.click("New structure");
    driver.addSentence("1", "a solid box");
    driver.type("Arm");
    for (const char* word : {"400 mm", "40 mm", "30 mm"}) {
        driver.press("Tab");
        driver.type(word);
    }
    driver.press("Return");
    EXPECT_EQ(driver.valueOf("group Shape"), "1 solid");
    SceneCanvas& canvas = driver.window().scene().canvas();
    // A support whose word is open takes the face that is clicked.
    driver.addSentence("4", "held points");
    canvas.lookFrom("left");
    driver.calm();
    const QPoint end = onScreen(canvas, {0.0, 0.02, 0.015});
    driver.moveTo(end);
    driver.until([&] { return canvas.hoveredFace() >= 0; }, "the end face is under the cursor");
    driver.click(end);
    EXPECT_EQ(driver.window().findChild<QLineEdit*>("wordLine")->text(), "face nearest to 0 0.02 0.015 m");
    driver.press("Tab");
    driver.type("all");
    driver.press("Return");
    driver.solved();
    EXPECT_EQ(driver.valueOf("group Supports"), "1 face, 6 directions");
    SaidModel same;
    same.say("solid-box", {{"name", "Arm"}, {"x", "400 mm"}, {"y", "40 mm"}, {"z", "30 mm"}})
        .say("material")
        .say("hold", {{"where", "faces at x = 0 m of Arm"}, {"directions", "all"}})
        .say("lowest", {{"count", "12"}});
    const auto solution = driver.session().live().solution;
    EXPECT_NEAR(solution->modes[0].frequency / same.frequencies()[0], 1.0, 1e-9);
    // It is drawn in motion and in colours; how strained it is, most at the held end.
    canvas.lookFrom("corner");
    canvas.play(false);
    SceneLook plain = canvas.look();
    plain.meshLines = false;
    canvas.setLook(plain);
    driver.moveTo(driver.window().ledger().mapToGlobal(QPoint(10, 400))); // nothing is under the cursor
    auto* colouring = driver.window().findChild<QComboBox*>("colouring");
    const auto coloursAt = [&](double x) {
        driver.calm();
        const Eigen::Vector3d pixel = canvas.pixelOf(Eigen::Vector3d(x, 0.0, 0.015));
        const double ratio = canvas.devicePixelRatioF();
        return canvas.picture().pixelColor(static_cast<int>(pixel.x() * ratio), static_cast<int>(pixel.y() * ratio));
    };
    canvas.setPhase(0.0);
    const double moving[2] = {coloursAt(0.03).lightnessF(), coloursAt(0.37).lightnessF()};
    EXPECT_GT(moving[0], moving[1] + 0.15) << "the free end moves most, and is darkest";
    colouring->setFocus();
    colouring->setCurrentText("how strained");
    emit colouring->activated(colouring->currentIndex());
    const double strained[2] = {coloursAt(0.03).lightnessF(), coloursAt(0.37).lightnessF()};
    EXPECT_LT(strained[0], strained[1] - 0.15) << "the held end is strained most";
    driver.press("Down");
    driver.press("Down");
    EXPECT_EQ(canvas.look().colouring, Colouring::meshError);
    const double off[2] = {coloursAt(0.006).lightnessF(), coloursAt(0.37).lightnessF()}; // in the first elements
    EXPECT_LT(off[0], off[1] - 0.15) << "most of the mesh error sits at the held end";
}

TEST(Solid, TheBellsPartialsAreReadAsIntervals)
{
    WindowDriver driver;
    driver.openExample("fog-bell");
    driver.until([&] { return driver.session().live().solution != nullptr && !driver.session().solving(); },
                 "the bell is solved", 90.0);
    driver.session().showMode(0, 7);
    driver.click("Compare");
    auto* table = driver.window().findChild<QTableWidget*>("compareTable");
    ASSERT_TRUE(table->isVisible());
    ASSERT_GE(table->rowCount(), 10);
    EXPECT_EQ(table->item(0, 3)->text(), "unison");
    EXPECT_TRUE(table->item(2, 3)->text().startsWith("octave")) << table->item(2, 3)->text().toStdString();
    EXPECT_EQ(table->item(0, 4)->text(), "2 waves round, 1 half-wave along");
    driver.click("Mesh");
    auto* worst = driver.window().findChild<QTableWidget*>("meshTable");
    ASSERT_TRUE(worst->isVisible());
    EXPECT_EQ(worst->item(0, 0)->text(), "Bell");
    EXPECT_GT(worst->item(0, 1)->text().toDouble(), 0.0);
}
