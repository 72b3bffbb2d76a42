#include "core/modal/partners.hpp"

#include <set>

namespace undisona {

namespace {

constexpr double leastAssurance = 0.6;

/// Nodes of a sheet, or of a solid, which are counted after the sheets; not more than `most`, evenly taken.
std::vector<int> nodesOf(const ModesOnMesh& modes, int part, std::size_t most)
{
    std::set<int> all;
    for (const auto& shell : modes.mesh.shells)
        if (shell.sheet == part)
            all.insert(shell.nodes.begin(), shell.nodes.begin() + static_cast<long>(shell.corners()));
    const int solid = part - static_cast<int>(modes.structure.frame.sheets.size());
    for (const auto& piece : modes.mesh.solids)
        if (piece.solid == solid) all.insert(piece.nodes.begin(), piece.nodes.begin() + 4);
    std::vector<int> nodes(all.begin(), all.end());
    const std::size_t step = std::max<std::size_t>(1, nodes.size() / most);
    std::vector<int> taken;
    for (std::size_t at = 0; at < nodes.size(); at += step)
        taken.push_back(nodes[at]);
    return taken;
}

std::vector<std::string> partNames(const ModesOnMesh& modes)
{
    std::vector<std::string> names;
    for (const auto& sheet : modes.structure.frame.sheets)
        names.push_back(sheet.name);
    for (const auto& solid : modes.structure.frame.solids)
        names.push_back(solid.name);
    return names;
}

/// A place that both takes have: a node of the first, and where it lies between two nodes of the second.
struct SharedPlace {
    int first;
    std::array<int, 2> second;
    double share = 0.0; ///< 0 at the one, 1 at the other
};

/// Nodes inside members of the same name, where not every mode moves the points.
void shareMembers(const ModesOnMesh& first, const ModesOnMesh& second, std::vector<SharedPlace>& shared)
{
    constexpr std::size_t most = 1000;
    std::map<std::string, std::size_t> inSecond;
    const auto& members = second.structure.frame.members;
    for (std::size_t at = 0; at < members.size(); ++at)
        inSecond.emplace(members[at].name, at);
    const std::size_t step = 1 + first.mesh.elements.size() / most;
    for (std::size_t at = 0; at < first.mesh.elements.size(); at += step) {
        const auto& element = first.mesh.elements[at];
        if (element.share[1] > 1.0 - 1e-9) continue; // ends at a point
        const auto member = inSecond.find(first.structure.frame.members[static_cast<std::size_t>(element.member)].name);
        if (member == inSecond.end()) continue;
        for (int other = second.mesh.firstElement[member->second]; other < second.mesh.firstElement[member->second + 1];
             ++other) {
            const auto& beside = second.mesh.elements[static_cast<std::size_t>(other)];
            if (element.share[1] > beside.share[1]) continue;
            shared.push_back({element.nodes[1], beside.nodes,
                              (element.share[1] - beside.share[0]) / (beside.share[1] - beside.share[0])});
            break;
        }
    }
}

/// Places of sheets and solids of the same name, each with the node of the other mesh that is nearest.
void shareParts(const ModesOnMesh& first, const ModesOnMesh& second, std::vector<SharedPlace>& shared)
{
    const auto parts = partNames(first), others = partNames(second);
    for (std::size_t at = 0; at < parts.size(); ++at) {
        const auto other = std::find(others.begin(), others.end(), parts[at]);
        if (other == others.end()) continue;
        const auto candidates = nodesOf(second, static_cast<int>(other - others.begin()), 4000);
        for (const int node : nodesOf(first, static_cast<int>(at), 200)) {
            const auto placeOf = [&](const ModesOnMesh& of, int which) {
                return of.mesh.nodes[static_cast<std::size_t>(which)].place;
            };
            int nearest = -1;
            double least2 = std::pow(1.0 * std::max(first.mesh.sizes.ofPart[at], 1e-9), 2);
            for (const int candidate : candidates)
                if (const double distance = (placeOf(second, candidate) - placeOf(first, node)).squaredNorm();
                    distance < least2) {
                    least2 = distance;
                    nearest = candidate;
                }
            if (nearest >= 0) shared.push_back({node, {nearest, nearest}});
        }
    }
}

/// Translations at the shared points, (3 points) x modes, each column of unit length.
std::array<Eigen::MatrixXd, 2> sharedMotions(const ModesOnMesh& first, const ModesOnMesh& second)
{
    std::map<std::string, int> inSecond;
    for (std::size_t at = 0; at < second.structure.frame.points.size(); ++at)
        inSecond.emplace(second.structure.frame.points[at].name, static_cast<int>(at));
    std::vector<SharedPlace> shared;
    for (std::size_t at = 0; at < first.structure.frame.points.size(); ++at) {
        const auto other = inSecond.find(first.structure.frame.points[at].name);
        if (other != inSecond.end()) shared.push_back({static_cast<int>(at), {other->second, other->second}});
    }
    shareMembers(first, second, shared);
    shareParts(first, second, shared);
    std::array<Eigen::MatrixXd, 2> motions;
    const auto fill = [&](Eigen::MatrixXd& matrix, const ModesOnMesh& take, const auto& motionAt) {
        matrix.setZero(static_cast<Eigen::Index>(3 * shared.size()), static_cast<Eigen::Index>(take.size()));
        for (std::size_t mode = 0; mode < take.size(); ++mode)
            for (std::size_t at = 0; at < shared.size(); ++at)
                matrix.block<3, 1>(static_cast<Eigen::Index>(3 * at), static_cast<Eigen::Index>(mode)) =
                    motionAt(shared[at], mode);
        for (Eigen::Index mode = 0; mode < matrix.cols(); ++mode)
            if (matrix.col(mode).norm() > 0.0) matrix.col(mode).normalize();
    };
    fill(motions[0], first, [&](const SharedPlace& place, std::size_t mode) -> Eigen::Vector3d {
        return first.motion(place.first, mode).head<3>();
    });
    fill(motions[1], second, [&](const SharedPlace& place, std::size_t mode) -> Eigen::Vector3d {
        return (1.0 - place.share) * second.motion(place.second[0], mode).head<3>() +
               place.share * second.motion(place.second[1], mode).head<3>();
    });
    return motions;
}

struct Range {
    Eigen::Index first, size;
};

std::vector<Range> groupRanges(const ModesOnMesh& modes)
{
    std::vector<Range> ranges;
    for (std::size_t at = 0; at < modes.size(); ++at) {
        if (at > 0 && modes.groups[at] == modes.groups[at - 1])
            ++ranges.back().size;
        else
            ranges.push_back({static_cast<Eigen::Index>(at), 1});
    }
    return ranges;
}

Eigen::MatrixXd orthonormal(const Eigen::MatrixXd& columns)
{
    const Eigen::JacobiSVD<Eigen::MatrixXd> svd(columns, Eigen::ComputeThinU);
    Eigen::Index rank = 0;
    while (rank < svd.singularValues().size() && svd.singularValues()[rank] > 1e-6 * svd.singularValues()[0])
        ++rank;
    return svd.matrixU().leftCols(rank);
}

/// The assignment of rows to columns with the largest sum (the Hungarian method with potentials; square cost).
std::vector<Eigen::Index> bestAssignment(const Eigen::MatrixXd& gain)
{
    const Eigen::Index n = std::max(gain.rows(), gain.cols());
    Eigen::MatrixXd cost = Eigen::MatrixXd::Zero(n, n);
    cost.topLeftCorner(gain.rows(), gain.cols()) = -gain;
    std::vector<double> u(static_cast<std::size_t>(n) + 1, 0.0), v(u);
    std::vector<Eigen::Index> match(u.size(), 0), way(u.size(), 0);
    for (Eigen::Index row = 1; row <= n; ++row) {
        match[0] = row;
        Eigen::Index column = 0;
        std::vector<double> smallest(u.size(), 1e300);
        std::vector<bool> used(u.size(), false);
        do {
            used[static_cast<std::size_t>(column)] = true;
            const Eigen::Index own = match[static_cast<std::size_t>(column)];
            double delta = 1e300;
            Eigen::Index next = 0;
            for (Eigen::Index j = 1; j <= n; ++j) {
                const auto at = static_cast<std::size_t>(j);
                if (used[at]) continue;
                const double reduced = cost(own - 1, j - 1) - u[static_cast<std::size_t>(own)] - v[at];
                if (reduced < smallest[at]) {
                    smallest[at] = reduced;
                    way[at] = column;
                }
                if (smallest[at] < delta) {
                    delta = smallest[at];
                    next = j;
                }
            }
            for (std::size_t at = 0; at < u.size(); ++at) {
                if (used[at]) {
                    u[static_cast<std::size_t>(match[at])] += delta;
                    v[at] -= delta;
                } else {
                    smallest[at] -= delta;
                }
            }
            column = next;
        } while (match[static_cast<std::size_t>(column)] != 0);
        do {
            const Eigen::Index before = way[static_cast<std::size_t>(column)];
            match[static_cast<std::size_t>(column)] = match[static_cast<std::size_t>(before)];
            column = before;
        } while (column != 0);
    }
    std::vector<Eigen::Index> columnOf(static_cast<std::size_t>(gain.rows()), -1);
    for (Eigen::Index j = 1; j <= n; ++j) {
        const Eigen::Index row = match[static_cast<std::size_t>(j)] - 1;
        if (row >= 0 && row < gain.rows() && j - 1 < gain.cols()) columnOf[static_cast<std::size_t>(row)] = j - 1;
    }
    return columnOf;
}

} // namespace

Eigen::MatrixXd modalAssurance(const ModesOnMesh& first, const ModesOnMesh& second)
{
    const auto motions = sharedMotions(first, second);
    return (motions[0].transpose() * motions[1]).cwiseAbs2();
}

std::vector<Partner> partnersOf(const ModesOnMesh& first, const ModesOnMesh& second)
{
    std::vector<Partner> partners(first.size());
    if (first.size() == 0 || second.size() == 0) return partners;
    const auto motions = sharedMotions(first, second);
    if (motions[0].rows() == 0) return partners;
    Eigen::MatrixXd assurance = (motions[0].transpose() * motions[1]).cwiseAbs2();
    // Within groups any mixture is as good: members of two groups take the principal angles in turn.
    for (const auto& a : groupRanges(first))
        for (const auto& b : groupRanges(second)) {
            if (a.size == 1 && b.size == 1) continue;
            const Eigen::MatrixXd qa = orthonormal(motions[0].middleCols(a.first, a.size)),
                                  qb = orthonormal(motions[1].middleCols(b.first, b.size));
            if (qa.cols() == 0 || qb.cols() == 0) continue;
            const Eigen::VectorXd cosines = Eigen::JacobiSVD<Eigen::MatrixXd>(qa.transpose() * qb).singularValues();
            assurance.block(a.first, b.first, a.size, b.size).setZero();
            for (Eigen::Index at = 0; at < cosines.size(); ++at)
                assurance(a.first + at, b.first + at) = cosines[at] * cosines[at];
        }
    const auto columns =
        bestAssignment(assurance.unaryExpr([](double value) { return value >= leastAssurance ? value : 0.0; }));
    for (std::size_t at = 0; at < partners.size(); ++at)
        if (const Eigen::Index column = columns[at];
            column >= 0 && assurance(static_cast<Eigen::Index>(at), column) >= leastAssurance)
            partners[at] = {static_cast<int>(column), assurance(static_cast<Eigen::Index>(at), column)};
    return partners;
}

} // namespace undisona
