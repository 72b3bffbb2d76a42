#pragma once
#include "core/remedy/remedy.hpp"
#include "core/units/display.hpp"

namespace undisona {

/// What moves a mode, one proposal a line with its number; or what each word is worth.
std::string remedyTable(const Remedy&, const DisplayUnits&, bool words = false);
/// The same with a line of names first; masses in kg, frequencies in Hz.
std::string remedyCsv(const Remedy&, bool words = false);

} // namespace undisona
