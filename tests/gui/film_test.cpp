// Films of modes in motion: from the window, from the command line, and what keeps one from being made.
#include "app/film/film_dialog.hpp"
#include "app/scene/scene_view.hpp"
#include "tests/gui/window_driver.hpp"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QProcess>
#include <QTemporaryDir>

using namespace undisona;

namespace {

QByteArray outputOf(const QString& program, const QStringList& arguments)
{
    QProcess process;
    process.start(program, arguments);
    EXPECT_TRUE(process.waitForFinished(60000)) << program.toStdString();
    return process.readAllStandardOutput();
}

/// "320,180,10": width, height, and the pictures that are in it.
QString readBack(const QString& path)
{
    return QString::fromUtf8(
               outputOf("ffprobe", {"-v", "error", "-count_frames", "-select_streams", "v:0", "-show_entries",
                                    "stream=width,height,nb_read_frames", "-of", "csv=p=0", path}))
        .trimmed();
}

/// The pictures of a film.
std::vector<QImage> picturesOf(const QString& path, QSize size)
{
    const QByteArray bytes = outputOf("ffmpeg", {"-v", "error", "-i", path, "-f", "rawvideo", "-pix_fmt", "bgr0", "-"});
    std::vector<QImage> pictures;
    const qsizetype each = 4 * size.width() * size.height();
    for (qsizetype at = 0; at + each <= bytes.size(); at += each)
        pictures.push_back(QImage(reinterpret_cast<const uchar*>(bytes.constData() + at), size.width(), size.height(),
                                  QImage::Format_RGB32)
                               .copy());
    return pictures;
}

/// The share of pixels that differ clearly.
double differing(const QImage& one, const QImage& other)
{
    int count = 0;
    for (int y = 0; y < one.height(); ++y)
        for (int x = 0; x < one.width(); ++x)
            count += std::abs(qGray(one.pixel(x, y)) - qGray(other.pixel(x, y))) > 24;
    return double(count) / (one.width() * one.height());
}

} // namespace

TEST(Film, OrdersSayWhatIsWrongWithThem)
{
    EXPECT_EQ(std::get<std::vector<int>>(modesNamed(" 2-4, 9", 9)), (std::vector<int>{2, 3, 4, 9}));
    EXPECT_EQ(std::get<std::vector<int>>(modesNamed("all", 3)), (std::vector<int>{1, 2, 3}));
    for (const char* wrong : {"", "0", "4-2", "10", "first", "1,,2", "99999999999"})
        EXPECT_TRUE(std::holds_alternative<QString>(modesNamed(wrong, 9))) << wrong;
    FilmOrder order{"a.webm", {1}};
    EXPECT_EQ(problemOf(order), "");
    EXPECT_EQ(order.frames(), 100);
    EXPECT_EQ(order.phaseAt(0), 0.0);
    EXPECT_NEAR(order.phaseAt(30), 0.2, 1e-12);
    const auto problem = [&](auto change) {
        FilmOrder other = order;
        change(other);
        return problemOf(other);
    };
    EXPECT_TRUE(problem([](auto& o) { o.path = "a.avi"; }).contains("none of them"));
    EXPECT_TRUE(problem([](auto& o) { o.modes.clear(); }).contains("no mode"));
    EXPECT_TRUE(problem([](auto& o) { o.size = {321, 180}; }).contains("even numbers"));
    EXPECT_TRUE(problem([](auto& o) { o.seconds = 0.0; }).contains("seconds"));
    EXPECT_TRUE(problem([](auto& o) { o.turns = 400.0; }).contains("times a second"));
    EXPECT_TRUE(problem([](auto& o) { o.path = "a.gif", o.seconds = 60.0; }).contains("Take .webm"));
}

TEST(Film, OfTwoModesHasItsSizeAndPicturesAndMoves)
{
    WindowDriver driver;
    driver.openExample("signal-lamps");
    driver.window().session().showMode(0, 3);
    driver.press("m", {"Control_L", "Shift_L"});
    FilmDialog* dialog = nullptr;
    driver.until([&] { return (dialog = driver.window().findChild<FilmDialog*>("filmDialog")) != nullptr; },
                 "the dialog");
    EXPECT_EQ(dialog->findChild<QLineEdit*>("filmModes")->text(), "3") << "the mode that is shown";
    QTemporaryDir folder;
    const auto made = [&](const QString& path) {
        dialog->film(path);
        auto* words = dialog->findChild<QLabel*>("filmWords");
        driver.until([&] { return !words->text().contains("Filming"); }, "the film");
        return words->text();
    };
    EXPECT_TRUE(made(folder.filePath("film.avi")).contains("none of them"));
    EXPECT_TRUE(made(folder.filePath("nowhere/film.webm")).contains("cannot be written"));
    const QByteArray programs = qgetenv("PATH");
    qputenv("PATH", "/nowhere");
    EXPECT_TRUE(made(folder.filePath("film.webm")).contains("apt install ffmpeg"));
    qputenv("PATH", programs);
    dialog->findChild<QLineEdit*>("filmModes")->setText("7-8");
    dialog->findChild<QComboBox*>("filmSize")->setEditText("320 x 180");
    dialog->findChild<QDoubleSpinBox*>("filmSeconds")->setValue(0.4);
    dialog->findChild<QDoubleSpinBox*>("filmTurns")->setValue(1.0);
    const QString path = folder.filePath("film.mp4");
    EXPECT_TRUE(made(path).contains("film.mp4 is there")) << made(path).toStdString();
    EXPECT_EQ(driver.session().shownMode(), 3) << "as before";
    EXPECT_EQ(readBack(path), "320,180,20");
    const auto pictures = picturesOf(path, {320, 180});
    ASSERT_EQ(pictures.size(), 20u);
    EXPECT_LT(differing(pictures[0], pictures[5]), 0.02) << "a half turn on it passes its place of rest again";
    EXPECT_GT(differing(pictures[0], pictures[2]), 0.01) << "it moves";
    EXPECT_GT(differing(pictures[2], pictures[12]), 0.01) << "and the second mode otherwise";
    EXPECT_EQ(QDir(folder.path()).entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot),
              QStringList{"film.mp4"});
}

TEST(Film, IsMadeFromTheCommandLineAndSaysWhatItCannot)
{
    QTemporaryDir folder;
    QProcess process;
    const auto run = [&](const QStringList& more) {
        process.start(CLI, QStringList{"film", QString(EXAMPLES) + "/hoist-gantry.undisona.json"} + more);
        EXPECT_TRUE(process.waitForFinished(120000));
        return process.exitCode();
    };
    const QString film = folder.filePath("gantry.gif"), picture = folder.filePath("gantry.png");
    EXPECT_EQ(run({"--to", film, "--mode", "1,2", "--size", "240x160", "--seconds", "0.4", "--turns", "1"}), 0)
        << process.readAllStandardError().toStdString();
    EXPECT_EQ(readBack(film), "240,160,20");
    EXPECT_EQ(run({"--to", picture, "--mode", "2", "--size", "301x201", "--from", "front"}), 0);
    EXPECT_EQ(QImage(picture).size(), QSize(301, 201));
    EXPECT_EQ(run({"--to", film, "--mode", "99"}), 1);
    EXPECT_TRUE(process.readAllStandardError().contains("99 is not among them"));
}
