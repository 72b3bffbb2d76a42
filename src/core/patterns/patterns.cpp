// Patterns of members: runs, grids of bays, rings, copies and mirror images.
#include "core/patterns/frame_builder.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr long mostMembers = 200000;
constexpr long mostParts = 2000; // of sheets and solids, which are joined face by face

bool tooMany(FrameBuilder& builder, double members, double parts = 0.0)
{
    members += double(builder.frame.members.size());
    parts += double(builder.frame.parts());
    if (members <= double(mostMembers) && parts <= double(mostParts)) return false;
    builder.complain(
        members > double(mostMembers)
            ? fmt::format("this would make {:.0f} members, more than the {} that a model may have", members,
                          mostMembers)
            : fmt::format("this would make {:.0f} sheets and solids, more than the {} that a model may have", parts,
                          mostParts),
        "Ask for fewer.");
    return true;
}

bool tooManyCopies(FrameBuilder& builder, const Picked& of, double copies)
{
    return tooMany(builder, copies * double(of.members.size()), copies * double(of.sheets.size() + of.solids.size()));
}

int axisIndex(const std::string& name)
{
    return name[0] - 'x';
}

/// Copies members and sheets, their points carried by `motion`; a reflection swaps the ends so that the section is
/// the mirror image too.
void addMoved(FrameBuilder& builder, const Picked& parts, const Eigen::Isometry3d& motion, bool reflects,
              const std::string& lead)
{
    for (const int index : parts.sheets) {
        Sheet copy =
            moved(builder.frame.sheets[static_cast<std::size_t>(index)], motion.linear(), motion.translation());
        copy.name = lead + copy.name;
        copy.sentence = builder.sentence();
        builder.addSheet(std::move(copy));
    }
    for (const int index : parts.solids) {
        Solid copy =
            moved(builder.frame.solids[static_cast<std::size_t>(index)], motion.linear(), motion.translation());
        copy.name = lead + copy.name;
        copy.sentence = builder.sentence();
        builder.addSolid(std::move(copy));
    }
    for (const int index : parts.members) {
        FrameMember copy = builder.frame.members[static_cast<std::size_t>(index)];
        int ends[2];
        for (int end = 0; end < 2; ++end) {
            const FramePoint source = builder.frame.points[static_cast<std::size_t>(end == 0 ? copy.from : copy.to)];
            ends[end] = builder.addPoint(lead + source.name, motion * source.place, true);
            if (ends[end] < 0) return;
        }
        copy.from = ends[reflects ? 1 : 0];
        copy.to = ends[reflects ? 0 : 1];
        copy.zAxis = motion.linear() * copy.zAxis;
        const bool there =
            std::any_of(builder.frame.members.begin(), builder.frame.members.end(), [&](const FrameMember& other) {
                return (other.from == copy.from && other.to == copy.to) ||
                       (other.from == copy.to && other.to == copy.from);
            });
        if (there) continue; // a member on the mirror plane, or where two copies meet
        copy.name = lead + copy.name;
        builder.addPlaced(std::move(copy), {});
    }
}

} // namespace

void addRun(FrameBuilder& builder, const Sentence& sentence)
{
    const auto from = builder.place("from"), to = builder.place("to");
    const auto style = builder.style(sentence.text("section"));
    if (!from || !to) return;
    const std::string& name = builder.groupName();
    const long parts = sentence.count("parts");
    if ((*to - *from).norm() < 1e-5)
        return builder.complain("the run begins and ends at the same place", "Move one of its ends.");
    int last = builder.addPoint(name + ".0", *from, true, "first point");
    for (long part = 1; part <= parts; ++part) {
        const double share = static_cast<double>(part) / static_cast<double>(parts);
        const int next = builder.addPoint(fmt::format("{}.{}", name, part), *from + share * (*to - *from), true,
                                          part == parts ? "last point" : "");
        builder.addMember(parts == 1 ? name : fmt::format("{}.{}-{}", name, part - 1, part), last, next, style);
        last = next;
    }
}

void addBayFrame(FrameBuilder& builder, const Sentence& sentence)
{
    const long nx = sentence.count("bays-x"), ny = sentence.count("bays-y"), nz = sentence.count("storeys");
    if (tooMany(builder, 3.0 * double(nx + 1) * double(ny + 1) * double(nz))) return;
    Eigen::Vector3d corner = Eigen::Vector3d::Zero();
    if (sentence.has("at")) {
        const auto at = builder.place("at");
        if (!at) return;
        corner = *at;
    }
    const auto columns = builder.style(sentence.text("columns")), beams = builder.style(sentence.text("beams"));
    const Eigen::Vector3d step(sentence.number("bay-x"), sentence.number("bay-y"), sentence.number("storey"));
    const std::string& name = builder.groupName();
    const auto label = [&](long i, long j, long k) { return fmt::format("{}.{}.{}.{}", name, i, j, k); };
    std::map<std::array<long, 3>, int> points;
    for (long k = 0; k <= nz; ++k)
        for (long j = 0; j <= ny; ++j)
            for (long i = 0; i <= nx; ++i)
                points[{i, j, k}] = builder.addPoint(
                    label(i, j, k),
                    corner + Eigen::Vector3d(double(i) * step.x(), double(j) * step.y(), double(k) * step.z()), true,
                    k == 0    ? "feet"
                    : k == nz ? "roof"
                              : "floors");
    for (long k = 1; k <= nz; ++k)
        for (long j = 0; j <= ny; ++j)
            for (long i = 0; i <= nx; ++i) {
                builder.addMember(fmt::format("{}.column.{}.{}.{}", name, i, j, k), points[{i, j, k - 1}],
                                  points[{i, j, k}], columns, "columns");
                if (i > 0)
                    builder.addMember(fmt::format("{}.beam-x.{}.{}.{}", name, i, j, k), points[{i - 1, j, k}],
                                      points[{i, j, k}], beams, "beams");
                if (j > 0)
                    builder.addMember(fmt::format("{}.beam-y.{}.{}.{}", name, i, j, k), points[{i, j - 1, k}],
                                      points[{i, j, k}], beams, "beams");
            }
}

