#include "app/scene/scene_view.hpp"
#include "app/readings/plot.hpp"
#include "app/readings/printed_table.hpp"
#include "app/readings/reading_table.hpp"
#include "app/readings/readings_view.hpp"
#include "app/readings/matrix_view.hpp"
#include "tests/gui/table_cell.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QPrintDialog>
#include <QPushButton>
#include <QRegularExpression>
#include <QScrollBar>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTextDocument>

using namespace undisona;

TEST(Readings, SelectingARowSelectsTheNote)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.window().readings().showPage("modes");
    driver.calm();
    auto* table = driver.window().findChild<QTableWidget*>("modesTable");
    ASSERT_EQ(table->rowCount(), static_cast<int>(driver.session().live().solution->modes.size()));
    driver.click(cell(table, 2, 1));
    EXPECT_EQ(driver.session().shownMode(), 3);
    // The same numbers leave by the clipboard, set apart by tabs.
    driver.press("a", {"Control_L"});
    driver.press("c", {"Control_L"});
    const QStringList lines = QApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts);
    ASSERT_GE(lines.size(), table->rowCount());
    EXPECT_TRUE(lines[lines.size() - table->rowCount()].startsWith("1\t")) << lines[0].toStdString();
}

TEST(Readings, WhatHasNoRoomIsFoldedIntoTheRowsAndComesBackWithRoom)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.window().readings().showPage("modes");
    driver.calm();
    auto* table = driver.window().findChild<QTableWidget*>("modesTable");
    EXPECT_FALSE(table->horizontalScrollBar()->isVisible()) << "nothing has to be scrolled to";
    EXPECT_FALSE(table->isColumnHidden(5)) << "what takes part along Z is seen";
    const int last = table->columnCount() - 1;
    ASSERT_TRUE(table->isColumnHidden(last));
    int seen = 0;
    while (!table->isColumnHidden(seen + 1))
        ++seen;
    EXPECT_TRUE(table->horizontalHeaderItem(seen)->text().endsWith(QString("+%1").arg(last - seen)));
    const QString tip = table->item(3, 1)->toolTip(), hidden = table->item(3, last)->text();
    EXPECT_TRUE(tip.contains("residual: " + hidden)) << tip.toStdString();
    EXPECT_TRUE(table->item(3, 2)->toolTip().startsWith("second bending in y"));
    driver.press("F7"); // the readings take the scene's room
    driver.calm();
    EXPECT_FALSE(table->isColumnHidden(last));
    EXPECT_FALSE(table->item(3, 1)->toolTip().contains("residual: "));
    driver.press("F7");
    driver.calm();
    EXPECT_TRUE(table->isColumnHidden(last));
}

TEST(Readings, MassPageSaysWhereEachDirectionPassesItsTarget)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.window().readings().showPage("mass");
    driver.calm();
    const auto& participation = driver.session().live().solution->participation;
    Eigen::Index passed = 0;
    while (participation.sumOfMovable(passed, 1) < 0.9)
        ++passed;
    const QString words = driver.window().findChild<QLabel*>("massWords")->text().replace(QChar(0xa0), ' ');
    EXPECT_TRUE(words.contains(QString("passed 90 % at mode %1").arg(passed + 1))) << words.toStdString();
}

TEST(Readings, PlotsZoomReadAndAreSaved)
{
    WindowDriver driver;
    driver.openExample("hoist-gantry");
    driver.window().readings().showPage("clashes");
    driver.calm();
    auto* plot = driver.window().findChild<Plot*>("speedPlot");
    ASSERT_TRUE(plot && plot->isVisible());
    const auto whole = plot->shownRange();
    const QPoint middle = plot->mapToGlobal(plot->rect().center());
    driver.moveTo(middle);
    driver.moveTo(middle + QPoint(2, 2));
    EXPECT_FALSE(plot->cursorText().isEmpty());
    driver.wheel(middle, 3);
    EXPECT_LT(plot->shownRange()[1] - plot->shownRange()[0], 0.9 * (whole[1] - whole[0]));
    driver.wheel(middle, -12);
    EXPECT_EQ(plot->shownRange(), whole) << "never farther out than all there is";
    QTemporaryDir folder;
    for (const char* name : {"speeds.png", "speeds.pdf", "speeds.svg"}) {
        EXPECT_TRUE(plot->save(folder.filePath(name)).startsWith("Written to"));
        EXPECT_GT(QFileInfo(folder.filePath(name)).size(), 2000) << name;
    }
    EXPECT_TRUE(plot->save(folder.filePath("no such folder/speeds.png")).contains("folder does not exist"));
}

