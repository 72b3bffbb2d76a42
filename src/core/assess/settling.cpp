#include "core/assess/settling.hpp"

#include "core/mesh/given_mesh.hpp"

#include "core/assess/pairing.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double leastOrder = 0.25, mostOrder = 5.0;
/// By how much of itself the error of a mesh may differ from a steady course.
constexpr double mostNoise = 0.15;

/// The rounds that know a mode, each with more unknowns than the last.
struct Course {
    std::vector<double> unknowns, hertz;
};

/// f = limit + slope * unknowns^-order, by least squares.
struct Fit {
    double limit = 0.0, order = 0.0;
    double last = 0.0;  ///< the error that is left in the last round, Hz
    double noise = 1e9; ///< root mean square of what each round is off, as a share of its error
};

/// Each round's weight is that of its error, since that is what differs from a steady course by some share.
Fit fitted(const Course& course, double order)
{
    const auto count = static_cast<Eigen::Index>(course.hertz.size());
    Eigen::MatrixXd rows(count, 2);
    Eigen::VectorXd right(count), x(count);
    for (Eigen::Index at = 0; at < count; ++at) {
        const auto round = static_cast<std::size_t>(at);
        x[at] = std::pow(course.unknowns[round] / course.unknowns.back(), -order);
        rows.row(at) << 1.0 / x[at], 1.0;
        right[at] = (course.hertz[round] - course.hertz.back()) / x[at];
    }
    const Eigen::Vector2d solved = rows.colPivHouseholderQr().solve(right);
    Fit fit{course.hertz.back() + solved[0], order, solved[1], 1e9};
    if (solved[1] != 0.0) fit.noise = (rows * solved - right).norm() / std::sqrt(double(count)) / std::abs(solved[1]);
    return fit;
}

/// With the order that fits best; three rounds fit one exactly, where there is one.
Fit bestFit(const Course& course)
{
    constexpr int steps = 400;
    Fit best;
    for (int step = 0; step <= steps; ++step) {
        const Fit fit = fitted(course, leastOrder * std::pow(mostOrder / leastOrder, double(step) / steps));
        if (fit.noise < best.noise) best = fit;
    }
    return best;
}

bool isSteady(const Fit& fit)
{
    return fit.noise < mostNoise && fit.order > 1.01 * leastOrder && fit.order < 0.99 * mostOrder;
}

} // namespace

bool canSettle(const Solution& solution)
{
    return !solution.ritz && !solution.allModes && !solution.stopped && !solution.modes.empty() &&
           partWithOneMesh(*solution.structure).empty();
}

std::vector<std::optional<SettledFrequency>> settledFrequencies(const std::vector<double>& unknowns,
                                                                const std::vector<std::vector<double>>& hertz,
                                                                double expectedOrder)
{
    std::vector<std::optional<SettledFrequency>> settled;
    for (const auto& mode : hertz) {
        settled.emplace_back();
        Course course;
        for (std::size_t at = 0; at < mode.size(); ++at)
            if (!std::isnan(mode[at]) && (course.unknowns.empty() || unknowns[at] > course.unknowns.back())) {
                course.unknowns.push_back(unknowns[at]);
                course.hertz.push_back(mode[at]);
            }
        if (course.hertz.size() < 3) continue;
        const double finest = course.hertz.back();
        Fit fit = bestFit(course); // which a corner, say, makes another than that of the elements
        if (course.hertz.size() < 4 || !(fit.noise < mostNoise / 3.0) || !isSteady(fit))
            fit = fitted(course, expectedOrder);
        if (isSteady(fit)) {
            const double unsure = fit.order < 0.75 ? 0.5 : 0.25;
            settled.back() = {fit.limit, std::max(unsure, 2.0 * fit.noise) * std::abs(fit.last), fit.order};
            continue;
        }
        double spread = 0.0;
        for (std::size_t at = course.hertz.size() - 3; at < course.hertz.size(); ++at)
            spread = std::max(spread, std::abs(course.hertz[at] - finest));
        settled.back() = {finest, spread, 0.0};
    }
    return settled;
}

