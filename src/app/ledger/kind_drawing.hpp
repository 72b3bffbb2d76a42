#pragma once
#include "core/model/grammar.hpp"

#include <QRectF>

class QPainter;

namespace undisona {

/// A small drawing of what a kind of sentence makes or does: in ink what is there, in the accent what it adds.
void drawKind(QPainter&, const QRectF& room, const SentenceKind&);

} // namespace undisona
