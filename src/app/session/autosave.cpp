#include "app/session/autosave.hpp"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QStandardPaths>
#include <QUuid>

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

namespace undisona {

/// An exclusive lock on a file, for as long as this lives and its process does.
class FileLock {
public:
    /// Nothing where another holds it.
    static std::shared_ptr<FileLock> on(const QString& path)
    {
        const int file = ::open(QFile::encodeName(path).constData(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
        if (file < 0) return nullptr;
        if (::flock(file, LOCK_EX | LOCK_NB) == 0) return std::shared_ptr<FileLock>(new FileLock(file));
        ::close(file);
        return nullptr;
    }
    ~FileLock() { ::close(file_); }
    FileLock(const FileLock&) = delete;
    FileLock& operator=(const FileLock&) = delete;

private:
    explicit FileLock(int file) : file_(file) {}
    int file_;
};

namespace {

constexpr const char* ofWork = ".undisona.json";
constexpr const char* ofNote = ".note";
constexpr const char* ofLock = ".lock";

QString folder()
{
    const QString path = QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + "/unsaved";
    QDir().mkpath(path);
    return path;
}

} // namespace

Autosave::Autosave() : stem_(folder() + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces)) {}

Autosave::~Autosave()
{
    if (!kept_) return;
    // What is unsaved stays; a window that is closed in order has asked, saved or dropped it before.
}

std::optional<Finding> Autosave::keep(const Document& document, const QString& path)
{
    if (!lock_) lock_ = FileLock::on(stem_ + ofLock); // before the work, so that nobody takes it for left behind
    if (auto problem = writeDocumentFile(document, QFile::encodeName(stem_ + ofWork).toStdString())) {
        problem->what = "the unsaved work could not be kept aside: " + problem->what;
        return problem;
    }
    kept_ = true;
    name_ = QString::fromStdString(document.name);
    path_ = path;
    writeNote();
    return std::nullopt;
}

void Autosave::drop()
{
    if (!kept_ && !lock_) return;
    for (const char* ending : {ofWork, ofNote, ofLock})
        QFile::remove(stem_ + ending);
    lock_.reset();
    kept_ = false;
}

void Autosave::setSolving(bool on)
{
    if (solving_ == on) return;
    solving_ = on;
    if (kept_) writeNote();
}

void Autosave::writeNote() const
{
    const QJsonObject note{
        {"process", QCoreApplication::applicationPid()}, {"name", name_}, {"path", path_}, {"solving", solving_}};
    writeWholeFile(QFile::encodeName(stem_ + ofNote).toStdString(), QJsonDocument(note).toJson().toStdString());
}

std::vector<LeftBehind> Autosave::leftBehind()
{
    std::vector<LeftBehind> list;
    const auto works = QDir(folder()).entryInfoList({QString("*") + ofWork}, QDir::Files, QDir::Time);
    for (const auto& work : works) {
        const QString stem = work.filePath().chopped(static_cast<qsizetype>(qstrlen(ofWork)));
        auto lock = FileLock::on(stem + ofLock);
        if (!lock) continue; // its window lives
        LeftBehind left{work.filePath(), work.fileName(), {}, work.lastModified(), false, {}, std::move(lock)};
        if (QFile file(stem + ofNote); file.open(QIODevice::ReadOnly)) {
            const QJsonObject note = QJsonDocument::fromJson(file.readAll()).object();
            left.name = note.value("name").toString(left.name);
            left.path = note.value("path").toString();
            left.whileSolving = note.value("solving").toBool();
        }
        if (auto document = readDocumentFile(QFile::encodeName(work.filePath()).toStdString(), WrongWords::kept)) {
            left.name = QString::fromStdString(document->name);
            left.document = std::move(*document);
        }
        list.push_back(std::move(left));
    }
    return list;
}

void Autosave::remove(const LeftBehind& left)
{
    const QString stem = left.file.chopped(static_cast<qsizetype>(qstrlen(ofWork)));
    for (const char* ending : {ofWork, ofNote, ofLock})
        QFile::remove(stem + ending);
}

} // namespace undisona