TEST(Readings, ComparesTakesAndSortsEnergies)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.until([&] { return driver.session().staves()[1].solution != nullptr; }, "the take's modes");
    driver.window().readings().showPage("compare");
    driver.calm();
    EXPECT_GE(driver.window().findChild<QTableWidget*>("compareTable")->rowCount(), 8);
    const QString compared = driver.window().findChild<QLabel*>("compareWords")->text();
    EXPECT_TRUE(compared.contains("kg less")) << compared.toStdString();
    EXPECT_TRUE(compared.contains("Mast: ")) << compared.toStdString();
    EXPECT_TRUE(compared.contains("was angle 50x50x5 mm, now angle 40x40x4 mm")) << compared.toStdString();
    EXPECT_FALSE(compared.contains("tapering lattice")) << "what is alike is not said";
    driver.window().readings().showPage("energy");
    driver.calm();
    auto* table = driver.window().findChild<QTableWidget*>("energyTable");
    ASSERT_GT(table->rowCount(), 20);
    // The shares of one mode add up to all of it on the screen, and the largest stands first.
    double sums[2] = {}, before = 1e9;
    for (int row = 0; row < table->rowCount(); ++row) {
        double most = 0.0;
        for (int kind = 0; kind < 2; ++kind) { // strain, kinetic
            const double share = table->item(row, 1 + kind)->text().toDouble();
            sums[kind] += share;
            most = std::max(most, share);
        }
        EXPECT_LE(most, before + 1e-9) << row;
        before = most;
    }
    for (const double sum : sums)
        EXPECT_NEAR(sum, 100.0, 0.05 * table->rowCount() + 1.0) << "each is rounded";
}

