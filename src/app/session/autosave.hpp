#pragma once
#include "core/model/document_io.hpp"

#include <QDateTime>
#include <QString>

#include <memory>

namespace undisona {

class FileLock;

/// Unsaved work that a window left behind when it ended, held so that no other window offers it too.
struct LeftBehind {
    QString file;       ///< where the work lies
    QString name, path; ///< of the document, and the file it had been saved to; may be empty
    QDateTime written;
    bool whileSolving = false;        ///< the window ended during a run
    std::optional<Document> document; ///< nothing where it cannot be read
    std::shared_ptr<FileLock> lock;
};

/// The unsaved work of one window, kept aside in a file of its own while the window lives. Which windows live is told
/// by a lock that the system lets go when a process ends, in whatever way. Nothing here is removed but by a save, or
/// by an answer of the person whose work it is.
class Autosave {
public:
    Autosave();
    ~Autosave();

    /// Keeps the document; says what prevented it.
    std::optional<Finding> keep(const Document&, const QString& path);
    void drop();              ///< it is saved, or given up in so many words
    void setSolving(bool on); ///< noted beside it, in case the run takes the window down

    /// What windows that are gone have left, newest first.
    static std::vector<LeftBehind> leftBehind();
    /// After the person has said so.
    static void remove(const LeftBehind&);

private:
    void writeNote() const;

    QString stem_; ///< of this window's files
    std::shared_ptr<FileLock> lock_;
    QString name_, path_;
    bool kept_ = false, solving_ = false;
};

} // namespace undisona
