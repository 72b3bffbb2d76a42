#pragma once
#include <Eigen/Dense>

#include <cstdint>
#include <functional>
#include <vector>

namespace undisona {

/// What belongs to a sparse symmetric matrix A and would fill it, kept apart: for each column u with a compliance c
/// the term u u' / c; and with a compliance of zero the relation u' x = 0 that every x fulfils. Relations must not
/// follow from each other.
struct LowRank {
    struct Column {
        std::vector<std::int64_t> row; ///< ascending
        std::vector<double> value;
        double compliance = 0.0;
    };
    std::int64_t size = 0;
    std::vector<Column> columns;

    bool empty() const { return columns.empty(); }
    Eigen::Index count() const { return static_cast<Eigen::Index>(columns.size()); }
    Eigen::MatrixXd dense() const;                                           ///< all columns, size x count
    Eigen::MatrixXd times(const Eigen::Ref<const Eigen::MatrixXd>& x) const; ///< u' x of each, count x columns of x
    /// Adds the terms' products with x, those of relations aside.
    void addProduct(const Eigen::MatrixXd& x, Eigen::MatrixXd& product) const;
    /// Takes from forces what the relations can hold.
    void balance(Eigen::MatrixXd& forces) const;
    /// Columns that span what the relations leave, orthonormal; size x (size - relations). For small sizes.
    Eigen::MatrixXd left() const;
    std::uint64_t key() const; ///< of all that stands here
};

/// From solutions with A to those with all that is kept apart, by the bordered matrix [A U; U' -C] whose Schur
/// complement in A tells the inertia too (Haynsworth, Determination of the inertia of a partitioned Hermitian matrix,
/// 1968). Without anything apart it is A's.
class BorderedSolve {
public:
    using Solve = std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>;

    BorderedSolve() = default;
    /// The unknowns named are held: A has nothing of them but their diagonal. `apart` may be null, and must outlive
    /// this.
    BorderedSolve(const LowRank* apart, Solve, const std::vector<std::int64_t>& held = {});

    Eigen::MatrixXd operator()(const Eigen::MatrixXd& right) const;
    /// How many eigenvalues of the whole are negative, where A has so many.
    std::int64_t negative(std::int64_t ofA) const { return ofA + more_; }

private:
    const LowRank* apart_ = nullptr;
    Solve solve_;
    Eigen::MatrixXd columns_, answers_;           ///< U, A^-1 U
    Eigen::PartialPivLU<Eigen::MatrixXd> corner_; ///< of U' A^-1 U + C
    std::int64_t more_ = 0;
};

} // namespace undisona
