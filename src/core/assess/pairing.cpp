#include "core/assess/pairing.hpp"

#include "core/modal/partners.hpp"

namespace undisona {

namespace {

std::vector<int> groupsOf(const Solution& solution)
{
    std::vector<int> groups;
    for (const auto& mode : solution.modes)
        groups.push_back(mode.group);
    return groups;
}

ModesOnMesh modesOf(const Solution& solution, const std::vector<int>& groups)
{
    return {*solution.structure, solution.mesh, *solution.system, solution.shapes, groups};
}

} // namespace

Eigen::MatrixXd modalAssurance(const Solution& first, const Solution& second)
{
    const auto one = groupsOf(first), other = groupsOf(second);
    return modalAssurance(modesOf(first, one), modesOf(second, other));
}

std::vector<ModePair> pairModes(const Solution& first, const Solution& second)
{
    if (first.ritz || second.ritz) return {}; // Ritz vectors have no partners
    const auto one = groupsOf(first), other = groupsOf(second);
    const auto partners = partnersOf(modesOf(first, one), modesOf(second, other));
    std::vector<ModePair> pairs;
    for (std::size_t at = 0; at < first.modes.size(); ++at) {
        pairs.push_back({first.modes[at].number, 0, 0.0, 0.0});
        if (partners[at].mode < 0) continue;
        const Mode& partner = second.modes[static_cast<std::size_t>(partners[at].mode)];
        pairs.back().second = partner.number;
        pairs.back().assurance = partners[at].assurance;
        const double before = first.modes[at].frequency;
        pairs.back().shift = before > 0.0 ? (partner.frequency - before) / before : 0.0;
    }
    return pairs;
}

std::vector<ChangedPlaces> changedPlaces(const Solution& first, const Solution& second,
                                         const std::vector<ModePair>& pairs)
{
    const auto groupOf = [](const Solution& of, int number) {
        return of.modes[static_cast<std::size_t>(number - 1)].group;
    };
    std::vector<ChangedPlaces> all;
    for (std::size_t at = 0; at < pairs.size(); ++at)
        for (std::size_t other = at + 1; other < pairs.size(); ++other)
            if (pairs[at].second > pairs[other].second && pairs[other].second > 0 &&
                groupOf(first, pairs[at].first) != groupOf(first, pairs[other].first) &&
                groupOf(second, pairs[at].second) != groupOf(second, pairs[other].second))
                all.push_back({pairs[at].first, pairs[other].first, pairs[at].second, pairs[other].second});
    return all;
}

std::vector<MixedMode> mixedModes(const Solution& first, const Solution& second, const Eigen::MatrixXd& assurance)
{
    constexpr double least = 0.25, most = 0.75, together = 0.85;
    std::vector<MixedMode> mixed;
    for (Eigen::Index row = 0; row < assurance.rows(); ++row)
        for (Eigen::Index column = 0; column + 1 < assurance.cols(); ++column) {
            const double one = assurance(row, column), next = assurance(row, column + 1);
            const Mode& own = first.modes[static_cast<std::size_t>(row)];
            const Mode &a = second.modes[static_cast<std::size_t>(column)],
                       &b = second.modes[static_cast<std::size_t>(column) + 1];
            // Shapes at some of their places are not quite square to each other: more than all is no mixture either.
            if (std::min(one, next) < least || std::max(one, next) > most ||
                std::abs(one + next - 1.0) > 1.0 - together)
                continue;
            if (own.rigid || a.group == b.group) continue; // any mixture of such is a mode
            mixed.push_back({own.number, {a.number, b.number}, {one, next}});
        }
    // What is a group of the first may be turned at will as well.
    std::erase_if(mixed, [&](const MixedMode& one) {
        const int group = first.modes[static_cast<std::size_t>(one.mode - 1)].group;
        return std::count_if(first.modes.begin(), first.modes.end(),
                             [&](const Mode& mode) { return mode.group == group; }) > 1;
    });
    return mixed;
}

} // namespace undisona
