#include "app/window/shape_import.hpp"

#include <QFileInfo>
#include <QProgressDialog>

namespace undisona {

ShapeImport::ShapeImport(const QStringList& paths, QWidget* window) : QObject(window)
{
    auto* dialog = new QProgressDialog(
        tr("Reading %1 and mending its faces …").arg(QFileInfo(paths.value(0)).fileName()), tr("Stop"), 0, 0, window);
    dialog->setObjectName("readingShapes");
    dialog->setWindowTitle(tr("Import shapes"));
    dialog->setWindowModality(Qt::WindowModal);
    dialog->setMinimumDuration(400);
    dialog->setValue(0);
    connect(dialog, &QProgressDialog::canceled, this, [this] { progress_->stop(); });
    connect(this, &ShapeImport::done, dialog, [dialog] { // first of all, so that what follows finds the window free
        dialog->hide();
        dialog->deleteLater();
    });
    thread_ = std::thread([this, paths, progress = progress_] {
        for (const auto& path : paths)
            if (!progress->stopped()) ShapeFile::read(path.toStdString(), progress.get());
        QMetaObject::invokeMethod(
            this,
            [this] {
                emit done();
                deleteLater();
            },
            Qt::QueuedConnection);
    });
}

ShapeImport::~ShapeImport()
{
    progress_->stop();
    if (thread_.joinable()) thread_.join();
}

} // namespace undisona
