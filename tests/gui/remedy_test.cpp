#include "app/readings/plot.hpp"
#include "app/readings/reading_table.hpp"
#include "app/readings/readings_view.hpp"
#include "app/scene/scene_view.hpp"
#include "core/base/number_text.hpp"
#include "tests/gui/table_cell.hpp"
#include "tests/gui/window_driver.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

using namespace undisona;

namespace {

/// Modes of a stave that an excitation meets, and drives.
int clashesOn(const Stave& stave)
{
    return static_cast<int>(
        std::count_if(stave.clashes.pairs.begin(), stave.clashes.pairs.end(),
                      [](const ClashPair& pair) { return pair.verdict == Verdict::clash && !pair.weak; }));
}

} // namespace

TEST(Remedy, TheMastsClashIsClearedByTheListAlone)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    ASSERT_GT(clashesOn(driver.session().live()), 0);
    driver.window().readings().showPage("remedy");
    driver.calm();
    driver.click("Find what does it");
    auto* table = driver.window().findChild<ReadingTable*>("remedyTable");
    driver.until([&] { return table->isVisible() && table->rowCount() > 5; }, "the proposals");
    driver.calm();
    // A row shows where the notes would go, before anything is solved.
    driver.click(cell(table, 0, 1));
    ASSERT_TRUE(driver.session().tried());
    const auto proposal = (**driver.session().remedy()).proposals.front();
    EXPECT_EQ(driver.session().tried()->hertz, proposal.promised);
    driver.calm();
    const auto takes = driver.session().document().takes.size();
    driver.click("Solve it as a take");
    driver.until([&] { return driver.session().document().takes.size() == takes + 1; }, "the take");
    EXPECT_TRUE(
        QString::fromStdString(driver.session().document().takes.back().note).startsWith("promised: mode 4 from 15.1"));
    driver.until(
        [&] {
            const Stave& stave = driver.session().staves()[1];
            return stave.solution != nullptr;
        },
        "its modes");
    const Stave& stave = driver.session().staves()[1];
    EXPECT_EQ(stave.name.toStdString(), proposal.change.words);
    EXPECT_EQ(clashesOn(stave), 0);
    // What was promised stands beside what it came to.
    auto* promises = driver.window().findChild<QLabel*>("remedyPromises");
    driver.until([&] { return promises->text().contains("solved"); }, "the promise kept");
    driver.calm();
    double nearest = 1e9;
    for (const auto& mode : stave.solution->modes)
        nearest = std::min(nearest, std::abs(mode.frequency - proposal.after) / proposal.after);
    EXPECT_LT(nearest, 2e-3);
    EXPECT_FALSE(driver.session().tried());
    driver.window().resize(1920, 1080);
    driver.window().readings().showPage("remedy");
    driver.window().scene().paint(Colouring::massSlope);
    driver.calm();
}

TEST(Remedy, OneWordOverARangeDrawsItsLines)
{
    WindowDriver driver;
    driver.openExample("radar-mast");
    driver.window().readings().showPage("remedy");
    driver.calm();
    driver.click("Over a range");
    auto* word = driver.window().findChild<QComboBox*>("sweepWord");
    driver.until([&] { return word->isVisible() && word->count() > 10; }, "the words");
    word->setFocus();
    const int antenna = word->findText("antenna gearbox: the mass", Qt::MatchStartsWith);
    ASSERT_GE(antenna, 0);
    while (word->currentIndex() != antenna)
        driver.press(word->currentIndex() < antenna ? "Down" : "Up");
    auto* to = driver.window().findChild<QLineEdit*>("sweepTo");
    const QPoint place = to->mapToGlobal(to->rect().center());
    driver.click(place);
    driver.press("a", {"Control_L"});
    driver.type("a lot");
    driver.press("Return");
    EXPECT_FALSE(driver.session().sweeping()); // said, and nothing is lost
    EXPECT_EQ(to->text(), "a lot");
    driver.press("a", {"Control_L"});
    driver.type("140 kg");
    driver.click("Sweep it");
    driver.until(
        [&] {
            const auto known = driver.session().sweep();
            return !driver.session().sweeping() && known && *known && (**known).steps.size() == 13;
        },
        "thirteen values");
    const auto found = *driver.session().sweep();
    // Heavier on top is slower.
    EXPECT_LT(found->steps.back().hertz[0], found->steps.front().hertz[0]);
    EXPECT_NEAR(found->steps.back().value, 140.0, 1e-9);
    EXPECT_TRUE(driver.window().findChild<Plot*>("sweepPlot")->isVisible());
    driver.calm();
}

TEST(Remedy, WhatIsNotKnownExactlyIsWrittenInTheSentenceAndSeenOnTheScore)
{
    WindowDriver driver;
    driver.openExample("radar-mast", {{"\"96 kg\"", "\"96 kg 80..120\""}});
    driver.solved();
    const auto mass = [&] { return textOf(driver.session().model().sentence("gearbox")->value("mass")); };
    // Typed as an engineer writes it; what cannot be meant is said and stays to be mended.
    driver.click("word gearbox.mass");
    driver.press("a", {"Control_L"});
    driver.type("85 kg +- 90 lb/m");
    driver.press("Return");
    EXPECT_EQ(mass(), "85 kg");
    driver.press("a", {"Control_L"});
    driver.type("85 kg +- 10 %");
    driver.press("Return");
    driver.until([&] { return mass() == "85 kg +- 10 %"; }, "the word");
    driver.solved();
    driver.window().readings().showPage("remedy");
    driver.calm();
    driver.click("Tolerances");
    auto* words = driver.window().findChild<QLabel*>("toleratedWords");
    driver.until([&] { return words->isVisible() && words->text().contains("85 kg +- 10 %"); }, "the words");
    EXPECT_TRUE(words->text().contains("96 kg 80..120"));
    driver.click("Find the ranges");
    driver.until(
        [&] {
            const auto known = driver.session().tolerances();
            return !driver.session().tolerating() && known && *known && (**known).modes.size() > 3;
        },
        "the ranges");
    driver.calm();
    const auto found = *driver.session().tolerances();
    const auto& first = found->modes[0];
    EXPECT_LT(first.solvedLow, first.hertz);
    EXPECT_GT(first.solvedHigh, first.hertz);
    // In the table, as bars of what causes it, and at the note.
    auto* table = driver.window().findChild<ReadingTable*>("toleranceTable");
    ASSERT_EQ(table->rowCount(), int(found->modes.size()));
    EXPECT_TRUE(table->item(0, 3)->text().startsWith(QString::fromStdString(rounded(first.solvedLow))));
    driver.click(cell(table, 0, 0));
    driver.until([&] { return driver.session().shownMode() == 1; }, "its mode in view");
    const QString bars = driver.window().findChild<QWidget*>("causeBars")->accessibleName();
    EXPECT_TRUE(bars.contains("antenna gearbox") && bars.contains("76.5 kg")) << bars.toStdString();
    const QString note = driver.valueOf("note 1 of now");
    EXPECT_TRUE(note.contains(QString::fromStdString(rounded(first.usualHigh)))) << note.toStdString();
    // And beside the clash that it may be.
    driver.window().readings().showPage("clashes");
    driver.calm();
    auto* why = driver.window().findChild<QLabel*>("clashWhy");
    driver.until([&] { return why->isVisible() && why->text().contains("% likely"); }, "the likelihood");
}
