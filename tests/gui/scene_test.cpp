#include "app/ledger/ledger_view.hpp"
#include "app/readings/readings_view.hpp"
#include "app/scene/colour_map.hpp"
#include "app/scene/kinds_key.hpp"
#include "app/scene/scene_view.hpp"
#include "app/scene/thinned_surface.hpp"
#include "core/shapes/joined_faces.hpp"
#include "tests/gui/dense_plate.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QLabel>
#include <QTableWidget>
#include <QTabBar>
#include <QLineEdit>
#include <QListWidget>

using namespace undisona;

namespace {

/// Where a place of the scene is on the screen.
QPoint onScreen(const SceneCanvas& canvas, const Eigen::Vector3d& place)
{
    const Eigen::Vector3d pixel = canvas.pixelOf(place);
    return canvas.mapToGlobal(
        QPoint(static_cast<int>(std::lround(pixel.x())), static_cast<int>(std::lround(pixel.y()))));
}

const FramePoint& pointAt(const Frame& frame, const Eigen::Vector3d& place)
{
    for (const auto& point : frame.points)
        if ((point.place - place).norm() < 1e-6) return point;
    ADD_FAILURE() << "no point at " << place.transpose();
    static const FramePoint none;
    return none;
}

} // namespace

TEST(Scene, PickedMemberLightsItsSentenceAndFillsAnOpenWord)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& canvas = driver.window().scene().canvas();
    canvas.setPhase(0.0);
    driver.calm();
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

TEST(Scene, TwoViewsKeepOneModeBesideAnotherFromTheSameSide)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& session = driver.session();
    session.showMode(0, 2);
    driver.press("v", {"Control_L", "Shift_L"});
    SceneView* second = nullptr;
    driver.until([&] { return (second = driver.window().findChild<SceneView*>("secondScene")) != nullptr; },
                 "the second view");
    driver.calm();
    auto &left = driver.window().scene().canvas(), &right = second->canvas();
    session.showMode(0, 5);
    driver.calm();
    EXPECT_EQ(left.modeShown(), 5);
    EXPECT_EQ(right.modeShown(), 2);
    EXPECT_EQ(right.mode()->number, 2);
    EXPECT_TRUE(second->findChild<QWidget*>("caption")->accessibleName().startsWith("Mode 2"));
    const auto before = left.camera();
    driver.drag(left.mapToGlobal(QPoint(left.width() / 2, 40)), left.mapToGlobal(QPoint(left.width() / 2 + 80, 60)));
    driver.until([&] { return !(left.camera() == before) && right.camera() == left.camera(); },
                 "the same view in both");
    driver.drag(right.mapToGlobal(QPoint(right.width() / 2, 40)),
                right.mapToGlobal(QPoint(right.width() / 2 - 60, 60)));
    driver.until([&] { return right.camera() == left.camera(); }, "and back");
    left.setPhase(0.25);
    EXPECT_EQ(right.phase(), 0.25);
    EXPECT_NE(left.picture(), right.picture());
    SceneLook look = right.look();
    look.colouring = Colouring::energy;
    second->setLook(look);
    EXPECT_NE(left.look().colouring, Colouring::energy) << "each is coloured by itself";
    session.showMode(1, 1); // a take on the left, the model on the right
    driver.calm();
    EXPECT_FALSE(left.staveShown().id.isEmpty());
    EXPECT_TRUE(right.staveShown().id.isEmpty());
    driver.press("v", {"Control_L", "Shift_L"});
    driver.calm();
    EXPECT_EQ(driver.window().findChild<SceneView*>("secondScene"), nullptr);
    EXPECT_TRUE(driver.window().readings().isVisible());
}