void addRing(FrameBuilder& builder, const Sentence& sentence)
{
    const auto centre = builder.place("at");
    const auto ties = builder.where("to");
    const auto ringStyle = builder.style(sentence.text("section")), armStyle = builder.style(sentence.text("arms"));
    if (!centre || !ties) return;
    const std::string plan = sentence.text("plan"), name = builder.groupName();
    const int corners = plan == "square" ? 4 : plan == "triangle" ? 3 : 8;
    // The width is that of a side for a square or triangle, across the flats for an octagon.
    const double half = std::numbers::pi / corners;
    const double radius = sentence.number("width") / 2.0 / (corners == 8 ? std::cos(half) : std::sin(half));
    std::vector<int> points;
    for (int corner = 0; corner < corners; ++corner) {
        const double angle = 2.0 * half * corner + (corners == 3 ? std::numbers::pi / 2 : half);
        points.push_back(builder.addPoint(fmt::format("{}.{}", name, corner + 1),
                                          *centre + radius * Eigen::Vector3d(std::cos(angle), std::sin(angle), 0), true,
                                          "corners"));
    }
    for (int corner = 0; corner < corners; ++corner) {
        const int here = points[static_cast<std::size_t>(corner)];
        builder.addMember(fmt::format("{}.side.{}", name, corner + 1), here,
                          points[static_cast<std::size_t>((corner + 1) % corners)], ringStyle, "sides");
        int nearest = -1;
        double least = 1e300;
        for (const int tie : ties->points) {
            const double distance = (builder.frame.points[static_cast<std::size_t>(tie)].place -
                                     builder.frame.points[static_cast<std::size_t>(here)].place)
                                        .norm();
            if (distance < least - 1e-9) {
                least = distance;
                nearest = tie;
            }
        }
        if (nearest != here)
            builder.addMember(fmt::format("{}.arm.{}", name, corner + 1), here, nearest, armStyle, "arms");
    }
}

void addCopies(FrameBuilder& builder, const Sentence& sentence)
{
    const auto parts = builder.where("what");
    if (!parts) return;
    const long count = sentence.count("count");
    if (tooManyCopies(builder, *parts, double(count))) return;
    const auto step = sentence.vector("step");
    if (Eigen::Vector3d(step[0], step[1], step[2]).norm() < 1e-5)
        return builder.complain("the copies are moved by nothing", "Give a step such as 1, 0, 0 m.");
    for (long copy = 1; copy <= count; ++copy) {
        Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
        motion.translation() = double(copy) * Eigen::Vector3d(step[0], step[1], step[2]);
        addMoved(builder, *parts, motion, false, fmt::format("{}.{}.", builder.groupName(), copy));
    }
}

void addCopiesAround(FrameBuilder& builder, const Sentence& sentence)
{
    const auto parts = builder.where("what");
    const auto through = builder.place("through");
    if (!parts || !through) return;
    const long count = sentence.count("count");
    if (tooManyCopies(builder, *parts, double(count))) return;
    const Eigen::Vector3d axis = Eigen::Vector3d::Unit(axisIndex(sentence.text("axis")));
    for (long copy = 1; copy <= count; ++copy) {
        Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
        motion.translate(*through)
            .rotate(Eigen::AngleAxisd(double(copy) * sentence.number("angle"), axis))
            .translate(-*through);
        addMoved(builder, *parts, motion, false, fmt::format("{}.{}.", builder.groupName(), copy));
    }
}

void addMirror(FrameBuilder& builder, const Sentence& sentence)
{
    const auto parts = builder.where("what");
    if (!parts) return;
    const int axis = axisIndex(sentence.text("axis"));
    Eigen::Isometry3d reflection = Eigen::Isometry3d::Identity();
    if (tooManyCopies(builder, *parts, 1.0)) return;
    reflection.linear()(axis, axis) = -1.0;
    reflection.translation()[axis] = 2.0 * sentence.number("at");
    addMoved(builder, *parts, reflection, true, builder.groupName() + ".");
}

} // namespace undisona
