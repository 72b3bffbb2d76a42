#include "core/modal/bare_pair.hpp"

#include "core/modal/interior.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

Finding refused(std::string what, std::string remedy)
{
    return Finding{Severity::error, std::move(what), std::move(remedy), {}, {}};
}

/// A diagonal entry below zero, or a row of mass without mass on its diagonal: no energy is negative.
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
    for (const auto* matrix : {&stiffness, &mass})
        if (const auto why = notSemidefinite(*matrix))
            return refused(
                fmt::format("the {} is not positive semidefinite: {}", matrix == &mass ? "mass" : "stiffness", *why),
                "A structure stores no negative energy; check signs and the order of the two files.");
    System system;
    system.stiffness = stiffness;
    system.mass = mass;
    system.motions.unknowns.resize(static_cast<std::size_t>(mass.size));
    for (std::size_t row = 0; row < system.motions.unknowns.size(); ++row) {
        system.motions.unknowns[row].where = fmt::format("row {}", row + 1);
        system.motions.unknowns[row].direction.setZero();
    }
    Result<Extraction> found = [&]() -> Result<Extraction> {
        if (ask.inside()) {
            InteriorExtractor extractor(system, progress, nullptr, ask.tolerance);
            return ask.until == Ask::Until::band ? extractor.band(ask.from, ask.frequency, ask.count)
                                                 : extractor.nearest(ask.frequency, ask.count);
        }
        auto extractor = ModeExtractor::prepare(system, progress);
        if (!extractor) return extractor.findings();
        ModeRequest request{.most = ask.until == Ask::Until::all ? system.size() : Eigen::Index(ask.count),
                            .prove = ask.prove,
                            .tolerance = ask.tolerance};
        if (ask.until == Ask::Until::frequency) request.upTo = ask.frequency;
        return (*extractor)->find(request);
    }();
    if (!found) return found;
    const Eigen::MatrixXd energy = found->shapes.transpose() * (stiffness * found->shapes);
    const double size = found->lambda.size() > 0 ? found->lambda.cwiseAbs().maxCoeff() : 0.0;
    for (Eigen::Index at = 0; at < energy.rows(); ++at)
        if (energy(at, at) < -1e-6 * size &&
            energy(at, at) < -1e-9 * stiffness.norm() * found->shapes.col(at).squaredNorm())
            return refused(
                fmt::format("the stiffness is not positive semidefinite: a motion has lambda {:.4g}", energy(at, at)),
                "A structure stores no negative energy; check signs and the order of the two files.");
    return found;
}

} // namespace undisona