namespace {

void renew(Settling& settling)
{
    std::vector<double> unknowns;
    std::vector<std::vector<double>> hertz(settling.settled.size());
    for (const auto& round : settling.rounds) {
        unknowns.push_back(double(round.unknowns));
        for (std::size_t mode = 0; mode < hertz.size(); ++mode)
            hertz[mode].push_back(round.hertz[mode]);
    }
    settling.settled = settledFrequencies(unknowns, hertz, settling.expectedOrder);
    // What the finest mesh says of its own error is another way to the limit; the limit is not surer than they agree.
    for (std::size_t mode = 0; mode < hertz.size(); ++mode) {
        auto& settled = settling.settled[mode];
        if (!settled || settled->order <= 0.0) continue;
        const auto finest = std::find_if(settling.rounds.rbegin(), settling.rounds.rend(), [&](const auto& round) {
            return !std::isnan(round.hertz[mode]) && !std::isnan(round.meshError[mode]);
        });
        if (finest == settling.rounds.rend()) continue;
        const double estimated = finest->hertz[mode] / (1.0 + finest->meshError[mode]);
        settled->either = std::max(settled->either, std::abs(settled->hertz - estimated));
    }
}

Settling::Round emptyRound(const Solution& own, const Solution& other, double factor)
{
    const std::vector<double> unknown(own.modes.size(), std::numeric_limits<double>::quiet_NaN());
    return {factor, other.system->size(), unknown, unknown};
}

/// Errors of frequencies fall with the square of the size of linear elements and the fourth power of quadratic ones and
/// of members; the unknowns go with its power along a member, over a sheet, through a solid.
double expectedOrder(const FrameMesh& mesh)
{
    double members = double(mesh.elements.size()), sheet = double(mesh.shells.size()), linear = 0.0, quadratic = 0.0;
    for (const auto& piece : mesh.solids)
        (piece.kind == SolidKind::brick8 || piece.kind == SolidKind::wedge6 ? linear : quadratic) += 1.0;
    const std::pair<double, double> kinds[] = {
        {members, 4.0}, {sheet, 1.0}, {linear, 2.0 / 3.0}, {quadratic, 4.0 / 3.0}};
    return std::max_element(std::begin(kinds), std::end(kinds))->second;
}

/// The solution's own round.
Settling settlingOf(const Solution& solution)
{
    Settling settling;
    settling.expectedOrder = expectedOrder(solution.mesh);
    auto round = emptyRound(solution, solution, 1.0);
    for (std::size_t mode = 0; mode < solution.modes.size(); ++mode) {
        if (solution.modes[mode].rigid || solution.modes[mode].mechanism) continue;
        round.hertz[mode] = solution.modes[mode].frequency;
        round.meshError[mode] = solution.modes[mode].meshError;
    }
    settling.rounds.push_back(std::move(round));
    settling.settled.resize(solution.modes.size());
    return settling;
}

void addRound(Settling& settling, const Solution& own, const Solution& other, double factor)
{
    auto round = emptyRound(own, other, factor);
    for (const auto& pair : pairModes(own, other)) {
        const auto mode = static_cast<std::size_t>(pair.first - 1);
        if (pair.second == 0 || own.modes[mode].rigid || own.modes[mode].mechanism) continue;
        const Mode& partner = other.modes[static_cast<std::size_t>(pair.second - 1)];
        round.hertz[mode] = partner.frequency;
        round.meshError[mode] = partner.meshError;
    }
    const auto place = std::upper_bound(settling.rounds.begin(), settling.rounds.end(), round,
                                        [](const auto& a, const auto& b) { return a.unknowns < b.unknowns; });
    settling.rounds.insert(place, std::move(round));
    renew(settling);
}

/// Why a mesh of the study has no round.
void addRemark(Settling& settling, double factor, const Findings& findings)
{
    if (findings.empty()) return;
    settling.remarks.push_back(
        warningAt(findings.front().sentence,
                  fmt::format("not solved with elements {:.2g} times as large: {}", factor, findings.front().what),
                  findings.front().remedy));
}

} // namespace

Result<Settling> settle(const Model& model, const Solution& own, Progress& progress,
                        const std::function<void(const Settling&)>& round)
{
    if (!canSettle(own))
        return errorAt({},
                       "frequencies settle on finer meshes for modes only, not for Ritz vectors or all of a mesh, nor "
                       "where a part comes as a mesh",
                       "Ask for a number of modes or for those up to a frequency; draw or import what has one mesh.");
    Settling settling = settlingOf(own);
    if (round) round(settling);
    const MeshPlan plan = planOf(own.mesh);
    for (const double factor : settlingFactors) {
        const auto other = solve(model, progress, {.plan = scaled(plan, factor)});
        if (progress.stopped()) break;
        if (other)
            addRound(settling, own, **other, factor);
        else
            addRemark(settling, factor, other.findings());
        if (round) round(settling);
    }
    return settling;
}

} // namespace undisona
