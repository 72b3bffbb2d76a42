#include "core/numerics/zeroed_array.hpp"

#include <cstdlib>

#include <sys/mman.h>

namespace undisona {

ZeroedArray::ZeroedArray(std::size_t count)
{
    if (count == 0) return;
    constexpr std::size_t large = std::size_t(1) << 21; // a large page
    if (count * sizeof(double) < large) {
        data_ = {static_cast<double*>(std::calloc(count, sizeof(double))), Release{0}};
        return;
    }
    const std::size_t bytes = (count * sizeof(double) + large - 1) / large * large;
    void* pages = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
    if (pages == MAP_FAILED) return;
    if (bytes > 4 * large) madvise(pages, bytes, MADV_HUGEPAGE); // a wish: without it all is as well, only slower
    data_ = {static_cast<double*>(pages), Release{bytes}};
}

void ZeroedArray::Release::operator()(double* data) const
{
    if (bytes > 0)
        munmap(data, bytes);
    else
        std::free(data);
}

} // namespace undisona
