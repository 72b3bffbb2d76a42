#pragma once
#include <QSize>
#include <QString>

#include <variant>
#include <vector>

namespace undisona {

/// What a film of modes in motion shows, and the file it goes to.
struct FilmOrder {
    QString path;           ///< its ending says what it is: .webm, .mp4 or .gif
    std::vector<int> modes; ///< by number, one after the other
    QSize size{1280, 720};  ///< pixels, even
    double seconds = 4.0;   ///< of each mode
    double turns = 4.0;     ///< of the phase in that time; a whole number closes the loop
    bool caption = true;

    static constexpr int perSecond = 25;
    int framesPerMode() const;
    int frames() const { return framesPerMode() * static_cast<int>(modes.size()); }
    /// The share of a period at a frame of a mode.
    double phaseAt(int frame) const;
};

/// "1-4, 9" or "all" among so many modes; else what is wrong with it.
std::variant<std::vector<int>, QString> modesNamed(const QString& text, int count);

/// What keeps such a film from being made, in words; empty if nothing does.
QString problemOf(const FilmOrder&);

} // namespace undisona
