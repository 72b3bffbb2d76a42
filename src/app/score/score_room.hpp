#pragma once

namespace undisona {

/// The Score's fixed room around the axis, in pixels.
inline constexpr double gutter = 168.0, rightEdge = 26.0, topEdge = 22.0, axisRoom = 30.0;
inline constexpr double leastStave = 58.0, mostStave = 150.0;

} // namespace undisona
