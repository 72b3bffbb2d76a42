// The main journey: a two-storey frame from nothing, by clicks and keys alone.
#include "app/ledger/ledger_view.hpp"
#include "core/base/number_text.hpp"
#include "tests/gui/window_driver.hpp"
#include "tests/said_model.hpp"

#include <QApplication>

using namespace undisona;

namespace {

/// Adds a sentence by the group's key, typing a word of its title.
/// The sentence whose words hold the text, as the screen shows it.
QString sentenceWith(WindowDriver& driver, const QString& text)
{
    for (const auto& item : driver.items())
        if (item.name.startsWith("sentence ") && item.value.contains(text)) return item.name.mid(9);
    ADD_FAILURE() << "no sentence shows " << text.toStdString();
    return {};
}

} // namespace

TEST(Journey, AFrameFromNothingIsSolvedMovedClashedAndUndone)
{
    WindowDriver driver;
    driver.click("New structure");
    ASSERT_TRUE(driver.session().isOpen());
    driver.press("F1"); // the page of keys opens and closes
    driver.until([] { return QApplication::activeModalWidget() != nullptr; }, "the page of keys");
    driver.press("Escape");
    const std::size_t before = driver.session().model().sentences().size();

    // Shape: a frame of bays and storeys; Tab from word to word, typing replaces.
    driver.addSentence("1", "bays and storeys");
    driver.type("House");
    driver.press("Tab"); // bays-x
    driver.type("1");
    driver.press("Tab"); // bay-x
    driver.type("5 m");
    driver.press("Tab"); // bays-y
    driver.press("Tab"); // bay-y
    driver.type("4000 mm");
    driver.press("Return");
    const QString shown = driver.valueOf("sentence " + sentenceWith(driver, "House"));
    EXPECT_TRUE(shown.contains("1 bays of 5 m by 1 bays of 4000 mm, 2 storeys of 3 m")) << shown.toStdString();

    driver.addSentence("4", "held points");
    driver.type("4 feet of House");
    driver.press("Tab");
    driver.type("all");
    driver.press("Return");
    driver.solved();

    // The first frequency on the screen is the core's.
    SaidModel same;
    same.say("frame", {{"name", "House"}, {"bay-x", "5 m"}, {"bay-y", "4 m"}, {"bays-x", "1"}, {"bays-y", "1"}})
        .say("material")
        .say("hold", {{"where", "feet of House"}, {"directions", "all"}})
        .say("lowest", {{"count", "12"}});
    const double first = same.frequencies()[0];
    const QString note = driver.valueOf("note 1 of now");
    EXPECT_TRUE(note.contains(QString::fromStdString(rounded(first, 4)) + " Hz"))
        << note.toStdString() << " is not " << first;

    // Mass: a weight is refused, named as the mass it is, and taken by a second Enter.
    driver.addSentence("5", "a mass at points");
    driver.type("8 kN");
    driver.press("Return");
    driver.press("Return");
    driver.press("Return");
    const QString mass = sentenceWith(driver, "815.77");
    ASSERT_FALSE(mass.isEmpty());
    driver.click("word " + mass + ".points");
    driver.type("House.0.0.2");
    driver.press("Return");
    driver.solved();
    const QPoint heavy = driver.item("note 1 of now")->bounds.center();

    // Editing the mass in its sentence moves the note.
    driver.click("word " + mass + ".mass");
    driver.type("3 t");
    driver.press("Return");
    driver.solved();
    const QPoint heavier = driver.item("note 1 of now")->bounds.center();
    EXPECT_LT(heavier.x(), heavy.x());
    EXPECT_TRUE(driver.valueOf("sentence " + mass).startsWith("3 t on House.0.0.2"));

    // An excitation, its band dragged into the note: a clash.
    driver.addSentence("7", "a fixed frequency");
    driver.press("Escape");
    driver.calm();
    const auto band = driver.item("band Device");
    ASSERT_TRUE(band) << "the band is on the screen";
    const QPoint from(band->bounds.center().x(), band->bounds.top() + 12);
    driver.drag(from, QPoint(driver.item("note 1 of now")->bounds.center().x(), from.y()));
    EXPECT_TRUE(driver.valueOf("note 1 of now").contains("clash"))
        << driver.valueOf("note 1 of now").toStdString() << " / " << driver.valueOf("band Device").toStdString();

    // All of it undone, step by step.
    int steps = 0;
    while (!driver.session().undoWords().isEmpty() && steps++ < 60)
        driver.press("z", {"Control_L"});
    EXPECT_EQ(driver.session().model().sentences().size(), before);
    EXPECT_FALSE(driver.item("note 1 of now"));
    EXPECT_FALSE(driver.session().unsaved());
    driver.press("z", {"Control_L", "Shift_L"});
    EXPECT_EQ(driver.session().model().sentences().size(), before + 1) << "and redone";
}
