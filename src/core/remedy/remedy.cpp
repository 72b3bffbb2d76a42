#include "core/remedy/remedy.hpp"

#include "core/base/number_text.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/pencil/extract.hpp"
#include "core/picks/pick.hpp"
#include "core/assess/clash.hpp"
#include "core/remedy/outcome.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr Eigen::Index mostModes = 60; ///< of the basis, beside those that are to move and a few above them
constexpr std::size_t mostProposals = 24;

/// Modes that clash as the model is, from 0, worst first; none is weak.
std::vector<std::size_t> clashing(const Solution& solution)
{
    std::vector<std::size_t> modes;
    for (const auto& pair : clashesOf(solution, solution.structure->excitations).pairs) {
        const auto mode = static_cast<std::size_t>(pair.mode - 1);
        if (pair.verdict == Verdict::clash && !pair.weak && !solution.modes[mode].rigid &&
            std::find(modes.begin(), modes.end(), mode) == modes.end())
            modes.push_back(mode);
    }
    return modes;
}

std::string goalWords(const RemedyOrder& order, const std::vector<std::size_t>& moved)
{
    if (order.way == RemedyWay::clear)
        return order.mode == 0 ? std::string("every clash cleared")
                               : fmt::format("mode {} clear of what shakes", order.mode);
    return fmt::format("mode {}{} {} {:g} Hz", order.mode, moved.size() > 1 ? " with those of its frequency" : "",
                       wordOf(order.way), order.hertz);
}

Result<std::vector<std::size_t>> modesToMove(const Solution& solution, const RemedyOrder& order)
{
    const auto number = static_cast<std::size_t>(std::max(0, order.mode));
    if (order.mode < 0 || number > solution.modes.size() || (order.mode == 0 && order.way != RemedyWay::clear))
        return errorAt({}, fmt::format("there is no mode {}: {} were found", order.mode, solution.modes.size()),
                       "Name one of those that were found, or ask for more modes.");
    if (solution.ritz)
        return errorAt({}, "Ritz vectors are no modes: nothing tells where a change would take them", "Ask for modes.");
    if (order.mode == 0) {
        auto modes = clashing(solution);
        if (modes.empty())
            return errorAt({}, "no excitation meets a mode: there is nothing to clear",
                           "Name a mode and the frequency that it is wanted above or below.");
        return modes;
    }
    const Mode& mode = solution.modes[number - 1];
    if (mode.rigid || mode.mechanism)
        return errorAt(
            {},
            fmt::format("mode {} moves without strain: no mass, thickness or strut gives it a frequency", order.mode),
            "Hold or spring what is free, and solve again.");
    auto group = groupOf(solution, number - 1);
    if (order.way == RemedyWay::clear) {
        const auto modes = clashing(solution);
        if (std::none_of(group.begin(), group.end(),
                         [&](std::size_t one) { return std::find(modes.begin(), modes.end(), one) != modes.end(); }))
            return errorAt({}, fmt::format("mode {} is clear of every excitation already", order.mode),
                           "Name a frequency that it is wanted above or below.");
        return group;
    }
    if (!(order.hertz > 0.0) || !std::isfinite(order.hertz))
        return errorAt({}, "the frequency that is wanted must be above zero", "Write it with a unit: \"31 Hz\".");
    const bool above = order.way == RemedyWay::above;
    const double own = solution.modes[above ? group.front() : group.back()].frequency;
    if (above ? own >= order.hertz : own <= order.hertz)
        return errorAt({}, fmt::format("mode {} is {} {:g} Hz already, at {:.5g} Hz", order.mode, wordOf(order.way),
                                       order.hertz, own));
    return group;
}

/// By node; an empty pick bars nothing.
Result<std::vector<bool>> barredNodes(const Solution& solution, const std::string& notOn)
{
    std::vector<bool> barred(solution.mesh.nodes.size(), false);
    if (trimmed(notOn).empty()) return barred;
    const Targets meant = placeTargets | (Target::member | Target::sheet) | Target::solid;
    const Picked picked = pick(solution.structure->frame, notOn, meant);
    if (!picked.problem.empty() && !picked.onlyCountDiffers)
        return errorAt({}, fmt::format("nothing may be put on \"{}\": {}", notOn, picked.problem), picked.remedy);
    for (const Target target :
         {Target::point, Target::member, Target::edge, Target::sheet, Target::face, Target::solid})
        for (const int at : picked.of(target)) {
            if (target == Target::point) barred[static_cast<std::size_t>(at)] = true;
            for (const int node : solution.mesh.nodesOf(target, at))
                barred[static_cast<std::size_t>(node)] = true;
        }
    return barred;
}

