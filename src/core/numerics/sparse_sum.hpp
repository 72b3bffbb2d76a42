#pragma once
#include "core/numerics/sparse.hpp"

namespace undisona {

/// a + factor b as its entries stand in two matrices, without a third; what couples the unknowns set `apart` to all
/// others counts as nothing. What it refers to must outlive it.
class SparseSum {
public:
    SparseSum(const SparseSymmetric& a) : a_(a) {}
    /// The patterns may differ.
    SparseSum(const SparseSymmetric& a, double factor, const SparseSymmetric& b,
              const std::vector<std::int64_t>& apart = {})
        : a_(a), b_(&b), factor_(factor)
    {
        if (apart.empty()) return;
        apart_.assign(static_cast<std::size_t>(a.size), 0);
        for (const auto at : apart)
            apart_[static_cast<std::size_t>(at)] = 1;
    }

    std::int64_t size() const { return a_.size; }

    /// Hands out a column of the lower triangle, rows ascending: take(row, value).
    template <class Take>
    void each(std::int64_t column, const Take& take) const
    {
        const auto at = static_cast<std::size_t>(column);
        auto ia = static_cast<std::size_t>(a_.columnStart[at]);
        const auto ea = static_cast<std::size_t>(a_.columnStart[at + 1]);
        auto ib = b_ ? static_cast<std::size_t>(b_->columnStart[at]) : 0;
        const auto eb = b_ ? static_cast<std::size_t>(b_->columnStart[at + 1]) : 0;
        while (ia < ea || ib < eb) {
            const std::int64_t ra = ia < ea ? a_.row[ia] : a_.size, rb = ib < eb ? b_->row[ib] : a_.size;
            const std::int64_t row = std::min(ra, rb);
            double value = 0.0;
            if (ra == row) value += a_.value[ia++];
            if (rb == row) value += factor_ * b_->value[ib++];
            if (!apart_.empty() && row != column && (apart_[at] || apart_[static_cast<std::size_t>(row)])) value = 0.0;
            take(row, value);
        }
    }

private:
    const SparseSymmetric& a_;
    const SparseSymmetric* b_ = nullptr;
    double factor_ = 0.0;
    std::vector<char> apart_; ///< empty: none
};

} // namespace undisona
