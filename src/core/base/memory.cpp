#include "core/base/memory.hpp"

#include <fstream>
#include <string>

#include <sys/resource.h>
#include <unistd.h>

namespace undisona {

double machineMegabytes()
{
    return double(sysconf(_SC_PHYS_PAGES)) * double(sysconf(_SC_PAGE_SIZE)) / (1024.0 * 1024.0);
}

double availableMegabytes()
{
    std::ifstream info("/proc/meminfo");
    for (std::string key; info >> key;) {
        double kilobytes = 0.0;
        if (key == "MemAvailable:" && info >> kilobytes) return kilobytes / 1024.0;
    }
    return machineMegabytes() / 2.0;
}

double peakMegabytes()
{
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    return double(usage.ru_maxrss) / 1024.0;
}

} // namespace undisona
