#pragma once
#include <chrono>
#include <functional>

namespace undisona {

/// By the clock on the wall, s.
inline double secondsOf(const std::function<void()>& work)
{
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

} // namespace undisona
