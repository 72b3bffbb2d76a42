#include "core/modal/moving_part.hpp"

#include <fmt/format.h>

#include <numeric>
#include <set>

namespace undisona {

namespace {

bool isAmong(const std::vector<int>& list, int one)
{
    return std::find(list.begin(), list.end(), one) != list.end();
}

/// What all of a list of members, the liveliest first, are called together: the one; the sentence or part of one that
/// made just these; else the smallest that made them among others, with where in it they are.
std::string togetherCalled(const Frame& frame, std::vector<int> members)
{
    const FrameMember& liveliest = frame.members[static_cast<std::size_t>(members[0])];
    if (members.size() == 1) return liveliest.name;
    const std::size_t more = members.size() - 1;
    std::sort(members.begin(), members.end());
    const std::string* of = nullptr;
    std::size_t smallest = frame.members.size() + 1;
    for (const auto& [name, group] : frame.groups) {
        if (group.members.size() < members.size() || group.members.size() >= smallest) continue;
        std::vector<int> own = group.members;
        std::sort(own.begin(), own.end());
        if (!std::includes(own.begin(), own.end(), members.begin(), members.end())) continue;
        smallest = own.size();
        of = &name;
    }
    if (!of) {
        std::set<std::string> sentences; // of each the name of what it made
        for (const int member : members)
            for (const auto& [name, group] : frame.groups)
                if (name.find(" of ") == std::string::npos && isAmong(group.members, member)) {
                    sentences.insert(name);
                    break;
                }
        return sentences.size() == 2 ? fmt::format("{} and {} near {}", *sentences.begin(), *sentences.rbegin(),
                                                   frame.points[static_cast<std::size_t>(liveliest.from)].name)
                                     : fmt::format("{} and {} more", liveliest.name, more);
    }
    if (smallest == members.size()) return *of;
    return fmt::format("{} near {}", *of, frame.points[static_cast<std::size_t>(liveliest.from)].name);
}

/// Sheets and solids by their shares of the kinetic energy, with that of what is spread over them, the largest first.
std::vector<std::pair<double, int>> kineticOfParts(const Frame& frame, const Energies& energies, Eigen::Index mode)
{
    std::vector<std::pair<double, int>> shares(frame.parts());
    for (std::size_t part = 0; part < shares.size(); ++part)
        shares[part].second = static_cast<int>(part);
    for (std::size_t row = 0; row < energies.rows.size(); ++row) {
        const OwnerKind kind = energies.rows[row].of;
        if (kind != OwnerKind::sheet && kind != OwnerKind::solid) continue;
        const int owner = energies.rows[row].owner;
        shares[static_cast<std::size_t>(kind == OwnerKind::sheet ? owner : frame.partOfSolid(owner))].first +=
            energies.kinetic(static_cast<Eigen::Index>(row), mode);
    }
    std::stable_sort(shares.begin(), shares.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    return shares;
}

/// The first of a list by their shares, so many that they have so much together; nothing where these are too many.
std::vector<int> fewest(const std::vector<std::pair<double, int>>& shares, double together, std::size_t most)
{
    std::vector<int> few;
    double sum = 0.0;
    for (const auto& [share, one] : shares) {
        if (few.size() == most || sum > together) break;
        sum += share;
        few.push_back(one);
    }
    return sum < together ? std::vector<int>() : few;
}

double massOf(const std::vector<int>& some, const std::vector<double>& masses)
{
    return std::accumulate(some.begin(), some.end(), 0.0,
                           [&](double sum, int one) { return sum + masses[static_cast<std::size_t>(one)]; });
}

constexpr double nearlyAllMoving = 0.85; // of the kinetic energy

MovingPart fewMembers(const Structure& structure, const MassPoints& points, const Energies& energies, Eigen::Index mode)
{
    const auto& frame = structure.frame;
    // Of a frame by itself a sixth of its members; beside sheets and solids as many as there are.
    const std::size_t few = frame.parts() > 0 ? structure.members.size() : structure.members.size() / 6;
    MovingPart moving{.members =
                          fewest(kineticOfMembers(energies, mode), nearlyAllMoving, std::min<std::size_t>(24, few))};
    if (moving.members.empty()) return moving;
    moving.words = togetherCalled(frame, moving.members);
    moving.ofMass = massOf(moving.members, points.ofMember) / std::max(points.total, 1e-300);
    return moving;
}

/// Members that swing or twist between their joints while these rest, of a structure of many.
MovingPart betweenJoints(const Structure& structure, const MassPoints& points, const Energies& energies,
                         Eigen::Index mode, const Motions& motion, bool twisting)
{
    if (structure.members.size() < 6) return {};
    double atPoints = 0.0, most = 0.0;
    for (std::size_t at = 0; at < motion.size(); ++at) {
        const double size = motion[at].head<3>().norm();
        most = std::max(most, size);
        if (at < structure.frame.points.size()) atPoints = std::max(atPoints, size);
    }
    if (!twisting && atPoints > 0.15 * most) return {};
    const auto shares = kineticOfMembers(energies, mode);
    MovingPart moving{.betweenJoints = true};
    double all = 0.0;
    for (const auto& [share, member] : shares) {
        all += share;
        if (share > 0.2 * shares[0].first) moving.members.push_back(member);
    }
    const std::size_t count = moving.members.size();
    if (all < nearlyAllMoving || count < 2 || 10 * count > 9 * structure.members.size()) return {};
    moving.words = count == 2 ? fmt::format("{} and {}", structure.frame.members[std::size_t(moving.members[0])].name,
                                            structure.frame.members[std::size_t(moving.members[1])].name)
                              : fmt::format("{} members", count);
    moving.ofMass = massOf(moving.members, points.ofMember) / std::max(points.total, 1e-300);
    return moving;
}

/// Up to four sheets or solids of more, by their names or that of the sentence that made just these.
std::string partsCalled(const Frame& frame, std::vector<int> parts)
{
    // "Case.back, lid and side": what they have in common is said once.
    const std::string& first = frame.partName(parts[0]);
    std::string common = first.substr(0, first.rfind('.') + 1);
    for (const int part : parts)
        if (frame.partName(part).compare(0, common.size(), common) != 0) common.clear();
    std::string all = first;
    for (std::size_t at = 1; at < parts.size(); ++at)
        all += (at + 1 == parts.size() ? " and " : ", ") + frame.partName(parts[at]).substr(common.size());
    std::sort(parts.begin(), parts.end());
    for (const auto& [name, group] : frame.groups) {
        std::vector<int> own = group.sheets;
        for (const int solid : group.solids)
            own.push_back(frame.partOfSolid(solid));
        std::sort(own.begin(), own.end());
        if (own == parts && parts.size() > 1) return name;
    }
    return all;
}

MovingPart fewParts(const Structure& structure, const MassPoints& points, const Energies& energies, Eigen::Index mode)
{
    const Frame& frame = structure.frame;
    const auto alive =
        frame.sheets.size() + static_cast<std::size_t>(std::count_if(frame.solids.begin(), frame.solids.end(),
                                                                     [](const Solid& solid) { return !solid.spent; }));
    if (alive == 0 || (alive == 1 && structure.members.empty())) return {};
    const auto shares = kineticOfParts(frame, energies, mode);
    MovingPart moving{.parts = fewest(shares, nearlyAllMoving, std::min<std::size_t>(4, alive))};
    constexpr double most = 0.6;
    if (moving.parts.size() != 1 && shares[0].first > most) moving = {.mostly = true, .parts = {shares[0].second}};
    if (moving.parts.empty() || (moving.parts.size() > 1 && moving.parts.size() == alive)) return {};
    moving.words = partsCalled(frame, moving.parts);
    moving.ofMass = massOf(moving.parts, points.ofPart) / std::max(points.total, 1e-300);
    return moving;
}

} // namespace

std::vector<std::pair<double, int>> kineticOfMembers(const Energies& energies, Eigen::Index mode)
{
    std::map<int, double> sums; // with what is spread along them
    for (std::size_t row = 0; row < energies.rows.size(); ++row)
        if (energies.rows[row].of == OwnerKind::member)
            sums[energies.rows[row].owner] += energies.kinetic(static_cast<Eigen::Index>(row), mode);
    std::vector<std::pair<double, int>> shares;
    for (const auto& [member, share] : sums)
        shares.emplace_back(share, member);
    std::stable_sort(shares.begin(), shares.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    return shares;
}

namespace {

/// A sheet or solid together with the members of one sentence, where the two have nearly all: "Deck and Stays"; or the
/// members of one by themselves, where they have most.
MovingPart partWithMembers(const Structure& structure, const MassPoints& points, const Energies& energies,
                           Eigen::Index mode)
{
    const Frame& frame = structure.frame;
    if (frame.parts() == 0 || frame.members.empty()) return {};
    std::map<std::string, double> bySentence;
    for (const auto& [share, member] : kineticOfMembers(energies, mode))
        bySentence[frame.members[static_cast<std::size_t>(member)].sentence] += share;
    const auto liveliest = std::max_element(bySentence.begin(), bySentence.end(),
                                            [](const auto& a, const auto& b) { return a.second < b.second; });
    if (liveliest == bySentence.end()) return {};
    MovingPart moving;
    for (std::size_t member = 0; member < frame.members.size(); ++member)
        if (frame.members[member].sentence == liveliest->first) moving.members.push_back(static_cast<int>(member));
    constexpr double most = 0.6;
    const auto parts = kineticOfParts(frame, energies, mode);
    moving.ofMass = massOf(moving.members, points.ofMember) / std::max(points.total, 1e-300);
    moving.words = togetherCalled(frame, moving.members);
    moving.mostly = true;
    if (liveliest->second > most) return moving;
    constexpr double both = 0.75;
    if (liveliest->second + parts[0].first < both) return {};
    moving.ofMass += points.ofPart[static_cast<std::size_t>(parts[0].second)] / std::max(points.total, 1e-300);
    moving.words = fmt::format("{} and {}", frame.partName(parts[0].second), moving.words);
    moving.members.clear();
    moving.parts = {parts[0].second};
    moving.mostly = false;
    return moving;
}

} // namespace

MovingPart movingPart(const Structure& structure, const MassPoints& points, const Energies& energies,
                      const Motions& motion, Eigen::Index mode, bool twists)
{
    MovingPart moving = fewMembers(structure, points, energies, mode);
    if (moving.isWhole()) moving = betweenJoints(structure, points, energies, mode, motion, twists);
    if (moving.isWhole()) moving = fewParts(structure, points, energies, mode);
    if (moving.isWhole()) moving = partWithMembers(structure, points, energies, mode);
    return moving;
}

} // namespace undisona
