#pragma once
#include <QSettings>
#include <QStringList>

namespace undisona {

/// What the program remembers between runs: window, look, recent files.
QSettings& settings();

QStringList recentFiles(); ///< newest first, only those that still exist
void rememberFile(const QString& path);

/// Folder of the examples that come with the program; empty if it is not found.
QString exampleFolder();

} // namespace undisona
