#include "core/remedy/tolerated_modes.hpp"

#include "core/assess/pairing.hpp"
#include "core/modal/solve.hpp"
#include "core/model/stated.hpp"

#include <fmt/format.h>

#include <numeric>
#include <random>

namespace undisona {

namespace {

constexpr double unknown = std::numeric_limits<double>::quiet_NaN();
constexpr std::size_t draws = 10000;   ///< of sums of single effects
constexpr std::size_t mostCorners = 8; ///< runs at the worst ends of all words
constexpr long mostSamples = 10000;

/// Where each word stands: -1 at the low end of its tolerance, 0 as it is said, 1 at the high end.
using Stand = std::vector<double>;

/// A number from 0 to 1, alike on every machine.
double evenOf(std::mt19937_64& random)
{
    return double(random() >> 11) * 0x1p-53;
}

/// An effect at one place between the ends, by the parabola through what it does at them; straight on either side where
/// the value is near one of the ends.
double effectAt(double atLow, double atHigh, double low, double value, double high, double at)
{
    const double down = value - low, up = high - value, by = at - value;
    if (down < 1e-3 * (high - low) || up < 1e-3 * (high - low)) return by < 0.0 ? atLow * -by / down : atHigh * by / up;
    // a by + b by^2
    const double b = (atHigh / up + atLow / down) / (up + down), a = atHigh / up - b * up;
    return a * by + b * by * by;
}

/// What the model asks for and a little beyond, so that a mode which leaves what was asked is found again.
Ask widerThan(const Solution& own)
{
    Ask ask = own.structure->ask;
    if (ask.until == Ask::Until::all) return ask;
    constexpr long more = 4;
    if (ask.inside()) {
        ask.from *= 0.9;
        if (ask.until == Ask::Until::band) ask.frequency *= 1.1;
        ask.count += more;
        return ask;
    }
    ask.until = Ask::Until::count;
    ask.count = static_cast<long>(own.modes.size()) + more;
    return ask;
}

class Tolerating {
public:
    Tolerating(const Model& model, std::shared_ptr<const Solution> solution, const ToleranceOrder& order,
               Progress& progress, KeptRuns* kept)
        : model_(model), own_(std::move(solution)), order_(order), progress_(progress), kept_(kept)
    {
        found_.words = toleratedWords(model);
        for (const Mode& mode : own_->modes) {
            if (mode.rigid || mode.mechanism) continue;
            FrequencyRange range{mode.number, mode.frequency};
            range.atLow.assign(found_.words.size(), 0.0);
            range.atHigh = range.atLow;
            range.solvedLow = range.solvedHigh = range.sampledLow = range.sampledHigh = unknown;
            found_.modes.push_back(std::move(range));
        }
        for (const auto& excitation : own_->structure->excitations) {
            auto& own = inVain_.emplace_back();
            for (const auto& range : found_.modes)
                own.push_back(excitation.entry != Entry::unknown &&
                              strengthOf(*own_, excitation, static_cast<std::size_t>(range.mode - 1)) < weakStrength);
        }
        std::mt19937_64 random(1);
        even_.assign(found_.words.size(), std::vector<double>(draws));
        for (auto& list : even_)
            for (double& one : list)
                one = evenOf(random);
        runs_ = 2 * found_.words.size() + static_cast<std::size_t>(order.samples) + (order.corners ? 2 : 0);
    }

