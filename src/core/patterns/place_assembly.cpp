// The models of other files as parts of this one.
#include "core/patterns/frame_builder.hpp"
#include "core/picks/sentence_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double mostParts = 200000; // points, members, sheets and solids of all copies

/// "legs of Mast" becomes "legs of Pier.Mast".
std::string groupWithin(const std::string& assembly, const std::string& group, const Frame& frame)
{
    for (std::size_t at = group.find(" of "); at != std::string::npos; at = group.find(" of ", at + 1))
        if (frame.groups.contains(group.substr(at + 4)))
            return group.substr(0, at + 4) + assembly + "." + group.substr(at + 4);
    return assembly + "." + group;
}

/// Mirrored and turned about its own origin, as the sentence says.
Eigen::Matrix3d ownTurn(const Sentence& sentence)
{
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    if (sentence.has("mirrored")) {
        const int axis = sentence.text("mirrored")[0] - 'x';
        turn(axis, axis) = -1.0;
    }
    if (sentence.has("turned")) {
        const auto angles = sentence.vector("turned");
        for (int axis = 0; axis < 3; ++axis)
            turn = Eigen::AngleAxisd(angles[static_cast<std::size_t>(axis)], Eigen::Vector3d::Unit(axis)) * turn;
    }
    // a right angle leaves what was exact as it was
    return turn.unaryExpr(
        [](double entry) { return std::abs(entry - std::round(entry)) < 1e-15 ? std::round(entry) : entry; });
}

/// So many of them, each moved on from its own place by what `motion` gives for its number from 0 on.
template <class Motion>
void placeEach(FrameBuilder& builder, const Sentence& sentence, long count, const Motion& motion)
{
    const auto at = builder.place("at");
    const auto frame = builder.assembly();
    if (!at || !frame) return;
    const double parts =
        double(frame->points.size() + frame->members.size() + frame->sheets.size() + frame->solids.size());
    if (parts * double(count) > mostParts)
        return builder.complain(fmt::format("{} of them would make {:.0f} points and parts, more than {:.0f}", count,
                                            parts * double(count), mostParts),
                                "Ask for fewer.");
    const Eigen::Matrix3d turn = ownTurn(sentence);
    for (long copy = 0; copy < count; ++copy) {
        const Eigen::Isometry3d on = motion(copy);
        const std::string& name = builder.groupName();
        builder.placeFrame({frame, sentence.kind->field("count") ? fmt::format("{}.{}", name, copy + 1) : name,
                            sentence.id, on.linear() * turn, on * *at, 0, 0, 0, 0});
    }
}

} // namespace

std::shared_ptr<const Frame> FrameBuilder::assembly() const
{
    const auto found = assemblies_.find(sentence_->id);
    return found == assemblies_.end() ? nullptr : found->second;
}

void FrameBuilder::placeFrame(PlacedFrame placed)
{
    const Frame& own = *placed.frame;
    placed.firstPoint = static_cast<int>(frame.points.size());
    placed.firstMember = static_cast<int>(frame.members.size());
    placed.firstSheet = static_cast<int>(frame.sheets.size());
    placed.firstSolid = static_cast<int>(frame.solids.size());
    const auto named = [&](const std::string& name) { return placed.name + "." + name; };
    for (const auto& point : own.points) {
        const int at = addPoint(named(point.name), placed.turn * point.place + placed.shift, false);
        if (at < 0) return; // the finding is there
        frame.points.back().made = point.made;
    }
    for (FrameMember member : own.members) {
        member.name = named(member.name);
        member.from += placed.firstPoint;
        member.to += placed.firstPoint;
        if (placed.isMirrored()) std::swap(member.from, member.to); // so that the section is the mirror image too
        member.zAxis = placed.turn * member.zAxis;
        const std::size_t before = frame.members.size();
        addPlaced(std::move(member), {});
        if (frame.members.size() == before) return;
    }
    for (Sheet sheet : own.sheets) {
        sheet = moved(std::move(sheet), placed.turn, placed.shift);
        sheet.name = named(sheet.name);
        sheet.sentence = sentence_->id;
        const std::size_t before = frame.sheets.size();
        keepSheet(std::move(sheet));
        if (frame.sheets.size() == before) return;
    }
    for (Solid solid : own.solids) {
        if (!solid.spent) solid = moved(std::move(solid), placed.turn, placed.shift);
        solid.name = named(solid.name);
        solid.sentence = sentence_->id;
        const std::size_t before = frame.solids.size();
        addSolid(std::move(solid));
        if (frame.solids.size() == before) return;
    }
    const auto takeOver = [&](FrameGroup& into, const FrameGroup& group) {
        const auto add = [](std::vector<int>& list, const std::vector<int>& more, int first) {
            for (const int index : more)
                list.push_back(first + index);
        };
        add(into.points, group.points, placed.firstPoint);
        add(into.members, group.members, placed.firstMember);
        add(into.sheets, group.sheets, placed.firstSheet);
        add(into.solids, group.solids, placed.firstSolid);
    };
    for (const auto& [name, group] : own.groups)
        takeOver(frame.groups[groupWithin(placed.name, name, own)], group);
    FrameGroup all;
    const auto count = [](std::vector<int>& list, std::size_t size) {
        for (std::size_t at = 0; at < size; ++at)
            list.push_back(static_cast<int>(at));
    };
    count(all.points, own.points.size());
    count(all.members, own.members.size());
    count(all.sheets, own.sheets.size());
    count(all.solids, own.solids.size());
    if (placed.name != groupName_) takeOver(frame.groups[placed.name], all);
    frame.placed.push_back(std::move(placed));
}

void placeAssembly(FrameBuilder& builder, const Sentence& sentence)
{
    placeEach(builder, sentence, 1, [](long) { return Eigen::Isometry3d::Identity(); });
}

void placeAssemblyRow(FrameBuilder& builder, const Sentence& sentence)
{
    const Eigen::Vector3d step = asVector(sentence.vector("step"));
    placeEach(builder, sentence, sentence.count("count"),
              [&](long copy) { return Eigen::Isometry3d(Eigen::Translation3d(double(copy) * step)); });
}

void placeAssembliesAround(FrameBuilder& builder, const Sentence& sentence)
{
    const auto through = builder.place("through");
    if (!through) return;
    const Eigen::Vector3d axis = Eigen::Vector3d::Unit(sentence.text("axis")[0] - 'x');
    placeEach(builder, sentence, sentence.count("count"), [&](long copy) {
        Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
        motion.translate(*through)
            .rotate(Eigen::AngleAxisd(double(copy) * sentence.number("angle"), axis))
            .translate(-*through);
        return motion;
    });
}

} // namespace undisona
