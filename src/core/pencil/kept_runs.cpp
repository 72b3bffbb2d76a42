#include "core/pencil/kept_runs.hpp"

#include "core/base/kept_store.hpp"
#include "core/numerics/dense_eigen.hpp"

#include <cstring>

namespace undisona {

namespace {

/// Words of eight bytes, mixed as SplitMix64 does (Steele, Lea and Flood 2014), four lanes at a time.
std::uint64_t mixed(std::uint64_t seed, const void* data, std::size_t words)
{
    const auto mix = [](std::uint64_t z) {
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ULL;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBULL;
        return z ^ (z >> 31);
    };
    std::uint64_t sum = mix(seed + words);
    const auto* bytes = static_cast<const char*>(data);
    for (std::size_t at = 0; at < words; ++at) {
        std::uint64_t word = 0;
        std::memcpy(&word, bytes + 8 * at, 8);
        sum = (sum ^ mix(word + 0x9E3779B97F4A7C15ULL * (at + 1))) * 0xFF51AFD7ED558CCDULL;
    }
    return mix(sum);
}

} // namespace

std::uint64_t keyOf(const SparseSymmetric& matrix)
{
    std::uint64_t key =
        mixed(static_cast<std::uint64_t>(matrix.size), matrix.columnStart.data(), matrix.columnStart.size());
    key = mixed(key, matrix.row.data(), matrix.row.size());
    return mixed(key, matrix.value.data(), matrix.value.size());
}

std::shared_ptr<KeptRun> KeptRuns::of(std::uint64_t key)
{
    const auto found = std::find_if(runs_.begin(), runs_.end(), [&](const auto& run) { return run->key == key; });
    if (found != runs_.end()) {
        runs_.splice(runs_.begin(), runs_, found);
    } else {
        runs_.push_front(std::make_shared<KeptRun>());
        runs_.front()->key = key;
    }
    makeRoom();
    return runs_.front();
}

double KeptRuns::megabytes() const
{
    double sum = 0.0;
    for (const auto& run : runs_) {
        for (const auto& factor : {run->factor, run->countFactor})
            if (factor) sum += factor->megabytes();
        sum += 8e-6 * double(run->shapes.size());
    }
    return sum;
}

void KeptRuns::makeRoom()
{
    constexpr std::size_t most = 6;
    const auto& store = KeptStore::ofProcess(); // whose room factors share with shapes and meshes
    while (runs_.size() > 1 && (runs_.size() > most || megabytes() + store.megabytes() > store.most()))
        runs_.pop_back();
}

std::optional<LowRankChange> changeOf(const SparseSymmetric& a, const SparseSymmetric& b, Eigen::Index most)
{
    const SparseSymmetric difference = sum(b, -1.0, a);
    const auto limit = static_cast<std::size_t>(8 * most); // unknowns that a change of that rank may touch
    std::set<std::int64_t> touched;
    for (std::int64_t column = 0; column < difference.size; ++column)
        for (auto at = difference.columnStart[static_cast<std::size_t>(column)];
             at < difference.columnStart[static_cast<std::size_t>(column) + 1]; ++at) {
            if (difference.value[static_cast<std::size_t>(at)] == 0.0) continue;
            touched.insert(column);
            touched.insert(difference.row[static_cast<std::size_t>(at)]);
            if (touched.size() > limit) return std::nullopt;
        }
    const std::vector<std::int64_t> list(touched.begin(), touched.end());
    const auto place = [&](std::int64_t unknown) {
        return std::lower_bound(list.begin(), list.end(), unknown) - list.begin();
    };
    const auto n = static_cast<Eigen::Index>(list.size());
    Eigen::MatrixXd small = Eigen::MatrixXd::Zero(n, n);
    for (const auto column : list)
        for (auto at = difference.columnStart[static_cast<std::size_t>(column)];
             at < difference.columnStart[static_cast<std::size_t>(column) + 1]; ++at) {
            const double value = difference.value[static_cast<std::size_t>(at)];
            if (value == 0.0) continue;
            const auto i = place(difference.row[static_cast<std::size_t>(at)]), j = place(column);
            small(i, j) = small(j, i) = value;
        }
    // Units of moments beside those of forces: judge the rank with a unit diagonal.
    const Eigen::VectorXd scale = small.cwiseAbs().rowwise().maxCoeff().cwiseSqrt();
    const Eigen::VectorXd inverse = scale.unaryExpr([](double size) { return size > 0.0 ? 1.0 / size : 0.0; });
    const DenseEigen eigen = denseEigen(inverse.asDiagonal() * small * inverse.asDiagonal());
    std::vector<Eigen::Index> kept;
    const double largest = n > 0 ? eigen.values.cwiseAbs().maxCoeff() : 0.0;
    for (Eigen::Index at = 0; at < n; ++at)
        if (std::abs(eigen.values[at]) > 1e-14 * largest) kept.push_back(at);
    const auto rank = static_cast<Eigen::Index>(kept.size());
    if (rank > most) return std::nullopt;
    LowRankChange change{Eigen::MatrixXd::Zero(a.size, rank), eigen.values(kept)};
    for (Eigen::Index j = 0; j < rank; ++j)
        for (Eigen::Index i = 0; i < n; ++i)
            change.columns(list[static_cast<std::size_t>(i)], j) =
                scale[i] * eigen.vectors(i, kept[static_cast<std::size_t>(j)]);
    return change;
}

} // namespace undisona