TEST(Scene, AMassIsCarriedByHandAndTheNotesTellWhereTheyWouldGo)
{
    WindowDriver driver;
    SaidModel beam;
    beam.say("run", {{"name", "Beam"}, {"to", "4, 0, 0 m"}, {"parts", "8"}, {"section", "tube 60.3x4 mm"}})
        .say("material")
        .say("hold", {{"where", "ends of Beam"}, {"directions", "x y z rx"}})
        .say("mass", {{"mass", "25 kg"}, {"points", "Beam.2"}, {"label", "winch"}})
        .say("lowest", {{"count", "12"}});
    Model model = beam.model();
    for (const auto& hold : model.group(Group::supports))
        model = model.replaced(hold->with("where", std::string("Beam.0, Beam.8")));
    Document document;
    document.model = model;
    driver.session().start(document, {});
    driver.solved();
    auto& canvas = driver.window().scene().canvas();
    canvas.setPhase(0.0);
    canvas.lookFrom("front");
    driver.calm();
    std::vector<QuickModes> tried;
    QObject::connect(&driver.session(), &Session::triedChanged, [&] {
        if (driver.session().tried()) tried.push_back(*driver.session().tried());
    });
    const auto& frame = driver.session().structure().frame;
    const auto onPoint = [&](const char* name) {
        return onScreen(canvas, frame.points[static_cast<std::size_t>(frame.pointNamed(name))].place);
    };
    const double before = driver.session().live().solution->modes[0].frequency;
    driver.moveTo(onPoint("Beam.2"));
    driver.until([&] { return canvas.cursor().x() > 0 && canvas.QWidget::cursor().shape() == Qt::OpenHandCursor; },
                 "the hand over the mass");
    const auto camera = canvas.camera().position();
    driver.drag(onPoint("Beam.2"), onPoint("Beam.4"));
    driver.solved();
    ASSERT_FALSE(tried.empty());
    EXPECT_FALSE(driver.session().tried());
    EXPECT_EQ(canvas.camera().position(), camera) << "the view stays";
    EXPECT_EQ(driver.session().model().group(Group::addedMass).front()->text("points"), "Beam.4");
    const double after = driver.session().live().solution->modes[0].frequency;
    EXPECT_LT(after, 0.97 * before);
    EXPECT_NEAR(tried.back().hertz[0] / after, 1.0, 0.01) << "what the notes told";
    EXPECT_LE(tried.back().lower[0], after * 1.001);
    driver.press("z", {"Control_L"});
    EXPECT_EQ(driver.session().model().group(Group::addedMass).front()->text("points"), "Beam.2");
}

TEST(Scene, AMassIsCarriedOverSheetToAPlaceThatIsNoPoint)
{
    WindowDriver driver;
    SaidModel said;
    said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "1 m"}, {"thickness", "6 mm"}, {"size", "80 mm"}})
        .say("points", {{"rows", "spot|0.2 m|0.2 m|0 m"}})
        .say("material")
        .say("hold", {{"where", "edges of Deck"}, {"directions", "x y z"}})
        .say("mass", {{"mass", "10 kg"}, {"points", "spot"}, {"label", "box"}})
        .say("lowest", {{"count", "8"}});
    Document document;
    document.model = said.model();
    driver.session().start(document, {});
    driver.solved();
    auto& canvas = driver.window().scene().canvas();
    canvas.setPhase(0.0);
    canvas.lookFrom("top");
    driver.calm();
    std::optional<QuickModes> told;
    QObject::connect(&driver.session(), &Session::triedChanged, [&] {
        if (driver.session().tried()) told = driver.session().tried();
    });
    const double before = driver.session().live().solution->modes[0].frequency;
    driver.moveTo(onScreen(canvas, {0.2, 0.2, 0}));
    driver.until([&] { return canvas.hoveredPoint() >= 0; }, "the mass under the pointer");
    driver.drag(onScreen(canvas, {0.2, 0.2, 0}), onScreen(canvas, {0.52, 0.48, 0}));
    driver.solved();
    ASSERT_TRUE(told);
    const Model& model = driver.session().model();
    EXPECT_EQ(model.group(Group::addedMass).front()->text("points"), "box") << "a point of its label";
    const Eigen::Vector3d place = driver.session().structure().frame.points.back().place;
    EXPECT_LT((place - Eigen::Vector3d(0.5, 0.5, 0)).norm(), 0.12);
    const double after = driver.session().live().solution->modes[0].frequency;
    EXPECT_LT(after, 0.9 * before);
    EXPECT_NEAR(told->hertz[0] / after, 1.0, 0.08);
    driver.press("z", {"Control_L"});
    EXPECT_EQ(driver.session().model().group(Group::addedMass).front()->text("points"), "spot");
    EXPECT_EQ(driver.session().model().group(Group::shape).size(), 2u) << "one step of undo takes both back";
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
    driver.calm();
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