    ToleratedModes run(const std::function<void(const ToleratedModes&)>& soFar)
    {
        const auto tell = [&] {
            addUp();
            if (soFar) soFar(found_);
        };
        for (std::size_t word = 0; word < found_.words.size() && !progress_.stopped(); ++word) {
            alone(word);
            tell();
        }
        if (found_.words.size() == 1) { // alone it is all of them
            for (auto& mode : found_.modes) {
                mode.solvedLow = mode.low;
                mode.solvedHigh = mode.high;
            }
        } else if (order_.corners && !progress_.stopped()) {
            corners();
            tell();
        }
        if (order_.samples > 0 && !progress_.stopped()) sample(tell);
        addUp();
        if (progress_.stopped())
            found_.findings.push_back(warningAt({}, "this was stopped: runs that were still to come are left out"));
        return std::move(found_);
    }

private:
    /// Frequencies of the modes of found_, in their order, with the words standing so; empty where there are none.
    std::vector<double> solvedAt(const Stand& stand, std::string* trouble = nullptr)
    {
        ++run_;
        progress_.stage(fmt::format("run {} of {} with other values", run_, std::max(run_, runs_)));
        std::vector<Statement> statements;
        Model changed = model_;
        for (std::size_t word = 0; word < stand.size(); ++word) {
            if (stand[word] == 0.0) continue;
            const auto next = stated(changed, {saidAnew(found_.words[word].said, changed, valueAt(word, stand[word]))});
            if (!next) {
                if (trouble) *trouble = next.findings().front().what;
                return {};
            }
            changed = *next;
        }
        const Ask ask = widerThan(*own_);
        const MeshPlan mesh = planOf(own_->mesh);
        auto solved = solve(changed, progress_, {.ask = ask, .plan = mesh, .meshErrors = false, .kept = kept_});
        if (!solved && !progress_.stopped()) // its parts have become others
            solved = solve(changed, progress_, {.ask = ask, .meshErrors = false, .kept = kept_});
        if (!solved) {
            if (trouble)
                for (const auto& finding : solved.findings())
                    if (trouble->empty() || finding.severity == Severity::error) *trouble = finding.what;
            return {};
        }
        std::map<int, double> hertz; // by number of the model's own
        for (const auto& pair : pairModes(*own_, **solved))
            if (pair.second > 0)
                hertz[pair.first] = (*solved)->modes[static_cast<std::size_t>(pair.second - 1)].frequency;
        std::vector<double> list;
        for (const auto& mode : found_.modes) {
            const auto at = hertz.find(mode.mode);
            list.push_back(at == hertz.end() ? unknown : at->second);
        }
        return list;
    }

    double valueAt(std::size_t word, double stand) const
    {
        const auto& of = found_.words[word];
        return of.said.value +
               (stand < 0.0 ? stand * (of.said.value - of.range.low) : stand * (of.range.high - of.said.value));
    }

    void alone(std::size_t word)
    {
        auto& of = found_.words[word];
        for (const bool high : {false, true}) {
            if (valueAt(word, high ? 1.0 : -1.0) == of.said.value || progress_.stopped()) continue;
            Stand stand(found_.words.size(), 0.0);
            stand[word] = high ? 1.0 : -1.0;
            const auto hertz = solvedAt(stand, &of.trouble);
            if (progress_.stopped()) return;
            long lost = 0;
            for (std::size_t mode = 0; mode < hertz.size(); ++mode) {
                auto& range = found_.modes[mode];
                if (std::isnan(hertz[mode]))
                    ++lost;
                else
                    (high ? range.atHigh : range.atLow)[word] = hertz[mode] - range.hertz;
            }
            const std::string value = textAnew(of.said, valueAt(word, stand[word]));
            if (hertz.empty())
                found_.findings.push_back(
                    warningAt(of.said.sentence,
                              fmt::format("at {} there are no modes: {}. That end is left out", value, of.trouble)));
            else if (lost > 0)
                found_.findings.push_back(noteAt(
                    of.said.sentence, fmt::format("at {} {} of the modes {} no partner of the same shape: what "
                                                  "this does to {} is left out",
                                                  value, lost, lost == 1 ? "has" : "have", lost == 1 ? "it" : "them")));
        }
    }

