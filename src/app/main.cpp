#include "app/film/film_command.hpp"
#include "app/report/report_command.hpp"
#include "app/session/painted_items.hpp"
#include "app/session/plain_labels.hpp"
#include "app/session/settings.hpp"
#include "app/session/theme.hpp"
#include "app/window/main_window.hpp"

#include <QApplication>
#include <QCommandLineParser>

#include <csignal>

int main(int argc, char** argv)
{
    std::signal(SIGXFSZ, SIG_IGN); // a file that may grow no further is a write that fails, and is said

    QApplication app(argc, argv);
    QApplication::setApplicationName("undisona");
    QApplication::setOrganizationName("undisona");
    QApplication::setApplicationVersion("0.1.0");
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Natural frequencies, mode shapes, and what shakes them.");
    arguments.addHelpOption();
    arguments.addVersionOption();
    arguments.addPositionalArgument("file", "model file to open");
    const auto option = [&](const char* name, const char* what, const char* value = "", const char* usual = "") {
        arguments.addOption({name, what, value, usual});
    };
    option("film", "film modes of the model to a .webm, .mp4 or .gif, or picture one as a .png, without a window",
           "file");
    option("modes", "of the film or the report: 4, or 1-6, 9, or all", "modes", "1");
    option("take", "of the film or the report: a take by name", "name");
    option("size", "of the film, pixels", "size", "1280x720");
    option("seconds", "of each mode", "seconds", "4");
    option("turns", "of the phase in that time", "turns", "4");
    option("from", "side the film is seen from: front, back, left, right, top, corner", "side", "corner");
    option("bare", "without words and axes");
    option("dark", "as the dark window has it");
    option("report", "write what is found of the model to a .html or .pdf, without a window", "file");
    option("without", "of the report: parts to leave out, with commas", "parts");
    arguments.process(app);

    undisona::installPaintedItems();
    undisona::installPlainLabels();
    undisona::Theme::set(undisona::settings().value("dark", undisona::Theme::desktopIsDark()).toBool());
    if (arguments.isSet("film")) {
        undisona::Theme::set(arguments.isSet("dark"));
        return undisona::runFilmCommand({arguments.positionalArguments().value(0), arguments.value("take"),
                                         arguments.value("film"), arguments.value("modes"), arguments.value("size"),
                                         arguments.value("seconds").toDouble(), arguments.value("turns").toDouble(),
                                         arguments.value("from"), !arguments.isSet("bare")});
    }
    if (arguments.isSet("report")) {
        undisona::Theme::set(false);
        return undisona::runReportCommand({arguments.positionalArguments().value(0), arguments.value("take"),
                                           arguments.value("report"),
                                           arguments.isSet("modes") ? arguments.value("modes") : QString(),
                                           arguments.value("without"), arguments.value("from")});
    }
    undisona::MainWindow window;
    window.show();
    if (!arguments.positionalArguments().isEmpty()) window.openFile(arguments.positionalArguments().front());
    window.recover();
    return QApplication::exec();
}