TEST(Scene, AFrameIsDrawnFromNothingOnTheGridAndByTypedLengths)
{
    WindowDriver driver;
    driver.click("New structure");
    auto& canvas = driver.window().scene().canvas();
    canvas.lookFrom("front");
    driver.press("d", {"Control_L"});
    auto* bar = driver.window().findChild<QWidget*>("drawBar");
    ASSERT_TRUE(bar->isVisible());
    // Two clicks on the grid: a post of 2 m. The clicks fall beside the crossings and snap to them.
    driver.click(onScreen(canvas, {-1.2, 0, 0.1}));
    driver.click(onScreen(canvas, {-0.9, 0, 2.2}));
    const auto& session = driver.session();
    ASSERT_EQ(session.structure().frame.members.size(), 1u);
    EXPECT_NEAR(session.structure().frame.length(session.structure().frame.members[0]), 2.0, 1e-9);
    // A typed length follows the stroke of the hand: to the right.
    driver.moveTo(onScreen(canvas, {1.4, 0, 2.1}));
    driver.type("2500 mm");
    EXPECT_EQ(driver.window().findChild<QLineEdit*>("drawLength")->text(), "2500 mm");
    driver.press("Return");
    ASSERT_EQ(session.structure().frame.members.size(), 2u);
    pointAt(session.structure().frame, {1.5, 0, 2});
    // A wrong length changes nothing and says why; three parts give a step in space.
    driver.type("3 kg");
    driver.press("Return");
    EXPECT_EQ(session.structure().frame.members.size(), 2u);
    EXPECT_TRUE(driver.window().findChild<QLabel*>("message")->text().contains("a length is needed"));
    driver.type("0, 1, -2 m");
    driver.press("Return");
    ASSERT_EQ(session.structure().frame.members.size(), 3u);
    pointAt(session.structure().frame, {1.5, 1, 0});
    // Esc lifts the pen; the next click begins elsewhere, and the second ends the drawing.
    driver.press("Escape");
    EXPECT_TRUE(bar->isVisible());
    driver.click(onScreen(canvas, {-1, 0, 2}));
    EXPECT_EQ(canvas.drawnFrom(),
              session.structure().frame.pointNamed(pointAt(session.structure().frame, {-1, 0, 2}).name));
    driver.press("Escape");
    driver.press("Escape");
    EXPECT_FALSE(bar->isVisible());
    // However many strokes: one table of points, one of members; and each stroke is one step back.
    EXPECT_EQ(session.model().group(Group::shape).size(), 2u);
    for (int step = 0; step < 3; ++step)
        driver.press("z", {"Control_L"});
    EXPECT_TRUE(session.structure().frame.members.empty());
}

