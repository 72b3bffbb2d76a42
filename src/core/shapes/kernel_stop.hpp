#pragma once
#include "core/base/progress.hpp"

namespace undisona {

/// Thrown out of building a structure when it is stopped; what was begun is kept nowhere.
struct BuildingStopped {};

/// While it lives, building on this thread looks at the progress whether to stop.
class StopScope {
public:
    explicit StopScope(const Progress* progress) : before_(watched()) { watched() = progress; }
    ~StopScope() { watched() = before_; }
    StopScope(const StopScope&) = delete;
    StopScope& operator=(const StopScope&) = delete;

    static bool stopped() { return watched() && watched()->stopped(); }
    static void check()
    {
        if (stopped()) throw BuildingStopped();
    }

private:
    static const Progress*& watched();
    const Progress* before_;
};

} // namespace undisona
