#pragma once
#include "core/numerics/workers.hpp"

#include <Eigen/Dense>

#include <memory>

namespace undisona {

/// Products of matrices with many rows and few columns, the rows shared out among threads. The dense library's own
/// threads keep spinning after each call, which would slow down what comes between.
class TallProducts {
public:
    /// As many threads as the number of rows asks for.
    explicit TallProducts(Eigen::Index rows);

    /// a' b.
    Eigen::MatrixXd inner(const Eigen::Ref<const Eigen::MatrixXd>& a, const Eigen::Ref<const Eigen::MatrixXd>& b) const;
    /// b -= a c.
    void subtract(Eigen::MatrixXd& b, const Eigen::Ref<const Eigen::MatrixXd>& a, const Eigen::MatrixXd& c) const;
    /// a c.
    Eigen::MatrixXd times(const Eigen::Ref<const Eigen::MatrixXd>& a, const Eigen::MatrixXd& c) const;
    /// The first columns of a, as many as c has rows, become a c, in place: no second matrix of that size is needed.
    void turn(Eigen::MatrixXd& a, const Eigen::MatrixXd& c) const;

private:
    std::shared_ptr<Workers> workers_;
};

} // namespace undisona
