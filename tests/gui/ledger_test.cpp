#include "app/ledger/ledger_view.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QClipboard>
#include <QLabel>
#include <QListWidget>
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

TEST(Ledger, WhatAnAskLeavesOutIsSaidAndTheTotalsFollow)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    std::string label, id;
    for (const auto& sentence : driver.session().model().activeIn(Group::addedMass))
        if (label.empty() && sentence->has("label")) {
            label = sentence->text("label");
            id = sentence->id;
        }
    ASSERT_FALSE(label.empty());
    const double before = driver.session().mass().mass, first = driver.session().live().solution->modes[0].frequency;
    driver.press("8", {"Control_L"});
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    driver.type("do without");
    driver.press("Return");
    driver.type(QString::fromStdString(label));
    driver.press("Return");
    driver.solved();
    EXPECT_LT(driver.session().mass().mass, before);
    EXPECT_GT(driver.session().live().solution->modes[0].frequency, first);
    driver.window().ledger().showSentence(id);
    driver.calm();
    const auto sentence = driver.item("sentence " + QString::fromStdString(id));
    ASSERT_TRUE(sentence);
    EXPECT_TRUE(sentence->value.contains("left out")) << sentence->value.toStdString();
    driver.press("z", {"Control_L"});
    driver.press("z", {"Control_L"});
    driver.solved();
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

TEST(Ledger, TheChooserShowsSentencesInFamiliesAndThoseUsedLatelyFirst)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const auto open = [&](const char* digit) {
        driver.press(digit, {"Control_L"});
        driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
        driver.calm();
        return QApplication::activeModalWidget()->findChild<QListWidget*>("chooserList");
    };
    const auto linesOf = [](const QListWidget* list) {
        QStringList lines;
        for (int row = 0; row < list->count(); ++row)
            lines << (list->item(row)->flags() & Qt::ItemIsSelectable ? "" : "# ") + list->item(row)->text();
        return lines;
    };
    auto* list = open("4");
    const QStringList before = linesOf(list);
    EXPECT_EQ(before.value(0), "# Supports");
    EXPECT_TRUE(list->currentRow() == 1) << "the first that can be said";
    EXPECT_TRUE(list->item(1)->data(Qt::AccessibleDescriptionRole).toString().startsWith("Hold "))
        << "as it reads, with example words";
    driver.press("Down");
    driver.press("Return"); // springs to ground
    driver.until([] { return !QApplication::activeModalWidget(); }, "the choice");
    driver.press("Escape");
    list = open("4");
    const QStringList after = linesOf(list);
    EXPECT_EQ(after.value(0), "# Lately used");
    EXPECT_EQ(after.value(1), before.value(2));
    EXPECT_EQ(after.value(2), "# Supports");
    driver.press("Down");
    EXPECT_EQ(list->currentRow(), 3) << "keys go over headings";
    for (const char* word : {"clamp", "weld", "bolt", "bearing", "rubber", "spring", "equipment", "insulation"}) {
        driver.press("a", {"Control_L"});
        driver.type(word);
        driver.calm();
        ASSERT_GT(list->count(), 0) << word;
        EXPECT_TRUE(list->item(0)->flags() & Qt::ItemIsSelectable) << "no headings among what is found";
    }
    driver.press("Escape");
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