TEST(Readings, TakesStandAsATreeAndTheirModesAllAgainstAll)
{
    WindowDriver driver;
    Session& session = driver.session();
    driver.openExample("radar-mast");
    driver.until([&] { return session.staves()[1].solution != nullptr; }, "the take's modes");
    driver.window().readings().showPage("compare");
    driver.calm();
    auto* parts = driver.window().findChild<QTabBar*>("compareParts");
    const auto turnTo = [&](int part) {
        driver.click(parts->mapToGlobal(parts->tabRect(part).center()));
        driver.calm();
    };
    turnTo(1);
    auto* field = driver.window().findChild<MatrixField*>("matrixField");
    ASSERT_TRUE(field && field->isVisible());
    const auto alike = modalAssurance(*session.live().solution, *session.staves()[1].solution);
    const auto known = field->paintedItems();
    ASSERT_GE(known.size(), session.live().solution->modes.size()) << "each has a partner";
    for (const auto& item : {known[0], known[known.size() / 2]}) {
        driver.click(field->mapToGlobal(item.bounds.center()));
        const auto [row, column] = field->chosen();
        EXPECT_EQ(session.shownMode(), row + 1);
        EXPECT_EQ(item.value, QString("%1 % alike").arg(100.0 * alike(row, column), 0, 'f', 0));
        const QString pair = driver.window().findChild<QLabel*>("matrixPair")->text();
        EXPECT_TRUE(pair.contains(QString("Mode %1</b> of now").arg(row + 1))) << pair.toStdString();
        EXPECT_TRUE(pair.contains(item.value)) << pair.toStdString();
    }
    const int before = session.shownMode();
    driver.press("Down");
    EXPECT_EQ(session.shownMode(), before + 1);

    turnTo(2);
    auto* table = driver.window().findChild<QTableWidget*>("takesTable");
    ASSERT_TRUE(table && table->isVisible());
    ASSERT_EQ(table->rowCount(), 2);
    EXPECT_TRUE(table->item(1, 0)->text().endsWith("now"));
    driver.click(cell(table, 0, 0));
    EXPECT_EQ(session.shownStave(), 1u) << "a row shows its stave";
    const QString changes = driver.window().findChild<QLabel*>("takesChanges")->text();
    EXPECT_TRUE(changes.contains("came from no take")) << changes.toStdString();
    auto* note = driver.window().findChild<QLineEdit*>("takeNote");
    driver.click(note->mapToGlobal(note->rect().center()));
    driver.press("a", {"Control_L"});
    driver.type("what stands there");
    driver.press("Return");
    driver.until([&] { return session.document().takes[0].note == "what stands there"; }, "the note");
    EXPECT_TRUE(table->item(0, 5)->text().contains("what stands there"));

    driver.click("Make it the model");
    driver.until([&] { return session.document().from == "t1"; }, "the take to be the model");
    session.keepTake("stiffer");
    driver.calm();
    ASSERT_EQ(table->rowCount(), 3);
    EXPECT_TRUE(table->item(1, 0)->text().contains("└ stiffer"));
    EXPECT_TRUE(table->item(2, 0)->text().contains("└ now"));
    driver.click(cell(table, 0, 0));
    driver.click("Remove it");
    driver.until([&] { return session.document().takes.size() == 1; }, "the take to go");
    EXPECT_EQ(session.document().takes[0].from, "") << "what came from it came from nothing else";
    driver.press("z", {"Control_L"});
    EXPECT_EQ(session.document().takes.size(), 2u);
}

TEST(Readings, EveryFindingLeadsToItsSentence)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    Model model = driver.session().model();
    // Three mistakes at once: a mass on nothing, a section that cannot be, a support that finds nothing.
    model = model.inserted(newSentence(*kindNamed("mass"), "lost").with("points", std::string("nowhere")));
    model = model.inserted(newSentence(*kindNamed("hold"), "gone").with("where", std::string("points at z = 99 m")));
    model = model.inserted(newSentence(*kindNamed("material"), "odd").with("material", std::string("moon cheese")));
    driver.session().changeModel("mistakes", model);
    driver.click(driver.window().findChild<QWidget*>("checks")->mapToGlobal(QPoint(20, 10)));
    auto* table = driver.window().findChild<QTableWidget*>("checksTable");
    ASSERT_TRUE(table && table->isVisible());
    const Findings findings = driver.session().findings();
    ASSERT_EQ(table->rowCount(), static_cast<int>(findings.size()));
    std::set<std::string> reached;
    for (int row = 0; row < table->rowCount(); ++row) {
        EXPECT_FALSE(table->item(row, 1)->text().isEmpty());
        driver.click(cell(table, row, 1));
        const auto& sentence = findings[static_cast<std::size_t>(row)].sentence;
        if (sentence.empty()) continue;
        EXPECT_EQ(driver.session().selectedSentence(), sentence);
        EXPECT_TRUE(driver.item("sentence " + QString::fromStdString(sentence))) << "scrolled into view";
        reached.insert(sentence);
    }
    for (const char* id : {"lost", "gone", "odd"})
        EXPECT_TRUE(reached.contains(id)) << id;
}

