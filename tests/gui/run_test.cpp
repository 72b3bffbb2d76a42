// Runs in the engine's own process as the window shows them: what arrives, what is kept, what a death leaves.
#include "app/readings/readings_view.hpp"
#include "app/scene/scene_canvas.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QLabel>
#include <QRegularExpression>
#include <QPushButton>
#include <QTableWidget>

#include <csignal>
#include <numbers>
#include <random>

using namespace undisona;

namespace {

/// A mast of 80 bays, about 12 000 unknowns with two elements a member.
SaidModel tallMast(const char* kind, const Words& ask, const char* elements = "2")
{
    SaidModel said;
    said.say("lattice-mast", {{"height", "120 m"}, {"bottom", "6 m"}, {"top", "3 m"}, {"bays", "80"}})
        .say("material")
        .say("hold", {{"where", "4 feet of Mast"}, {"directions", "all"}})
        .say("fineness", {{"elements", elements}})
        .say(kind, ask);
    return said;
}

QPoint middleOf(WindowDriver& driver, const char* name)
{
    auto* widget = driver.window().findChild<QWidget*>(name);
    return widget->mapToGlobal(widget->rect().center());
}

QString textOf(WindowDriver& driver, const char* label)
{
    return driver.window().findChild<QLabel*>(label)->text().replace(QChar(0xa0), ' ');
}

bool hasFinding(const Session& session, const char* words)
{
    const Findings& all = session.findings();
    return std::any_of(all.begin(), all.end(),
                       [&](const Finding& finding) { return finding.what.find(words) != std::string::npos; });
}

} // namespace

