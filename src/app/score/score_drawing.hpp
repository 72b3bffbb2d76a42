#pragma once
#include <QString>

#include <string>

namespace undisona {

class Session;

/// The whole Score in light colours, as the bytes of a .svg, .pdf or .png file.
std::string scoreDrawing(Session&, const QString& path);

} // namespace undisona
