// A model of several files in the window.
#include "tests/gui/window_driver.hpp"

#include <QDir>
#include <QFile>
#include <QListWidget>
#include <QTemporaryDir>

#include <csignal>

using namespace undisona;

namespace {

/// The pontoon with its two files in a folder of their own, opened.
void openPontoon(WindowDriver& driver, const QTemporaryDir& folder)
{
    for (const char* name : {"landing-pontoon", "pontoon-float", "pontoon-gangway"})
        ASSERT_TRUE(QFile::copy(QString(EXAMPLES) + "/" + name + ".undisona.json",
                                folder.filePath(QString(name) + ".undisona.json")));
    ASSERT_TRUE(driver.window().openFile(folder.filePath("landing-pontoon.undisona.json")));
    driver.solved();
}

/// As an editor does it: a new file in the place of the old one.
void rewrite(const QString& path, const QByteArray& said, const QByteArray& other)
{
    QFile file(path);
    ASSERT_TRUE(file.open(QIODevice::ReadOnly));
    QByteArray text = file.readAll();
    file.close();
    ASSERT_TRUE(text.contains(said)) << said.toStdString();
    ASSERT_TRUE(QFile::remove(path));
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write(text.replace(said, other));
}

/// The process that has the file as an argument, besides this one; 0 for none.
pid_t opener(const QString& path)
{
    for (const auto& entry : QDir("/proc").entryList(QDir::Dirs))
        if (const pid_t id = entry.toInt(); id > 0 && id != getpid()) {
            QFile line("/proc/" + entry + "/cmdline");
            if (line.open(QIODevice::ReadOnly) && line.readAll().split('\0').contains(path.toUtf8())) return id;
        }
    return 0;
}

} // namespace

TEST(AssemblyWindow, WhatAFileOfItChangesIsSolvedAnewAndItOpensByItself)
{
    const QTemporaryDir folder;
    WindowDriver driver;
    openPontoon(driver, folder);
    const auto first = [&] { return driver.session().live().solution->modes.front().frequency; };
    const double before = first();
    // Lighter decking in the float's own file: both copies float higher in frequency.
    rewrite(folder.filePath("pontoon-float.undisona.json"), "\"40 kg/m2\"", "\"0 kg/m2\"");
    driver.until(
        [&] { return !driver.session().solving() && !driver.session().live().stale && first() > 1.005 * before; },
        "the modes of the changed file");
    // A file that is gone is said, and noticed when it is back.
    const QString gangway = folder.filePath("pontoon-gangway.undisona.json");
    ASSERT_TRUE(QFile::rename(gangway, gangway + ".away"));
    const auto said = [&](const char* words) {
        const auto findings = driver.session().findings();
        return std::any_of(findings.begin(), findings.end(),
                           [&](const Finding& finding) { return finding.what.find(words) != std::string::npos; });
    };
    driver.until([&] { return said("there is no file pontoon-gangway.undisona.json"); }, "the missing file");
    ASSERT_TRUE(QFile::rename(gangway + ".away", gangway));
    driver.until([&] { return !hasError(driver.session().findings()); }, "the file to be back");
    driver.solved();
    // By sub-assembly: the book has a row for each that places one.
    driver.click("Mass");
    EXPECT_TRUE(driver.window().findChild<QWidget*>("massTable"));
    // It opens in a window of its own from its sentence.
    const std::string floats = driver.session().model().group(Group::shape)[0]->id;
    driver.session().selectSentence(floats);
    driver.calm();
    driver.click(QString::fromStdString("detail " + floats));
    driver.press("Up");
    driver.press("Return");
    const QString own = folder.filePath("pontoon-float.undisona.json");
    driver.until([&] { return opener(own) > 0; }, "the other window");
    EXPECT_EQ(kill(opener(own), SIGKILL), 0);
}

TEST(AssemblyWindow, ASubAssemblyIsPlacedByTheNameOfAFileBesideTheModel)
{
    const QTemporaryDir folder;
    WindowDriver driver;
    openPontoon(driver, folder);
    driver.addSentence("1", "sub-assembly from another file");
    const std::string added = driver.session().selectedSentence();
    driver.type("Spare");
    driver.press("Tab");
    EXPECT_EQ(driver.window().ledger().findChild<QListWidget*>("wordChoices")->count(), 2)
        << "the two files that lie beside it";
    driver.type("pontoon-gangway.undisona.json");
    driver.press("Tab");
    driver.type("20, 0, 0 m");
    driver.press("Return");
    driver.until([&] { return driver.session().structure().frame.groups.contains("Spare"); }, "the second gangway");
    EXPECT_EQ(driver.session().model().sentence(added)->text("file"),
              folder.filePath("pontoon-gangway.undisona.json").toStdString());
    EXPECT_EQ(driver.session().structure().frame.groups.at("Spare").members.size(),
              driver.session().structure().frame.groups.at("Gangway").members.size());
    EXPECT_FALSE(hasError(driver.session().findings()));
}
