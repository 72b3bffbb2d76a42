#pragma once
#include <map>
#include <vector>

namespace undisona {

/// A sum of unknowns times weights; those of weight zero are left out.
using WeightedSum = std::map<int, double>;

/// Brings linear relations between unknowns to q_follower = sum of weights times other unknowns, in which no follower
/// stands on the right (Gauss and Jordan's elimination, pivots among those that shall follow, by size). Relations may
/// come in any order and say the same again. Held unknowns, which have numbers of their own, are never followers.
class Elimination {
public:
    struct Row {
        WeightedSum free, held;
        std::vector<int> following{}; ///< of the free ones, those that follow the others where they can
    };
    struct Followed {
        WeightedSum free, held;
    };

    /// False when it says nothing that was not said by others, or holds.
    bool take(Row row);

    /// A relation between unknowns that follow nothing, by what is known so far.
    Row reduced(Row);
    /// Each by the unknowns that are left.
    const std::map<int, Followed>& followers();

private:
    bool isFollower(int unknown) const { return followers_.contains(unknown); }
    void resolve(int follower); ///< to what follows nothing

    std::map<int, Followed> followers_; ///< by unknowns that may have come to follow others since
};

} // namespace undisona
