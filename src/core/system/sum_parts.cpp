#include "core/system/sum_parts.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/system/assemble.hpp"

#include <numeric>

namespace undisona {

namespace {

/// Which lists a column stands in, and where in each.
struct Touching {
    struct Place {
        std::int32_t list, at;
    };
    std::vector<std::int64_t> start;
    std::vector<Place> place;

    template <class UnknownsOf>
    Touching(std::int64_t size, std::size_t lists, const UnknownsOf& unknownsOf)
        : start(static_cast<std::size_t>(size) + 1, 0)
    {
        for (std::size_t list = 0; list < lists; ++list)
            for (const int unknown : unknownsOf(list))
                ++start[static_cast<std::size_t>(unknown) + 1];
        std::partial_sum(start.begin(), start.end(), start.begin());
        place.resize(static_cast<std::size_t>(start.back()));
        std::vector<std::int64_t> next(start.begin(), start.end() - 1);
        for (std::size_t list = 0; list < lists; ++list) {
            std::int32_t at = 0;
            for (const int unknown : unknownsOf(list))
                place[static_cast<std::size_t>(next[static_cast<std::size_t>(unknown)]++)] = {
                    static_cast<std::int32_t>(list), at++};
        }
    }
    template <class Take>
    void each(std::int64_t column, const Take& take) const
    {
        for (auto at = start[static_cast<std::size_t>(column)]; at < start[static_cast<std::size_t>(column) + 1]; ++at)
            take(place[static_cast<std::size_t>(at)].list, place[static_cast<std::size_t>(at)].at);
    }
};

/// Sums of one column on its way; one of them serves all columns of a thread.
class ColumnSum {
public:
    explicit ColumnSum(std::int64_t size)
        : seen_(static_cast<std::size_t>(size), -1), sum_(static_cast<std::size_t>(size), 0.0)
    {
    }
    void begin(std::int64_t column)
    {
        column_ = column;
        rows_.clear();
        reserve(column); // the diagonal is always there
    }
    void reserve(std::int64_t row)
    {
        auto& seen = seen_[static_cast<std::size_t>(row)];
        if (row < column_ || seen == column_) return;
        seen = column_;
        sum_[static_cast<std::size_t>(row)] = 0.0;
        rows_.push_back(row);
    }
    void add(const std::vector<int>& unknowns, const Eigen::MatrixXd& block, std::int32_t at)
    {
        for (std::size_t i = 0; i < unknowns.size(); ++i) {
            const double value = block(static_cast<Eigen::Index>(i), at);
            if (unknowns[i] < column_ || value == 0.0) continue;
            reserve(unknowns[i]);
            sum_[static_cast<std::size_t>(unknowns[i])] += value;
        }
    }
    void appendTo(SparseSymmetric& matrix)
    {
        std::sort(rows_.begin(), rows_.end());
        for (const auto row : rows_) {
            matrix.row.push_back(row);
            matrix.value.push_back(sum_[static_cast<std::size_t>(row)]);
        }
        matrix.columnStart.push_back(static_cast<std::int64_t>(matrix.row.size()));
    }

private:
    std::vector<std::int64_t> seen_; ///< the column that a row was last met in
    std::vector<double> sum_;
    std::vector<std::int64_t> rows_;
    std::int64_t column_ = -1;
};

SparseSymmetric joined(std::int64_t size, std::vector<SparseSymmetric>& pieces)
{
    SparseSymmetric all;
    all.size = size;
    all.columnStart.push_back(0);
    std::size_t entries = 0;
    for (const auto& piece : pieces)
        entries += piece.row.size();
    all.row.reserve(entries);
    all.value.reserve(entries);
    for (auto& piece : pieces) {
        const auto before = static_cast<std::int64_t>(all.row.size());
        for (const auto start : piece.columnStart)
            all.columnStart.push_back(before + start);
        all.row.insert(all.row.end(), piece.row.begin(), piece.row.end());
        all.value.insert(all.value.end(), piece.value.begin(), piece.value.end());
        piece = {};
    }
    return all;
}

} // namespace

std::pair<SparseSymmetric, SparseSymmetric> sumParts(std::int64_t size, const std::vector<Part>& parts,
                                                     const std::vector<const std::vector<int>*>& groups)
{
    const Touching ofParts(size, parts.size(),
                           [&](std::size_t list) -> const std::vector<int>& { return parts[list].unknowns; }),
        ofGroups(size, groups.size(), [&](std::size_t list) -> const std::vector<int>& { return *groups[list]; });
    Workers workers(threadsFor(size));
    const auto hands = static_cast<std::size_t>(workers.count());
    std::vector<SparseSymmetric> stiffness(hands), mass(hands);
    workers.run([&](int hand) {
        ColumnSum column(size);
        const auto which = static_cast<std::size_t>(hand);
        const std::int64_t first = size * hand / workers.count(), last = size * (hand + 1) / workers.count();
        for (const bool stiff : {true, false}) {
            SparseSymmetric& piece = stiff ? stiffness[which] : mass[which];
            column = ColumnSum(size);
            for (std::int64_t at = first; at < last; ++at) {
                column.begin(at);
                ofParts.each(at, [&](std::int32_t list, std::int32_t place) {
                    const Part& part = parts[static_cast<std::size_t>(list)];
                    const auto& block = stiff ? part.stiffness : part.mass;
                    if (block.size() > 0) column.add(part.unknowns, block, place);
                });
                if (stiff)
                    ofGroups.each(at, [&](std::int32_t list, std::int32_t) {
                        for (const int row : *groups[static_cast<std::size_t>(list)])
                            column.reserve(row);
                    });
                column.appendTo(piece);
            }
        }
    });
    return {joined(size, stiffness), joined(size, mass)};
}

} // namespace undisona
