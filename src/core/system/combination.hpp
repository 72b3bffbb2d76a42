#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Columns of a motion by the unknowns they belong to.
class Columns {
public:
    explicit Columns(Eigen::Index rows) : matrix_(rows, 0) {}

    /// matrix rows [row, row + block.rows()) += block * q(unknowns). What cancels but for rounding is nothing: two
    /// points of one body do not part.
    void add(Eigen::Index row, const std::vector<int>& unknowns, const Eigen::MatrixXd& block)
    {
        for (std::size_t at = 0; at < unknowns.size(); ++at) {
            auto sum = matrix_.col(columnOf(unknowns[at])).segment(row, block.rows());
            for (Eigen::Index i = 0; i < block.rows(); ++i) {
                const double more = block(i, static_cast<Eigen::Index>(at)), before = sum[i];
                sum[i] += more;
                if (before != 0.0 && std::abs(sum[i]) < 1e-12 * block.cwiseAbs().maxCoeff()) sum[i] = 0.0;
            }
        }
    }
    const std::vector<int>& unknowns() const { return unknowns_; }
    const Eigen::MatrixXd& matrix() const { return matrix_; }

private:
    Eigen::Index columnOf(int unknown)
    {
        const auto found = std::find(unknowns_.begin(), unknowns_.end(), unknown);
        if (found != unknowns_.end()) return found - unknowns_.begin();
        unknowns_.push_back(unknown);
        matrix_.conservativeResize(Eigen::NoChange, matrix_.cols() + 1);
        matrix_.rightCols(1).setZero();
        return matrix_.cols() - 1;
    }

    std::vector<int> unknowns_;
    Eigen::MatrixXd matrix_;
};

/// A motion as it is put together from what is free and what is held.
struct Combination {
    Columns free, held;
    explicit Combination(Eigen::Index rows) : free(rows), held(rows) {}
    void add(Eigen::Index row, const NodeMotion& motion, const Eigen::MatrixXd& matrix)
    {
        free.add(row, motion.unknowns, matrix * motion.basis);
        held.add(row, motion.held, matrix * motion.heldBasis);
    }
};

/// A part whose own motions are a combination; a stiffness or a mass of nothing stands for zero.
Part partOf(PartKind, const std::string& sentence, OwnerKind, int owner, const Combination& own,
            const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass);

} // namespace undisona
