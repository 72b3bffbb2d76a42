#include "app/session/written_file.hpp"

#include "core/base/file_writer.hpp"

#include <QBuffer>
#include <QFile>

namespace undisona {

QString writtenWords(const QString& path, const std::string& bytes, std::vector<std::string> inputs)
{
    if (const auto problem =
            writeWholeFile(QFile::encodeName(path).toStdString(), bytes, {.inputs = std::move(inputs)}))
        return QString::fromStdString(oneLine(*problem));
    return QObject::tr("Written to %1").arg(path);
}

std::string pngOf(const QImage& image)
{
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return bytes.toStdString();
}

} // namespace undisona
