#pragma once
#include "core/elements/solid.hpp"
#include "core/modal/bare_pair.hpp"
#include "core/numerics/sparse.hpp"

#include <gtest/gtest.h>

#include <array>
#include <functional>
#include <map>

namespace undisona {

/// A box of solid elements of one family: bricks, each cut into two wedges or six tetrahedra for those families.
class SolidBlock {
public:
    SolidBlock(SolidKind kind, const Eigen::Vector3d& size, const std::array<int, 3>& parts) : kind_(kind)
    {
        for (int z = 0; z < parts[2]; ++z)
            for (int y = 0; y < parts[1]; ++y)
                for (int x = 0; x < parts[0]; ++x) {
                    std::array<int, 8> corner{};
                    constexpr int offset[8][3] = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0},
                                                  {0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}};
                    for (std::size_t at = 0; at < 8; ++at)
                        corner[at] = node(size.cwiseProduct(Eigen::Vector3d(double(x + offset[at][0]) / parts[0],
                                                                            double(y + offset[at][1]) / parts[1],
                                                                            double(z + offset[at][2]) / parts[2])));
                    cut(corner);
                }
    }

    std::vector<Eigen::Vector3d> places;    ///< corners; the middles of sides follow when `close` is called
    std::vector<std::vector<int>> elements; ///< nodes of each
    double modulus = 200e9, poisson = 0.3, density = 8000;

    /// Moves corners, before the middles of sides are made.
    void warp(const std::function<Eigen::Vector3d(const Eigen::Vector3d&)>& moved)
    {
        for (auto& place : places)
            place = moved(place);
    }
    /// Gives elements of the second order their middles, on straight sides.
    void close()
    {
        if (nodesOf(kind_) == cornersOf(kind_)) return;
        std::map<std::pair<int, int>, int> middles;
        for (auto& own : elements)
            for (const auto& [a, b] : sidesOf(kind_)) {
                const int i = own[static_cast<std::size_t>(a)], j = own[static_cast<std::size_t>(b)];
                const auto [at, isNew] = middles.emplace(std::minmax(i, j), static_cast<int>(places.size()));
                if (isNew)
                    places.push_back((places[static_cast<std::size_t>(i)] + places[static_cast<std::size_t>(j)]) / 2.0);
                own.push_back(at->second);
            }
    }

    SolidElement element(std::size_t at) const
    {
        SolidElement own{kind_, {}, modulus, poisson, density};
        for (const int node : elements[at])
            own.node.push_back(places[static_cast<std::size_t>(node)]);
        return own;
    }

    /// K or M of the free unknowns; `held` says which displacements of a place are none.
    SparseSymmetric system(const std::function<Eigen::MatrixXd(const SolidElement&)>& matrix,
                           const std::function<std::array<bool, 3>(const Eigen::Vector3d&)>& held) const
    {
        std::vector<int> number(3 * places.size(), -1);
        int free = 0;
        for (std::size_t at = 0; at < places.size(); ++at) {
            const auto fixed = held(places[at]);
            for (std::size_t axis = 0; axis < 3; ++axis)
                if (!fixed[axis]) number[3 * at + axis] = free++;
        }
        SparseAssembler sum(free);
        for (std::size_t at = 0; at < elements.size(); ++at) {
            std::vector<int> unknowns, rows;
            for (std::size_t node = 0; node < elements[at].size(); ++node)
                for (std::size_t axis = 0; axis < 3; ++axis)
                    if (const int own = number[3 * static_cast<std::size_t>(elements[at][node]) + axis]; own >= 0) {
                        unknowns.push_back(own);
                        rows.push_back(static_cast<int>(3 * node + axis));
                    }
            sum.add(unknowns, matrix(element(at))(rows, rows));
        }
        return sum.finish();
    }

    /// The lowest frequencies, Hz.
    std::vector<double> frequencies(const std::function<std::array<bool, 3>(const Eigen::Vector3d&)>& held,
                                    long count) const
    {
        Ask ask;
        ask.until = Ask::Until::count;
        ask.count = count;
        Progress progress;
        const auto found = modesOfPair(system([](const auto& e) { return stiffness(e); }, held),
                                       system([](const auto& e) { return consistentMass(e); }, held), ask, progress);
        std::vector<double> list;
        if (!found) ADD_FAILURE() << oneLine(found.findings().front());
        for (Eigen::Index at = 0; found && at < std::min<Eigen::Index>(count, found->lambda.size()); ++at)
            list.push_back(std::sqrt(found->lambda[at]) / (2.0 * std::numbers::pi));
        return list;
    }

private:
    int node(const Eigen::Vector3d& place)
    {
        const std::array<long, 3> key{std::lround(place.x() * 1e7), std::lround(place.y() * 1e7),
                                      std::lround(place.z() * 1e7)};
        const auto [at, isNew] = known_.emplace(key, static_cast<int>(places.size()));
        if (isNew) places.push_back(place);
        return at->second;
    }
    void cut(const std::array<int, 8>& c)
    {
        if (kind_ == SolidKind::brick8 || kind_ == SolidKind::brick20) {
            elements.emplace_back(c.begin(), c.end());
        } else if (kind_ == SolidKind::tetrahedron10) { // about the diagonal from corner 0 to corner 6 (Kuhn)
            constexpr int ways[6][2] = {{1, 2}, {2, 3}, {3, 7}, {7, 4}, {4, 5}, {5, 1}};
            for (const auto& [a, b] : ways)
                elements.push_back({c[0], c[static_cast<std::size_t>(a)], c[static_cast<std::size_t>(b)], c[6]});
        } else {
            elements.push_back({c[0], c[1], c[2], c[4], c[5], c[6]});
            elements.push_back({c[0], c[2], c[3], c[4], c[6], c[7]});
        }
    }

    SolidKind kind_;
    std::map<std::array<long, 3>, int> known_;
};

} // namespace undisona
