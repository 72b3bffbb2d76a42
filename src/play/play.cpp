// Opens the mast, solves, steps through its modes, shows the clash, applies the fix and compares; leaves
// pictures and a summary in the folder named on the command line.
#include "app/ledger/ledger_view.hpp"
#include "app/readings/reading_table.hpp"
#include "app/readings/readings_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_view.hpp"
#include "app/session/painted_items.hpp"
#include "app/session/plain_labels.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"
#include "core/io/tolerance_table.hpp"
#include "core/model/stated.hpp"
#include "tests/gui/home_of_its_own.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QDir>
#include <QFile>
#include <QLabel>
#include <QRegularExpression>
#include <QScreen>
#include <QTabBar>
#include <QTableWidget>
#include <QTest>

using namespace undisona;

namespace {

class Player {
public:
    explicit Player(const QString& folder) : folder_(folder) { QDir().mkpath(folder_); }

    void play()
    {
        picture("first-screen");
        driver_.openExample("radar-mast");
        driver_.until([this] { return driver_.session().staves()[1].solution != nullptr; }, "the take");
        say("Opened the radar mast: " + note(1));
        atRest();
        modes();
        clash();
        report();
        remedy();
        fix();
        tolerances();
        finding();
        others();
        sheets();
        longRun();
        mechanism();
        drawing();
        say("Pictures are in " + folder_);
        QFile file(folder_ + "/summary.txt");
        if (file.open(QIODevice::WriteOnly)) file.write(summary_.toUtf8());
    }

private:
    QString note(int mode) { return driver_.valueOf(QString("note %1 of now").arg(mode)); }

    void say(const QString& line)
    {
        summary_ += line + "\n";
        fputs((line + "\n").toUtf8().constData(), stdout);
        fflush(stdout);
    }

    void picture(const QString& name)
    {
        QTest::qWait(500);
        const QRect place(driver_.window().mapToGlobal(QPoint(0, 0)), driver_.window().size());
        QGuiApplication::primaryScreen()
            ->grabWindow(0, place.x(), place.y(), place.width(), place.height())
            .save(folder_ + "/" + name + ".png");
    }

    SceneCanvas& canvas() { return driver_.window().scene().canvas(); }

    void atRest()
    {
        SceneLook look = canvas().look();
        look.colouring = Colouring::plain;
        driver_.window().scene().setLook(look);
        canvas().setPhase(0.0);
        driver_.window().readings().showPage("checks");
        picture("mast-at-rest");
        look.colouring = Colouring::size;
        driver_.window().scene().setLook(look);
    }

    void modes()
    {
        canvas().setPhase(0.25);
        driver_.window().readings().showPage("modes");
        for (int mode = 2; mode <= 4; ++mode) {
            driver_.press("Next");
            say("Stepped to " + note(mode));
        }
        driver_.press("space");
        QTest::qWait(700);
        driver_.press("space");
        canvas().setPhase(0.25);
        picture("mode-in-motion");
        driver_.window().readings().showPage("mass");
        picture("mass");
    }

    void clash()
    {
        driver_.window().readings().showPage("clashes");
        driver_.moveTo(driver_.window().mapToGlobal(QPoint(430, 480)));
        say("The clash: " + note(4).replace('\n', " | "));
        picture("clash");
        driver_.window().readings().showStress();
        driver_.session().findStresses();
        driver_.until([&] { return driver_.session().scaledMode().has_value(); }, "the stresses");
        driver_.window().scene().paint(Colouring::stress);
        picture("stress");
        driver_.window().scene().paint(Colouring::size);
    }

    /// What is handed over, as it is seen before it is written.
    void report()
    {
        driver_.press("r", {"Control_L"});
        auto* dialog = static_cast<QWidget*>(nullptr);
        driver_.until([&] { return (dialog = driver_.window().findChild<QWidget*>("reportDialog")) != nullptr; },
                      "the report");
        driver_.until([&] { return dialog->findChild<QLabel*>("reportWords")->text().isEmpty(); }, "its pictures");
        picture("report");
        driver_.press("Escape");
        driver_.calm();
    }

