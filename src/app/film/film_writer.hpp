#pragma once
#include "app/film/film_order.hpp"

#include <QProcess>

#include <memory>

class QImage;
class QTemporaryDir;

namespace undisona {

/// Pictures on their way into a film, which ffmpeg makes of them in a process of its own. What stands at the path is
/// replaced only by a film that is whole.
class FilmWriter : public QObject {
    Q_OBJECT
public:
    FilmWriter(FilmOrder, QObject* parent);
    ~FilmWriter() override; ///< a film that is not whole is not left behind

    void start();
    bool hungry() const;     ///< whether few pictures wait
    void add(const QImage&); ///< of the order's size
    void finish();           ///< there are no more pictures

signals:
    void fed();                        ///< some of the pictures that waited are taken
    void done(const QString& problem); ///< in words; empty: the film stands at the path

private:
    void ended(int code, QProcess::ExitStatus);
    FilmOrder order_;
    std::unique_ptr<QTemporaryDir> room_; ///< beside the path, so that the film need only be renamed
    QString made_;
    QProcess process_;
    QByteArray said_;
};

} // namespace undisona
