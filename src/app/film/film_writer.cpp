#include "app/film/film_writer.hpp"

#include <QFileInfo>
#include <QImage>
#include <QStandardPaths>
#include <QTemporaryDir>

#include <filesystem>

namespace undisona {

namespace {

QStringList encoding(const QString& ending)
{
    if (ending == "mp4")
        return {"-c:v",     "libx264", "-preset",   "veryfast",   "-crf", "20",
                "-pix_fmt", "yuv420p", "-movflags", "+faststart", "-f",   "mp4"};
    if (ending == "gif") // with the colours that it has
        return {"-vf", "split[a][b];[a]palettegen=stats_mode=diff[p];[b][p]paletteuse=dither=bayer:bayer_scale=4", "-f",
                "gif"};
    return {"-c:v",      "libvpx-vp9", "-crf",    "28", "-b:v",     "0",       "-deadline", "realtime",
            "-cpu-used", "6",          "-row-mt", "1",  "-pix_fmt", "yuv420p", "-f",        "webm"};
}

} // namespace

FilmWriter::FilmWriter(FilmOrder order, QObject* parent) : QObject(parent), order_(std::move(order))
{
    process_.setProcessChannelMode(QProcess::MergedChannels);
    connect(&process_, &QProcess::readyRead, this, [this] { said_ = (said_ + process_.readAll()).right(2000); });
    connect(&process_, &QProcess::bytesWritten, this, [this] {
        if (hungry()) emit fed();
    });
    connect(&process_, &QProcess::finished, this, &FilmWriter::ended);
    connect(&process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart) emit done(tr("ffmpeg did not start: %1").arg(process_.errorString()));
    });
}

FilmWriter::~FilmWriter()
{
    process_.disconnect(this);
    process_.kill();
    process_.waitForFinished(2000);
}

void FilmWriter::start()
{
    const QString program = QStandardPaths::findExecutable("ffmpeg");
    const QFileInfo file(order_.path);
    room_ = std::make_unique<QTemporaryDir>(file.absolutePath() + "/.film-XXXXXX");
    const auto refuse = [this](const QString& problem) {
        QMetaObject::invokeMethod(
            this, [this, problem] { emit done(problem); }, Qt::QueuedConnection);
    };
    if (program.isEmpty()) return refuse(tr("films are made by ffmpeg, which is not installed: apt install ffmpeg"));
    if (!room_->isValid()) return refuse(tr("%1 cannot be written to").arg(file.absolutePath()));
    made_ = room_->filePath("film." + file.suffix().toLower());
    QStringList arguments{"-hide_banner", "-loglevel",
                          "error",        "-y",
                          "-f",           "rawvideo",
                          "-pix_fmt",     "bgr0",
                          "-s",           QString("%1x%2").arg(order_.size.width()).arg(order_.size.height()),
                          "-r",           QString::number(FilmOrder::perSecond),
                          "-i",           "-"};
    arguments += encoding(file.suffix().toLower());
    arguments += made_;
    process_.start(program, arguments);
}

bool FilmWriter::hungry() const
{
    constexpr qint64 waiting = 4; // pictures
    return process_.bytesToWrite() < waiting * 4 * order_.size.width() * order_.size.height();
}

void FilmWriter::add(const QImage& picture)
{
    const QImage rows = picture.convertToFormat(QImage::Format_RGB32); // blue, green, red, nothing; no gaps
    process_.write(reinterpret_cast<const char*>(rows.constBits()), rows.sizeInBytes());
}

void FilmWriter::finish()
{
    process_.closeWriteChannel();
}

void FilmWriter::ended(int code, QProcess::ExitStatus status)
{
    if (status != QProcess::NormalExit || code != 0) {
        const QString last = QString::fromUtf8(said_).trimmed().section('\n', -1);
        return emit done(last.isEmpty() ? tr("ffmpeg ended in the middle of the film")
                                        : tr("ffmpeg could not make the film: %1").arg(last));
    }
    std::error_code problem;
    std::filesystem::rename(made_.toStdString(), order_.path.toStdString(), problem);
    emit done(problem
                  ? tr("the film cannot be put at %1: %2").arg(order_.path, QString::fromStdString(problem.message()))
                  : QString());
}

} // namespace undisona
