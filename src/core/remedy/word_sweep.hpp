#pragma once
#include "core/base/progress.hpp"
#include "core/modal/solution.hpp"
#include "core/model/said_quantities.hpp"
#include "core/pencil/kept_runs.hpp"

namespace undisona {

/// One word of a model from a value to another.
struct SweepOrder {
    SaidQuantity word;
    double from = 0.0, to = 0.0; ///< SI
    long steps = 12;             ///< runs beyond the first, 1 to 200
};

/// One run of a sweep.
struct SweepStep {
    double value = 0.0;          ///< of the word, SI
    std::vector<double> hertz{}; ///< by line; no number where no mode has its shape
    std::string trouble{};       ///< why there are none
};

/// Two lines that meet: they pass through each other, or come near and part again with their shapes exchanged.
struct SweepMeeting {
    int one = 0, other = 0; ///< lines, from 0
    double value = 0.0, hertz = 0.0;
    double gap = 0.0; ///< Hz, the least that was seen
    bool veers = false;
};

/// Frequencies over a word. A line is a mode followed by its shape, named by its number where it begins.
struct WordSweep {
    SaidQuantity word;
    std::vector<int> modes{}; ///< by line: the number of the mode that it begins as
    std::vector<SweepStep> steps{};
    std::vector<SweepMeeting> meetings{};
    Findings findings{};
};

/// Solves the model at each value, each run beside the one before; `soFar` hears what is known after each. A stopped
/// one has the steps until then. Findings where the order makes no sense.
Result<WordSweep> sweep(const Model&, const SweepOrder&, Progress&, KeptRuns*,
                        const std::function<void(const WordSweep&)>& soFar = {});

/// The word of that name, or of a beginning that no other has; nothing, with those that it may be.
Result<SaidQuantity> wordNamed(const Model&, std::string_view name);

} // namespace undisona
