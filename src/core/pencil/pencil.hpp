#pragma once
#include "core/base/finding.hpp"
#include "core/numerics/low_rank.hpp"
#include "core/numerics/sparse.hpp"

#include <functional>
#include <string>
#include <vector>

namespace undisona {

/// K phi = lambda M phi as it is extracted: two symmetric matrices, M positive semidefinite, and what is known
/// beforehand of their motions. Where the matrices came from extraction does not know. They are borrowed: who makes a
/// pencil keeps them while it is used.
struct Pencil {
    const SparseSymmetric& stiffness;
    const SparseSymmetric& mass;
    /// What of the stiffness would fill it, and relations that all motions fulfil: kept apart. Null: nothing.
    const LowRank* apart = nullptr;

    /// Motions that cost no energy, M-orthonormal (unknowns x motions): the rigid ones of a structure.
    Eigen::MatrixXd free{Eigen::MatrixXd(mass.size, 0)};
    /// As many unknowns as there are free motions that, held, let none of them happen; fewer where there are none such.
    std::function<std::vector<std::int64_t>()> holding{};
    /// Whether `free` are all, but for what is loose in itself: bare matrices may hide more.
    bool freeIsKnown = false;
    /// Whether a motion of unit modal mass that costs next to nothing, lambda, costs nothing at all. May be empty.
    std::function<bool(double lambda, const Eigen::Ref<const Eigen::VectorXd>& motion)> strainsNothing{};
    /// "Post can turn about x" of an unknown, "row 7 can move" of one that has no name.
    std::function<std::string(std::int64_t unknown)> motionOf{};

    Eigen::Index size() const { return static_cast<Eigen::Index>(mass.size); }
    bool hasApart() const { return apart && !apart->empty(); }
    /// K x with all that is apart, but for the forces of relations, which do no work.
    Eigen::MatrixXd stiffnessTimes(const Eigen::MatrixXd& x) const;
};

/// What is said of an unknown that moves with neither stiffness nor mass: its motion as `Pencil::motionOf` has it.
Finding freeWithoutMass(const std::string& motion);

/// Tells eigenvalues that are nothing but rounding from small ones.
class ZeroEnergy {
public:
    explicit ZeroEnergy(const Pencil& pencil) : pencil_(pencil), normK_(pencil.stiffness.norm()) {}

    /// Of an eigenvalue (rad/s)2 and its shape of unit modal mass.
    bool costsNothing(double lambda, const Eigen::Ref<const Eigen::VectorXd>& shape) const;

private:
    const Pencil& pencil_;
    double normK_;
};

} // namespace undisona
