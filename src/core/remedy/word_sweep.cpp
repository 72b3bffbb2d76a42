#include "core/remedy/word_sweep.hpp"

#include "core/assess/pairing.hpp"
#include "core/base/number_text.hpp"
#include "core/modal/solve.hpp"
#include "core/model/stated.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double noNumber = std::numeric_limits<double>::quiet_NaN();
constexpr int nearerLooks = 10; ///< runs between two steps that tell a crossing from a veering

class Sweeping {
public:
    Sweeping(const Model& model, const SweepOrder& order, Progress& progress, KeptRuns* kept)
        : model_(model), order_(order), progress_(progress), kept_(kept)
    {
        found_.word = order.word;
    }

    WordSweep run(const std::function<void(const WordSweep&)>& soFar)
    {
        for (long step = 0; step <= order_.steps && !progress_.stopped(); ++step) {
            const double share = double(step) / double(order_.steps);
            const double value = order_.from + share * (order_.to - order_.from);
            auto solution = solvedAt(value, &trouble_);
            if (progress_.stopped()) break;
            take(value, std::move(solution));
            if (soFar) soFar(found_);
        }
        for (std::size_t step = 1; step < found_.steps.size() && !progress_.stopped(); ++step)
            meetingsBetween(step);
        if (progress_.stopped())
            found_.findings.push_back(warningAt({}, "the sweep was stopped: values beyond are not known"));
        return std::move(found_);
    }

private:
    using Solved = std::shared_ptr<const Solution>;

    /// Null where the model of that value has no modes; `trouble` says why.
    Solved solvedAt(double value, std::string* trouble = nullptr)
    {
        if (trouble) trouble->clear();
        const auto changed = stated(model_, {saidAnew(order_.word, model_, value)});
        if (!changed) {
            if (trouble) *trouble = changed.findings().front().what;
            return nullptr;
        }
        SolveOptions options{.meshErrors = false, .kept = kept_};
        if (last_) options.beside = planOf(last_->mesh);
        const auto solved = solve(*changed, progress_, options);
        if (solved) return *solved;
        if (trouble)
            for (const auto& finding : solved.findings())
                if (trouble->empty() || finding.severity == Severity::error) *trouble = finding.what;
        return nullptr;
    }

    void take(double value, Solved solution)
    {
        SweepStep step{value, std::vector<double>(found_.modes.size(), noNumber), trouble_};
        if (solution) {
            std::vector<int> lines(solution->modes.size(), -1);
            if (last_)
                for (const auto& pair : pairModes(*last_, *solution))
                    if (pair.second > 0)
                        lines[static_cast<std::size_t>(pair.second - 1)] =
                            lines_[static_cast<std::size_t>(pair.first - 1)];
            const bool accidental = shareFrequencies(*solution, lines);
            for (std::size_t mode = 0; mode < lines.size(); ++mode) {
                if (lines[mode] < 0) { // a line begins
                    lines[mode] = static_cast<int>(found_.modes.size());
                    found_.modes.push_back(solution->modes[mode].number);
                    for (auto& earlier : found_.steps)
                        earlier.hertz.push_back(noNumber);
                    step.hertz.push_back(noNumber);
                }
                step.hertz[static_cast<std::size_t>(lines[mode])] = solution->modes[mode].frequency;
            }
            // Shapes of modes that happen to share a frequency are any mixture: the next value is told by those before.
            if (!accidental) {
                lines_ = std::move(lines);
                last_ = std::move(solution);
            }
        }
        found_.steps.push_back(std::move(step));
    }

    /// Where lines fall on one frequency, all of its modes are theirs; whether they do so here and did not before.
    bool shareFrequencies(const Solution& solution, std::vector<int>& lines) const
    {
        if (!last_) return false;
        bool accidental = false;
        for (std::size_t mode = 0; mode < lines.size(); ++mode) {
            const auto& own = solution.modes[mode];
            const auto alike = [&](const Mode& other) { return other.group == own.group; };
            if (lines[mode] >= 0 || std::count_if(solution.modes.begin(), solution.modes.end(), alike) < 2) continue;
            // The line that ended nearest to it, of those that found no mode.
            int nearest = -1;
            double least = 0.3 * own.frequency;
            for (std::size_t was = 0; was < lines_.size(); ++was) {
                if (std::find(lines.begin(), lines.end(), lines_[was]) != lines.end()) continue;
                const double apart = std::abs(last_->modes[was].frequency - own.frequency);
                if (apart < least) {
                    least = apart;
                    nearest = lines_[was];
                }
            }
            if (nearest < 0) continue;
            lines[mode] = nearest;
            accidental = true;
        }
        return accidental;
    }

    /// Lines that change their order at a step, or come near there and part again.
    void meetingsBetween(std::size_t at)
    {
        const auto& steps = found_.steps;
        const auto gap = [&](std::size_t step, std::size_t one, std::size_t other) {
            const double apart = steps[step].hertz[other] - steps[step].hertz[one];
            return std::abs(apart) < 1e-6 * steps[step].hertz[one] ? 0.0 : apart;
        };
        for (std::size_t one = 0; one < found_.modes.size(); ++one)
            for (std::size_t other = one + 1; other < found_.modes.size(); ++other) {
                const double was = gap(at - 1, one, other), is = gap(at, one, other);
                if (std::isnan(was) || std::isnan(is)) continue;
                const double hertz = (steps[at].hertz[one] + steps[at].hertz[other]) / 2.0;
                if (was * is < 0.0 || (is == 0.0 && was != 0.0)) {
                    found_.meetings.push_back(looked(at - 1, at, one, other, hertz));
                    continue;
                }
                if (at + 1 >= steps.size()) continue;
                const double next = std::abs(gap(at + 1, one, other)), here = std::abs(is);
                const double first = std::abs(gap(0, one, other)), last = std::abs(gap(steps.size() - 1, one, other));
                const bool nearest = here < std::abs(was) && here < next && here < 0.1 * hertz;
                if (nearest && here < 0.7 * first && here < 0.7 * last)
                    found_.meetings.push_back(looked(at - 1, at + 1, one, other, hertz));
            }
    }

