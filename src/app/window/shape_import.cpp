#include "app/window/shape_import.hpp"

#include <QFileInfo>
#include <QProgressDialog>

namespace undisona {

ShapeImport::ShapeImport(const QString& path, QWidget* window) : QObject(window)
{
    auto* dialog = new QProgressDialog(tr("Reading %1 and mending its faces …").arg(QFileInfo(path).fileName()),
                                       tr("Stop"), 0, 0, window);
    dialog->setObjectName("readingShapes");
    dialog->setWindowTitle(tr("Import shapes"));
    dialog->setMinimumDuration(400);
    dialog->setValue(0);
    connect(dialog, &QProgressDialog::canceled, this, [this] { progress_->stop(); });
    connect(this, &QObject::destroyed, dialog, &QObject::deleteLater);
    thread_ = std::thread([this, path, progress = progress_] {
        auto file = ShapeFile::read(path.toStdString(), progress.get());
        QMetaObject::invokeMethod(
            this,
            [this, file, path] {
                emit done(file, path);
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
