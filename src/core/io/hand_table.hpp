#pragma once
#include "core/assess/by_hand.hpp"

namespace undisona {

/// "14.2 to 15.3 Hz", "2.95 Hz".
std::string handHertz(const HandComparison&);
/// "agrees", "+12 %: the deflection is ...".
std::string handVerdict(const HandComparison&);

/// One estimate a line: for people, or full precision with commas (RFC 4180).
std::string handTable(const HandReading&);
std::string handCsv(const HandReading&);

} // namespace undisona