TEST(Ledger, ALoadIsWrittenAsItStandsInAListOfLoadsAndWindIsRefused)
{
    WindowDriver driver;
    driver.openExample("office-floor");
    const double before = driver.session().mass().mass, first = driver.session().live().solution->modes[0].frequency;
    EXPECT_EQ(driver.session().live().solution->participation.total[0], 0.0) << "its vertical modes alone are asked";
    driver.addSentence("5", "live load"); // found by the trade's words
    const std::string archive = driver.session().selectedSentence();
    auto* line = driver.window().findChild<QLineEdit*>("wordLine");
    auto* hint = driver.window().findChild<QLabel*>("wordHint");
    driver.type("1.5 kN/m2");
    EXPECT_TRUE(hint->text().endsWith("a force per area")) << hint->text().toStdString();
    driver.press("Tab");
    driver.type("Beam");
    EXPECT_TRUE(hint->text().contains("sheets or faces are meant here")) << hint->text().toStdString();
    line->selectAll();
    driver.type("Slab");
    driver.press("Return");
    driver.solved();
    const QString sentence = driver.valueOf(QString::fromStdString("sentence " + archive));
    EXPECT_TRUE(sentence.contains("1.5 kN/m2 of weight on Slab")) << sentence.toStdString();
    const double more = 1500.0 * 54.0 / 9.80665;
    EXPECT_NEAR(driver.session().mass().mass - before, more, 1e-6 * more);
    EXPECT_LT(driver.session().live().solution->modes[0].frequency, 0.93 * first);
    // Wind on the same slab is no mass: the sentence says why, and the totals go without it.
    const Model& model = driver.session().model();
    const Sentence& said = *model.sentence(archive);
    const auto sideways = readValue(*said.kind->field("direction"), "1, 0, 0", NumberStyle::file);
    driver.session().changeModel("wind", model.replaced(said.with("direction", std::get<Value>(sideways))));
    driver.calm();
    EXPECT_TRUE(driver.valueOf(QString::fromStdString("finding " + archive)).contains("sideways is no weight"));
    driver.press("z", {"Control_L"});
    EXPECT_FALSE(driver.item(QString::fromStdString("finding " + archive)));
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

TEST(Ledger, AMaterialOfOnesOwnIsKeptForOtherModels)
{
    {
        WindowDriver driver;
        driver.click("New structure");
        driver.press("2", {"Control_L"});
        driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
        driver.type("material of your own");
        driver.press("Return");
        driver.type("yard bronze");
        driver.press("Tab");
        driver.type("105 GPa");
        driver.press("Return");
        driver.press("k", {"Control_L"});
        driver.type("keep this material");
        driver.press("Return");
        EXPECT_TRUE(driver.window().findChild<QLabel*>("message")->text().contains("yard bronze"));
    }
    WindowDriver other; // a model that has never heard of it
    other.openExample("signal-lamps");
    QString word;
    for (const auto& item : other.items())
        if (item.name.startsWith("word ") && item.name.endsWith(".material")) word = item.name;
    other.click(word);
    auto* hint = other.window().findChild<QLabel*>("wordHint");
    other.type("yard bronze");
    EXPECT_TRUE(hint->text().contains("kept by you")) << hint->text().toStdString();
    other.press("Return");
    other.solved();
    const auto& members = other.session().structure().members;
    EXPECT_TRUE(std::any_of(members.begin(), members.end(), [](const auto& member) {
        return member.material && member.material->name == "yard bronze" && member.material->modulus == 105e9;
    }));
    other.press("z", {"Control_L"});
    EXPECT_FALSE(other.item("sentence yard bronze"));
    const auto said = other.session().model().sentences();
    EXPECT_TRUE(std::none_of(said.begin(), said.end(), [](const auto& one) {
        return one->kind->key == "own-material";
    })) << "one step of undo takes both back";
}

TEST(Ledger, TwoHundredSentencesScrollAndEdit)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    Model model = driver.session().model();
    for (int at = 0; at < 200; ++at)
        model = model.inserted(newSentence(*kindNamed("mass"), "box" + std::to_string(at))
                                   .with("points", std::string("Mast.3.1"))
                                   .with("mass", quantityIn(0.1, QuantityKind::mass, "kg")));
    driver.session().changeModel("many", model);
    driver.solved();
    auto& ledger = driver.window().ledger();
    const QPoint middle = ledger.mapToGlobal(ledger.rect().center());
    EXPECT_FALSE(driver.item("sentence box150"));
    for (int turn = 0; turn < 60 && !driver.item("sentence box150"); ++turn)
        driver.wheel(middle, -12);
    ASSERT_TRUE(driver.item("sentence box150"));
    const double before = driver.session().mass().mass;
    driver.wheel(middle, -1);
    driver.click("word box150.mass");
    driver.type("1.1 kg");
    driver.press("Return");
    EXPECT_NEAR(driver.session().mass().mass, before + 1.0, 1e-9);
    EXPECT_TRUE(driver.item("sentence box150")) << "the place on the page is kept";
    driver.press("Down");
    EXPECT_EQ(driver.session().selectedSentence(), "box151");
}

TEST(Ledger, SentencesAreDraggedDuplicatedAndFolded)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    const auto order = [&] {
        std::string ids;
        for (const auto& sentence : driver.session().model().group(Group::addedMass))
            ids += sentence->id + " ";
        return ids;
    };
    const std::string before = order();
    ASSERT_EQ(before.substr(0, 16), "gearbox antenna ");
    driver.window().ledger().showSentence("cables");
    const auto bounds = [&](const char* id) { return driver.item(QString("sentence ") + id)->bounds; };
    // Held where no word is, behind the end of its last line, and let go above the first one.
    driver.drag(bounds("antenna").bottomRight() - QPoint(24, 6),
                QPoint(bounds("gearbox").right() - 24, bounds("gearbox").top() + 3));
    EXPECT_EQ(order().substr(0, 16), "antenna gearbox ");
    driver.press("z", {"Control_L"});
    EXPECT_EQ(order(), before);
    // By keys: down and up again, then a copy below, which has its own id and the same words.
    driver.window().ledger().setFocus();
    driver.window().ledger().showSentence("gearbox");
    driver.press("Down", {"Alt_L"});
    EXPECT_EQ(order().substr(0, 16), "antenna gearbox ");
    driver.press("Up", {"Alt_L"});
    EXPECT_EQ(order(), before);
    const double mass = driver.session().mass().mass;
    driver.press("d", {"Control_L", "Shift_L"});
    EXPECT_NEAR(driver.session().mass().mass, mass + 85.0, 1e-9);
    const auto& group = driver.session().model().group(Group::addedMass);
    EXPECT_EQ(wordsOf(*group[0]), wordsOf(*group[1]));
    EXPECT_NE(group[0]->id, group[1]->id);
    // A folded group hides its sentences and keeps its sum.
    const QString sum = driver.valueOf("group Added mass");
    driver.click("group Added mass");
    EXPECT_FALSE(driver.item("sentence gearbox"));
    EXPECT_EQ(driver.valueOf("group Added mass"), sum);
    driver.click("group Added mass");
    EXPECT_TRUE(driver.item("sentence gearbox"));
}
