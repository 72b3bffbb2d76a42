#pragma once
#include <cstdint>

namespace undisona {

/// No more than so many threads from now on, in this process; 0 takes the limit away.
void limitBlasThreads(int threads);

/// How many threads a problem of that size takes.
int threadsFor(std::int64_t unknowns);

/// How many threads take so many pieces that are worked on each by itself, such as elements: two gain from a few
/// hundred on.
int threadsForPieces(std::size_t pieces);

/// One thread for the dense kernels below 20 000 unknowns: waiting for each other costs two threads more there than
/// they gain. All of the machine's above, within the limit. Digits do not depend on the machine's load.
void chooseBlasThreads(std::int64_t unknowns);

/// Lets the dense library take the work space that it needs on every thread. Where it has none it waits for it for
/// ever, so this comes before any limit of the memory.
void reserveBlasMemory();

/// So many for the dense kernels from now on, whatever the size.
void useBlasThreads(int threads);

} // namespace undisona
