#include "core/statement/read_groups.hpp"
#include "core/shapes/joined_faces.hpp"
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
                  {"offset", &JointReader::offset},
                  {"spring", &JointReader::spring},
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
        Tie tie{leader[0], Target::point, 0, {true, true, true, true, true, true}, sentence_->id};
        if (sentence_->has("directions"))
            for (std::size_t direction = 0; direction < 6; ++direction)
                tie.directions[direction] = sentence_->directions("directions").has(static_cast<int>(direction));
        for (const Target target : everyTarget)
            for (const int at : followers.of(target)) {
                if (target == Target::point && at == leader[0]) continue;
                tie.on = target;
                tie.at = at;
                structure_.ties.push_back(tie);
            }
    }

    void mean()
    {
        const auto followers = points("point");
        if (followers.size() > 1)
            return complain("one point follows a mean, but several are named", "Say it of each by itself.");
        const Picked picked = where("of");
        if (followers.empty()) return;
        MeanMotion mean{followers[0], {}, sentence_->id};
        for (const Target target : everyTarget)
            for (const int at : picked.of(target))
                if (target != Target::point || at != mean.point) mean.of.emplace_back(target, at);
        if (mean.of.empty() && picked.size() > 0)
            return complain(fmt::format("{} follows itself", structure_.frame.points[std::size_t(mean.point)].name),
                            "Name the points, edges or faces that it follows.");
        if (!mean.of.empty()) structure_.means.push_back(std::move(mean));
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

    void spring()
    {
        const auto from = points("from"), to = points("to");
        if (from.empty() || to.empty()) return;
        if (from.size() != 1 || to.size() != 1)
            return complain("a spring runs from one point to one point", "Name one point at each end.");
        const Spring spring{from[0], to[0], axes(), sixStiffnesses(), sentence_->id};
        if (spring.from == spring.to) return complain("both ends of the spring are the same point");
        if (spring.stiffness == std::array<double, 6>{})
            return complain("the spring has no stiffness yet", "Add one, such as \"1 kN/mm along z\".");
        structure_.springs.push_back(spring);
    }

    void join()
    {
        auto joint = surfaceJoint();
        if (!joint) return;
        joint->hinged = sentence_->has("turning") && sentence_->text("turning") == "hinged";
        if (joint->hinged && joint->edges.empty())
            return complain("surfaces that are joined turn together; edges alone are hinged",
                            "Name the edge of the one side, or leave \"hinged\" out.");
        structure_.surfaceJoints.push_back(std::move(*joint));
    }

    void layer()
    {
        auto joint = surfaceJoint();
        if (!joint) return;
        const QuantityKind meant =
            joint->edges.empty() ? QuantityKind::stiffnessPerArea : QuantityKind::stiffnessPerLength;
        for (const char* key : {"across", "along"})
            if (const auto& stiffness = std::get<Quantity>(sentence_->value(key)); stiffness.kind != meant)
                return complain(fmt::format("{} is {}, and {} is meant here", stiffness.text, describe(stiffness.kind),
                                            describe(meant)),
                                joint->edges.empty() ? "Write N/mm3, modulus by thickness."
                                                     : "Write N/mm2, modulus by thickness times the width.");
        joint->springs = {sentence_->number("across"), sentence_->number("along")};
        structure_.surfaceJoints.push_back(std::move(*joint));
    }

    /// The two sides, whose parts are not joined where they touch but by this.
    std::optional<SurfaceJoint> surfaceJoint()
    {
        const Picked one = where("what"), other = where("other");
        SurfaceJoint joint{{}, {}, one.edges, false, {}, {}, sentence_->id};
        if (sentence_->has("reach")) joint.reach = sentence_->number("reach");
        for (const Target target : {Target::sheet, Target::face, Target::solid}) {
            for (const int at : one.of(target))
                joint.one.emplace_back(target, at);
            for (const int at : other.of(target))
                joint.other.emplace_back(target, at);
        }
        if ((joint.one.empty() && joint.edges.empty()) || joint.other.empty()) return std::nullopt;
        if (!joint.one.empty() && !joint.edges.empty()) {
            complain("edges and surfaces are named together",
                     "Write a sentence for the edges and one for the surfaces.");
            return std::nullopt;
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

    std::set<int> partsOf(const Picked& picked) const
    {
        std::set<int> parts(picked.sheets.begin(), picked.sheets.end());
        const auto add = [&](int face) {
            const JoinedFace& own = structure_.frame.faces->faces[static_cast<std::size_t>(face)];
            if (own.sheet >= 0) parts.insert(own.sheet);
            for (const int solid : own.solids)
                parts.insert(structure_.frame.partOfSolid(solid));
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
