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
    arguments.process(app);

    undisona::installPaintedItems();
    undisona::installPlainLabels();
    undisona::Theme::set(undisona::settings().value("dark", undisona::Theme::desktopIsDark()).toBool());
    undisona::MainWindow window;
    window.show();
    if (!arguments.positionalArguments().isEmpty()) window.openFile(arguments.positionalArguments().front());
    window.recover();
    return QApplication::exec();
}