TEST(Scene, APlaceIsPickedOnTheGridWhileItsWordIsOpen)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& canvas = driver.window().scene().canvas();
    const std::string id = driver.session().addSentence(*kindNamed("point"));
    driver.window().ledger().openWord(id, "at");
    canvas.lookFrom("front");
    driver.calm();
    auto* level = driver.window().findChild<QLineEdit*>("drawLevel");
    ASSERT_TRUE(level->isVisible());
    driver.click(onScreen(canvas, {4.1, 0, 3.1}));
    auto* word = driver.window().findChild<QLineEdit*>("wordLine");
    EXPECT_EQ(word->text(), "4, 0, 3 m");
    const FramePoint corner = driver.session().structure().frame.points[static_cast<std::size_t>(
        driver.session().structure().frame.pointNamed("Platform.1"))];
    driver.click(onScreen(canvas, corner.place));
    EXPECT_EQ(word->text(), QString::fromStdString(placeText(corner.place))) << "a point gives its coordinates";
    driver.press("Return");
    EXPECT_FALSE(level->isVisible());
    EXPECT_EQ(textOf(driver.session().model().sentence(id)->value("at")), placeText(corner.place));
}

TEST(Scene, APickOffersMoreLikeIt)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& canvas = driver.window().scene().canvas();
    driver.window().ledger().showSentence("gearbox");
    driver.click("word gearbox.points");
    const auto& frame = driver.session().structure().frame;
    driver.click(onScreen(canvas, canvas.placeNow(frame.groups.at("feet of Mast").points.front())));
    auto* choices = driver.window().findChild<QListWidget*>("wordChoices");
    QPoint rule;
    for (int row = 0; row < choices->count(); ++row)
        if (choices->item(row)->text() == "more like this: 4 feet of Mast")
            rule = choices->viewport()->mapToGlobal(choices->visualItemRect(choices->item(row)).center());
    ASSERT_FALSE(rule.isNull()) << driver.window().findChild<QLineEdit*>("wordLine")->text().toStdString();
    driver.click(rule);
    EXPECT_EQ(driver.valueOf("word gearbox.points"), "4 feet of Mast");
}

/// Where anything dark is drawn, in pixels; the ground is light and even.
QRect drawnRegion(const QImage& picture)
{
    QRect region;
    for (int y = 70; y < picture.height() - 10; ++y)   // below the title
        for (int x = 0; x < picture.width() - 80; ++x) // left of the axes' sign
            if (qGray(picture.pixel(x, y)) < 130) region = region.united(QRect(x, y, 1, 1));
    return region;
}

TEST(Scene, AModeOfATallStructureStaysInViewAndThinMembersStayVisible)
{
    WindowDriver driver;
    driver.click("New structure");
    const Sentence mast = newSentence(*kindNamed("lattice-mast"), "mast")
                              .with("height", quantityIn(400, QuantityKind::length, "m"))
                              .with("bottom", quantityIn(12, QuantityKind::length, "m"))
                              .with("top", quantityIn(6, QuantityKind::length, "m"))
                              .with("bays", 40L);
    Model tall = driver.session().model().inserted(mast);
    tall = tall.inserted(newSentence(*kindNamed("hold"), "feet").with("where", std::string("4 feet of Mast")));
    driver.session().changeModel("a tall mast", tall);
    driver.solved();
    auto& canvas = driver.window().scene().canvas();
    canvas.frameAll();
    driver.session().showMode(0, 1);
    canvas.setPhase(0.0);
    driver.calm();
    const QRect rest = drawnRegion(canvas.picture());
    canvas.setPhase(0.25);
    driver.calm();
    const QRect moved = drawnRegion(canvas.picture());
    ASSERT_GT(rest.height(), 200) << "tubes of a tenth of a pixel are drawn all the same";
    EXPECT_GT(moved.width(), rest.width() + 4) << "it moves";
    EXPECT_LT(moved.width(), rest.width() + rest.height() / 4) << "by a tenth of its height at most";
    EXPECT_LT(std::abs(moved.height() - rest.height()), rest.height() / 10);
}

