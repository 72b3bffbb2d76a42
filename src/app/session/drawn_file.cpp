#include "app/session/drawn_file.hpp"

#include "app/session/theme.hpp"
#include "app/session/written_file.hpp"

#include <QBuffer>
#include <QFileInfo>
#include <QPdfWriter>
#include <QSvgGenerator>

namespace undisona {

std::string drawnBytes(const QString& path, QSize size, const QString& title,
                       const std::function<void(QPaintDevice&)>& paint)
{
    const QString ending = QFileInfo(path).suffix().toLower();
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    if (ending == "svg") {
        QSvgGenerator drawing;
        drawing.setOutputDevice(&bytes);
        drawing.setSize(size);
        drawing.setViewBox(QRect(QPoint(), size));
        drawing.setTitle(title);
        paint(drawing);
        return bytes.data().toStdString();
    }
    if (ending == "pdf") {
        {
            constexpr double pointsOfPixel = 0.75;
            QPdfWriter page(&bytes);
            page.setResolution(96);
            page.setPageSize(QPageSize(pointsOfPixel * QSizeF(size), QPageSize::Point, {}, QPageSize::ExactMatch));
            page.setPageMargins({});
            page.setTitle(title);
            page.setCreator("Undisona");
            paint(page);
        }
        return bytes.data().toStdString();
    }
    QImage image(2 * size, QImage::Format_RGB32);
    image.setDevicePixelRatio(2.0);
    image.fill(Theme::now().panel);
    paint(image);
    return pngOf(image);
}

} // namespace undisona
