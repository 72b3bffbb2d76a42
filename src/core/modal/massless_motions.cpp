#include "core/modal/massless_motions.hpp"

#include "core/base/joined_sets.hpp"

#include <map>

namespace undisona {

namespace {

using Weights = std::vector<std::pair<int, double>>;

/// Calls with the row, column and value of each entry of the lower triangle.
template <class Each>
void eachEntry(const SparseSymmetric& matrix, const Each& each)
{
    for (std::int64_t column = 0; column < matrix.size; ++column)
        for (auto at = static_cast<std::size_t>(matrix.columnStart[static_cast<std::size_t>(column)]);
             at < static_cast<std::size_t>(matrix.columnStart[static_cast<std::size_t>(column) + 1]); ++at)
            each(static_cast<int>(matrix.row[at]), static_cast<int>(column), matrix.value[at]);
}

/// Unknowns that the mass matrix joins to no more than a dozen, all of them together: the nodes of lumped masses.
std::vector<std::vector<int>> smallSets(const SparseSymmetric& mass)
{
    constexpr int few = 12;
    const auto size = static_cast<std::size_t>(mass.size);
    std::vector<int> neighbours(size, 1);
    eachEntry(mass, [&](int row, int column, double value) {
        if (row == column || value == 0.0) return;
        ++neighbours[static_cast<std::size_t>(row)];
        ++neighbours[static_cast<std::size_t>(column)];
    });
    const auto isFew = [&](int at) { return neighbours[static_cast<std::size_t>(at)] <= few; };
    JoinedSets sets(size);
    std::vector<bool> joinsMany(size, false);
    eachEntry(mass, [&](int row, int column, double value) {
        if (value == 0.0) return;
        if (isFew(row) && isFew(column)) return sets.join(row, column);
        joinsMany[static_cast<std::size_t>(row)] = joinsMany[static_cast<std::size_t>(column)] = true;
    });
    std::map<int, std::vector<int>> byLowest;
    for (int at = 0; at < static_cast<int>(size); ++at)
        if (isFew(at) && (neighbours[static_cast<std::size_t>(at)] > 1 || !(mass.diagonal(at) > 0.0)))
            byLowest[sets.of(at)].push_back(at); // what is alone with its mass is of no interest
    std::vector<std::vector<int>> found;
    for (auto& [lowest, unknowns] : byLowest) {
        const bool alone = std::none_of(unknowns.begin(), unknowns.end(),
                                        [&](int at) { return joinsMany[static_cast<std::size_t>(at)]; });
        if (alone && unknowns.size() <= few) found.push_back(std::move(unknowns));
    }
    return found;
}

/// The combinations of the unknowns that have no mass.
void addMassless(const std::vector<int>& unknowns, const Eigen::MatrixXd& mass, std::vector<Weights>& found)
{
    std::vector<int> massive;
    for (std::size_t at = 0; at < unknowns.size(); ++at)
        if (mass(Eigen::Index(at), Eigen::Index(at)) > 0.0)
            massive.push_back(static_cast<int>(at));
        else
            found.push_back({{unknowns[at], 1.0}});
    if (massive.size() < 2) return;
    const Eigen::MatrixXd block = mass(massive, massive);
    const Eigen::VectorXd scale = block.diagonal().cwiseSqrt().cwiseInverse();
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(
        Eigen::MatrixXd(scale.asDiagonal() * block * scale.asDiagonal()));
    for (Eigen::Index at = 0; at < block.rows() && eigen.eigenvalues()[at] < 1e-12; ++at) {
        const Eigen::VectorXd motion = (scale.asDiagonal() * eigen.eigenvectors().col(at)).normalized();
        Weights weights;
        for (Eigen::Index k = 0; k < motion.size(); ++k)
            if (motion[k] != 0.0)
                weights.emplace_back(unknowns[static_cast<std::size_t>(massive[static_cast<std::size_t>(k)])],
                                     motion[k]);
        found.push_back(std::move(weights));
    }
}

std::vector<Weights> masslessOf(const SparseSymmetric& mass)
{
    const std::vector<std::vector<int>> sets = smallSets(mass);
    std::vector<std::pair<int, int>> placeOf(static_cast<std::size_t>(mass.size), {-1, -1}); // set, row
    std::vector<Eigen::MatrixXd> blocks;
    for (std::size_t set = 0; set < sets.size(); ++set) {
        const auto count = static_cast<Eigen::Index>(sets[set].size());
        blocks.push_back(Eigen::MatrixXd::Zero(count, count));
        for (std::size_t at = 0; at < sets[set].size(); ++at)
            placeOf[static_cast<std::size_t>(sets[set][at])] = {static_cast<int>(set), static_cast<int>(at)};
    }
    eachEntry(mass, [&](int row, int column, double value) {
        const auto [set, at] = placeOf[static_cast<std::size_t>(row)];
        const auto [other, from] = placeOf[static_cast<std::size_t>(column)];
        if (set >= 0 && set == other)
            blocks[static_cast<std::size_t>(set)](at, from) = blocks[static_cast<std::size_t>(set)](from, at) = value;
    });
    std::vector<Weights> found;
    for (std::size_t set = 0; set < sets.size(); ++set)
        addMassless(sets[set], blocks[set], found);
    return found;
}

} // namespace

std::optional<std::int64_t> looseWithoutMass(const System& system)
{
    const std::vector<Weights> massless = masslessOf(system.mass);
    constexpr std::size_t most = 600;
    if (massless.empty() || massless.size() > most) return std::nullopt;
    std::vector<Weights> motionsOf(static_cast<std::size_t>(system.size())); // by unknown
    for (std::size_t motion = 0; motion < massless.size(); ++motion)
        for (const auto& [unknown, weight] : massless[motion])
            motionsOf[static_cast<std::size_t>(unknown)].emplace_back(static_cast<int>(motion), weight);
    const auto count = static_cast<Eigen::Index>(massless.size());
    Eigen::MatrixXd block = Eigen::MatrixXd::Zero(count, count);
    Eigen::VectorXd terms = Eigen::VectorXd::Zero(count); // what the diagonal is a sum of
    eachEntry(system.stiffness, [&](int row, int column, double value) {
        for (const auto& [one, weight] : motionsOf[static_cast<std::size_t>(column)])
            for (const auto& [other, more] : motionsOf[static_cast<std::size_t>(row)]) {
                block(other, one) += value * weight * more;
                if (row != column) block(one, other) += value * weight * more;
                if (one == other) terms[one] += std::abs(value * weight * more);
            }
    });
    const auto mostMoved = [&](const Eigen::VectorXd& motions) {
        std::map<int, double> moved;
        for (Eigen::Index at = 0; at < count; ++at)
            for (const auto& [unknown, weight] : massless[static_cast<std::size_t>(at)])
                moved[unknown] += weight * motions[at];
        return std::max_element(
                   moved.begin(), moved.end(),
                   [](const auto& one, const auto& other) { return std::abs(one.second) < std::abs(other.second); })
            ->first;
    };
    for (Eigen::Index at = 0; at < count; ++at)
        if (!(block(at, at) > 1e-13 * terms[at])) return mostMoved(Eigen::VectorXd::Unit(count, at));
    const Eigen::VectorXd scale = block.diagonal().cwiseSqrt().cwiseInverse();
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(
        Eigen::MatrixXd(scale.asDiagonal() * block * scale.asDiagonal()));
    if (eigen.eigenvalues()[0] > 1e-12) return std::nullopt;
    return mostMoved(scale.asDiagonal() * eigen.eigenvectors().col(0));
}

} // namespace undisona