TEST(Readings, AMechanismPlaysItsMotionFromItsFinding)
{
    SaidModel chain;
    chain
        .say("run",
             {{"name", "C"}, {"from", "0, 0, 0 m"}, {"to", "4, 0, 0 m"}, {"parts", "4"}, {"section", "round 20 mm"}})
        .say("material")
        .say("hold", {{"where", "C.0, C.4"}, {"directions", "all"}})
        .say("release", {{"members", "C"}, {"ends", "the second end"}, {"directions", "ry"}})
        .say("release", {{"members", "C.0-1"}, {"ends", "the first end"}, {"directions", "ry"}})
        .say("lowest", {{"count", "6"}});
    WindowDriver driver;
    driver.openExample("signal-lamps");
    driver.session().changeModel("a chain of hinges", chain.model());
    driver.solved();
    driver.session().showMode(0, 5);
    driver.click(driver.window().findChild<QWidget*>("checks")->mapToGlobal(QPoint(20, 10)));
    auto* table = driver.window().findChild<QTableWidget*>("checksTable");
    ASSERT_TRUE(table && table->isVisible());
    const Findings findings = driver.session().findings();
    const auto loose =
        std::find_if(findings.begin(), findings.end(), [](const Finding& found) { return found.mode > 0; });
    ASSERT_NE(loose, findings.end());
    driver.click(cell(table, static_cast<int>(loose - findings.begin()), 1));
    EXPECT_EQ(driver.session().shownMode(), loose->mode);
    EXPECT_EQ(driver.session().selectedSentence(), loose->sentence) << "and the release that opened it is at hand";
    // The certificate stands below the findings, in words and figures.
    const auto* certificate = driver.window().findChild<QLabel*>("certificate");
    ASSERT_TRUE(certificate && certificate->isVisible());
    EXPECT_TRUE(certificate->text().contains("block Lanczos") || certificate->text().contains("dense"));
}

TEST(Readings, WhatAFindingOffersMendsItAndIsUndone)
{
    WindowDriver driver;
    Document document;
    SaidModel said = steel();
    said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "6 mm"}})
        .say("points", {{"rows", "seat|0.5 m|0.3 m|1 mm"}})
        .say("hold", {{"where", "edges of Deck"}, {"directions", "all"}})
        .say("mass", {{"mass", "40 kg"}, {"points", "seat"}})
        .say("lowest", {{"count", "3"}});
    document.model = said.model();
    driver.session().start(document, {});
    driver.solved();
    driver.window().readings().showPage("checks");
    driver.calm();
    const auto beside = [&] {
        return std::any_of(driver.session().findings().begin(), driver.session().findings().end(),
                           [](const Finding& one) { return one.what.find("beside Deck") != std::string::npos; });
    };
    ASSERT_TRUE(beside());
    ASSERT_TRUE(driver.item("Tie seat to Deck"));
    driver.click("Move seat onto Deck");
    driver.solved();
    EXPECT_FALSE(beside());
    EXPECT_FALSE(driver.item("Move seat onto Deck")) << "what is mended is offered no longer";
    driver.press("z", {"Control_L"});
    driver.solved();
    EXPECT_TRUE(beside());
    EXPECT_EQ(driver.session().model(), document.model);
    // By the keyboard: the way leads from the table to what mends the chosen line.
    auto* table = driver.window().findChild<QTableWidget*>("checksTable");
    table->setFocus();
    driver.press("Tab");
    ASSERT_EQ(QApplication::focusWidget()->accessibleName(), "Move seat onto Deck")
        << QApplication::focusWidget()->metaObject()->className();
    driver.press("space");
    driver.solved();
    EXPECT_FALSE(beside());
}