    /// The map of what a kilogram does, the list, a row of it as a take, solved; then taken back.
    void remedy()
    {
        Session& session = driver_.session();
        session.showMode(0, 4);
        driver_.window().readings().showPage("remedy");
        driver_.window().scene().paint(Colouring::massSlope);
        driver_.click("Find what does it");
        auto* table = driver_.window().findChild<ReadingTable*>("remedyTable");
        driver_.until([&] { return table->isVisible() && table->rowCount() > 0; }, "the remedies");
        driver_.calm();
        driver_.click(table->viewport()->mapToGlobal(table->visualItemRect(table->item(0, 1)).center()));
        driver_.moveTo(driver_.window().mapToGlobal(QPoint(430, 480)));
        picture("remedy");
        const auto proposal = (**session.remedy()).proposals.front();
        driver_.click("Solve it as a take");
        driver_.until([&] { return session.staves()[1].solution != nullptr; }, "the remedy's modes");
        const QString promise = driver_.window().findChild<QLabel*>("remedyPromises")->text();
        say(QString::fromStdString("The remedy: " + proposal.change.words) + " | " +
            promise.section("·", 1).remove(QRegularExpression("<[^>]*>")).simplified());
        session.undo();
        driver_.window().scene().paint(Colouring::size);
    }

    void fix()
    {
        driver_.session().removeTake("t1");
        driver_.press("t", {"Control_L"});
        driver_.press("a", {"Control_L"});
        driver_.type("as built");
        driver_.press("Return");
        for (const char* word : {"word mast.braces", "word mast.rings"}) {
            driver_.click(word);
            driver_.type("angle 50x50x5 mm");
            if (word == std::string("word mast.braces")) picture("sentence-edited");
            driver_.press("Return");
            driver_.solved();
        }
        driver_.window().readings().showPage("compare");
        driver_.click("note 4 of now");
        driver_.moveTo(driver_.window().mapToGlobal(QPoint(430, 480)));
        say("Heavier braces and rings: " + note(4).replace('\n', " | "));
        picture("cleared-and-compared");
    }

    /// Masses and feet that are not known exactly: notes become ranges; then taken back.
    void tolerances()
    {
        Session& session = driver_.session();
        for (const auto& [word, text] :
             {std::pair("word gearbox.mass", "85 kg +- 10 %"), {"word feet.kz", "25 kN/mm 15..40"}}) {
            driver_.click(word);
            driver_.type(text);
            driver_.press("Return");
            driver_.solved();
        }
        driver_.window().readings().showPage("remedy");
        driver_.click("Tolerances");
        driver_.click("Find the ranges");
        driver_.until([&] { return !session.tolerating() && session.tolerances(); }, "the ranges");
        session.showMode(0, 4);
        driver_.moveTo(driver_.window().mapToGlobal(QPoint(430, 480)));
        for (const auto& chance : (**session.tolerances()).clashes)
            say(QString::fromStdString("Within its tolerances: " + chanceWords(chance)));
        picture("tolerances");
        for (int edit = 0; edit < 2; ++edit)
            session.undo();
        driver_.solved();
    }

    void finding()
    {
        driver_.window().ledger().showSentence("feet");
        driver_.click("word feet.where");
        driver_.type("Mast.0.1, Mast.0.2, Mast.0.3");
        driver_.press("Return");
        driver_.solved();
        driver_.window().readings().showPage("checks");
        say("One foot forgotten: " + driver_.valueOf("finding feet"));
        picture("finding");
        driver_.press("z", {"Control_L"});
        driver_.solved();
    }

    void others()
    {
        driver_.window().setDark(true);
        driver_.window().readings().showPage("compare");
        driver_.window().findChild<QTabBar*>("compareParts")->setCurrentIndex(1);
        driver_.click("note 5 of now");
        driver_.window().scene().paint(Colouring::section);
        picture("dark");
        driver_.window().scene().paint(Colouring::size);
        driver_.session().start({}, {}); // what was played is not to be saved
        driver_.openExample("hoist-gantry");
        driver_.window().setDark(false);
        driver_.calm();
        say("The hoist gantry: " + note(4));
        driver_.openExample("signal-lamps");
        driver_.window().readings().showPage("modes");
        say("The lamp frame, nearly free: " + note(1));
        driver_.session().showMode(0, 7);
        picture("nearly-free");
    }

