// What is handed over as pages: the dialog, and the command line without a window.
#include "app/report/report_dialog.hpp"
#include "tests/gui/window_driver.hpp"

#include <QCheckBox>
#include <QLineEdit>
#include <QProcess>
#include <QPushButton>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QTextBrowser>
#include <QTextDocument>

#include <set>

#include <nlohmann/json.hpp>

using namespace undisona;

namespace {

QByteArray bytesOf(const QString& path)
{
    QFile file(path);
    EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << path.toStdString();
    return file.readAll();
}

/// Of the command line, as it ends.
int exitCodeOf(QProcess& process, const QStringList& words)
{
    process.start(CLI, words);
    EXPECT_TRUE(process.waitForFinished(180000));
    return process.exitCode();
}

/// The cells of every row of the tables of a page.
QList<QStringList> rowsOf(const QString& html)
{
    QList<QStringList> rows;
    static const QRegularExpression row("<tr>(.*?)</tr>"), cell("<td[^>]*>(.*?)</td>");
    for (auto at = row.globalMatch(html); at.hasNext();) {
        const QString inside = at.next().captured(1);
        QStringList cells;
        for (auto in = cell.globalMatch(inside); in.hasNext();)
            cells << in.next().captured(1);
        rows << cells;
    }
    return rows;
}

} // namespace

TEST(Report, SaysTheSameAsTheJsonEachTimeInOneFile)
{
    QTemporaryDir folder;
    QProcess process;
    const auto run = [&](const QStringList& words) { return exitCodeOf(process, words); };
    const QString model = QString(EXAMPLES) + "/radar-mast.undisona.json", html = folder.filePath("mast.html");
    ASSERT_EQ(run({"report", model, "--to", html, "--modes", "4"}), 0) << process.readAllStandardError().toStdString();
    const QString page = bytesOf(html);
    EXPECT_EQ(page.count("src=\"data:image/png;base64,"), 2) << "the mode and the Score";
    EXPECT_FALSE(page.contains("http")) << "it needs nothing from elsewhere";
    ASSERT_EQ(run({"modes", model, "--format", "json"}), 0);
    const auto json = nlohmann::json::parse(process.readAllStandardOutput().toStdString());
    const auto rows = rowsOf(page);
    std::size_t modes = 0, clashes = 0;
    const auto number = [](QString text) { return text.remove(QChar(0x2009)).remove(' ').toDouble(); };
    for (const auto& row : rows) {
        if (row.size() == 10 && !row[0].isEmpty()) {
            const auto& mode = json["modes"][modes++];
            EXPECT_EQ(row[0].toInt(), mode["number"].get<int>());
            EXPECT_NEAR(number(row[1]), mode["frequency_hz"].get<double>(), 1e-4 * number(row[1]));
            EXPECT_EQ(row[3].toStdString().rfind(mode["name"].get<std::string>(), 0), 0u);
            for (int axis = 0; axis < 6; ++axis)
                EXPECT_NEAR(row[4 + axis] == "·" ? 0.0 : number(row[4 + axis]),
                            100.0 * mode["fraction_of_total"][static_cast<std::size_t>(axis)].get<double>(), 0.0501);
        }
        if (row.size() == 7 && (row[0] == "clash" || row[0] == "close" || row[0] == "clear")) {
            const auto& clash = json["clashes"][clashes++];
            EXPECT_EQ(row[0].toStdString(), clash["verdict"].get<std::string>());
            EXPECT_EQ(row[3].toInt(), clash["mode"].get<int>());
            EXPECT_NEAR(row[5].chopped(2).toDouble(), clash["separation_percent"].get<double>(), 0.0501);
        }
    }
    EXPECT_EQ(modes, json["modes"].size());
    EXPECT_EQ(clashes, json["clashes"].size());
    EXPECT_TRUE(page.contains("antenna gearbox")) << "the model's own sentences";
    ASSERT_EQ(run({"report", model, "--to", folder.filePath("again.html"), "--modes", "4"}), 0);
    EXPECT_EQ(bytesOf(folder.filePath("again.html")), page.toUtf8()) << "nothing in it depends on when";

    ASSERT_EQ(run({"report", model, "--to", folder.filePath("mast.pdf"), "--without", "shapes, clashes"}), 0);
    EXPECT_TRUE(bytesOf(folder.filePath("mast.pdf")).startsWith("%PDF"));
    EXPECT_EQ(run({"report", model, "--to", folder.filePath("mast.doc")}), 1);
    EXPECT_EQ(run({"report", model, "--to", html, "--without", "poetry"}), 1);
    EXPECT_TRUE(process.readAllStandardError().contains("no part called \"poetry\""));
    EXPECT_EQ(run({"report", model, "--to", html, "--modes", "99"}), 1);
    EXPECT_EQ(bytesOf(html), page.toUtf8()) << "what was there stays";
}

