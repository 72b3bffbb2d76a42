#pragma once
#include <atomic>
#include <chrono>
#include <functional>
#include <map>
#include <string>

namespace undisona {

/// One object that a long run carries along: it says what is being done, is asked whether to stop,
/// and keeps how long each stage took. `stop` may be called from any thread, the rest from the run's own.
class Progress {
public:
    using Listener = std::function<void(const std::string& stage, double fraction)>;

    Progress() = default;
    explicit Progress(Listener listener) : listener_(std::move(listener)) {}
    ~Progress();
    Progress(const Progress&) = delete;
    Progress& operator=(const Progress&) = delete;

    /// Begins a stage, ending the one before; the clock of a stage adds up if it is entered again.
    void stage(const std::string& name);
    /// How far the stage has come, 0 to 1; less than 0 if nobody knows.
    void fraction(double done);
    /// A word beside the stage, such as what it will cost.
    void say(const std::string& more);

    void stop() { stopped_ = true; }
    bool stopped() const { return stopped_; }

    const std::string& lastStage() const { return last_; } ///< the one that runs, or the last that did

    /// Seconds by stage; ends the running stage.
    const std::map<std::string, double>& timings();

private:
    void endStage();

    Listener listener_;
    std::atomic<bool> stopped_ = false;
    std::string stage_, last_;
    std::chrono::steady_clock::time_point began_;
    std::map<std::string, double> seconds_;
};

} // namespace undisona
