#pragma once
#include <Eigen/Dense>

#include <cstdint>
#include <vector>

namespace undisona {

/// A sparse symmetric matrix: its lower triangle by columns, rows ascending, the diagonal always present.
struct SparseSymmetric {
    std::int64_t size = 0;
    std::vector<std::int64_t> columnStart; ///< size + 1 entries; {0} for an empty matrix
    std::vector<std::int64_t> row;
    std::vector<double> value;

    /// this * x, for a block of columns.
    Eigen::MatrixXd operator*(const Eigen::MatrixXd& x) const;
    Eigen::MatrixXd timesAlone(const Eigen::MatrixXd& x) const; ///< on one thread, whatever the size
    double diagonal(std::int64_t at) const
    {
        return value[static_cast<std::size_t>(columnStart[static_cast<std::size_t>(at)])];
    }
    /// The largest sum of magnitudes in a row.
    double norm() const;
};

/// a + factor * b; the patterns may differ.
SparseSymmetric sum(const SparseSymmetric& a, double factor, const SparseSymmetric& b);

/// Gathers entries and adds up those at the same place.
class SparseAssembler {
public:
    explicit SparseAssembler(std::int64_t size) : size_(size) {}
    /// Adds a symmetric dense block at the given rows and columns.
    void add(const std::vector<int>& unknowns, const Eigen::MatrixXd& block);
    SparseSymmetric finish();

private:
    struct Entry {
        std::int64_t column, row;
        double value;
    };
    std::int64_t size_;
    std::vector<Entry> entries_;
};

} // namespace undisona
