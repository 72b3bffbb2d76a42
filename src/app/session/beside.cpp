#include "app/session/beside.hpp"

#include "core/shapes/kernel_stop.hpp"

#include <QApplication>
#include <QEventLoop>
#include <QProgressDialog>
#include <QTimer>

#include <future>
#include <thread>

namespace undisona {

bool doneBeside(const QString& words, const std::function<void(const Progress&)>& work)
{
    using namespace std::chrono_literals;
    Progress progress;
    auto working = std::async(std::launch::async, [&] {
        const StopScope scope(&progress);
        try {
            work(progress);
        } catch (const BuildingStopped&) { // which the progress knows
        }
    });
    if (working.wait_for(120ms) != std::future_status::ready) {
        QProgressDialog dialog(words, QObject::tr("Stop"), 0, 0, QApplication::activeWindow());
        dialog.setObjectName("longWork");
        dialog.setWindowTitle(QObject::tr("One moment"));
        dialog.setWindowModality(Qt::ApplicationModal);
        dialog.setMinimumDuration(300);
        dialog.setValue(0);
        QEventLoop waiting;
        QTimer look;
        QObject::connect(&dialog, &QProgressDialog::canceled, &waiting, [&] {
            progress.stop();
            dialog.setCancelButton(nullptr);
            dialog.setLabelText(QObject::tr("Stopping …"));
            dialog.show(); // until the work has let go
        });
        QObject::connect(&look, &QTimer::timeout, &waiting, [&] {
            if (working.wait_for(0ms) == std::future_status::ready) waiting.quit();
        });
        look.start(15);
        waiting.exec();
    }
    working.get();
    return !progress.stopped();
}

} // namespace undisona