TEST(Readings, TheMassBookAddsUpAndSetsTheScaleBesideIt)
{
    WindowDriver driver;
    driver.openExample("pump-skid");
    driver.click("Mass");
    driver.click("Where it comes from");
    auto* table = driver.window().findChild<ReadingTable*>("bookTable");
    driver.until([&] { return table->isVisible() && table->rowCount() > 2; }, "the book");
    const double total = driver.session().mass().mass;
    double sum = 0.0;
    for (int row = 0; row + 1 < table->rowCount(); ++row)
        sum += table->item(row, 1)->text().remove(' ').toDouble();
    EXPECT_NEAR(sum / total, 1.0, 1e-3) << "as it stands there";
    EXPECT_EQ(table->item(table->rowCount() - 1, 0)->text(), "in all");
    // A click shows what brings it.
    driver.click(table->viewport()->mapToGlobal(table->visualItemRect(table->item(0, 0)).center()));
    EXPECT_FALSE(driver.session().selectedSentence().empty());
    // The scale's figure is a sentence, which leaves the modes as they are.
    const auto solution = driver.session().live().solution;
    const int rows = table->rowCount();
    driver.click("Say what the scale says");
    driver.until([&] { return table->rowCount() == rows + 1; }, "the weighed row");
    driver.press("Return");
    driver.press("Tab");
    driver.type("1 t");
    driver.press("Return");
    driver.until(
        [&] { return table->item(rows - 1, 3)->text().remove(QRegularExpression("[^0-9.]")).toDouble() == 1000.0; },
        "what was weighed");
    EXPECT_EQ(table->item(rows - 1, 0)->text(), "everything, weighed");
    EXPECT_NEAR(table->item(rows - 1, 4)->text().replace("−", "-").toDouble(), 100.0 * (total / 1000.0 - 1.0), 0.5);
    EXPECT_EQ(driver.session().live().solution, solution);
    EXPECT_FALSE(driver.session().live().stale);
    const QString words = driver.window().findChild<QLabel*>("bookWords")->text();
    EXPECT_TRUE(words.contains("by the scale: the model is")) << words.toStdString();
    EXPECT_TRUE(words.contains("can move along x, y, z")) << words.toStdString();
    // On paper: its title, its words in ink, a line a row; as a file that begins as such files do.
    const auto pages = pagesOf("Skid", words, *table);
    EXPECT_TRUE(pages->toPlainText().contains("everything, weighed"));
    EXPECT_TRUE(pages->toPlainText().contains("in all:"));
    const QTemporaryDir folder;
    EXPECT_TRUE(table->save(folder.filePath("book.pdf")).contains("book.pdf"));
    QFile paper(folder.filePath("book.pdf"));
    ASSERT_TRUE(paper.open(QIODevice::ReadOnly));
    EXPECT_TRUE(paper.read(8).startsWith("%PDF-1."));
    EXPECT_GT(paper.size(), 3000);
    driver.click("Print …");
    driver.until([&] { return driver.window().findChild<QPrintDialog*>() != nullptr; }, "the printers");
    driver.press("Escape");
    driver.until([&] { return driver.window().findChild<QPrintDialog*>() == nullptr; }, "no printers");
}

