#include "core/numerics/blas_threads.hpp"

#include <algorithm>
#include <atomic>
#include <thread>

extern "C" void openblas_set_num_threads(int threads);

namespace undisona {

namespace {

std::atomic<int> limit = 0; // 0: as many as the machine has

} // namespace

void limitBlasThreads(int threads)
{
    limit = std::max(0, threads);
}

int threadsFor(std::int64_t unknowns)
{
    constexpr std::int64_t small = 20000;
    if (unknowns < small) return 1;
    return limit > 0 ? limit.load() : static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
}

void chooseBlasThreads(std::int64_t unknowns)
{
    useBlasThreads(threadsFor(unknowns));
}

void useBlasThreads(int threads)
{
    openblas_set_num_threads(threads);
}

} // namespace undisona
