#include "core/statement/read_groups.hpp"

#include "core/base/decompositions.hpp"
#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/statement/bolt_stiffness.hpp"
#include "core/statement/passing.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

class JointReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::joints,
                 {{"release", &JointReader::release},
                  {"rigid", &JointReader::tie},
                  {"mean", &JointReader::mean},
                  {"centre", &JointReader::centre},
                  {"offset", &JointReader::offset},
                  {"spring", &JointReader::spring},
                  {"one-sided", &JointReader::oneSided},
                  {"mount", &JointReader::mount},
                  {"bolt", &JointReader::bolt},
                  {"join", &JointReader::join},
                  {"layer", &JointReader::layer},
                  {"apart", &JointReader::apart},
                  {"rods", &JointReader::rods},
                  {"membranes", &JointReader::membranes}});
        readEach(*this, model, Group::joints,
                 {{"rods", &JointReader::checkRods}}); // with all that frees and shifts them
    }

private:
    void rods()
    {
        for (const int member : where("members").members)
            structure_.members[static_cast<std::size_t>(member)].rod = true;
    }

    void membranes()
    {
        for (const int sheet : where("sheets").sheets)
            structure_.sheets[static_cast<std::size_t>(sheet)].membrane = true;
    }

    void checkRods()
    {
        for (const int member : where("members").members)
            checkRod(member);
    }

    void release()
    {
        const std::string ends = sentence_->text("ends");
        const Directions freed = sentence_->directions("directions");
        for (const int member : where("members").members) {
            auto& properties = structure_.members[static_cast<std::size_t>(member)];
            properties.releaseSentence = sentence_->id;
            for (std::size_t end = 0; end < 2; ++end) {
                if (ends == (end == 0 ? "the second end" : "the first end")) continue;
                for (std::size_t direction = 0; direction < 6; ++direction) {
                    if (!freed.has(static_cast<int>(direction))) continue;
                    properties.released[6 * end + direction] = true;
                    const char* spring = direction < 3 ? "stiffness" : "turning";
                    if (sentence_->has(spring))
                        properties.releaseSpring[6 * end + direction] = sentence_->number(spring);
                }
            }
            for (const std::size_t through :
                 {std::size_t{0}, std::size_t{3}}) // axial and twisting run through the member
                if (properties.released[through] && properties.released[through + 6] &&
                    properties.releaseSpring[through] == 0.0 && properties.releaseSpring[through + 6] == 0.0)
                    complain(fmt::format("both ends of {} are free in {}, so that it would {} by itself",
                                         structure_.frame.members[static_cast<std::size_t>(member)].name,
                                         directionNames[through], through == 0 ? "slide" : "spin"),
                             "Free one end only.");
        }
    }

    /// A rod has nothing to be freed, and no arm to turn.
    void checkRod(int member)
    {
        const auto& properties = structure_.members[static_cast<std::size_t>(member)];
        const std::string& name = structure_.frame.members[static_cast<std::size_t>(member)].name;
        if (properties.released != std::array<bool, 12>{})
            complain(fmt::format("{} is a rod and has no end to free", name),
                     "Take it out of one of the two sentences.");
        if (!properties.offset[0].isZero() || !properties.offset[1].isZero())
            complain(fmt::format("{} is a rod and cannot run beside its points", name),
                     "Give it points of its own, tied rigidly to the others.");
    }

    void tie()
    {
        const auto leader = points("to");
        if (leader.size() > 1)
            return complain("points are tied to one point, but several are named", "Name one leading point.");
        if (leader.empty()) return;
        const Picked followers = where("points");
        if (followers.kinds() == Targets(Target::point) && followers.points == leader)
            findings_.push_back(
                warningAt(sentence_->id,
                          fmt::format("{} is tied to itself, which joins nothing",
                                      structure_.frame.points[static_cast<std::size_t>(leader[0])].name),
                          "Name the points that follow it, or take the sentence away."));
        const std::size_t first = structure_.ties.size();
        carryBy(leader[0], followers, true);
        tieInDirections(first);
    }

    /// The ties from `first` on, in the directions that the sentence names.
    void tieInDirections(std::size_t first)
    {
        if (!sentence_->has("directions")) return;
        const Directions directions = sentence_->directions("directions");
        for (std::size_t at = first; at < structure_.ties.size(); ++at)
            for (std::size_t direction = 0; direction < 6; ++direction)
                structure_.ties[at].directions[direction] = directions.has(static_cast<int>(direction));
    }

    void mean()
    {
        const auto followers = points("point");
        if (followers.size() > 1)
            return complain("one point follows a mean, but several are named", "Say it of each by itself.");
        const Picked picked = where("of");
        if (followers.empty()) return;
        if (picked.size() > 0 && picked.kinds() == Targets(Target::point) && picked.points == followers)
            return complain(fmt::format("{} follows itself", structure_.frame.points[std::size_t(followers[0])].name),
                            "Name the points, edges or faces that it follows.");
        carryBy(followers[0], picked, false);
    }

    /// A point that the sentence has made.
    void centre()
    {
        const bool rigidly = sentence_->text("how") == "tied rigidly to it";
        if (sentence_->has("directions") && !rigidly)
            return complain("a mean is followed in every direction", "Tie it rigidly, or take the directions away.");
        const std::size_t first = structure_.ties.size();
        if (const int point = structure_.frame.pointNamed(sentence_->text("name")); point >= 0)
            carryBy(point, where("where"), rigidly);
        tieInDirections(first);
    }

    void offset()
    {
        const Eigen::Vector3d first = asVector(sentence_->vector("offset"));
        const Eigen::Vector3d second = sentence_->has("far") ? asVector(sentence_->vector("far")) : first;
        const bool own = sentence_->has("axes") && sentence_->text("axes") == "member";
        for (const int index : where("members").members) {
            const auto& member = structure_.frame.members[static_cast<std::size_t>(index)];
            Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
            if (own) {
                axes.col(0) = structure_.frame.direction(member);
                axes.col(2) = member.zAxis;
                axes.col(1) = axes.col(2).cross(axes.col(0));
            }
            structure_.members[static_cast<std::size_t>(index)].offset = {axes * first, axes * second};
            if (!(lengthOf(index) > 1e-5)) complain(fmt::format("the offset leaves {} without length", member.name));
        }
    }

    /// From one point to another one, without stiffness yet; `what` it is.
    std::optional<Spring> betweenPoints(const char* what)
    {
        const auto from = points("from"), to = points("to");
        if (from.empty() || to.empty()) return std::nullopt;
        if (from.size() == 1 && to.size() == 1 && from != to)
            return Spring{.from = from[0], .to = to[0], .sentence = sentence_->id};
        if (from.size() == 1 && to.size() == 1)
            complain(fmt::format("both ends of the {} are the same point", what));
        else
            complain(fmt::format("a {} runs from one point to one point", what), "Name one point at each end.");
        return std::nullopt;
    }

    void spring()
    {
        auto spring = betweenPoints("spring");
        if (!spring) return;
        spring->axes = axes();
        const auto six = sixStiffnesses();
        spring->stiffness = Eigen::Map<const Eigen::Matrix<double, 6, 1>>(six.data()).asDiagonal();
        if (spring->stiffness.isZero())
            return complain("the spring has no stiffness yet", "Add one, such as \"1 kN/mm along z\".");
        structure_.springs.push_back(*spring);
    }

    void oneSided()
    {
        const auto between = betweenPoints("rope or strut");
        if (!between) return;
        const auto placeOf = [&](int point) { return structure_.frame.points[std::size_t(point)].place; };
        const bool stated = sentence_->has("direction");
        const Eigen::Vector3d way =
            stated ? asVector(sentence_->vector("direction")) : placeOf(between->from) - placeOf(between->to);
        if (!(way.norm() > (stated ? 0.0 : 1e-9 * structure_.frame.span())))
            return stated
                       ? complain("the direction is nothing", "Give one, such as 0, 0, 1.")
                       : complain("both points lie in one place", "Give the direction along which they push or pull.");
        const auto said = [&](const char* key) { return sentence_->has(key) ? sentence_->number(key) : 0.0; };
        const double sign = sentence_->text("way") == "only push each other" ? 1.0 : -1.0;
        structure_.contacts.push_back({.point = between->from,
                                       .pushes = sign * way.normalized(),
                                       .gap = said("gap"),
                                       .stiffness = said("stiffness"),
                                       .grip = said("grip"),
                                       .sentence = sentence_->id,
                                       .other = between->to,
                                       .friction = said("friction"),
                                       .name = structure_.frame.points[std::size_t(between->from)].name});
    }

    /// All that a mount does: a symmetric table that no motion finds negative.
    void mount()
    {
        auto known = betweenPoints("mount");
        if (!known) return;
        Spring& mount = *known;
        mount.axes = axes();
        const Table& rows = sentence_->table("rows");
        if (rows.rows->size() != 6)
            return complain(fmt::format("the table has {} rows", rows.rows->size()),
                            "Give six: along x, y, z and about x, y, z.");
        for (Eigen::Index i = 0; i < 6; ++i)
            for (Eigen::Index j = 0; j < 6; ++j) {
                const auto& cell = std::get<Quantity>((*rows.rows)[std::size_t(i)][std::size_t(j)]);
                const QuantityKind meant = i < 3 && j < 3   ? QuantityKind::stiffness
                                           : i < 3 || j < 3 ? QuantityKind::turningStiffnessPerLength
                                                            : QuantityKind::turningStiffness;
                if (cell.si != 0.0 && cell.kind != meant)
                    return complain(fmt::format("row {}, column {}: {} is not meant there", i + 1, j + 1, cell.text),
                                    "N/m along the axes, N/rad between shifts and turns, N m/rad about them.");
                mount.stiffness(i, j) = cell.si;
            }
        // As large as each other once turns are taken at an arm that makes them so.
        const Eigen::Matrix<double, 6, 1> size = mount.stiffness.diagonal().cwiseAbs().cwiseSqrt();
        for (Eigen::Index i = 0; i < 6; ++i)
            for (Eigen::Index j = 0; j < i; ++j)
                if (std::abs(mount.stiffness(i, j) - mount.stiffness(j, i)) > 1e-6 * size[i] * size[j])
                    return complain(fmt::format("the table is not symmetric: row {}, column {} and row {}, column {}",
                                                i + 1, j + 1, j + 1, i + 1),
                                    "What a turn forces a shift forces back; give both the same.");
        mount.stiffness = (mount.stiffness + mount.stiffness.transpose().eval()) / 2.0;
        const Eigen::Matrix<double, 6, 1> inverse =
            size.unaryExpr([](double value) { return value > 0.0 ? 1.0 / value : 1.0; });
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, 6, 6>> eigen(
            Eigen::Matrix<double, 6, 6>(inverse.asDiagonal() * mount.stiffness * inverse.asDiagonal()));
        if (eigen.eigenvalues()[0] < -1e-9)
            return complain("there is a motion that the mount would push further, as its stiffness is negative",
                            "Check the signs, and that no coupling is larger than the two stiffnesses it couples.");
        if (mount.stiffness.isZero()) return complain("the mount has no stiffness yet");
        structure_.springs.push_back(std::move(mount));
    }

    /// A bolted joint, by its own stiffness and that of what it clamps.
    void bolt()
    {
        auto known = betweenPoints("bolt");
        if (!known) return;
        Spring& spring = *known;
        const auto material = [&](const char* key) {
            return materialNamed(sentence_->has(key) ? sentence_->text(key) : "structural steel");
        };
        const auto clamped = material("clamped"), ofBolt = material("material");
        if (!clamped || !ofBolt) return;
        const auto placeOf = [&](int point) { return structure_.frame.points[static_cast<std::size_t>(point)].place; };
        const Eigen::Vector3d between = placeOf(spring.to) - placeOf(spring.from),
                              axis = sentence_->has("axis") ? asVector(sentence_->vector("axis")) : between;
        if (!(axis.norm() > samePlace))
            return complain("both points are in one place, so that the bolt has no axis",
                            "Say the direction that it runs along.");
        spring.axes.col(0) = axis.normalized();
        spring.axes.col(1) = axis.unitOrthogonal();
        spring.axes.col(2) = spring.axes.col(0).cross(spring.axes.col(1));
        const BoltStiffness bolt =
            stiffnessOfBolt(sentence_->number("size"), sentence_->number("grip"), *ofBolt, *clamped);
        spring.stiffness.diagonal() << bolt.axial, bolt.shear, bolt.shear, bolt.twisting, bolt.tilting, bolt.tilting;
        structure_.springs.push_back(std::move(spring));
    }

    void join()
    {
        auto joint = surfaceJoint();
        if (!joint) return;
        const std::string turning = sentence_->has("turning") ? sentence_->text("turning") : "turning with it";
        joint->hinged = turning.find("hinged") != std::string::npos;
        joint->slides = turning.find("sliding") != std::string::npos;
        if (joint->hinged && !joint->hasLines())
            return complain("surfaces that are joined turn together; edges and members alone are hinged",
                            "Name the edge of the one side, or leave \"hinged\" out.");
        const bool onSurface = turning == "sliding on it";
        if (joint->slides && onSurface == joint->hasLines())
            return complain(onSurface ? "surfaces alone slide on each other" : "edges alone slide along themselves",
                            onSurface ? "Name the part or its face, or say \"sliding along it\" of edges."
                                      : "Name the edge of the one side, or say \"sliding on it\" of surfaces.");
        if (joint->slides && !onSurface && joint->edges.empty())
            return complain("members do not slide along what they stand on", "Leave \"sliding\" out.");
        if (sentence_->has("spring")) {
            if (!joint->hinged || joint->edges.empty())
                return complain("a turning stiffness is that of a hinge along an edge",
                                "Say \"hinged\" of edges, or leave the stiffness out.");
            joint->hingeStiffness = sentence_->number("spring");
        }
        structure_.surfaceJoints.push_back(std::move(*joint));
    }

    void layer()
    {
        auto joint = surfaceJoint();
        if (!joint) return;
        const QuantityKind meant =
            joint->edges.empty() ? QuantityKind::stiffnessPerArea : QuantityKind::stiffnessPerLength;
        std::array<double, 2> stiffness{};
        int inAll = 0, spread = 0;
        for (std::size_t at = 0; at < 2; ++at) {
            const auto& said = std::get<Quantity>(sentence_->value(at == 0 ? "across" : "along"));
            stiffness[at] = said.si;
            if (said.si == 0.0) continue;
            if (said.kind != QuantityKind::stiffness && said.kind != meant)
                return complain(
                    fmt::format("{} is {}, and {} is meant here", said.text, describe(said.kind), describe(meant)),
                    joint->edges.empty() ? "Write N/mm3, modulus by thickness; or N/mm of all of it."
                                         : "Write N/mm2, modulus by thickness times the width; or N/mm of "
                                           "all of it.");
            ++(said.kind == QuantityKind::stiffness ? inAll : spread);
        }
        if (inAll > 0 && spread > 0)
            return complain("one stiffness is that of all of it and the other one is spread",
                            "Write both in N/mm, or both as they are spread.");
        joint->springs = {stiffness[0], stiffness[1], inAll > 0};
        structure_.surfaceJoints.push_back(std::move(*joint));
    }

    /// The two sides, whose parts are not joined where they touch but by this.
    std::optional<SurfaceJoint> surfaceJoint()
    {
        const Picked one = where("what"), other = where("other");
        SurfaceJoint joint;
        joint.edges = one.edges;
        joint.sentence = sentence_->id;
        if (sentence_->has("reach")) joint.reach = sentence_->number("reach");
        for (const Target target : {Target::sheet, Target::face, Target::solid}) {
            for (const int at : one.of(target))
                joint.one.emplace_back(target, at);
            for (const int at : other.of(target))
                joint.other.emplace_back(target, at);
        }
        for (const int member : one.members)
            joint.members.push_back({member, false});
        if ((joint.one.empty() && !joint.hasLines()) || joint.other.empty()) return std::nullopt;
        if (!joint.one.empty() + !joint.edges.empty() + !joint.members.empty() > 1) {
            complain(fmt::format("{} are named together", wordsOf(one.kinds(), "and")),
                     "Write a sentence for each: surfaces, edges and members are joined in different ways.");
            return std::nullopt;
        }
        if (!joint.members.empty()) {
            lay(joint);
            return joint;
        }
        const std::set<int> first = partsOf(one), second = partsOf(other);
        bool differ = false;
        for (const int part : first)
            for (const int beside : second) {
                differ = differ || part != beside;
                if (part != beside) structure_.apart.push_back({part, beside});
            }
        if (differ) return joint;
        complain(fmt::format("both sides are {}", structure_.frame.partName(*first.begin())),
                 "Name two parts that face each other.");
        return std::nullopt;
    }

    /// Which of the members lie along the other side; their points on it are not nodes of it any more.
    void lay(SurfaceJoint& joint)
    {
        const JoinedFaces& faces = *structure_.frame.faces;
        std::vector<std::pair<int, Eigen::AlignedBox3d>> beside;
        std::vector<int> named;
        for (std::size_t at = 0; at < faces.faces.size(); ++at) {
            const JoinedFace& face = faces.faces[at];
            const bool isNamed = std::any_of(joint.other.begin(), joint.other.end(), [&](const auto& side) {
                const auto [target, which] = side;
                return target == Target::face    ? which == int(at)
                       : target == Target::sheet ? which == face.sheet
                                                 : std::count(face.solids.begin(), face.solids.end(), which) > 0;
            });
            if (!isNamed) continue;
            beside.emplace_back(int(at), faces.box(int(at)));
            named.push_back(int(at));
        }
        const auto distance = [&](const Eigen::Vector3d& place) {
            double least = std::numeric_limits<double>::infinity();
            for (const auto& [face, box] : beside)
                if (box.exteriorDistance(place) < least) least = std::min(least, faces.distance(face, place));
            return least;
        };
        std::map<int, double> ofPoint;
        for (auto& line : joint.members) {
            const FrameMember& member = structure_.frame.members[static_cast<std::size_t>(line.member)];
            const auto placeOf = [&](int point) {
                return structure_.frame.points[static_cast<std::size_t>(point)].place;
            };
            for (const int point : {member.from, member.to})
                if (!ofPoint.contains(point)) ofPoint[point] = distance(placeOf(point));
            const auto [least, most] = std::minmax({ofPoint[member.from], ofPoint[member.to],
                                                    distance((placeOf(member.from) + placeOf(member.to)) / 2.0)});
            constexpr double lean = 0.3; // of its length, by which a member that lies on something leaves it at most
            line.lies = most - least < lean * structure_.frame.length(member);
            if (line.lies) continue;
            // Where it stands the part has elements to tell the section's turn from.
            for (const int point : {member.from, member.to})
                if (const double size = std::sqrt(member.section->area); ofPoint[point] == least && least < 2.0 * size)
                    structure_.localSizes.push_back({size / 2.0, {}, {placeOf(point)}, sentence_->id});
            line.passes = passesThrough(structure_.frame, line.member, named);
            for (const double share : line.passes)
                structure_.localSizes.push_back(
                    {std::sqrt(member.section->area) / 2.0,
                     {},
                     {placeOf(member.from) + share * (placeOf(member.to) - placeOf(member.from))},
                     sentence_->id});
        }
        for (const auto& [point, off] : ofPoint)
            if (off < touching && faces.vertexOfPoint[static_cast<std::size_t>(point)] >= 0)
                structure_.carried.insert(point);
    }

    std::set<int> partsOf(const Picked& picked) const
    {
        std::set<int> parts(picked.sheets.begin(), picked.sheets.end());
        const auto add = [&](int face) {
            for (const int part :
                 structure_.frame.partsOf(structure_.frame.faces->faces[static_cast<std::size_t>(face)]))
                parts.insert(part);
        };
        for (const int solid : picked.solids)
            parts.insert(structure_.frame.partOfSolid(solid));
        for (const int face : picked.faces)
            add(face);
        for (const int edge : picked.edges)
            for (const int face : structure_.frame.faces->edges[static_cast<std::size_t>(edge)].faces)
                add(face);
        return parts;
    }

    void apart()
    {
        const auto named = [&](const char* key) {
            const Picked picked = where(key);
            std::vector<int> found = picked.sheets;
            for (const int solid : picked.solids)
                found.push_back(structure_.frame.partOfSolid(solid));
            return found;
        };
        const auto one = named("what"), other = named("other");
        for (const int first : one)
            for (const int second : other) {
                if (first == second)
                    return complain(fmt::format("{} is named on both sides", structure_.frame.partName(first)),
                                    "Name two parts that touch.");
                structure_.apart.push_back({first, second});
            }
    }
};

} // namespace

void readJoints(const Model& model, Structure& structure, Findings& findings)
{
    JointReader(structure, findings).read(model);
}

} // namespace undisona