TEST(Readings, AtRestUnderItsOwnWeightEachSupportShowsWhatItCarries)
{
    WindowDriver driver;
    driver.openExample("pump-skid");
    driver.press("g", {"Control_L"});
    auto* table = driver.window().findChild<ReadingTable*>("weightTable");
    driver.until([&] { return table->isVisible() && table->rowCount() > 0; }, "the supports");
    driver.calm();
    const auto first = driver.session().selfWeight();
    ASSERT_TRUE(first && *first);
    EXPECT_LT((*first)->unbalanced, 1e-6);
    double sum = 0.0;
    for (int row = 0; row < table->rowCount(); ++row)
        sum += table->item(row, 2)->text().toDouble();
    EXPECT_NEAR(sum, 100.0, 0.5) << "the shares, as they stand there";
    EXPECT_EQ(table->rowCount(), 8) << "one for each foot";
    const QString words = driver.window().findChild<QLabel*>("weightWords")->text();
    EXPECT_TRUE(words.contains("The supports carry all of it")) << words.toStdString();
    driver.click(cell(table, 0, 0));
    driver.press("Return");
    EXPECT_EQ(driver.session().selectedSentence(), (*first)->carried.front().sentence)
        << "the row leads to its sentence";

    // How stiff it is at a point under the pointer, or of a name that is typed.
    auto* label = driver.window().findChild<QLabel*>("weightWords");
    const auto& points = driver.session().structure().frame.points;
    auto& canvas = driver.window().scene().canvas();
    const Eigen::Vector3d pixel = canvas.pixelOf(0);
    driver.moveTo(canvas.mapToGlobal(QPoint(static_cast<int>(pixel.x()), static_cast<int>(pixel.y()))));
    driver.until([&] { return canvas.hoveredPoint() >= 0; }, "the point under the pointer");
    const std::string hovered = points[static_cast<std::size_t>(canvas.hoveredPoint())].name;
    driver.press("g", {"Control_L", "Shift_L"});
    driver.until([&] { return label->text().contains(QString::fromStdString("k at " + hovered)); }, "its stiffness");
    driver.moveTo(table->mapToGlobal(QPoint(5, 5)));
    driver.until([&] { return canvas.hoveredPoint() < 0; }, "no point under the pointer");
    canvas.setFocus();
    driver.press("g", {"Control_L", "Shift_L"});
    driver.calm();
    auto* field = driver.window().findChild<QLineEdit*>("stiffAt");
    EXPECT_TRUE(field->hasFocus());
    field->selectAll();
    driver.type(QString::fromStdString(points.back().name));
    driver.press("Return");
    driver.until([&] { return label->text().contains(QString::fromStdString("k at " + points.back().name)); },
                 "the stiffness at the typed point");

    // Of the model as it is: after a change it is to be asked for again.
    const auto& masses = driver.session().model().group(Group::addedMass);
    ASSERT_FALSE(masses.empty());
    const auto mass = *masses.front();
    ASSERT_EQ(mass.kind->key, "mass");
    SaidModel heavier(driver.session().model());
    heavier.say("mass", {{"points", mass.text("points")}, {"mass", "100 kg"}});
    driver.session().changeModel("a crate more", heavier.model());
    driver.solved();
    EXPECT_FALSE(table->isVisible());
    driver.click("Let it rest under its own weight");
    driver.until([&] { return table->isVisible() && table->rowCount() > 0; }, "the supports once more");
    const auto second = driver.session().selfWeight();
    EXPECT_NEAR((*second)->mass - (*first)->mass, 100.0, 1e-3);
}

TEST(Readings, LocalModesAreFoldedAndAModeIsGivenAName)
{
    WindowDriver driver;
    driver.openExample("hoist-gantry");
    driver.solved();
    driver.window().readings().showPage("modes");
    driver.calm();
    auto* table = driver.window().findChild<QTableWidget*>("modesTable");
    const auto& modes = driver.session().live().solution->modes;
    const auto local = std::count_if(modes.begin(), modes.end(), [](const Mode& mode) { return mode.local; });
    const auto met = std::count_if(modes.begin(), modes.end(), [&](const Mode& mode) {
        return mode.local && driver.session().live().clashes.meets(mode);
    });
    ASSERT_GT(local, met) << "or there is nothing to fold";
    driver.session().showMode(0, 2);
    const int all = table->rowCount();
    driver.press("j", {"Control_L", "Shift_L"});
    driver.until([&] { return table->rowCount() == all - (local - met); }, "the rows to go");
    driver.calm();
    const auto notesOf = [&] {
        const auto items = driver.items();
        return std::count_if(items.begin(), items.end(), [](const auto& item) {
            return item.name.startsWith("note ") && item.name.endsWith(" of now");
        });
    };
    EXPECT_EQ(notesOf(), all - (local - met)) << "and the notes with them";
    // Steps go over them; one that is called up is there.
    const auto folded = std::find_if(modes.begin(), modes.end(), [&](const Mode& mode) {
        return mode.local && !driver.session().live().clashes.meets(mode);
    });
    driver.session().showMode(0, folded->number - 1);
    driver.press("Next");
    EXPECT_NE(driver.session().shownMode(), folded->number);
    driver.session().showMode(0, folded->number);
    driver.until([&] { return table->rowCount() == all - (local - met) + 1; }, "the one in view");
    driver.click(driver.window().findChild<QWidget*>("foldLocal")->mapToGlobal(QPoint(8, 8)));
    driver.until([&] { return table->rowCount() == all; }, "all of them again");

    // A name is written over the program's, is a sentence of the model, and goes back when it is cleared.
    driver.session().showMode(0, 1);
    const QString before = QString::fromStdString(modes[0].name);
    driver.press("F2");
    driver.type("crane twist");
    driver.press("Return");
    driver.until([&] { return table->item(0, 2)->text() == "crane twist"; }, "the name in the table");
    EXPECT_TRUE(driver.valueOf("note 1 of now").contains("crane twist"));
    EXPECT_EQ(driver.session().model().group(Group::ask).back()->text("mode"), before.toStdString());
    EXPECT_FALSE(driver.session().solving()) << "a name is no reason to solve";
    driver.press("F2");
    driver.press("Delete");
    driver.press("Return");
    driver.until([&] { return table->item(0, 2)->text() == before; }, "its own name");
}

