#include "core/modal/bare_pair.hpp"

#include "core/pencil/interior.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

Finding refused(std::string what, std::string remedy)
{
    return Finding{Severity::error, std::move(what), std::move(remedy), {}, {}};
}

/// A diagonal entry below zero, or a row of mass without mass on its diagonal: no inertia is negative.
std::optional<std::string> notSemidefinite(const SparseSymmetric& matrix)
{
    for (std::int64_t at = 0; at < matrix.size; ++at) {
        if (matrix.diagonal(at) < 0.0) return fmt::format("entry {0}, {0} is {1:.3g}", at + 1, matrix.diagonal(at));
        if (matrix.diagonal(at) > 0.0) continue;
        for (auto entry = matrix.columnStart[static_cast<std::size_t>(at)] + 1;
             entry < matrix.columnStart[static_cast<std::size_t>(at) + 1]; ++entry)
            if (matrix.value[static_cast<std::size_t>(entry)] != 0.0)
                return fmt::format("column {} has entries, but none on the diagonal", at + 1);
    }
    return std::nullopt;
}

} // namespace

Result<Extraction> modesOfPair(const SparseSymmetric& stiffness, const SparseSymmetric& mass, const Ask& ask,
                               Progress& progress)
{
    if (stiffness.size != mass.size)
        return refused(fmt::format("the stiffness has {} rows and the mass {}", stiffness.size, mass.size),
                       "Give two matrices of one system.");
    if (ask.until == Ask::Until::massShare || ask.until == Ask::Until::ritz)
        return refused("bare matrices have no directions, so no mass share can be asked", "Ask by count or frequency.");
    if (const auto why = notSemidefinite(mass))
        return refused(fmt::format("the mass is not positive semidefinite: {}", *why),
                       "No inertia is negative; check signs and the order of the two files.");
    const Pencil pencil{stiffness, mass};
    if (ask.inside()) {
        InteriorExtractor extractor(pencil, progress, nullptr, ask.tolerance);
        return ask.until == Ask::Until::band ? extractor.band(ask.from, ask.frequency, ask.count)
                                             : extractor.nearest(ask.frequency, ask.count);
    }
    auto extractor = ModeExtractor::prepare(pencil, progress);
    if (!extractor) return extractor.findings();
    ModeRequest request{.most = ask.until == Ask::Until::all ? pencil.size() : Eigen::Index(ask.count),
                        .prove = ask.prove,
                        .tolerance = ask.tolerance};
    if (ask.until == Ask::Until::frequency) request.upTo = ask.frequency;
    return (*extractor)->find(request);
}

} // namespace undisona
