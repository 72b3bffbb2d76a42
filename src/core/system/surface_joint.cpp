#include "core/system/surface_joint.hpp"

#include "core/base/same_place.hpp"
#include "core/system/joint_words.hpp"
#include "core/system/line_joint.hpp"

#include <fmt/format.h>

#include <set>

namespace undisona {

namespace {

/// A facet whose covered share is at least this counts as wholly covered.
constexpr double wholeShare = 0.95;

void add(ShareOfNodes& sum, const ShareOfNodes& more, double weight)
{
    for (const auto& [node, share] : more)
        sum.try_emplace(node, Eigen::Matrix<double, 3, 6>::Zero()).first->second += weight * share;
}

/// Of the middles of sides, what goes to the corners beside them, so that every node has a positive area.
constexpr double toCorner = 0.2;

/// What each node interpolates of such corners and middles.
Eigen::VectorXd positive(const SurfaceFacet& facet, const std::vector<double>& values)
{
    const std::size_t corners = facet.corners();
    Eigen::VectorXd changed = Eigen::Map<const Eigen::VectorXd>(values.data(), Eigen::Index(values.size()));
    if (values.size() == corners) return changed;
    for (std::size_t side = 0; side < corners; ++side) {
        const double middle = values[corners + side];
        for (const std::size_t end : {side, (side + 1) % corners})
            changed[Eigen::Index(end)] += toCorner * middle;
        changed[Eigen::Index(corners + side)] = (1.0 - 2.0 * toCorner) * middle;
    }
    return changed;
}

class Follower {
public:
    Follower(const Structure& structure, const FrameMesh& mesh, Facing facing, const std::vector<char>& held,
             bool slides)
        : structure_(structure), mesh_(mesh), facing_(std::move(facing)), slides_(slides)
    {
        const Covered one = covered(facing_.ones, facing_.coveredOfOne, facing_.areaOfOne, held),
                      other = covered(facing_.others, facing_.coveredOfOther, facing_.areaOfOther, held);
        constexpr double alike = 1e-2;
        // Sheet between two things leads both; it could not follow each.
        oneFollows_ = facing_.onesLieBetween != facing_.othersLieBetween ? facing_.othersLieBetween
                      : std::abs(one.held - other.held) > 0.3            ? one.held < other.held
                      : std::abs(one.whole - other.whole) > alike        ? one.whole > other.whole
                                                                         : one.middling <= other.middling;
    }

    std::vector<SurfaceFollower> followers()
    {
        const auto& facets = oneFollows_ ? facing_.ones : facing_.others;
        const auto& leading = oneFollows_ ? facing_.others : facing_.ones;
        for (const auto& facet : leading)
            led_.insert(facet.nodes.begin(), facet.nodes.end());
        std::vector<std::vector<const Facing::Meeting*>> of(facets.size());
        for (const auto& meeting : facing_.meetings)
            of[std::size_t(oneFollows_ ? meeting.one : meeting.other)].push_back(&meeting);
        std::set<int> below; // nodes that follow the place beneath them
        for (std::size_t at = 0; at < facets.size(); ++at) {
            if (of[at].empty()) continue;
            const double share = oneFollows_ ? facing_.coveredOfOne[at] / facing_.areaOfOne[at]
                                             : facing_.coveredOfOther[at] / facing_.areaOfOther[at];
            if (share > wholeShare)
                weigh(facets[at], of[at]);
            else
                below.insert(facets[at].nodes.begin(), facets[at].nodes.end());
        }
        finish(below);
        return std::move(found_);
    }

private:
    /// Of the facets of a side that meet something.
    struct Covered {
        double held = 0.0;     ///< share of their nodes that are held
        double whole = 0.0;    ///< share of what is covered that is of wholly covered ones
        double middling = 0.0; ///< their area in the mean, m2
    };
    static Covered covered(const std::vector<SurfaceFacet>& facets, const std::vector<double>& areas,
                           const std::vector<double>& ofFacet, const std::vector<char>& held)
    {
        Covered found;
        double count = 0.0, nodes = 0.0, sum = 0.0;
        for (std::size_t at = 0; at < facets.size(); ++at) {
            if (areas[at] <= 0.0) continue;
            ++count;
            sum += areas[at];
            found.middling += ofFacet[at];
            if (areas[at] > wholeShare * ofFacet[at]) found.whole += areas[at];
            for (const int node : facets[at].nodes) {
                ++nodes;
                found.held += held[static_cast<std::size_t>(node)];
            }
        }
        if (count > 0.0) {
            found.held /= nodes;
            found.whole /= sum;
            found.middling /= count;
        }
        return found;
    }