    /// A skid of sheet that clashes as built and is cleared by a stiffener; a ramp flap with its deck in motion.
    void sheets()
    {
        driver_.openExample("pump-skid");
        driver_.window().readings().showPage("clashes");
        driver_.until([this] { return driver_.session().staves()[1].solution != nullptr; }, "the take");
        say("The pump skid, as built: " + driver_.valueOf("note 3 of as built") + "; with its stiffener: " + note(2));
        driver_.session().showMode(1, 3);
        driver_.calm();
        canvas().setPhase(0.25);
        driver_.openExample("ramp-flap");
        driver_.window().readings().showPage("modes");
        const auto& solution = *driver_.session().live().solution;
        int most = 1;
        for (const auto& mode : solution.modes)
            if (solution.participation.ofTotal(mode.number - 1, 2) > solution.participation.ofTotal(most - 1, 2))
                most = mode.number;
        say("The ramp flap: " + note(most));
        driver_.session().showMode(0, most);
        SceneLook look = canvas().look();
        look.colouring = Colouring::meshError;
        driver_.window().scene().setLook(look);
        picture("mesh-error");
        look.colouring = Colouring::size;
        driver_.window().scene().setLook(look);
        driver_.openExample("vent-housing");
        driver_.window().readings().showPage("mesh");
        driver_.until([this] { return driver_.session().staves()[1].solution != nullptr; }, "the housing's take");
        say("The ventilator housing, as built: " + driver_.valueOf("note 1 of as built"));
        driver_.session().showMode(1, 1);
        driver_.calm();
        driver_.window().scene().cutOpen({1, 0.35, false});
        canvas().setPhase(0.25);
        picture("housing-cut-open");
        driver_.window().scene().closeCut();
        driver_.session().showMode(0, 1);
        driver_.press("F5", {"Control_L"});
        driver_.until([this] { return driver_.session().settling() && !driver_.session().settlingNow(); },
                      "the housing on other meshes", 120);
        say("The housing's lid on other meshes would end at " +
            QString::number(driver_.session().settling()->settled[0]->hertz, 'f', 2) + " Hz");
        picture("settling");
        driver_.openExample("water-tower");
        driver_.until([this] { return driver_.session().live().solution && !driver_.session().solving(); }, "the tower",
                      120);
        driver_.press("r", {"Control_L", "Shift_L"});
        driver_.until([this] { return driver_.session().restShown() != nullptr; }, "the tower's states", 60);
        driver_.window().scene().paint(Colouring::stress);
        driver_.calm();
        say("The tower at rest in a gale: " +
            driver_.window().scene().findChild<QWidget*>("caption")->accessibleDescription());
        for (const char* name : {"Rim.40", "Ring.0"}) {
            const Eigen::Vector3d pixel = canvas().pixelOf(driver_.session().structure().frame.pointNamed(name));
            driver_.moveTo(canvas().mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y()))));
            driver_.press("v", {"Control_L", "Alt_L"});
        }
        driver_.click("At places");
        driver_.calm();
        picture("rest");
        while (!driver_.session().valuePlaces().empty())
            driver_.session().dropValuePlace(0);
        driver_.window().scene().paint(Colouring::size);
        driver_.openExample("davit-arm");
        driver_.until([this] { return driver_.session().live().solution && !driver_.session().solving(); }, "the arm",
                      120);
        driver_.window().readings().showPage("clashes");
        say("The davit arm, from a STEP file: " + note(1) + ", " + note(2));
        driver_.session().showMode(0, 2);
        driver_.calm();
        canvas().setPhase(0.25);
        picture("imported-arm");
    }

    static void sentence(Document& document, const char* kindKey, const std::map<std::string, std::string>& values)
    {
        document.model = *stated(document.model, {Statement{kindKey, {}, {}, values}});
    }

    /// A run in the engine's own process, half way: notes faint, sums rising towards their target.
    void longRun()
    {
        Document tower;
        tower.name = "leading light";
        sentence(tower, "lattice-mast", {{"height", "64 m"}, {"bottom", "6 m"}, {"top", "2.5 m"}, {"bays", "60"}});
        sentence(tower, "material", {});
        sentence(tower, "hold", {{"where", "4 feet of Mast"}, {"directions", "all"}});
        sentence(tower, "mass", {{"mass", "450 kg"}, {"points", "Mast.60.1"}, {"label", "lantern"}});
        sentence(tower, "mass-share", {{"share", "90 %"}, {"directions", "x y z"}, {"most", "900"}});
        driver_.window().readings().showPage("mass");
        driver_.session().start(tower, {});
        canvas().frameAll();
        driver_.until([this] { return driver_.session().arriving().size() > 90; }, "some ninety modes", 60);
        say("A long run: " + QString::number(driver_.session().arriving().size()) + " modes so far");
        picture("run-in-progress");
        driver_.session().stop();
        driver_.until([this] { return !driver_.session().solving(); }, "the stop");
        driver_.window().readings().showPage("checks");
        picture("stopped");
    }

    /// A gangway of planks with a hinge too many, whose finding plays its motion.
    void mechanism()
    {
        Document gangway;
        gangway.name = "gangway";
        sentence(gangway, "run",
                 {{"name", "Planks"},
                  {"from", "0, 0, 0 m"},
                  {"to", "8, 0, 0 m"},
                  {"parts", "4"},
                  {"section", "box 200x120x5 mm"}});
        sentence(gangway, "material", {{"material", "aluminium alloy 6082"}});
        sentence(gangway, "release", {{"members", "Planks"}, {"ends", "the second end"}, {"directions", "ry"}});
        sentence(gangway, "hold", {{"where", "Planks.0"}, {"directions", "x y z rx rz"}});
        sentence(gangway, "hold", {{"where", "Planks.4"}, {"directions", "all"}});
        sentence(gangway, "lowest", {{"count", "8"}});
        driver_.session().start(gangway, {});
        canvas().frameAll();
        driver_.solved();
        driver_.session().showMode(0, 6);
        driver_.window().readings().showPage("checks");
        driver_.calm();
        for (const auto& finding : driver_.session().findings())
            if (finding.mode > 0) say(QString::fromStdString("A mechanism: " + oneLine(finding)));
        const auto* table = driver_.window().findChild<QTableWidget*>("checksTable");
        driver_.click(table->viewport()->mapToGlobal(table->visualItemRect(table->item(0, 1)).center()));
        canvas().setPhase(0.25);
        picture("mechanism");
        driver_.session().discardChanges();
    }

    /// A small portal, drawn by clicks on the grid and a typed length.
    void drawing()
    {
        driver_.window().newModel();
        canvas().lookFrom("front");
        driver_.press("d", {"Control_L"});
        const auto at = [&](double x, double z) {
            const Eigen::Vector3d pixel = canvas().pixelOf(Eigen::Vector3d(x, 0, z));
            return canvas().mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y())));
        };
        driver_.click(at(-3, 0));
        driver_.click(at(-3, 3));
        driver_.moveTo(at(0, 3));
        driver_.type("5.5 m");
        driver_.press("Return");
        driver_.solved();
        driver_.moveTo(at(3, 1));
        driver_.moveTo(at(2.9, 0));
        say("Drawn: " + QString::number(driver_.session().structure().frame.members.size()) + " members");
        picture("drawing");
        driver_.session().discardChanges();
    }

    WindowDriver driver_;
    QString folder_, summary_;
};

} // namespace

int main(int argc, char** argv)
{
    testing::InitGoogleTest(&argc, argv); // the driver reports through it
    const HomeOfItsOwn home;
    QApplication app(argc, argv);
    installPaintedItems();
    installPlainLabels();
    QAccessible::setActive(true);
    Theme::set(false);
    Player(argc > 1 ? argv[1] : "demo-pictures").play();
    return testing::UnitTest::GetInstance()->ad_hoc_test_result().Failed() ? 1 : 0;
}
