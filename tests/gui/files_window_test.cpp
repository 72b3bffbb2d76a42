// Nothing that a person has made is lost: by a crash, by another window, by another program's change of the file.
#include "app/session/autosave.hpp"
#include "core/studies/results_file.hpp"
#include "app/window/main_window.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QFile>
#include <QLabel>
#include <QListWidget>
#include <QMessageBox>
#include <QTemporaryDir>
#include <QTimer>

namespace undisona {
namespace {

void makeLighter(WindowDriver& driver, double kilograms)
{
    const auto lamps = driver.session().model().sentence("lamps");
    driver.session().replaceSentence("lighter", lamps->with("mass", quantityIn(kilograms, QuantityKind::mass, "kg")));
}

/// What a window that ended without a word leaves behind.
Document crashedWith(double kilograms)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    makeLighter(driver, kilograms);
    driver.session().autosave();
    const Document kept = driver.session().document();
    driver.crash();
    return kept;
}

QDialog* question(WindowDriver& driver, const char* name)
{
    driver.until(
        [&] { return QApplication::activeModalWidget() && QApplication::activeModalWidget()->objectName() == name; },
        name);
    driver.calm(); // which gives it the keys, as a window manager does
    return qobject_cast<QDialog*>(QApplication::activeModalWidget());
}

/// Answers the next box of this name with the button of these words, from within its own loop; gives what it said.
std::shared_ptr<QString> answerLater(WindowDriver& driver, const char* name, const QString& button)
{
    const auto said = std::make_shared<QString>();
    auto* timer = new QTimer(&driver.window());
    QObject::connect(timer, &QTimer::timeout, timer, [=, &driver] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        if (!box || box->objectName() != name || !box->isVisible()) return;
        timer->stop();
        *said = box->text() + "\n" + box->informativeText();
        driver.click(button);
    });
    timer->start(50);
    return said;
}

} // namespace

TEST(Files, UnsavedWorkIsAskedAboutAndSurvivesACrash)
{
    {
        WindowDriver driver;
        driver.openExample("signal-lamps");
        makeLighter(driver, 5);
        driver.window().close();
        question(driver, "unsavedQuestion");
        driver.press("Escape");
        EXPECT_TRUE(driver.window().isVisible()) << "Cancel keeps the window";
        EXPECT_TRUE(driver.session().unsaved());
    }
    const Document kept = crashedWith(5);
    {
        WindowDriver driver;
        driver.window().recover();
        question(driver, "recoverQuestion");
        driver.press("Escape");
        driver.until([] { return !QApplication::activeModalWidget(); }, "the question to go");
        EXPECT_EQ(Autosave::leftBehind().size(), 1u) << "Esc answers nothing, so that nothing is deleted";
        driver.window().recover();
        question(driver, "recoverQuestion");
        driver.click("Bring back");
        driver.until([&] { return driver.session().isOpen(); }, "the work brought back");
        EXPECT_EQ(driver.session().document(), kept);
        EXPECT_TRUE(driver.session().unsaved()) << "brought back, but in no file yet";
        EXPECT_TRUE(Autosave::leftBehind().empty()) << "this window has it now, and lives";
        driver.window().close();
        question(driver, "unsavedQuestion");
        driver.click("Discard");
        driver.until([&] { return !driver.window().isVisible(); }, "the window to close");
    }
    WindowDriver driver;
    driver.window().recover();
    EXPECT_EQ(QApplication::activeModalWidget(), nullptr) << "what was discarded is not offered again";
}

TEST(Files, TwoWindowsKeepTheirWorkApart)
{
    const Document first = crashedWith(5), second = crashedWith(6);
    {
        WindowDriver clean; // which closes with nothing unsaved
        clean.openExample("signal-lamps");
        clean.session().autosave();
    }
    {
        WindowDriver living;
        living.openExample("signal-lamps");
        makeLighter(living, 7);
        living.session().autosave();
        const auto left = Autosave::leftBehind();
        ASSERT_EQ(left.size(), 2u) << "both crashed ones are there, the living one's is its own";
        EXPECT_TRUE(*left[0].document == second || *left[1].document == second);
    }
    WindowDriver driver;
    driver.window().recover();
    auto* dialog = question(driver, "recoverQuestion");
    auto* list = dialog->findChild<QListWidget*>("leftBehind");
    ASSERT_EQ(list->count(), 2);
    const auto answered = answerLater(driver, "deleteQuestion", "Delete for good");
    driver.click(QString::fromUtf8("Delete \u2026"));
    driver.until([&] { return list->count() == 1; }, "one to be deleted");
    EXPECT_TRUE(answered->contains("for good"));
    driver.click("Bring back");
    driver.until([&] { return driver.session().isOpen(); }, "the other");
    EXPECT_TRUE(driver.session().document() == first || driver.session().document() == second);
    driver.session().discardChanges();
}

TEST(Files, WhatCannotBeReadIsKeptAndSaid)
{
    crashedWith(5);
    QString file;
    {
        const auto left = Autosave::leftBehind();
        ASSERT_EQ(left.size(), 1u);
        file = left[0].file;
    }
    {
        QFile broken(file);
        ASSERT_TRUE(broken.open(QIODevice::WriteOnly));
        broken.write("{ cut short");
    }
    WindowDriver driver;
    driver.window().recover();
    auto* list = question(driver, "recoverQuestion")->findChild<QListWidget*>("leftBehind");
    EXPECT_TRUE(list->item(0)->text().contains("cannot be read")) << list->item(0)->text().toStdString();
    driver.press("Escape");
    driver.until([] { return !QApplication::activeModalWidget(); }, "the question to go");
    EXPECT_TRUE(QFile::exists(file));
    const auto left = Autosave::leftBehind();
    ASSERT_EQ(left.size(), 1u);
    Autosave::remove(left[0]);
}

