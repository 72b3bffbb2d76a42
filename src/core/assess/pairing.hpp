#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// A mode of one take and the mode of another with the same shape.
struct ModePair {
    int first = 0, second = 0; ///< mode numbers; second is 0 where there is no partner
    double assurance = 0.0;    ///< modal assurance criterion, 0...1
    double shift = 0.0;        ///< (f_second - f_first) / f_first; 0 without a partner
};

/// Modal assurance criterion (Allemang and Brown 1982) of all pairs over the translations of the points that
/// both takes have, by name; rows are modes of the first.
Eigen::MatrixXd modalAssurance(const Solution& first, const Solution& second);

/// Each mode's partner: one at most, chosen for the largest total assurance (assignment by Kuhn, 1955), of
/// 0.6 or more. Modes of one frequency are compared as a group, by the principal angles of their spaces.
std::vector<ModePair> pairModes(const Solution& first, const Solution& second);

/// Two modes of the first whose partners stand in the other order: their lines cross between the two models.
struct ChangedPlaces {
    int lower = 0, higher = 0;     ///< mode numbers of the first
    int ofLower = 0, ofHigher = 0; ///< their partners' in the second
};
/// But for modes of one frequency, which have no order.
std::vector<ChangedPlaces> changedPlaces(const Solution& first, const Solution& second, const std::vector<ModePair>&);

/// A mode of the first that is a mixture of two neighbours of the second, each by a quarter of its square at least:
/// their lines veer off each other on the way (Leissa 1974).
struct MixedMode {
    int mode = 0;
    std::array<int, 2> of{};           ///< modes of the second
    std::array<double, 2> assurance{}; ///< with each
};
std::vector<MixedMode> mixedModes(const Solution& first, const Solution& second, const Eigen::MatrixXd& assurance);

} // namespace undisona