TEST(Scene, EveryLookDrawsTheMovingShape)
{
    WindowDriver driver;
    driver.openExample("hoist-gantry");
    auto& canvas = driver.window().scene().canvas();
    canvas.setPhase(0.25);
    const auto picture = [&] {
        driver.calm();
        return canvas.picture();
    };
    const QImage sections = picture();
    driver.press("s", {"Control_L", "Alt_L"}); // centre lines alone
    EXPECT_FALSE(canvas.look().sections);
    const QImage lines = picture();
    EXPECT_NE(sections, lines);
    for (const auto colouring : {Colouring::x, Colouring::energy, Colouring::plain}) {
        SceneLook look = canvas.look();
        look.colouring = colouring;
        driver.window().scene().setLook(look);
        EXPECT_NE(picture(), lines) << "in other colours";
    }
    driver.press("s", {"Control_L", "Alt_L"});
    EXPECT_TRUE(canvas.look().sections);
}

TEST(Scene, PartsAreColouredByTheirKindsWithAKeyThatCountsAndShowsThem)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    auto& canvas = driver.window().scene().canvas();
    canvas.play(false);
    auto* key = driver.window().findChild<KindsKey*>("kindsKey");
    ASSERT_TRUE(key);
    EXPECT_FALSE(key->isVisible()) << "motion is coloured at first";
    driver.window().scene().paint(Colouring::section);
    driver.calm();
    ASSERT_TRUE(key->isVisible());
    const auto told = toldApart(driver.session().structure(), ToldBy::section, driver.session().units());
    const auto lines = key->paintedItems();
    ASSERT_EQ(lines.size(), told.kinds.size());
    const QImage seen = canvas.picture();
    const auto pixelsOf = [&](const QImage& image, const QColor& colour) { // lit from in front, so of its hue
        int count = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x) {
                const QColor pixel = image.pixelColor(x, y);
                count += pixel.hsvSaturation() > 60 && std::abs(pixel.hsvHue() - colour.hsvHue()) < 10;
            }
        return count;
    };
    for (std::size_t at = 0; at < lines.size(); ++at) {
        EXPECT_EQ(lines[at].name.toStdString(), told.kinds[at].name);
        EXPECT_EQ(lines[at].value, QString::number(told.kinds[at].count));
        EXPECT_GT(pixelsOf(seen, kindColour(static_cast<int>(at), false)), told.kinds[at].count > 10 ? 40 : 0)
            << told.kinds[at].name;
    }
    driver.click(QString::fromStdString(told.kinds[1].name));
    const auto count = [&] {
        return driver.session().spotlight().members.size() + driver.session().spotlight().parts.size();
    };
    EXPECT_EQ(static_cast<int>(count()), told.kinds[1].count);
    driver.click(QString::fromStdString(told.kinds[1].name));
    EXPECT_EQ(count(), 0u) << "a second click lets go";
    driver.window().scene().paint(Colouring::elementSize);
    driver.calm();
    EXPECT_FALSE(key->isVisible());
    EXPECT_GT(canvas.mostShown(), 0.0);
    driver.window().scene().paint(Colouring::thickness); // members have none
    driver.calm();
    EXPECT_TRUE(key->isVisible() && key->paintedItems().empty());
}

