#pragma once
#include <QImage>
#include <QString>

#include <string>
#include <vector>

namespace undisona {

/// Writes a file that is handed over, as `writeWholeFile` does and never over one of the inputs, and says in words what
/// came of it.
QString writtenWords(const QString& path, const std::string& bytes, std::vector<std::string> inputs = {});

std::string pngOf(const QImage&);

} // namespace undisona