    /// Between two steps, by the golden section, as the gap falls and rises again: where the two frequencies come
    /// nearest, and whether they stay apart there.
    SweepMeeting looked(std::size_t from, std::size_t to, std::size_t one, std::size_t other, double hertz)
    {
        SweepMeeting meeting{static_cast<int>(one), static_cast<int>(other)};
        meeting.hertz = hertz;
        meeting.gap = std::numeric_limits<double>::infinity();
        double low = found_.steps[from].value, high = found_.steps[to].value;
        meeting.value = (low + high) / 2.0;
        for (int look = 0; look < nearerLooks && !progress_.stopped(); ++look) {
            const double a = high - 0.6180339887498949 * (high - low), b = low + 0.6180339887498949 * (high - low);
            const auto gapA = gapAt(a, meeting), gapB = gapAt(b, meeting);
            if (!gapA || !gapB) break;
            (*gapA < *gapB ? high : low) = *gapA < *gapB ? b : a;
        }
        if (!std::isfinite(meeting.gap)) meeting.gap = 0.0;
        meeting.veers = meeting.gap > 2e-3 * meeting.hertz;
        return meeting;
    }

    /// The gap between the two modes nearest to the meeting's frequency; the least one is kept with its place.
    std::optional<double> gapAt(double value, SweepMeeting& meeting)
    {
        if (const auto known = gaps_.find({value, meeting.hertz}); known != gaps_.end()) return known->second;
        const auto solution = solvedAt(value);
        if (!solution || solution->modes.size() < 2) return std::nullopt;
        std::vector<double> near;
        for (const auto& mode : solution->modes)
            near.push_back(mode.frequency);
        const double hertz = meeting.hertz;
        std::sort(near.begin(), near.end(),
                  [&](double a, double b) { return std::abs(a - hertz) < std::abs(b - hertz); });
        const double gap = std::abs(near[0] - near[1]);
        gaps_[{value, hertz}] = gap;
        if (gap < meeting.gap) {
            meeting.gap = gap;
            meeting.value = value;
        }
        return gap;
    }

    const Model& model_;
    const SweepOrder& order_;
    Progress& progress_;
    KeptRuns* kept_;
    WordSweep found_;
    Solved last_;
    std::vector<int> lines_; ///< by mode of the last run
    std::string trouble_;
    std::map<std::pair<double, double>, double> gaps_;
};

} // namespace

Result<WordSweep> sweep(const Model& model, const SweepOrder& order, Progress& progress, KeptRuns* kept,
                        const std::function<void(const WordSweep&)>& soFar)
{
    const auto all = saidQuantities(model);
    const bool known = std::any_of(all.begin(), all.end(), [&](const SaidQuantity& one) {
        return one.sentence == order.word.sentence && one.row == order.word.row && one.field == order.word.field &&
               one.part == order.word.part;
    });
    if (!known) return errorAt(order.word.sentence, "the word that is to be swept is not said any more");
    if (!std::isfinite(order.from) || !std::isfinite(order.to) || order.from == order.to)
        return errorAt(order.word.sentence, "a sweep goes from one value to another", "Write two values with units.");
    if (order.steps < 1 || order.steps > 200)
        return errorAt(order.word.sentence, fmt::format("{} steps are asked for; 1 to 200 can be", order.steps));
    WordSweep found = Sweeping(model, order, progress, kept).run(soFar);
    const bool any =
        std::any_of(found.steps.begin(), found.steps.end(), [](const SweepStep& step) { return step.trouble.empty(); });
    if (!any && !found.steps.empty())
        return errorAt(order.word.sentence,
                       fmt::format("none of the values has modes: {}", found.steps.front().trouble));
    for (const auto& step : found.steps)
        if (!step.trouble.empty())
            found.findings.push_back(
                warningAt(order.word.sentence,
                          fmt::format("at {} there are no modes: {}", textAnew(order.word, step.value), step.trouble)));
    return found;
}

Result<SaidQuantity> wordNamed(const Model& model, std::string_view name)
{
    const auto all = saidQuantities(model);
    std::vector<const SaidQuantity*> fits;
    const std::string wanted = lowered(trimmed(name));
    for (const auto& one : all) {
        const std::string own = lowered(one.name);
        if (own == wanted) return one;
        if (own.starts_with(wanted)) fits.push_back(&one);
    }
    if (fits.size() == 1) return *fits.front();
    std::string names;
    for (const auto& one : all)
        if (fits.empty() || lowered(one.name).starts_with(wanted))
            names += (names.empty() ? "" : "; ") + one.name + " (" + one.text + ")";
    return errorAt({},
                   fits.empty() ? fmt::format("no word of the model is called \"{}\"", name)
                                : fmt::format("\"{}\" may be several words", name),
                   "It has: " + names);
}

} // namespace undisona