    /// What a wholly covered facet brings to the sums of its nodes.
    void weigh(const SurfaceFacet& facet, const std::vector<const Facing::Meeting*>& meetings)
    {
        struct Weighed {
            Eigen::VectorXd values;
            const SurfaceFacet* leading;
            Matrix3X motion;
            double area;
        };
        std::vector<Weighed> places;
        const auto count = Eigen::Index(facet.nodes.size());
        Eigen::MatrixXd products = Eigen::MatrixXd::Zero(count, count);
        Eigen::VectorXd areas = Eigen::VectorXd::Zero(count);
        for (const Facing::Meeting* meeting : meetings)
            eachPlace(mesh_, facing_, *meeting, [&](const FacetPlace& one, const FacetPlace& other, double area) {
                const FacetPlace &own = oneFollows_ ? one : other, &its = oneFollows_ ? other : one;
                const SurfaceFacet& leading = oneFollows_ ? facing_.others[static_cast<std::size_t>(meeting->other)]
                                                          : facing_.ones[static_cast<std::size_t>(meeting->one)];
                Weighed place{positive(facet, own.values), &leading, shiftWith(mesh_, leading, its, own.place), area};
                products += area * place.values * place.values.transpose();
                areas += area * place.values;
                places.push_back(std::move(place));
            });
        // Dual to the interpolation: its integral with another node's is nothing, with its own that one's area.
        const Eigen::MatrixXd dual =
            areas.asDiagonal() * Eigen::MatrixXd(products.llt().solve(Eigen::MatrixXd::Identity(count, count)));
        for (const auto& place : places) {
            const Eigen::VectorXd weights = place.area * (dual * place.values);
            for (Eigen::Index node = 0; node < count; ++node)
                addShare(sums_[facet.nodes[static_cast<std::size_t>(node)]], *place.leading, place.motion,
                         weights[node]);
        }
        const std::size_t corners = facet.corners();
        for (std::size_t node = 0; node < facet.nodes.size(); ++node) {
            const int own = facet.nodes[node];
            areas_[own] += areas[Eigen::Index(node)];
            if (node >= corners)
                ends_[own] = {facet.nodes[node - corners], facet.nodes[(node - corners + 1) % corners]};
        }
    }

    void finish(std::set<int> below)
    {
        std::vector<int> nodes;
        for (const int node : below)
            if (!led_.contains(node)) nodes.push_back(node);
        const auto gaps = facing_.gaps();
        const double reach = std::max(std::abs(gaps[0]), std::abs(gaps[1])) + samePlace;
        std::map<int, ShareOfNodes> known;
        for (auto& follower :
             followersBeneath(mesh_, oneFollows_ ? facing_.others : facing_.ones, nodes, reach, Turning::none))
            known.emplace(follower.node, std::move(follower.shift));
        for (auto& [node, sum] : sums_)
            for (auto& [leader, share] : sum)
                share /= areas_.at(node);
        for (const auto& [node, sum] : sums_)
            if (!ends_.contains(node) && !below.contains(node)) known.emplace(node, sum);
        // The middle of a side from what stands for it and the corners beside it.
        for (const auto& [node, ends] : ends_) {
            if (below.contains(node)) continue;
            ShareOfNodes sum;
            add(sum, sums_.at(node), 1.0 - 2.0 * toCorner);
            for (const int end : ends) {
                const auto corner = known.find(end);
                add(sum, corner == known.end() ? sums_.at(end) : corner->second, toCorner);
            }
            known.emplace(node, std::move(sum));
        }
        const auto ways = slides_ ? waysAcross() : std::map<int, Eigen::Vector3d>{};
        for (auto& [node, share] : known)
            if (!led_.contains(node)) {
                found_.push_back({node, std::move(share)});
                if (const auto way = ways.find(node); way != ways.end()) found_.back().lies = way->second;
            }
    }

