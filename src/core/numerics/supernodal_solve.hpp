#pragma once
#include <Eigen/Dense>

#include <cstdint>
#include <memory>
#include <vector>

namespace undisona {

class Workers;

/// A supernodal factor L of a permuted matrix, as CHOLMOD lays it out; not owned. Supernode k holds the columns
/// super[k] ... super[k+1]-1; its rows are row[rowStart[k]] ... row[rowStart[k+1]-1], its own columns first; its
/// values stand column by column from value[valueStart[k]], as many a column as it has rows.
struct SupernodalFactor {
    std::int64_t size = 0, supernodes = 0;
    const std::int64_t *super = nullptr, *rowStart = nullptr, *valueStart = nullptr, *row = nullptr;
    const double* value = nullptr;
    const std::int64_t* permutation = nullptr; ///< row i of the factor is row permutation[i] of the matrix
};

/// Solves L L' x = b for eight right-hand sides at a time, which lie side by side for each row, so that the factor
/// is read once each way for all of them. Subtrees of the elimination tree that do not meet go to different
/// threads; what they share is split within each supernode.
class SupernodalSolve {
public:
    SupernodalSolve(const SupernodalFactor&, int threads);
    ~SupernodalSolve();

    /// In the order of the matrix; any number of columns.
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;

private:
    using Block = std::vector<double>; ///< 8 x size
    void forward(std::int64_t supernode, Block& block, bool split) const;
    void backward(std::int64_t supernode, Block& block, bool split) const;
    void plan(int threads);

    SupernodalFactor factor_;
    std::vector<std::vector<std::int64_t>> subtrees_; ///< supernodes of each thread, ascending
    std::vector<std::int64_t> top_;                   ///< the rest, ascending
    std::vector<char> isTop_;
    std::unique_ptr<Workers> workers_;
};

} // namespace undisona
