#include "app/score/score_axis.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace undisona {

namespace {

constexpr double leastLog = 1e-3; // Hz, the lowest end of a logarithmic axis
constexpr double mostHertz = 1e7;

double unitFactor(AxisUnit unit)
{
    return unit == AxisUnit::rpm ? 60.0 : unit == AxisUnit::radPerSecond ? 2.0 * std::numbers::pi : 1.0;
}

} // namespace

void ScoreAxis::setRange(double low, double high)
{
    low_ = logarithmic_ ? std::max(low, leastLog) : std::max(0.0, low);
    high_ = std::clamp(high, low_ + 1e-4, mostHertz);
}

void ScoreAxis::setLogarithmic(bool logarithmic)
{
    logarithmic_ = logarithmic;
    if (logarithmic && low_ < high_ / 1000.0) low_ = high_ / 1000.0;
    setRange(low_, high_);
}

QString ScoreAxis::unitText() const
{
    return unit_ == AxisUnit::rpm ? "rpm" : unit_ == AxisUnit::radPerSecond ? "rad/s" : "Hz";
}

double ScoreAxis::at(double hertz) const
{
    const double share = logarithmic_ ? std::log(std::max(hertz, low_ * 1e-3) / low_) / std::log(high_ / low_)
                                      : (hertz - low_) / (high_ - low_);
    return left_ + share * (right_ - left_);
}

double ScoreAxis::hertzAt(double pixel) const
{
    const double share = (pixel - left_) / std::max(1.0, right_ - left_);
    return logarithmic_ ? low_ * std::pow(high_ / low_, share) : low_ + share * (high_ - low_);
}

void ScoreAxis::zoom(double about, double factor)
{
    const double fixed = hertzAt(about);
    if (logarithmic_)
        setRange(fixed * std::pow(low_ / fixed, factor), fixed * std::pow(high_ / fixed, factor));
    else
        setRange(fixed + (low_ - fixed) * factor, fixed + (high_ - fixed) * factor);
}

void ScoreAxis::pan(double pixels)
{
    if (logarithmic_) {
        const double factor = std::pow(high_ / low_, -pixels / (right_ - left_));
        return setRange(low_ * factor, high_ * factor);
    }
    double by = -pixels * (high_ - low_) / (right_ - left_);
    by = std::max(by, -low_);
    setRange(low_ + by, high_ + by);
}

std::vector<ScoreAxis::Tick> ScoreAxis::ticks() const
{
    std::vector<Tick> ticks;
    const double factor = unitFactor(unit_);
    const auto add = [&](double value) { ticks.push_back({at(value / factor), QString::number(value, 'g', 6)}); };
    if (logarithmic_) {
        const bool all = std::log10(high_ / low_) < 1.6;
        for (int decade = static_cast<int>(std::floor(std::log10(low_ * factor))); decade <= 12; ++decade)
            for (const int digit : {1, 2, 3, 4, 5, 7}) {
                if (!all && digit != 1 && digit != 2 && digit != 5) continue;
                const double value = digit * std::pow(10.0, decade);
                if (value >= low_ * factor * 0.999 && value <= high_ * factor * 1.001) add(value);
            }
        return ticks;
    }
    const double wanted = (high_ - low_) * factor / std::max(2.0, (right_ - left_) / 110.0);
    const double power = std::pow(10.0, std::floor(std::log10(wanted)));
    double step = 10.0 * power;
    for (const double nice : {1.0, 2.0, 2.5, 5.0})
        if (nice * power >= wanted) {
            step = nice * power;
            break;
        }
    for (double index = std::ceil(low_ * factor / step - 1e-9); index * step <= high_ * factor * (1.0 + 1e-9); ++index)
        add(index == 0.0 ? 0.0 : index * step);
    return ticks;
}

} // namespace undisona
