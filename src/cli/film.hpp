#pragma once
#include <string>

namespace undisona {

struct FilmOptions {
    std::string model, to, modes, take, size, seconds, turns, from;
    bool bare = false, dark = false;
};

/// Becomes the window's program, which draws films; on a screen of its own where there is none. Returns only where that
/// cannot be, and says why.
std::string filmInstead(const FilmOptions&);

struct ReportOptions {
    std::string model, to, modes, take, without, from;
};

/// The same with reports.
std::string reportInstead(const ReportOptions&);

} // namespace undisona
