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

} // namespace undisona
