#include "core/base/memory.hpp"

#include <algorithm>
#include <fstream>
#include <optional>
#include <string>

#include <malloc.h>
#include <sys/resource.h>
#include <unistd.h>

namespace undisona {

namespace {

/// The number of kilobytes behind a key of a file that the kernel writes.
std::optional<double> megabytesIn(const char* path, const std::string& wanted)
{
    std::ifstream file(path);
    for (std::string key; file >> key;) {
        double kilobytes = 0.0;
        if (key == wanted && file >> kilobytes) return kilobytes / 1024.0;
    }
    return std::nullopt;
}

} // namespace

double machineMegabytes()
{
    return double(sysconf(_SC_PHYS_PAGES)) * double(sysconf(_SC_PAGE_SIZE)) / (1024.0 * 1024.0);
}

double availableMegabytes()
{
    double free = megabytesIn("/proc/meminfo", "MemAvailable:").value_or(machineMegabytes() / 2.0);
    for (const auto& [kind, taken] : {std::pair(RLIMIT_DATA, "VmData:"), {RLIMIT_AS, "VmSize:"}}) {
        rlimit limit{};
        if (getrlimit(kind, &limit) != 0 || limit.rlim_cur == RLIM_INFINITY) continue;
        const double now = megabytesIn("/proc/self/status", taken).value_or(0.0);
        free = std::clamp(double(limit.rlim_cur) / (1024.0 * 1024.0) - now, 0.0, free);
    }
    return free;
}

void giveBackFreed()
{
    malloc_trim(0);
}

void limitMemory(double megabytes)
{
    rlimit limit{};
    getrlimit(RLIMIT_DATA, &limit);
    const double all = megabytes + megabytesIn("/proc/self/status", "VmData:").value_or(0.0);
    limit.rlim_cur = std::min(limit.rlim_max, static_cast<rlim_t>(all * 1024.0 * 1024.0));
    setrlimit(RLIMIT_DATA, &limit);
}

Finding memoryRanOut()
{
    return errorAt({}, "the memory of this machine is not enough for this model",
                   "Ask for fewer modes, or for larger elements.");
}

double heldMegabytes()
{
    return megabytesIn("/proc/self/status", "VmRSS:").value_or(0.0);
}

double peakMegabytes()
{
    return megabytesIn("/proc/self/status", "VmHWM:").value_or(0.0);
}

void forgetPeakMemory()
{
    std::ofstream("/proc/self/clear_refs") << "5\n"; // see proc(5)
}

} // namespace undisona