TEST(Scene, ValuesOfPlacesStayInViewAndInATable)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    Session& session = driver.session();
    auto& canvas = driver.window().scene().canvas();
    canvas.play(false);
    canvas.setPhase(0.0);
    session.showMode(0, 4);
    driver.calm();
    const auto& solution = *session.live().solution;
    const int point = solution.structure->frame.pointNamed("Mast.8.1");
    ASSERT_GE(point, 0);
    const Eigen::Vector3d pixel = canvas.pixelOf(point);
    driver.moveTo(canvas.mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y()))));
    driver.press("v", {"Control_L", "Alt_L"});
    ASSERT_EQ(session.valuePlaces().size(), 1u);
    driver.window().readings().showPage("energy");
    driver.window().findChild<QTabBar*>("energyParts")->setCurrentIndex(2);
    driver.calm();
    auto* table = driver.window().findChild<QTableWidget*>("valuesTable");
    ASSERT_TRUE(table && table->isVisible());
    ASSERT_EQ(table->rowCount(), 1);
    const auto wanted = [&](int mode) {
        double most = 0.0;
        for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node)
            most = std::max(most, solution.motion(static_cast<int>(node), std::size_t(mode - 1)).head<3>().norm());
        const int node = session.modeValues()[0].node;
        return QString::number(solution.motion(node, std::size_t(mode - 1)).head<3>().norm() / most, 'f', 3);
    };
    EXPECT_LT((solution.mesh.nodes[std::size_t(session.modeValues()[0].node)].place -
               solution.structure->frame.points[std::size_t(point)].place)
                  .norm(),
              0.3);
    EXPECT_EQ(table->item(0, 1)->text(), wanted(4));
    session.stepMode(1);
    driver.calm();
    EXPECT_EQ(table->item(0, 1)->text(), wanted(5)) << "it follows the mode";
    driver.click(table->viewport()->mapToGlobal(table->visualItemRect(table->item(0, 0)).center()));
    driver.click("Let it go");
    EXPECT_TRUE(session.valuePlaces().empty());
}

TEST(Scene, VeryManyTrianglesAreThinnedWhileTheyMoveAndWholeWhenStill)
{
    WindowDriver driver;
    driver.click("New structure");
    openDensePlate(driver.session(), 40000);
    auto& canvas = driver.window().scene().canvas();
    canvas.play(false);
    canvas.frameAll();
    driver.until([&] { return canvas.trianglesDrawn() > 160000u; }, "every triangle is drawn");
    const auto whole = canvas.trianglesDrawn();
    const QImage still = canvas.picture();
    canvas.play(true);
    driver.until([&] { return canvas.trianglesDrawn() < 60000u; }, "it is thinned while it moves");
    EXPECT_GT(canvas.trianglesDrawn(), 10000u);
    canvas.play(false);
    canvas.setPhase(0.25);
    driver.until([&] { return canvas.trianglesDrawn() == whole; }, "all of it when still");

    // Turned by the mouse: thin under way, exact at its end; and both look alike.
    const QPoint middle = canvas.mapToGlobal(canvas.rect().center());
    std::size_t least = whole;
    const auto watch =
        QObject::connect(&canvas, &SceneCanvas::shown, [&] { least = std::min(least, canvas.trianglesDrawn()); });
    driver.drag(middle, middle + QPoint(60, 20));
    driver.until([&] { return canvas.trianglesDrawn() == whole; }, "all of it after the turn");
    EXPECT_LT(least, 60000u);
    least = whole;
    driver.wheel(middle, 1);
    driver.until([&] { return least < 60000u && canvas.trianglesDrawn() == whole; }, "all of it after the wheel");
    QObject::disconnect(watch);
    const QImage turned = canvas.picture();
    EXPECT_NE(still, turned);
}

