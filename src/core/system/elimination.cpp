#include "core/system/elimination.hpp"

#include <algorithm>
#include <cmath>

namespace undisona {

namespace {

constexpr double nothing = 1e-11; // of the largest weight: what is left when things cancel

double largestOf(const WeightedSum& sum)
{
    double largest = 0.0;
    for (const auto& [unknown, weight] : sum)
        largest = std::max(largest, std::abs(weight));
    return largest;
}

void addTo(WeightedSum& sum, const WeightedSum& more, double factor)
{
    for (const auto& [unknown, weight] : more)
        sum[unknown] += factor * weight;
}

void dropBelow(WeightedSum& sum, double size)
{
    std::erase_if(sum, [&](const auto& entry) { return std::abs(entry.second) <= size; });
}

/// The one of those that shall follow with the largest weight, or, where that is too small, of all.
int pivotOf(const Elimination::Row& row)
{
    constexpr double wellEnough = 0.05; // of the largest weight
    int pivot = -1;
    double most = 0.0;
    for (const int unknown : row.following)
        if (const auto own = row.free.find(unknown); own != row.free.end() && std::abs(own->second) > most) {
            most = std::abs(own->second);
            pivot = unknown;
        }
    if (most >= wellEnough * largestOf(row.free)) return pivot;
    return std::max_element(row.free.begin(), row.free.end(),
                            [](const auto& a, const auto& b) { return std::abs(a.second) < std::abs(b.second); })
        ->first;
}

} // namespace

Elimination::Row Elimination::reduced(Row row)
{
    const double size = std::max(largestOf(row.free), largestOf(row.held));
    WeightedSum free;
    for (const auto& [unknown, weight] : row.free)
        if (isFollower(unknown)) {
            resolve(unknown);
            addTo(free, followers_.at(unknown).free, weight);
            addTo(row.held, followers_.at(unknown).held, weight);
        } else {
            free[unknown] += weight;
        }
    row.free = std::move(free);
    dropBelow(row.free, nothing * size);
    dropBelow(row.held, nothing * size);
    return row;
}

bool Elimination::take(Row row)
{
    row = reduced(std::move(row));
    if (row.free.empty()) return false;

    const int pivot = pivotOf(row);
    const double own = row.free.at(pivot);
    row.free.erase(pivot);
    Followed followed;
    addTo(followed.free, row.free, -1.0 / own);
    addTo(followed.held, row.held, -1.0 / own);
    followers_.emplace(pivot, std::move(followed));
    return true;
}

void Elimination::resolve(int follower)
{
    std::vector<int> waiting{follower}; // in place of a call in itself: chains may be long
    while (!waiting.empty()) {
        Followed& own = followers_.at(waiting.back());
        bool ready = true, follows = false;
        for (const auto& [unknown, weight] : own.free) {
            const auto other = followers_.find(unknown);
            if (other == followers_.end()) continue;
            follows = true;
            const auto& theirs = other->second.free;
            if (std::none_of(theirs.begin(), theirs.end(), [&](const auto& entry) { return isFollower(entry.first); }))
                continue;
            ready = false;
            waiting.push_back(unknown);
        }
        if (!ready) continue;
        waiting.pop_back();
        if (!follows) continue;
        Followed resolved{{}, own.held};
        for (const auto& [unknown, weight] : own.free)
            if (const auto other = followers_.find(unknown); other != followers_.end()) {
                addTo(resolved.free, other->second.free, weight);
                addTo(resolved.held, other->second.held, weight);
            } else {
                resolved.free[unknown] += weight;
            }
        dropBelow(resolved.free, nothing * largestOf(own.free));
        own = std::move(resolved);
    }
}

const std::map<int, Elimination::Followed>& Elimination::followers()
{
    for (const auto& [follower, sum] : followers_)
        resolve(follower);
    return followers_;
}

} // namespace undisona
