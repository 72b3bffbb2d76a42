#include "core/base/progress.hpp"

namespace undisona {

Progress::~Progress() = default;

void Progress::stage(const std::string& name)
{
    endStage();
    stage_ = last_ = name;
    began_ = std::chrono::steady_clock::now();
    if (listener_) listener_(stage_, -1.0);
}

void Progress::say(const std::string& more)
{
    if (listener_) listener_(stage_ + " · " + more, -1.0);
}

void Progress::fraction(double done)
{
    if (listener_) listener_(stage_, done);
}

const std::map<std::string, double>& Progress::timings()
{
    endStage();
    return seconds_;
}

void Progress::endStage()
{
    if (stage_.empty()) return;
    seconds_[stage_] += std::chrono::duration<double>(std::chrono::steady_clock::now() - began_).count();
    stage_.clear();
}

} // namespace undisona