TEST(Report, TellsWhatEachStaticStateCarriesAndWhatBearsInIt)
{
    QTemporaryDir folder;
    QProcess process;
    const auto run = [&](const QStringList& words) { return exitCodeOf(process, words); };
    const QString model = QString(EXAMPLES) + "/hung-line.undisona.json", html = folder.filePath("line.html");
    ASSERT_EQ(run({"report", model, "--to", html, "--without", "shapes, mass, takes"}), 0)
        << process.readAllStandardError().toStdString();
    const QString page = bytesOf(html);
    EXPECT_TRUE(page.contains("State cold, which the modes below are about"));
    EXPECT_TRUE(page.contains("Line.4 is open by")) << "hot it lets go";
    ASSERT_EQ(run({"rest", model, "--format", "json"}), 0);
    const auto json = nlohmann::json::parse(process.readAllStandardOutput().toStdString());
    // All that is carried in both states, as it stands in the tables.
    double written = 0.0, found = 0.0;
    std::set<QString> carriers;
    for (const auto& state : json["states"])
        for (const auto& load : state["carried"]) {
            found += load["force"][2].get<double>();
            carriers.insert(QString::fromStdString(load["point"].get<std::string>()));
        }
    for (const auto& row : rowsOf(page))
        if (row.size() == 7 && carriers.contains(row[0])) written += QString(row[3]).remove(QChar(0x2009)).toDouble();
    EXPECT_GT(found, 3000.0);
    EXPECT_NEAR(written / found, 1.0, 2e-3);
    // What floats has no place of rest; that is said, and its modes are reported all the same.
    auto floating = nlohmann::json::parse(bytesOf(model).toStdString());
    floating["model"]["supports"] = nlohmann::json::array();
    floating["model"]["ask"] = {{{"id", "ask"}, {"kind", "lowest"}, {"count", 2}}};
    QFile file(folder.filePath("floats.undisona.json"));
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write(QByteArray::fromStdString(floating.dump()));
    file.close();
    EXPECT_EQ(run({"report", file.fileName(), "--to", html, "--without", "shapes"}), 0);
    EXPECT_TRUE(process.readAllStandardError().contains("has no place of rest"));
    const QString floats = bytesOf(html);
    EXPECT_TRUE(floats.contains("Verdict") && !floats.contains("At rest under its loads"));
}

TEST(Report, IsSeenBeforeItIsWritten)
{
    WindowDriver driver;
    driver.openExample("hoist-gantry");
    driver.solved();
    driver.press("r", {"Control_L"});
    driver.until([&] { return driver.window().findChild<ReportDialog*>() != nullptr; }, "the dialog");
    auto* dialog = driver.window().findChild<ReportDialog*>();
    auto* preview = dialog->findChild<QTextBrowser*>("reportPreview");
    const auto words = [&] { return preview->document()->toPlainText(); };
    const auto button = [&](const char* text) {
        for (auto* one : dialog->findChildren<QPushButton*>())
            if (one->text().startsWith(text)) return one;
        return static_cast<QPushButton*>(nullptr);
    };
    driver.until([&] { return button("Write as PDF")->isEnabled(); }, "the pictures");
    EXPECT_TRUE(words().contains("Verdict") && words().contains("Hoist motor"));
    EXPECT_TRUE(words().contains("\nwhere from\n"));
    driver.calm();
    driver.click("where every kilogram comes from");
    EXPECT_FALSE(dialog->findChild<QCheckBox*>("report-mass")->isChecked());
    driver.until([&] { return !words().contains("\nwhere from\n"); }, "the part to go");
    // A mode that there is not is refused in words, and nothing can be written.
    auto* modes = dialog->findChild<QLineEdit*>("reportModes");
    driver.click(modes->mapToGlobal(modes->rect().center()));
    driver.type("99");
    driver.until([&] { return !button("Write as PDF")->isEnabled(); }, "the refusal");
    driver.press("a", {"Control_L"});
    driver.type("2");
    driver.until([&] { return button("Write as PDF")->isEnabled() && words().contains("Mode 2, "); }, "the mode");
    EXPECT_FALSE(words().contains("Mode 1, "));
    QTemporaryDir folder;
    dialog->write(folder.filePath("gantry.html"));
    EXPECT_TRUE(bytesOf(folder.filePath("gantry.html")).contains("Mode 2, "));
    dialog->write(folder.filePath("gantry.pdf"));
    EXPECT_TRUE(bytesOf(folder.filePath("gantry.pdf")).startsWith("%PDF"));
}
