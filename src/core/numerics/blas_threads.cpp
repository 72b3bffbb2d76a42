#include "core/numerics/blas_threads.hpp"

#include <algorithm>
#include <thread>

extern "C" void openblas_set_num_threads(int threads);

namespace undisona {

void chooseBlasThreads(std::int64_t unknowns)
{
    constexpr std::int64_t small = 20000;
    openblas_set_num_threads(unknowns < small ? 1
                                              : static_cast<int>(std::max(1u, std::thread::hardware_concurrency())));
}

} // namespace undisona
