#pragma once
#include <array>
#include <cstdint>

#include <QColor>

namespace undisona {

/// Perceptually even plum: rest to most motion, 0...1. On dark ground it runs the other way, so that what
/// moves stands out.
QColor sizeColour(double share, bool dark);

/// Blue, neutral, orange: -1...1, neutral at zero.
QColor signedColour(double value, bool dark);

/// One of many that are told apart, by number: neighbours differ in hue and in lightness, for eyes that see no hue too.
QColor kindColour(int kind, bool dark);

} // namespace undisona