/// Where a candidate's ladder first brings the mode to where it is wanted, without meeting anything else if it can.
class Search {
public:
    Search(const RemedyCase& of, const Candidate& candidate, const ModifiedModes& in, const Judge& judge)
        : of_(of), candidate_(candidate), in_(in), judge_(judge)
    {
    }

    std::optional<Proposal> best()
    {
        std::optional<Proposal> made;
        for (int round = 0; round < 4; ++round) {
            made = once();
            if (!made || !candidate_.learn || !candidate_.learn(in_, amount_)) break;
        }
        return made;
    }

    double missing() const { return missing_; } ///< of the proposal

private:
    std::optional<Proposal> once()
    {
        std::optional<std::size_t> reaching, clean, nearest;
        std::vector<Outcome> outcomes;
        for (std::size_t at = 0; at < candidate_.amounts.size(); ++at) {
            if (candidate_.adds(candidate_.amounts[at]) > of_.mostMass * (1.0 + 1e-9)) break;
            outcomes.push_back(at_(candidate_.amounts[at]));
            const Outcome& now = outcomes.back();
            if (!now.stands) continue;
            if (!nearest || now.missing < outcomes[*nearest].missing) nearest = at;
            if (now.reaches && !reaching) reaching = at;
            if (now.reaches && now.sideEffects.empty() && !clean) clean = at;
        }
        if (!nearest) return std::nullopt;
        const auto chosen = clean ? clean : reaching;
        if (!chosen) return proposal(candidate_.amounts[*nearest], outcomes[*nearest]);
        if (candidate_.steps) return proposal(candidate_.amounts[*chosen], outcomes[*chosen]);
        return refined(*chosen, clean.has_value(), outcomes[*chosen]);
    }

    Outcome at_(double amount) const
    {
        const Added added = candidate_.add(in_, amount);
        return added.stiffness.size() == 0 ? Outcome{} : judge_.of(added);
    }

    static bool good(const Outcome& outcome, bool clean)
    {
        return outcome.reaches && (!clean || outcome.sideEffects.empty());
    }

    Proposal refined(std::size_t step, bool clean, const Outcome& atStep)
    {
        double enough = candidate_.amounts[step];
        if (step == 0) return proposal(enough, atStep);
        double little = candidate_.amounts[step - 1];
        for (int halving = 0; halving < 12; ++halving) {
            const double middle = std::sqrt(little * enough);
            (good(at_(middle), clean) ? enough : little) = middle;
        }
        for (const int digits : {2, 3, 4}) {
            const double round = roundedOn(enough, enough > little, digits);
            if (candidate_.adds(round) > of_.mostMass) continue;
            if (const Outcome outcome = at_(round); good(outcome, clean)) return proposal(round, outcome);
        }
        return proposal(candidate_.amounts[step], atStep);
    }

    Proposal proposal(double amount, const Outcome& outcome)
    {
        Proposal made;
        made.kind = candidate_.kind;
        made.change = candidate_.say(amount);
        made.place = candidate_.place;
        made.amount = candidate_.amountWords(amount);
        made.adds = candidate_.adds(amount);
        made.reaches = outcome.reaches;
        made.mode = of_.solution.modes[outcome.farthest].number;
        made.before = of_.solution.modes[outcome.farthest].frequency;
        made.after = outcome.after;
        made.promised = outcome.hertz;
        made.sideEffects = outcome.sideEffects;
        missing_ = outcome.missing;
        amount_ = amount;
        return made;
    }

    const RemedyCase& of_;
    const Candidate& candidate_;
    const ModifiedModes& in_;
    const Judge& judge_;
    double missing_ = 0.0, amount_ = 0.0;
};

