#pragma once
#include "core/modal/solve.hpp"

namespace undisona {

/// What a mode's frequency settles at as the mesh gets finer.
struct SettledFrequency {
    double hertz = 0.0;
    double either = 0.0; ///< by how much that may be off either way, Hz
    double order = 0.0;  ///< the error falls with this power of the unknowns; 0: no steady course, the finest stands

    /// By how much the frequency of a mode is too high, relative to the limit.
    double off(const Mode& mode) const { return mode.frequency / hertz - 1.0; }
};

/// The modes of one solution on meshes from coarse to fine.
struct Settling {
    struct Round {
        double factor = 1.0; ///< sizes of elements, as parts of those of the solution itself
        Eigen::Index unknowns = 0;
        std::vector<double> hertz;     ///< by mode of the solution; no number where no mode has its shape
        std::vector<double> meshError; ///< relative, as that mesh's own estimate has it
    };
    std::vector<Round> rounds;                            ///< by number of unknowns
    double expectedOrder = 1.0;                           ///< of the errors by the unknowns, as the elements have it
    std::vector<std::optional<SettledFrequency>> settled; ///< by mode, where three rounds know it
    Findings remarks;                                     ///< on meshes that could not be solved
};

/// Sizes at which a study solves, as parts of those of the solution's mesh: the cheap ones first.
inline constexpr std::array settlingFactors{2.0, 1.4142135623730951, 0.7071067811865476};

/// Whether a study would say anything: of modes, not of Ritz vectors nor of all that a mesh has.
bool canSettle(const Solution&);

/// By mode, the limit of f = limit + c / unknowns^order through its rounds by least squares (Richardson, The deferred
/// approach to the limit, 1927), with the order that fits its four rounds well, or else with the one expected; three
/// rounds at least. As meshes are never quite of one shape, a round may be off by some share of its error; what the
/// limit may be off is a quarter of the error left in the last round (Roache, Quantification of uncertainty, 1997),
/// half of it where the order is low, or twice that share.
std::vector<std::optional<SettledFrequency>> settledFrequencies(const std::vector<double>& unknowns,
                                                                const std::vector<std::vector<double>>& hertz,
                                                                double expectedOrder);

/// Solves on the other meshes in turn and matches modes by shape (pairModes), beginning with the solution's own round;
/// after each, `round` hears what is known so far. Stopped, it has the rounds until then. A mesh that fails becomes a
/// remark.
Result<Settling> settle(const Model&, const Solution& own, Progress&,
                        const std::function<void(const Settling&)>& round = {});

} // namespace undisona
