#include "app/session/settings.hpp"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>

namespace undisona {

QSettings& settings()
{
    static QSettings stored(QSettings::IniFormat, QSettings::UserScope, "undisona", "undisona");
    return stored;
}

QStringList recentFiles()
{
    QStringList files = settings().value("recent").toStringList();
    files.removeIf([](const QString& path) { return !QFileInfo::exists(path); });
    return files;
}

void rememberFile(const QString& path)
{
    QStringList files = recentFiles();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    files.removeAll(absolute);
    files.prepend(absolute);
    settings().setValue("recent", files.mid(0, 8));
}

QString exampleFolder()
{
    const QString beside = QCoreApplication::applicationDirPath();
    for (const char* place : {"/../share/undisona/examples", "/../../../examples", "/../../examples", "/examples"})
        if (QFileInfo(beside + place).isDir()) return QDir(beside + place).canonicalPath();
    return {};
}

} // namespace undisona