TEST(Run, UntilNinetyPercentTheSumsRiseToTheTargetAndTheRunEndsThere)
{
    WindowDriver driver;
    driver.click("New structure");
    driver.window().readings().showPage("mass");
    std::vector<double> x, y;
    QStringList shown;
    QObject::connect(&driver.session(), &Session::massMoved, [&] {
        const MassSoFar& mass = driver.session().massSoFar();
        x.push_back(mass.sums(mass.sums.rows() - 1, 0));
        y.push_back(mass.sums(mass.sums.rows() - 1, 1));
        shown << textOf(driver, "massWords");
    });
    SaidModel house;
    house.say("frame", {{"bays-x", "6"}, {"bays-y", "3"}, {"storeys", "9"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("fineness", {{"elements", "2"}})
        .say("mass-share", {{"share", "90 %"}, {"directions", "x y"}, {"most", "300"}});
    driver.session().changeModel("a house", house.model());
    driver.solved();
    ASSERT_FALSE(x.empty()) << "the Mass page is told while the run goes on";
    for (std::size_t at = 1; at < x.size(); ++at) {
        EXPECT_GE(x[at], x[at - 1] - 1e-9);
        EXPECT_GE(y[at], y[at - 1] - 1e-9);
    }
    EXPECT_TRUE(shown.front().contains("So far, with")) << shown.front().toStdString();
    const auto solution = driver.session().live().solution;
    const auto& participation = solution->participation;
    const auto last = static_cast<Eigen::Index>(solution->modes.size()) - 1;
    EXPECT_GE(std::min(participation.sumOfTotal(last, 0), participation.sumOfTotal(last, 1)), 0.9);
    ASSERT_GT(last, 1);
    Eigen::Index before = last - 1; // the last mode's group comes whole
    while (before > 0 && solution->modes[static_cast<std::size_t>(before)].group == solution->modes.back().group)
        --before;
    EXPECT_LT(std::min(participation.sumOfTotal(before, 0), participation.sumOfTotal(before, 1)), 0.9)
        << "and not a mode further";
    for (const int axis : {0, 1}) {
        Eigen::Index passed = 0;
        while (participation.sumOfTotal(passed, axis) < 0.9)
            ++passed;
        EXPECT_TRUE(textOf(driver, "massWords").contains(QString("passed 90 % at mode %1").arg(passed + 1)))
            << textOf(driver, "massWords").toStdString();
    }
    EXPECT_TRUE(textOf(driver, "proof").contains(QRegularExpression("^(\\d+) of \\1 modes (below|up to)")))
        << textOf(driver, "proof").toStdString();
}

TEST(Run, ALongOneStoppedByTheButtonKeepsItsProvenModes)
{
    WindowDriver driver;
    driver.click("New structure");
    const SaidModel mast = tallMast("lowest", {{"count", "900"}});
    driver.session().changeModel("a tall mast", mast.model());
    driver.until([&] { return driver.session().arriving().size() > 250; }, "a few hundred modes", 60);
    ASSERT_TRUE(driver.session().solving()) << "it is not over yet";
    EXPECT_TRUE(textOf(driver, "proof").contains("modes so far"));
    EXPECT_EQ(driver.window().findChild<QPushButton*>("solve")->text(), "Stop");
    driver.click(middleOf(driver, "solve"));
    driver.until([&] { return !driver.session().solving(); }, "the run to stop", 10);
    const auto solution = driver.session().live().solution;
    ASSERT_TRUE(solution);
    EXPECT_TRUE(solution->stopped);
    EXPECT_GT(solution->modes.size(), 40u);
    EXPECT_LT(solution->modes.size(), 900u);
    EXPECT_TRUE(solution->count.proven) << "of the slices that were counted before the stop";
    EXPECT_EQ(solution->count.found, std::int64_t(solution->modes.size()));
    const QString proof = textOf(driver, "proof");
    EXPECT_TRUE(proof.startsWith(QString("stopped: %1 modes kept, all below").arg(solution->modes.size())))
        << proof.toStdString();
    EXPECT_TRUE(hasFinding(driver.session(), "the run was stopped"));
    EXPECT_EQ(driver.session().model(), mast.model());
    EXPECT_TRUE(driver.item("note 1 of now")) << "they stand on the Score";
    // They are the modes that a whole run finds.
    Ask few;
    few.count = 30;
    Progress progress;
    const auto whole = *solve(mast.model(), progress, {.ask = few});
    for (std::size_t at = 0; at < 30; ++at)
        EXPECT_NEAR(solution->modes[at].frequency, whole->modes[at].frequency, 1e-9 * whole->modes[at].frequency);
}

TEST(Run, TheEnginesDeathIsAFindingAndLosesNothing)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.until([&] { return driver.session().staves()[1].solution != nullptr; }, "the take's modes");
    const auto take = driver.session().staves()[1].solution;
    const Model mast = tallMast("lowest", {{"count", "900"}}).model();
    driver.session().changeModel("a tall mast", mast);
    driver.until([&] { return driver.session().arriving().size() > 20; }, "the first modes", 60);
    const auto process = driver.session().engineProcessId();
    ASSERT_GT(process, 0);
    kill(static_cast<pid_t>(process), SIGKILL);
    driver.until([&] { return !driver.session().solving(); }, "the window to notice", 10);
    EXPECT_TRUE(hasFinding(driver.session(), "the engine's process ended before its answer"));
    EXPECT_EQ(driver.session().model(), mast) << "the model is as it was";
    EXPECT_EQ(driver.session().staves()[1].solution, take) << "and so are earlier results";
    const auto& live = driver.session().live();
    EXPECT_TRUE(!live.solution || live.stale || live.solution->stopped)
        << "what was handed out is kept and said to be it";
    // The next run has a process of its own.
    driver.session().changeModel("fewer modes", tallMast("lowest", {{"count", "6"}}).model());
    driver.solved();
    EXPECT_TRUE(driver.session().live().solution->count.proven);
    EXPECT_NE(driver.session().engineProcessId(), process);
}

TEST(Run, WhatItWillDoStandsOnAPageFromWhichItIsMade)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const auto before = driver.session().live().solution;
    driver.press("F5", {"Control_L", "Shift_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the page");
    const QString words = QApplication::activeModalWidget()->findChild<QLabel*>("beforeWords")->text();
    for (const char* told : {"106 members", "What is assumed", "What nobody asks for, and will not be there"})
        EXPECT_TRUE(words.contains(told)) << told;
    driver.press("Return");
    driver.until([&] { return driver.session().live().solution && driver.session().live().solution != before; },
                 "a run of its own");
    EXPECT_FALSE(QApplication::activeModalWidget());
}

TEST(Run, TheEngineEndedAtAnyMomentIsSaidEachTimeAndLosesNothing)
{
    // A body that is joined, filled with tetrahedra, and solved: moments of all of these are met.
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "300 mm"}, {"y", "200 mm"}, {"z", "120 mm"}, {"size", "80 mm"}})
        .say("solid-cylinder", {{"name", "Pin"},
                                {"at", "0.1, 0.1, 0.12 m"},
                                {"diameter", "60 mm"},
                                {"length", "80 mm"},
                                {"size", "60 mm"}})
        .say("hold", {{"where", "faces at z = 0 m of Block"}, {"directions", "all"}})
        .say("lowest", {{"count", "4"}});
    WindowDriver driver;
    driver.click("New structure");
    driver.window().findChild<SceneCanvas*>()->play(false); // which would take its share of the time
    Session& session = driver.session();
    session.changeModel("a block with a pin", said.model());
    QElapsedTimer clock;
    clock.start();
    session.solve();
    driver.until([&] { return !session.solving() && session.live().solution; }, "the modes");
    const auto whole = session.live().solution;
    const int length = static_cast<int>(clock.elapsed());
    std::mt19937 random(17);
    int died = 0;
    std::set<QString> stages;
    const int rounds = 30;
    for (int round = 0; round < rounds; ++round) {
        const int moment = std::uniform_int_distribution(0, 7 * length / 10)(random);
        session.solve();
        clock.start();
        while (session.solving() && clock.elapsed() < moment)
            QApplication::processEvents(QEventLoop::AllEvents, 5);
        if (session.solving()) stages.insert(session.stage());
        kill(static_cast<pid_t>(session.engineProcessId()), SIGKILL); // at rest too, so that the next begins anew
        driver.until([&] { return !session.solving() && session.engineProcessId() == 0; }, "the window to notice", 20);
        const auto& live = session.live();
        const bool answered = live.solution && !live.stale && !live.solution->stopped; // a moment before
        died += !answered;
        EXPECT_TRUE(answered || hasFinding(session, "the engine's process ended before its answer")) << moment;
        ASSERT_EQ(session.model(), said.model());
    }
    EXPECT_GT(died, rounds / 3);
    EXPECT_GE(stages.size(), 4u) << "or it was always the same moment";
    session.solve();
    driver.until([&] { return !session.solving() && !session.live().stale; }, "the modes once more");
    ASSERT_TRUE(session.live().solution);
    for (std::size_t at = 0; at < 4; ++at)
        EXPECT_NEAR(session.live().solution->modes[at].frequency, whole->modes[at].frequency,
                    1e-9 * whole->modes[at].frequency);
}

