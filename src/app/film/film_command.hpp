#pragma once
#include <QString>
#include <QStringList>

namespace undisona {

/// What the program does in place of opening its window when it is called with --film or --picture.
struct FilmCommand {
    QString model, take, to;
    QString modes = "1";
    QString size = "1280x720";
    double seconds = 4.0, turns = 4.0;
    QString side = "corner"; ///< it is seen from
    bool caption = true;
};

/// Solves the model and films its modes, or makes a picture of the first named where `to` ends in .png. Says what went
/// wrong on standard error.
/// @return 0; 1 where the model or the film could not be made
int runFilmCommand(const FilmCommand&);

} // namespace undisona
