#pragma once
#include "core/base/progress.hpp"
#include "core/modal/solution.hpp"
#include "core/model/said_quantities.hpp"
#include "core/pencil/kept_runs.hpp"

namespace undisona {

/// Where a mode is wanted: above or below a frequency; or all of them clear of what shakes.
enum class RemedyWay { clear, above, below };
constexpr std::string_view wordOf(RemedyWay way)
{
    constexpr std::array<std::string_view, 3> words{"clear", "above", "below"};
    return words[static_cast<std::size_t>(way)];
}

/// Unknowns up to which every word is told unasked.
inline constexpr long everyWordUpTo = 5000;

/// What is asked of a remedy, and what it may not do.
struct RemedyOrder {
    RemedyWay way = RemedyWay::clear;
    int mode = 0;                        ///< number; with all those of its frequency. Of clear 0: those that clash
    double hertz = 0.0;                  ///< of above and below
    double mostMass = 0.0;               ///< kg that a change may add; 0: a quarter of what there is
    std::string notOn{};                 ///< a pick of what nothing may be put on or fastened to
    std::vector<std::string> sections{}; ///< the only ones for members and struts; empty: see docs/theory/remedies.md
    bool masses = true, props = true, struts = true, words = true;
    /// Tell of every word what it is worth; else, in large models, of those alone that may be changed.
    bool everyWord = false;
};

/// What a change does to a frequency that was not asked to move.
struct SideEffect {
    int mode = 0;                     ///< number, of the model as it is
    double before = 0.0, after = 0.0; ///< Hz
    std::string words;                ///< "mode 5 comes into Generator x 1, at 19.6 Hz"
};

/// A change of the model that moves the mode, as it would be said.
struct Proposal {
    std::string kind; ///< mass, prop, strut, section, word, two
    Cure change;
    std::string place;  ///< where, in words
    std::string amount; ///< "14 kg", "120 kN/m along x", "4 mm to 5.2 mm"
    double adds = 0.0;  ///< kg
    bool reaches = false;
    int mode = 0;                     ///< number of the one that has farthest to go
    double before = 0.0, after = 0.0; ///< Hz, of that one
    std::vector<double> promised{};   ///< Hz, ascending; as many as there were modes
    std::vector<SideEffect> sideEffects{};

    /// "promised: mode 4 from 15.148 to 15.9 Hz", for the note of a take that is made of it.
    std::string promise() const;
};

/// What a word is worth to the frequency of a mode.
struct WordSlope {
    SaidQuantity said;
    double slope = 0.0;    ///< Hz per SI unit of it; of several modes of one frequency that which moves most
    double percent = 0.0;  ///< Hz for one per cent more of it; 0 where it is zero
    bool remeshed = false; ///< its mesh moves with it: from two runs, less sharp
};

struct Remedy {
    std::string goal;                  ///< in words: "mode 3 above 31 Hz"
    std::vector<Proposal> proposals{}; ///< those that reach it first, and that do nothing else; best first
    int wordsOf = 0;                   ///< number of the mode that the words are told for
    std::vector<WordSlope> words{};    ///< largest effect of a per cent first
    Findings findings{};               ///< what was not tried, and why
    double staticError = 0.0;          ///< of what the residual vectors leave of the answers at the places tried
};

/// The model's solution must hold its system with matrices. Findings tell of a goal that makes no sense.
Result<Remedy> remediesFor(const Model&, const Solution&, const System& withMatrices, const RemedyOrder&, Progress&,
                           KeptRuns* = nullptr);

/// What each word that the model says is worth to a mode (from 0): by the same motion in the equations with a little
/// more and a little less of it; where its mesh moves with it by two runs, if the model is small.
std::vector<WordSlope> wordSlopes(const Model&, const Solution&, const System& withMatrices, std::size_t mode,
                                  Progress&, Findings& leftOut, const RemedyOrder& = {.everyWord = true});

} // namespace undisona