// Names are shown as they were typed: no markup, no pictures from the disk.
TEST(Files, ANameIsNoMarkup)
{
    const char* const name = "<b>BOLD</b> <img src=\"shot.png\">";
    WindowDriver driver;
    driver.openExample("signal-lamps");
    Document document = driver.session().document();
    document.name = name;
    driver.session().change("rename", document);
    makeLighter(driver, 5);
    driver.solved();
    for (const auto* label : driver.window().findChildren<QLabel*>())
        if (label->isVisible() && label->text().contains("<img")) {
            EXPECT_EQ(label->textFormat(), Qt::PlainText);
        }
    driver.window().close();
    auto* box = qobject_cast<QMessageBox*>(question(driver, "unsavedQuestion"));
    EXPECT_TRUE(box->text().contains("<img"));
    EXPECT_EQ(box->textFormat(), Qt::PlainText);
    for (const auto* label : box->findChildren<QLabel*>())
        if (label->text().contains("<img")) {
            EXPECT_EQ(label->textFormat(), Qt::PlainText);
        }
    driver.press("Escape");
}

TEST(Files, SavingOverAChangedOrProtectedFileAsksFirst)
{
    QTemporaryDir folder;
    const QString path = folder.filePath("lamps.undisona.json");
    WindowDriver driver;
    driver.openExample("signal-lamps");
    ASSERT_FALSE(driver.session().save(path));
    Document outside = driver.session().document();
    outside.model =
        outside.model.replaced(outside.model.sentence("lamps")->with("mass", quantityIn(44, QuantityKind::mass, "kg")));
    ASSERT_FALSE(writeDocumentFile(outside, path.toStdString()));
    makeLighter(driver, 5);
    auto said = answerLater(driver, "changedOutside", "Cancel");
    driver.press("s", {"Control_L"});
    driver.until([&] { return !said->isEmpty(); }, "the question");
    EXPECT_TRUE(said->contains("44 kg") && said->contains("5 kg")) << said->toStdString();
    EXPECT_EQ(*readDocumentFile(path.toStdString()), outside) << "nothing is written before the answer";
    said = answerLater(driver, "changedOutside", "Save over it");
    driver.press("s", {"Control_L"});
    driver.until([&] { return !driver.session().unsaved(); }, "the save");
    EXPECT_EQ(readDocumentFile(path.toStdString())->model, driver.session().model());

    makeLighter(driver, 6);
    ASSERT_TRUE(QFile::setPermissions(path, QFile::ReadOwner | QFile::ReadGroup));
    said = answerLater(driver, "protectedFile", "Save over it");
    driver.press("s", {"Control_L"});
    driver.until([&] { return !driver.session().unsaved(); }, "the save over the protection");
    EXPECT_FALSE(QFile::permissions(path) & QFile::WriteOwner) << "its mode stays";
    EXPECT_EQ(readDocumentFile(path.toStdString())->model, driver.session().model());
}

TEST(Files, ResultsKeptBesideTheModelAreShownWithoutSolving)
{
    QTemporaryDir folder;
    const QString path = folder.filePath("lamps.undisona.json"), results = folder.filePath("lamps.results.h5");
    const auto says = [](WindowDriver& driver, const char* words) {
        const auto findings = driver.session().findings();
        return std::any_of(findings.begin(), findings.end(),
                           [&](const Finding& one) { return one.what.find(words) != std::string::npos; });
    };
    double lowest = 0.0;
    {
        WindowDriver driver;
        driver.openExample("signal-lamps");
        ASSERT_FALSE(driver.session().save(path));
        driver.press("k", {"Control_L", "Shift_L"});
        driver.until([&] { return QFile::exists(results); }, "the results file");
        makeLighter(driver, 5);
        driver.solved();
        driver.press("s", {"Control_L"});
        const auto followed = [&] {
            const auto kept = keptModes(results.toStdString(), driver.session().model());
            return kept && *kept;
        };
        driver.until(followed, "the results to follow what is saved");
        lowest = driver.session().live().solution->modes[0].frequency;
    }
    {
        WindowDriver driver;
        ASSERT_TRUE(driver.session().open(path).empty());
        driver.solved();
        EXPECT_EQ(driver.session().live().solution->modes[0].frequency, lowest) << "to the last bit";
        EXPECT_TRUE(says(driver, "kept in lamps.results.h5: nothing was solved"));
        makeLighter(driver, 6);
        driver.solved();
        EXPECT_FALSE(says(driver, "nothing was solved")) << "of another model nothing is kept";
        driver.session().discardChanges();
    }
    QFile broken(results);
    ASSERT_TRUE(broken.open(QIODevice::ReadWrite) && broken.resize(broken.size() / 3));
    broken.close();
    WindowDriver driver;
    ASSERT_TRUE(driver.session().open(path).empty());
    driver.until([&] { return says(driver, "the results file cannot be read"); }, "what is wrong with it");
    driver.solved();
    EXPECT_EQ(driver.session().live().solution->modes[0].frequency, lowest) << "it is solved all the same";
}

} // namespace undisona