/// Two candidates, both as far up their ladders.
Candidate together(const Candidate& one, const Candidate& other)
{
    Candidate both;
    both.kind = "two";
    both.place = one.place + "; " + other.place;
    both.steps = true;
    const auto at = [](const Candidate& of, double share) {
        const double last = double(of.amounts.size()) - 1.0;
        return of.amounts[static_cast<std::size_t>(std::lround(share * last))];
    };
    for (int step = 1; step <= 16; ++step)
        both.amounts.push_back(step / 16.0);
    both.loads.resize(one.loads.rows(), one.loads.cols() + other.loads.cols());
    both.loads << one.loads, other.loads;
    both.add = [=](const ModifiedModes& in, double share) {
        const Added a = one.add(in, at(one, share)), b = other.add(in, at(other, share));
        if (a.stiffness.size() == 0 || b.stiffness.size() == 0) return Added{};
        return Added{a.stiffness + b.stiffness, a.mass + b.mass};
    };
    both.learn = [=](const ModifiedModes& in, double share) {
        const bool first = one.learn && one.learn(in, at(one, share)),
                   second = other.learn && other.learn(in, at(other, share));
        return first || second;
    };
    both.forget = [=] {
        for (const Candidate* each : {&one, &other})
            if (each->forget) each->forget();
    };
    both.adds = [=](double share) { return one.adds(at(one, share)) + other.adds(at(other, share)); };
    both.amountWords = [=](double share) {
        return one.amountWords(at(one, share)) + "; " + other.amountWords(at(other, share));
    };
    both.say = [=](double share) {
        Cure cure = one.say(at(one, share));
        const Cure more = other.say(at(other, share));
        cure.words += " and " + more.words;
        for (const auto& statement : more.statements)
            if (std::find(cure.statements.begin(), cure.statements.end(), statement) == cure.statements.end())
                cure.statements.push_back(statement);
        return cure;
    };
    return both;
}

/// How much a change is of what is there: its mass as a share, and by how much it moves frequencies in the mean. What
/// has to be carried to the ground counts as five per cent more.
double disturbance(const RemedyCase& of, const Proposal& proposal)
{
    double moved = 0.0;
    int modes = 0;
    for (std::size_t at = 0; at < proposal.promised.size(); ++at) {
        const double own = of.solution.modes[at].frequency;
        if (!(own > 0.0) || !(proposal.promised[at] > 0.0)) continue;
        moved += std::abs(std::log(proposal.promised[at] / own));
        ++modes;
    }
    return std::abs(proposal.adds) / std::max(of.solution.mass.mass, 1e-300) + moved / std::max(1, modes) +
           (proposal.kind == "prop" ? 0.05 : 0.0);
}

/// Everything that candidates are tried with.
class Trial {
public:
    Trial(const RemedyCase& of, const Pencil& pencil, ModeExtractor& extractor) : of_(of), pencil_(pencil)
    {
        const auto modes = std::min<Eigen::Index>(of.solution.shapes.cols(),
                                                  std::max(mostModes, static_cast<Eigen::Index>(of.moved.back()) + 20));
        used_.shapes = of.solution.shapes.leftCols(modes);
        used_.lambda.resize(modes);
        for (Eigen::Index at = 0; at < modes; ++at) {
            used_.lambda[at] = std::max(0.0, of.solution.modes[static_cast<std::size_t>(at)].lambda);
            used_.mechanisms += of.solution.modes[static_cast<std::size_t>(at)].mechanism;
        }
        extractor_ = &extractor;
    }

    struct Tried {
        Proposal proposal;
        double missing;
        std::size_t candidate;
        double disturbs;
        bool helps; ///< brings the mode nearer to where it is wanted
    };

    /// All of them, the static answers to their loads at once.
    void run(const std::vector<Candidate>& candidates, std::vector<Tried>& tried, Progress& progress)
    {
        Eigen::Index columns = 0;
        for (const auto& one : candidates)
            columns += one.loads.cols();
        Eigen::MatrixXd loads(pencil_.size(), columns);
        columns = 0;
        for (const auto& one : candidates) {
            loads.middleCols(columns, one.loads.cols()) = one.loads;
            columns += one.loads.cols();
        }
        const bool answered = used_.mechanisms == 0 && loads.cols() > 0;
        const Eigen::MatrixXd answers = answered ? extractor_->staticAnswer(loads) : Eigen::MatrixXd();
        columns = 0;
        for (std::size_t at = 0; at < candidates.size() && !progress.stopped(); ++at) {
            progress.fraction(double(at) / double(candidates.size()));
            const Candidate& one = candidates[at];
            ResidualVectors residual;
            if (answered)
                residual = residualVectors(pencil_, used_, one.loads, answers.middleCols(columns, one.loads.cols()));
            columns += one.loads.cols();
            staticError = std::max(staticError, residual.staticError);
            const ModifiedModes in(of_.solution, used_.lambda.size(), answered ? &residual : nullptr);
            const Judge judge(of_, in, of_.solution.structure->excitations);
            if (one.forget) one.forget();
            Search search(of_, one, in, judge);
            const Eigen::MatrixXd still = Eigen::MatrixXd::Zero(in.size(), in.size());
            const double missing = judge.of({still, still}).missing;
            if (auto proposal = search.best()) {
                const double disturbs = disturbance(of_, *proposal);
                const bool helps = search.missing() < missing * (1.0 - 1e-3);
                tried.push_back({std::move(*proposal), search.missing(), at, disturbs, helps});
            }
        }
    }