    /// By node that follows, square to the surface there; none where that turns a corner, which does not slide.
    std::map<int, Eigen::Vector3d> waysAcross() const
    {
        constexpr double corner = 0.87; // 60 degrees between its sides
        struct Sum {
            Eigen::Vector3d way = Eigen::Vector3d::Zero();
            double area = 0.0;
            std::set<int> parts;
        };
        std::map<int, Sum> sums;
        for (const auto& meeting : facing_.meetings) {
            const SurfaceFacet& facet = oneFollows_ ? facing_.ones[static_cast<std::size_t>(meeting.one)]
                                                    : facing_.others[static_cast<std::size_t>(meeting.other)];
            Eigen::Vector3d square = Eigen::Vector3d::Zero();
            for (std::size_t at = 1; at + 1 < meeting.outline.size(); ++at)
                square +=
                    (meeting.outline[at] - meeting.outline[0]).cross(meeting.outline[at + 1] - meeting.outline[0]);
            // Sheet has no outside: all meetings look the way in which the other side lies.
            const bool inward = !facing_.ones[static_cast<std::size_t>(meeting.one)].ofSolid && meeting.behindOne;
            const Eigen::Vector3d way = square.normalized() * (inward ? -1.0 : 1.0);
            for (const int node : facet.nodes) {
                Sum& sum = sums[node];
                sum.way += meeting.area * way;
                sum.area += meeting.area;
                sum.parts.insert(facet.part);
            }
        }
        std::map<int, Eigen::Vector3d> ways;
        for (const auto& [node, sum] : sums)
            if (sum.way.norm() > corner * sum.area) ways[node] = drawnWay(node, sum.parts, sum.way.normalized());
        return ways;
    }

