#pragma once
#include "core/base/finding.hpp"
#include "core/numerics/analysis.hpp"

namespace undisona {

/// What a run will cost, from the symbolic factorisation alone. Memory is exact to about a tenth, time to a factor of
/// about two: it stands on this machine's speed in dense products, measured once. Modes in close clusters take several
/// times as long and a longer basis, which nothing tells beforehand.
struct RunEstimate {
    std::int64_t unknowns = 0;
    double factorMegabytes = 0.0, frontMegabytes = 0.0, basisMegabytes = 0.0, matrixMegabytes = 0.0;
    double seconds = 0.0; ///< with the proof

    double megabytes() const { return factorMegabytes + frontMegabytes + basisMegabytes + matrixMegabytes; }
};

/// Modes that one shift is good for: so many that making them orthogonal to each other, which grows with their square,
/// costs about as much as another factorisation. More than twice as many are found from shift to shift.
std::int64_t modesPerShift(const Analysis&);

/// For so many modes; `entries` are those of K and M together, as stored.
RunEstimate estimateOf(const Analysis&, std::int64_t entries, std::int64_t modes);

/// A finding with the figures where the run would not fit into the memory that is free, in megabytes.
std::optional<Finding> tooLarge(const RunEstimate&, double freeMegabytes);

/// "about 12 s, 0.9 GB"
std::string wordsOf(const RunEstimate&);

} // namespace undisona
