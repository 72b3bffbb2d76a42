#pragma once
#include "core/pencil/certify.hpp"

#include <chrono>

namespace undisona {

/// What is said of the modes while they are looked for; either may be empty.
struct ModeListener {
    /// Frequencies that have converged so far, Hz, ascending.
    std::function<void(const std::vector<double>& hertz)> frequencies;
    /// The modes themselves, ascending, not counted yet and perhaps not all that are below the highest: so that they
    /// outlive a run that is cut short. Their accepted errors are those of the recurrence; plain residuals are missing.
    std::function<void(const Extraction&)> modes;
};

/// When modes on their way are worth gathering: at most a tenth of the time goes into it.
class Pace {
public:
    bool due() const { return Clock::now() >= next_; }
    template <class Work>
    void take(const Work& work)
    {
        const auto begin = Clock::now();
        work();
        next_ = Clock::now() + std::max<Clock::duration>(pause, 9 * (Clock::now() - begin));
    }

private:
    using Clock = std::chrono::steady_clock;
    static constexpr std::chrono::milliseconds pause{200};
    Clock::time_point next_ = Clock::now() + pause;
};

} // namespace undisona