    void addUp()
    {
        const std::size_t words = found_.words.size();
        std::vector<std::vector<double>> all; // by mode
        for (auto& range : found_.modes) {
            range.low = range.high = range.hertz;
            std::vector<double> sums(draws, range.hertz);
            for (std::size_t word = 0; word < words; ++word) {
                const auto& of = found_.words[word];
                const double a = range.atLow[word], b = range.atHigh[word];
                range.low += std::min({0.0, a, b});
                range.high += std::max({0.0, a, b});
                for (std::size_t draw = 0; draw < draws; ++draw)
                    sums[draw] += effectAt(a, b, of.range.low, of.said.value, of.range.high,
                                           of.range.low + even_[word][draw] * (of.range.high - of.range.low));
            }
            all.push_back(sums);
            std::sort(sums.begin(), sums.end());
            range.usualLow = sums[draws / 20];
            range.usualHigh = sums[draws - 1 - draws / 20];
        }
        clashes(all);
    }

    void clashes(const std::vector<std::vector<double>>& sums)
    {
        found_.clashes.clear();
        if (own_->ritz) return;
        const auto& excitations = own_->structure->excitations;
        for (std::size_t at = 0; at < excitations.size(); ++at)
            for (const double order : excitations[at].orders)
                for (std::size_t mode = 0; mode < sums.size(); ++mode) {
                    const auto& excitation = excitations[at];
                    const auto& range = found_.modes[mode];
                    const double low = order * excitation.low, high = order * excitation.high;
                    const auto meets = [&](double hertz) {
                        return isClash(separation(hertz, low, high), excitation.margin);
                    };
                    if (inVain_[at][mode]) continue;
                    ClashChance chance{excitation.name, excitation.sentence, order, low, high,
                                       range.mode,      meets(range.hertz)};
                    chance.likelihood =
                        double(std::count_if(sums[mode].begin(), sums[mode].end(), meets)) / double(draws);
                    chance.drawn = unknown;
                    if (!drawn_.empty()) {
                        long hits = 0, of = 0;
                        for (const auto& hertz : drawn_) {
                            if (std::isnan(hertz[mode])) continue;
                            ++of;
                            hits += meets(hertz[mode]) ? 1 : 0;
                        }
                        if (of > 0) chance.drawn = double(hits) / double(of);
                    }
                    if (chance.now || chance.likelihood > 0.0 || chance.drawn > 0.0)
                        found_.clashes.push_back(std::move(chance));
                }
        std::stable_sort(found_.clashes.begin(), found_.clashes.end(),
                         [](const ClashChance& a, const ClashChance& b) { return a.likelihood > b.likelihood; });
    }

    /// The ends at which all words together are worst for a mode, each such corner once.
    void corners()
    {
        std::vector<Stand> stands;
        for (const auto& range : found_.modes)
            for (const bool high : {false, true}) {
                Stand stand;
                for (std::size_t word = 0; word < found_.words.size(); ++word) {
                    const double sign = high ? 1.0 : -1.0, a = sign * range.atLow[word], b = sign * range.atHigh[word];
                    stand.push_back(std::max(a, b) <= 1e-9 * range.hertz ? 0.0 : a > b ? -1.0 : 1.0);
                }
                if (std::find(stands.begin(), stands.end(), stand) == stands.end()) stands.push_back(std::move(stand));
            }
        runs_ = run_ + std::min(stands.size(), mostCorners) + static_cast<std::size_t>(order_.samples);
        for (std::size_t at = 0; at < std::min(stands.size(), mostCorners) && !progress_.stopped(); ++at) {
            const auto hertz = solvedAt(stands[at]);
            if (progress_.stopped()) return;
            for (std::size_t mode = 0; mode < hertz.size(); ++mode) {
                auto& range = found_.modes[mode];
                if (std::isnan(hertz[mode])) continue;
                // fmin and fmax pass over what is no number
                range.solvedLow = std::fmin(range.solvedLow, hertz[mode]);
                range.solvedHigh = std::fmax(range.solvedHigh, hertz[mode]);
            }
        }
        if (stands.size() > mostCorners)
            found_.findings.push_back(noteAt(
                {}, fmt::format("the words are at their worst for the modes in {} ways; the {} of the lowest modes are "
                                "solved in full",
                                stands.size(), mostCorners)));
    }