    double staticError = 0.0;

private:
    const RemedyCase& of_;
    const Pencil& pencil_;
    ModeExtractor* extractor_;
    Extraction used_;
};

/// What reaches the goal and brings nothing else into a band first; of those what disturbs least.
bool better(const Trial::Tried& a, const Trial::Tried& b)
{
    if (a.proposal.reaches != b.proposal.reaches) return a.proposal.reaches;
    if (!a.proposal.reaches) return a.missing < b.missing;
    if (a.proposal.sideEffects.empty() != b.proposal.sideEffects.empty()) return a.proposal.sideEffects.empty();
    return a.disturbs < b.disturbs;
}

} // namespace

Result<Remedy> remediesFor(const Model& model, const Solution& solution, const System& system, const RemedyOrder& order,
                           Progress& progress, KeptRuns* kept)
{
    auto moved = modesToMove(solution, order);
    if (!moved) return moved.findings();
    auto barred = barredNodes(solution, order.notOn);
    if (!barred) return barred.findings();
    const RemedyCase of{model,  solution,
                        system, order,
                        *moved, order.mostMass > 0.0 ? order.mostMass : roundedOn(0.25 * solution.mass.mass, false, 2),
                        *barred};
    Remedy remedy{goalWords(order, *moved)};
    const auto pencil = pencilOf(system);
    if (!pencil) return pencil.findings();

    std::vector<Candidate> candidates;
    const auto take = [&](std::vector<Candidate> more) {
        candidates.insert(candidates.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
    };
    progress.stage("places");
    if (order.masses && order.way != RemedyWay::above) take(massCandidates(of));
    if (order.props && order.way != RemedyWay::below) take(propCandidates(of));
    if (order.struts && order.way != RemedyWay::below) take(strutCandidates(of));
    if (order.words) {
        remedy.wordsOf = solution.modes[moved->front()].number;
        remedy.words = wordSlopes(model, solution, system, moved->front(), progress, remedy.findings, order);
        take(wordCandidates(of, remedy.words, progress));
        take(sectionCandidates(of, progress));
    }
    if (progress.stopped()) return warningAt({}, "the search for remedies was stopped");
    auto extractor = ModeExtractor::prepare(*pencil, progress, kept, 1);
    if (!extractor) return extractor.findings();
    progress.stage("changes tried");
    Trial trial(of, *pencil, **extractor);
    std::vector<Trial::Tried> tried;
    trial.run(candidates, tried, progress);
    if (std::none_of(tried.begin(), tried.end(), [](const Trial::Tried& one) { return one.proposal.reaches; })) {
        // The few of each kind that do most, also where alone they do nothing: of two equal modes one stays behind.
        std::vector<Candidate> pairs;
        std::vector<std::size_t> few;
        std::map<std::string, int> ofKind;
        for (std::size_t at = 0; at < candidates.size(); ++at)
            // Words of large models would be assembled anew for each pair.
            if ((candidates[at].kind != "word" || system.size() <= everyWordUpTo) && ++ofKind[candidates[at].kind] <= 4)
                few.push_back(at);
        for (std::size_t one = 0; one < few.size(); ++one)
            for (std::size_t other = one + 1; other < few.size(); ++other)
                // Two changes of one sentence would not add up, nor be said side by side.
                if (candidates[few[one]].sentence.empty() ||
                    candidates[few[one]].sentence != candidates[few[other]].sentence)
                    pairs.push_back(together(candidates[few[one]], candidates[few[other]]));
        progress.stage("two changes at a time");
        trial.run(pairs, tried, progress);
    }
    if (progress.stopped()) return warningAt({}, "the search for remedies was stopped");
    std::stable_sort(tried.begin(), tried.end(), better);
    for (auto& one : tried)
        if (one.helps && remedy.proposals.size() < mostProposals) remedy.proposals.push_back(std::move(one.proposal));
    remedy.staticError = trial.staticError;
    if (remedy.proposals.empty())
        remedy.findings.push_back(warningAt({}, "there is nothing to change within these limits", "Allow more."));
    else if (!remedy.proposals.front().reaches)
        remedy.findings.push_back(warningAt(
            {},
            fmt::format("nothing within these limits does it: the nearest takes mode {} from {:.4g} to "
                        "{:.4g} Hz",
                        remedy.proposals.front().mode, remedy.proposals.front().before, remedy.proposals.front().after),
            "Allow more mass, other places or other sections."));
    return remedy;
}

std::string Proposal::promise() const
{
    return fmt::format("promised: mode {} from {:.5g} to {:.5g} Hz", mode, before, after);
}

} // namespace undisona
