#pragma once
#include "core/numerics/signed_factor.hpp"
#include "core/pencil/certify.hpp"

#include <list>

namespace undisona {

/// What a run leaves behind for the next one with the same stiffness: the factor of K depends on K alone, and the modes
/// and the count change little with the mass. Nothing that is found depends on what was kept, beyond rounding.
struct KeptRun {
    std::uint64_t key = 0; ///< of the stiffness, its pattern together with that of the mass
    std::shared_ptr<const Analysis> analysis;
    std::shared_ptr<const SignedFactor> factor; ///< of K with the held unknowns cut off
    std::vector<std::int64_t> held;             ///< unknowns that keep free parts in place

    // The last modes found on it, and with which mass.
    std::shared_ptr<const SparseSymmetric> mass;
    Eigen::VectorXd lambda; ///< elastic ones, ascending
    Eigen::MatrixXd shapes;

    // The last count, of K - countedAt * mass.
    double countedAt = 0.0;
    std::shared_ptr<const SignedFactor> countFactor; ///< null where the memory was not to spare
    std::shared_ptr<const SparseSymmetric> countedMass;
};

/// The runs kept, the latest first; used by one run at a time.
class KeptRuns {
public:
    /// That of this key, empty if it is new.
    std::shared_ptr<KeptRun> of(std::uint64_t key);
    double megabytes() const;
    void clear() { runs_.clear(); }

private:
    void makeRoom();
    std::list<std::shared_ptr<KeptRun>> runs_;
};

/// A number that tells matrices apart: 64 bits of their pattern and, unless told otherwise, values.
std::uint64_t keyOf(const SparseSymmetric&);

/// b - a as U D U' where it touches few unknowns: U's columns as eigenvectors of the small change. Nothing when the
/// rank exceeds `most`; no columns where they are equal. Sizes must agree.
struct LowRankChange {
    Eigen::MatrixXd columns; ///< U, n x rank
    Eigen::VectorXd weights; ///< D
};
std::optional<LowRankChange> changeOf(const SparseSymmetric& a, const SparseSymmetric& b, Eigen::Index most);

} // namespace undisona
