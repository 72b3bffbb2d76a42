#pragma once
#include "core/numerics/analysis.hpp"

namespace undisona {

class Workers;

/// Solves L J L' x = b, J a diagonal of signs or the identity, for eight right-hand sides at a time, which lie side by
/// side for each row, so that the factor is read once each way for all of them. Subtrees of the elimination tree that
/// do not meet go to different threads; what they share is split within each supernode.
class SupernodalSolve {
public:
    /// `value` is laid out as the analysis says; both, and `sign`, must outlive this. `sign` may be null.
    SupernodalSolve(const Analysis&, const double* value, const signed char* sign, int threads);
    ~SupernodalSolve();

    /// In the order of the matrix; any number of columns.
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;

private:
    /// On a block of 8 numbers a row.
    void forward(std::int64_t supernode, double* block, bool split) const;
    void backward(std::int64_t supernode, double* block, bool split) const;
    const Analysis& analysis_;
    const double* value_;
    const signed char* sign_;
    TreePlan plan_;
    std::unique_ptr<Workers> workers_;
};

} // namespace undisona
