#pragma once
#include "core/assess/clash.hpp"
#include "core/base/progress.hpp"
#include "core/model/said_quantities.hpp"
#include "core/pencil/kept_runs.hpp"
#include "core/units/tolerance.hpp"

namespace undisona {

/// How far what is not known exactly is followed.
struct ToleranceOrder {
    bool corners = true; ///< solve where all words stand at the worst of their ends
    long samples = 0;    ///< runs with all words drawn at once, 0 to 10 000
    long seed = 1;       ///< of those
};

/// A word that carries a tolerance.
struct ToleratedWord {
    SaidQuantity said;
    Tolerance range;       ///< SI
    std::string trouble{}; ///< why one of its ends has no modes; its effect is left out
};

/// What is known of one frequency. Ranges are Hz; those without a number were not asked for or not found.
struct FrequencyRange {
    int mode = 0; ///< number, of the model as it is
    double hertz = 0.0;
    std::vector<double> atLow{}, atHigh{};      ///< by word: how far it goes with that word alone at its ends, Hz
    double low = 0.0, high = 0.0;               ///< all of those together at their worst
    double usualLow = 0.0, usualHigh = 0.0;     ///< between them lie nine of ten
    double solvedLow = 0.0, solvedHigh = 0.0;   ///< that worst, solved in full
    double sampledLow = 0.0, sampledHigh = 0.0; ///< the least and the greatest of the runs drawn
    long sampled = 0;                           ///< runs drawn in which its shape was found again
};

/// A mode against one order of what shakes, where it may clash within its tolerance.
struct ClashChance {
    std::string excitation, sentence;          ///< its name and its id
    double order = 1.0, low = 0.0, high = 0.0; ///< Hz, of order times speed
    int mode = 0;                              ///< number, of the model as it is
    bool now = false;                          ///< the model as it is clashes
    double likelihood = 0.0;                   ///< 0...1
    double drawn = 0.0;                        ///< the share of the runs drawn that clash; no number without any
};

struct ToleratedModes {
    std::vector<ToleratedWord> words{};
    std::vector<FrequencyRange> modes{};
    std::vector<ClashChance> clashes{};
    long samples = 0;    ///< runs drawn that have modes
    double missed = 0.0; ///< by how much of a frequency single effects added up miss the runs drawn, at most
    Findings findings{};
};

/// The words of a model that carry a tolerance, in working order.
std::vector<ToleratedWord> toleratedWords(const Model&);

/// Each word alone is run at both of its ends; a frequency is then the sum of what they do to it, each by the parabola
/// through its three values, of which ranges and likelihoods come by 10 000 draws, even over each tolerance. The sum is
/// checked by runs in full: where every word stands at the worst of its ends, and of words drawn at once, evenly in
/// each word (McKay, Beckman and Conover 1979). Modes are followed by shape. Findings where nothing carries a
/// tolerance.
Result<ToleratedModes> toleratedModes(const Model&, std::shared_ptr<const Solution>, const ToleranceOrder&, Progress&,
                                      KeptRuns*, const std::function<void(const ToleratedModes&)>& soFar = {});

} // namespace undisona
