#pragma once
#include "core/modal/solution.hpp"

#include <QPainter>
#include <QPointF>

namespace undisona {

/// How a note looks: which directions fill it, or the ring it is.
struct NoteLook {
    int first = -1, second = -1; ///< 0..2 translation; second half, if any
    int rotation = -1;           ///< 0..2: a ring with a dot about this axis
    bool diamond = false;        ///< a Ritz vector, no mode
    double height = 0.0;         ///< 0...1 of the stave: square root of the largest effective-mass fraction
};

/// The translation that carries most if it is 2 % or more (a second one within half of it shares the note);
/// else a rotation about the mass centre of 5 % or more; else nothing.
NoteLook noteLook(const Participation&, std::size_t mode);

struct NoteStyle {
    double radius = 5.0;
    bool faint = false, selected = false;
};
void paintNote(QPainter&, const QPointF& centre, const NoteLook&, const NoteStyle&);

} // namespace undisona