    /// Each word's tolerance in as many even parts as there are runs, each part once, in an order by chance.
    void sample(const std::function<void()>& tell)
    {
        const auto runs = static_cast<std::size_t>(order_.samples), words = found_.words.size();
        std::mt19937_64 random(static_cast<std::uint64_t>(order_.seed));
        std::vector<std::vector<double>> shares(words);
        for (auto& list : shares) {
            for (std::size_t at = 0; at < runs; ++at)
                list.push_back((double(at) + evenOf(random)) / double(runs));
            for (std::size_t at = runs; at > 1; --at) // Fisher and Yates 1938
                std::swap(list[at - 1], list[random() % at]);
        }
        for (std::size_t at = 0; at < runs && !progress_.stopped(); ++at) {
            progress_.fraction(double(at) / double(runs));
            Stand stand;
            for (std::size_t word = 0; word < words; ++word) {
                const auto& of = found_.words[word];
                const double by = of.range.low + shares[word][at] * (of.range.high - of.range.low) - of.said.value;
                stand.push_back(by < 0.0 ? by / (of.said.value - of.range.low) : by / (of.range.high - of.said.value));
            }
            auto hertz = solvedAt(stand);
            if (progress_.stopped()) return;
            if (hertz.empty()) continue;
            ++found_.samples;
            compare(stand, hertz);
            drawn_.push_back(std::move(hertz));
            if (at % 10 == 9) tell();
        }
        if (found_.samples < order_.samples && !progress_.stopped())
            found_.findings.push_back(warningAt({}, fmt::format("{} of the {} runs drawn have no modes",
                                                                order_.samples - found_.samples, order_.samples)));
    }

    void compare(const Stand& stand, const std::vector<double>& hertz)
    {
        for (std::size_t mode = 0; mode < hertz.size(); ++mode) {
            auto& range = found_.modes[mode];
            if (std::isnan(hertz[mode])) continue;
            ++range.sampled;
            range.sampledLow = std::fmin(range.sampledLow, hertz[mode]);
            range.sampledHigh = std::fmax(range.sampledHigh, hertz[mode]);
            double sum = range.hertz;
            for (std::size_t word = 0; word < stand.size(); ++word) {
                const auto& of = found_.words[word];
                sum += effectAt(range.atLow[word], range.atHigh[word], of.range.low, of.said.value, of.range.high,
                                valueAt(word, stand[word]));
            }
            found_.missed = std::max(found_.missed, std::abs(sum - hertz[mode]) / hertz[mode]);
        }
    }

    const Model& model_;
    std::shared_ptr<const Solution> own_;
    const ToleranceOrder& order_;
    Progress& progress_;
    KeptRuns* kept_;
    ToleratedModes found_;
    std::vector<std::vector<double>> drawn_; ///< frequencies of the runs drawn
    std::vector<std::vector<double>> even_;  ///< by word, 0...1, of the draws
    std::vector<std::vector<bool>> inVain_;  ///< by excitation and mode: hardly driven by it
    std::size_t run_ = 0, runs_ = 0;
};

} // namespace

std::vector<ToleratedWord> toleratedWords(const Model& model)
{
    std::vector<ToleratedWord> words;
    for (auto& said : saidQuantities(model))
        if (const auto range = toleranceOf(said.text, said.kind)) words.push_back({std::move(said), *range});
    return words;
}

Result<ToleratedModes> toleratedModes(const Model& model, std::shared_ptr<const Solution> solution,
                                      const ToleranceOrder& order, Progress& progress, KeptRuns* kept,
                                      const std::function<void(const ToleratedModes&)>& soFar)
{
    if (toleratedWords(model).empty())
        return errorAt({}, "no word of the model carries a tolerance",
                       "Write it behind a value that is not known exactly: 38 kg +- 10 %, or 20 kN/mm 12..35.");
    if (order.samples < 0 || order.samples > mostSamples)
        return errorAt({}, fmt::format("{} runs are to be drawn; 0 to {} can be", order.samples, mostSamples));
    if (solution->ritz) return errorAt({}, "what was found are no modes but vectors of a load: they have no tolerance");
    return Tolerating(model, std::move(solution), order, progress, kept).run(soFar);
}

} // namespace undisona