TEST(Readings, AModeIsScaledToAStressAndPaintedByIt)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.solved();
    driver.session().showMode(0, 3);
    driver.press("j", {"Control_L"});
    driver.calm();
    driver.click("Find the stresses");
    auto* table = driver.window().findChild<QTableWidget*>("stressTable");
    driver.until([&] { return table->isVisible() && table->rowCount() > 10; }, "the stresses");
    driver.calm();
    const auto now = driver.session().scaledMode();
    ASSERT_TRUE(now && *now);
    EXPECT_NEAR((*now)->displacement, 1e-3, 1e-12) << "a millimetre where nothing is said";
    // What is no stress is refused and stays; a stress scales all.
    auto* value = driver.window().findChild<QLineEdit*>("stressValue");
    const auto state = [&](const QString& text) {
        driver.click(value->mapToGlobal(value->rect().center()));
        driver.press("a", {"Control_L"});
        driver.type(text);
        driver.press("Return");
        driver.calm();
    };
    state("5 kg");
    EXPECT_TRUE(driver.window().findChild<QLabel*>("stressWrong")->isVisible());
    EXPECT_NEAR((*driver.session().scaledMode())->displacement, 1e-3, 1e-12);
    state("3 mm");
    const auto three = driver.session().scaledMode();
    EXPECT_NEAR((*three)->stress, 3.0 * (*now)->stress, 1e-6 * (*now)->stress);
    EXPECT_NEAR((*three)->energy, 9.0 * (*now)->energy, 1e-6 * (*now)->energy);
    const QString words = driver.window().findChild<QLabel*>("stressAnswer")->text();
    EXPECT_TRUE(words.contains("3.00 mm at most") && words.contains("MPa")) << words.toStdString();
    driver.click(cell(table, 0, 1));
    driver.until([&] { return driver.window().findChild<QComboBox*>("colouring")->currentText() == "stress"; },
                 "the colours");
    EXPECT_EQ(driver.session().spotlight().members.size(), 1u);
}

TEST(Readings, EstimatesByHandStandBesideTheModes)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.solved();
    driver.window().readings().showPage("checks");
    driver.calm();
    driver.click("By hand");
    driver.calm();
    driver.click("Estimate by hand");
    auto* table = driver.window().findChild<QTableWidget*>("handTable");
    driver.until([&] { return table->isVisible() && table->rowCount() >= 3; }, "the estimates");
    driver.calm();
    const auto known = driver.session().byHand();
    ASSERT_TRUE(known && *known);
    EXPECT_EQ(table->rowCount(), static_cast<int>((*known)->checks.size()));
    const int last = table->rowCount() - 1;
    driver.click(cell(table, last, 1));
    driver.until([&] { return driver.session().shownMode() == (*known)->checks.back().mode; }, "its mode in view");
    const QString from = driver.window().findChild<QLabel*>("handFrom")->text();
    EXPECT_TRUE(from.contains(QString::fromStdString((*known)->checks.back().by).toHtmlEscaped()))
        << from.toStdString();
    EXPECT_TRUE(driver.window().findChild<QLabel*>("handWords")->text().contains("agree"));
}