TEST(Scene, AThinnedSurfaceKeepsItsSidesPartsAndArea)
{
    auto said = steel();
    said.say("sheet-box", {{"name", "B"}, {"x", "0.5 m"}, {"y", "0.4 m"}, {"z", "0.3 m"}, {"thickness", "3 mm"}})
        .say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.2 m"}, {"at", "1, 0, 0 m"}});
    const auto structure = said.structure();
    std::vector<double> sizes(structure.frame.sheets.size(), 0.008);
    sizes.push_back(0.012);
    const auto mesh = meshOf(structure, {}, {sizes});
    const PartSurface whole = partSurface(structure, mesh, Eigen::Vector3d::Zero(), true);
    const auto areaOf = [&](const std::vector<std::int64_t>& triangles, auto vertexOf, int part) {
        double area = 0.0;
        for (std::size_t at = 0; at < triangles.size(); at += 3) {
            std::array<Eigen::Vector3d, 3> corner;
            for (std::size_t k = 0; k < 3; ++k) {
                const auto vertex = std::size_t(vertexOf(triangles[at + k]));
                corner[k] = {whole.place[3 * vertex], whole.place[3 * vertex + 1], whole.place[3 * vertex + 2]};
                if (k == 0 && whole.part[vertex] != part) break;
                if (k == 2) area += 0.5 * (corner[1] - corner[0]).cross(corner[2] - corner[0]).norm();
            }
        }
        return area;
    };
    const std::size_t wanted = whole.triangles.size() / 3 / 6;
    const ThinnedSurface thin = thinned(whole, whole.triangles, wanted);
    EXPECT_LT(thin.triangles.size() / 3, 2 * wanted);
    for (const int part : {0, 3, 6}) { // two of the sides and the ball
        const double before = areaOf(
            whole.triangles, [](auto vertex) { return vertex; }, part);
        const double after = areaOf(
            thin.triangles, [&](auto vertex) { return thin.vertex[std::size_t(vertex)]; }, part);
        EXPECT_NEAR(after / before, 1.0, 0.06) << part;
    }
}

TEST(Scene, AProfileDrawnOnTheGridBecomesASolidAndAPlateFollowsATypedLength)
{
    WindowDriver driver;
    driver.click("New structure");
    auto& canvas = driver.window().scene().canvas();
    const auto begin = [&](const char* words) {
        driver.press("k", {"Control_L"});
        driver.calm();
        driver.type(words);
        driver.press("Return");
        driver.until([&] { return canvas.outlineDrawn().has_value(); }, "drawing begins");
        driver.calm();
    };
    begin("profile of a solid");
    ASSERT_EQ(canvas.workPlane().normal, 1);
    const auto clickAt = [&](double x, double z) {
        driver.click(onScreen(canvas, {x, 0.0, z}));
        driver.calm();
    };
    clickAt(0, 0);
    clickAt(2, 0);
    clickAt(3, 3);
    driver.press("Escape"); // that one was wrong
    EXPECT_EQ(canvas.outlineCorners().size(), 2u);
    clickAt(2, 1);
    clickAt(0, 1);
    clickAt(0, 0); // the first one again
    driver.until([&] { return driver.session().structure().frame.solids.size() == 1; }, "a solid");
    EXPECT_FALSE(canvas.outlineDrawn());
    const auto& frame = driver.session().structure().frame;
    EXPECT_NEAR(frame.faces->solids[0].volume, 2.0 * 1.0 * 0.05, 1e-9);
    const auto [low, high] = frame.box();
    EXPECT_NEAR((low - Eigen::Vector3d(0, 0, 0)).norm(), 0.0, 1e-6) << low.transpose();
    EXPECT_NEAR((high - Eigen::Vector3d(2, 0.05, 1)).norm(), 0.0, 1e-6) << high.transpose();
    EXPECT_EQ(driver.session().selectedSentence(), frame.solids[0].sentence);

    driver.press("z", {"Control_L"});
    driver.until([&] { return driver.session().structure().frame.solids.empty(); }, "taken back");
    begin("draw a plate");
    clickAt(0, 0);
    driver.moveTo(onScreen(canvas, {3, 0, 0}));
    driver.calm();
    driver.type("1.5 m");
    driver.press("Return");
    driver.until([&] { return canvas.outlineCorners().size() == 2; }, "a side of the typed length");
    EXPECT_NEAR((canvas.outlineCorners()[1] - Eigen::Vector3d(1.5, 0, 0)).norm(), 0.0, 1e-9);
    clickAt(0, 2);
    driver.window().scene().setFocus();
    driver.press("Return");
    driver.until([&] { return driver.session().structure().frame.sheets.size() == 1; }, "a plate");
    EXPECT_NEAR(driver.session().structure().frame.faces->faces[0].area, 1.5, 1e-9);
}
