#include "core/numerics/blas_threads.hpp"

#include <algorithm>
#include <atomic>
#include <limits>
#include <thread>
#include <vector>

extern "C" {
void openblas_set_num_threads(int threads);
void* blas_memory_alloc(int kind);
void blas_memory_free(void* space);
}

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

int threadsForPieces(std::size_t pieces)
{
    constexpr std::size_t few = 500;
    return pieces < few ? 1 : threadsFor(std::numeric_limits<std::int64_t>::max());
}

void chooseBlasThreads(std::int64_t unknowns)
{
    useBlasThreads(threadsFor(unknowns));
}

void reserveBlasMemory()
{
    std::vector<void*> spaces;
    for (unsigned at = 0; at < std::thread::hardware_concurrency() + 2; ++at) // ours and the library's own
        spaces.push_back(blas_memory_alloc(0));
    for (void* space : spaces)
        blas_memory_free(space); // which keeps it
}

void useBlasThreads(int threads)
{
    openblas_set_num_threads(threads);
}

} // namespace undisona