    /// That of the drawn face instead of its pieces', so that what is round turns freely.
    Eigen::Vector3d drawnWay(int node, const std::set<int>& parts, const Eigen::Vector3d& way) const
    {
        const JoinedFaces& faces = *structure_.frame.faces;
        const Eigen::Vector3d& place = mesh_.nodes[static_cast<std::size_t>(node)].place;
        Eigen::Vector3d best = way;
        double most = 0.9; // cosine of the angle to it
        for (std::size_t face = 0; face < faces.faces.size(); ++face) {
            const auto of = structure_.frame.partsOf(faces.faces[face]);
            if (std::none_of(of.begin(), of.end(), [&](int part) { return parts.contains(part); })) continue;
            if (faces.box(static_cast<int>(face)).exteriorDistance(place) > samePlace) continue;
            const auto normal = faces.normalAt(static_cast<int>(face), place, samePlace);
            if (!normal || std::abs(normal->dot(way)) < most) continue;
            most = std::abs(normal->dot(way));
            best = normal->dot(way) < 0.0 ? Eigen::Vector3d(-*normal) : *normal;
        }
        return best;
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    Facing facing_;
    bool oneFollows_ = true;
    const bool slides_;
    std::set<int> led_;
    std::map<int, ShareOfNodes> sums_;       ///< by node, its area times what it follows
    std::map<int, double> areas_;            ///< m2
    std::map<int, std::array<int, 2>> ends_; ///< of the middles of sides
    std::vector<SurfaceFollower> found_;
};

/// How the sides meet, in words: over what area, across which gaps; or that they do not.
Finding wordsOn(const Structure& structure, const Facing& facing, const SurfaceJoint& joint)
{
    if (facing.meetings.empty()) return nothingFaces(joint, facing.nearest);
    const auto [least, most] = facing.gaps();
    std::string words = fmt::format("{} and {} face each other over {:.3g} m2", partsOf(structure, facing.ones),
                                    partsOf(structure, facing.others), facing.area());
    if (least < -touching) words += fmt::format(", overlapping by up to {}", millimetres(-least));
    if (most > touching)
        words += least > touching && most - least > touching
                     ? fmt::format(", across gaps of {} to {}", millimetres(least), millimetres(most))
                     : fmt::format(", across a gap of {}{}", least > touching ? "" : "up to ", millimetres(most));
    return noteAt(joint.sentence, words, "Say within how much, if it is to be more or less.");
}

SurfaceSprings springsOver(const FrameMesh& mesh, const Facing& facing, const Facing::Meeting& meeting,
                           const SurfaceJoint::Springs& springs)
{
    const SurfaceFacet &one = facing.ones[static_cast<std::size_t>(meeting.one)],
                       &other = facing.others[static_cast<std::size_t>(meeting.other)];
    SurfaceSprings found{one.part, one.nodes, {}};
    found.nodes.insert(found.nodes.end(), other.nodes.begin(), other.nodes.end());
    const auto size = 6 * Eigen::Index(found.nodes.size());
    found.stiffness = Eigen::MatrixXd::Zero(size, size);
    eachPlace(mesh, facing, meeting, [&](const FacetPlace& here, const FacetPlace& there, double area) {
        // Both sides carried to the middle of the gap, so that turning the whole costs nothing.
        const Eigen::Vector3d middle = (here.place + there.place) / 2.0;
        Matrix3X stretch(3, size);
        stretch << -shiftWith(mesh, one, here, middle), shiftWith(mesh, other, there, middle);
        found.stiffness += area * stretch.transpose() * stiffnessAcross(here.normal, springs) * stretch;
    });
    return found;
}

} // namespace

void addShare(ShareOfNodes& sum, const SurfaceFacet& facet, const Matrix3X& motion, double weight)
{
    for (std::size_t node = 0; node < facet.nodes.size(); ++node)
        sum.try_emplace(facet.nodes[node], Eigen::Matrix<double, 3, 6>::Zero()).first->second +=
            weight * motion.middleCols<6>(6 * Eigen::Index(node));
}

Eigen::Matrix3d stiffnessAcross(const Eigen::Vector3d& normal, const SurfaceJoint::Springs& springs)
{
    return springs.along * Eigen::Matrix3d::Identity() + (springs.across - springs.along) * normal * normal.transpose();
}

Finding meetingOf(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint)
{
    const Facing facing = facingOf(structure, mesh, joint);
    Finding words = wordsOn(structure, facing, joint);
    std::set<int> nodes;
    for (const auto& meeting : facing.meetings) {
        const auto& own = facing.ones[static_cast<std::size_t>(meeting.one)].nodes;
        nodes.insert(own.begin(), own.end());
    }
    if (!nodes.empty()) words.what += fmt::format("; {} nodes of {}", nodes.size(), partsOf(structure, facing.ones));
    return words;
}

std::vector<SurfaceFollower> followersBeneath(const FrameMesh& mesh, const std::vector<SurfaceFacet>& leading,
                                              const std::vector<int>& nodes, double reach, Turning turning)
{
    std::vector<Eigen::Vector3d> places;
    for (const int node : nodes)
        places.push_back(mesh.nodes[static_cast<std::size_t>(node)].place);
    const auto below = nearestFacets(mesh, leading, places, reach);
    std::vector<SurfaceFollower> found;
    for (std::size_t at = 0; at < nodes.size(); ++at) {
        if (!below[at]) continue;
        const SurfaceFacet& facet = leading[static_cast<std::size_t>(below[at]->facet)];
        SurfaceFollower& follower = found.emplace_back(SurfaceFollower{nodes[at], {}});
        addShare(follower.shift, facet, shiftWith(mesh, facet, below[at]->at, places[at]), 1.0);
        if (turning != Turning::none) addShare(follower.turn, facet, turnWith(facet, below[at]->at), 1.0);
        if (turning == Turning::acrossNormal) follower.spins = below[at]->at.normal;
    }
    return found;
}

std::vector<SurfaceFollower> followersOf(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint,
                                         const std::vector<char>& held, Findings& findings)
{
    if (joint.hasLines()) return lineFollowers(structure, mesh, joint, findings);
    Facing facing = facingOf(structure, mesh, joint);
    findings.push_back(wordsOn(structure, facing, joint));
    if (facing.meetings.empty()) return {};
    return Follower(structure, mesh, std::move(facing), held, joint.slides).followers();
}

void eachSprings(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint, Findings& findings,
                 const std::function<void(const SurfaceSprings&)>& take)
{
    if (joint.hasLines()) return eachSpringAlong(structure, mesh, joint, findings, take);
    const Facing facing = facingOf(structure, mesh, joint);
    findings.push_back(wordsOn(structure, facing, joint));
    const SurfaceJoint::Springs perArea = joint.springs->over(facing.area());
    for (const auto& meeting : facing.meetings)
        take(springsOver(mesh, facing, meeting, perArea));
}

} // namespace undisona