TEST(Run, WhatALongOneWouldCostStandsBesideSolveBeforeItIsPressed)
{
    WindowDriver driver;
    driver.click("New structure");
    SaidModel house;
    house.say("frame", {{"bays-x", "12"}, {"bays-y", "12"}, {"storeys", "12"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("fineness", {{"elements", "1"}})
        .say("lowest", {{"count", "10"}});
    driver.session().changeModel("a large frame", house.model());
    auto* estimate = driver.window().findChild<QLabel*>("estimate");
    driver.until([&] { return estimate->isVisible() && !estimate->text().isEmpty(); }, "the estimate", 30);
    EXPECT_TRUE(estimate->text().startsWith("about ")) << estimate->text().toStdString();
    EXPECT_TRUE(estimate->text().contains(" s, ") && estimate->text().contains("B")) << estimate->text().toStdString();
    EXPECT_FALSE(driver.session().solving()) << "nothing is solved for it";
    driver.click(middleOf(driver, "solve"));
    driver.until([&] { return driver.session().live().solution && !driver.session().live().stale; }, "the modes", 90);
    EXPECT_FALSE(estimate->isVisible());
    EXPECT_TRUE(driver.session().live().solution->count.proven);
    EXPECT_NE(driver.session().engineProcessId(), 0) << "a model of this size is not solved in the window's process";
}

TEST(Run, RefinesUntilTheModesAreNearAndShowsHowTheySettleOnOtherMeshes)
{
    WindowDriver driver;
    driver.click("New structure");
    auto said = steel();
    said.say("plate", {{"name", "Lid"}, {"length", "900 mm"}, {"width", "600 mm"}, {"thickness", "5 mm"}})
        .say("hold", {{"where", "free edges of Lid"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}})
        .say("sheet-mesh", {{"fineness", "coarse"}});
    driver.session().changeModel("a lid", said.model());
    driver.solved();
    const auto worst = [&] {
        double most = 0.0;
        for (const auto& mode : driver.session().live().solution->modes)
            most = std::max(most, std::abs(mode.meshError));
        return most;
    };
    ASSERT_GT(worst(), 0.01);
    driver.press("8", {"Control_L"}); // Ask
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("refine");
    driver.press("Return");
    driver.press("Return"); // every mode, within 1 % as it stands
    driver.until([&] { return !driver.session().solving() && !driver.session().live().stale && worst() <= 0.01; },
                 "all within 1 %", 60.0);
    EXPECT_TRUE(hasFinding(driver.session(), "every mode is within 1 % after"));

    driver.press("F5", {"Control_L"});
    auto* table = driver.window().findChild<QTableWidget*>("settlingTable");
    driver.until([&] { return !driver.session().settlingNow() && table->isVisible() && table->rowCount() == 6; },
                 "four meshes", 60.0);
    const Settling settling = *driver.session().settling();
    ASSERT_EQ(settling.rounds.size(), 4u);
    EXPECT_TRUE(textOf(driver, "settlingWords").contains("4 meshes"));
    const double truth = settling.settled[0]->hertz; // a clamped plate of 3 to 2: 27.01 sqrt(D/m)/(2 pi b2) (Leissa)
    const double rigidity = 200e9 * std::pow(0.005, 3) / 12.0 / 0.91;
    EXPECT_NEAR(truth / (27.01 * std::sqrt(rigidity / 8000.0 / 0.005) / (2.0 * std::numbers::pi * 0.36)), 1.0, 0.005);
    int steady = 0; // of the others the span is shown
    for (int mode = 0; mode < 6; ++mode)
        if (const auto& settled = settling.settled[std::size_t(mode)]; settled->order > 0.0) {
            EXPECT_NEAR(table->item(mode, 1)->text().toDouble(), settled->hertz, 0.02);
            ++steady;
        }
    EXPECT_GE(steady, 2);
    driver.session().showMode(0, 3);
    driver.until([&] { return table->currentRow() == 2; }, "the row of the mode in view");

    bool stopped = false; // it may be through before the key has arrived
    for (int time = 0; time < 5 && !stopped; ++time) {
        driver.press("F5", {"Control_L"});
        driver.press("F5", {"Shift_L"});
        driver.until([&] { return !driver.session().settlingNow() && !driver.session().solving(); }, "stopped");
        stopped = driver.session().settling()->rounds.size() < 4u;
    }
    EXPECT_TRUE(stopped);
    EXPECT_FALSE(driver.session().live().stale) << "the modes stay";
}
