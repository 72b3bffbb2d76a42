#pragma once
#include <QSize>
#include <QString>

#include <functional>
#include <string>

class QPaintDevice;

namespace undisona {

/// What `paint` draws on a sheet of that size in pixels, as the bytes of a file: of lines and words where the path ends
/// in .svg or .pdf, else of a PNG with twice as many pixels.
std::string drawnBytes(const QString& path, QSize size, const QString& title,
                       const std::function<void(QPaintDevice&)>& paint);

} // namespace undisona
