// Sentences that make sheets.
#include "core/base/same_place.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/picks/sentence_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Axes with x along the first direction and y on the side of the second; nothing, and a finding, where they agree.
std::optional<Eigen::Matrix3d> axesOf(FrameBuilder& builder, const Eigen::Vector3d& along,
                                      const Eigen::Vector3d& towards)
{
    const Eigen::Vector3d normal = along.cross(towards);
    if (!(normal.norm() > 1e-9 * along.norm() * towards.norm()) || along.norm() == 0.0) {
        builder.complain("the two directions of the sheet are the same or zero",
                         "Give two directions across each other.");
        return std::nullopt;
    }
    Eigen::Matrix3d axes;
    axes.col(0) = along.normalized();
    axes.col(2) = normal.normalized();
    axes.col(1) = axes.col(2).cross(axes.col(0));
    return axes;
}

} // namespace

/// As stated, or as it is where only one direction is said or none.
std::optional<Eigen::Matrix3d> statedAxes(FrameBuilder& builder, const Sentence& sentence)
{
    const Eigen::Vector3d along =
        sentence.has("along") ? asVector(sentence.vector("along")) : Eigen::Vector3d(Eigen::Vector3d::UnitX());
    Eigen::Vector3d towards = Eigen::Vector3d::UnitY();
    if (sentence.has("towards"))
        towards = asVector(sentence.vector("towards"));
    else if (std::abs(along.normalized().y()) > 0.9)
        towards = -Eigen::Vector3d::UnitX();
    return axesOf(builder, along, towards);
}

Eigen::Matrix3d axesFacing(const Eigen::Vector3d& facing)
{
    const Eigen::Vector3d z = facing.normalized();
    const Eigen::Vector3d near = std::abs(z.x()) < 0.9 ? Eigen::Vector3d::UnitX() : Eigen::Vector3d::UnitY();
    Eigen::Matrix3d axes;
    axes.col(2) = z;
    axes.col(0) = (near - near.dot(z) * z).normalized();
    axes.col(1) = z.cross(axes.col(0));
    return axes;
}

namespace {

FlatPanel rectangle(const Eigen::Vector3d& origin, const Eigen::Matrix3d& axes, double x, double y)
{
    return {origin, axes, polygon({{0, 0}, {x, 0}, {x, y}, {0, y}}), {}};
}

Sheet sheetOf(const FrameBuilder& builder, const Sentence& sentence)
{
    Sheet sheet;
    sheet.name = builder.groupName();
    sheet.sentence = sentence.id;
    sheet.thickness = sentence.number("thickness");
    if (sentence.has("size")) sheet.size = sentence.number("size");
    if (sentence.has("drawn")) sheet.above = sentence.text("drawn") == "lower face" ? 1.0 : -1.0;
    return sheet;
}

/// The direction of a field, or the one that is usual; nothing, and a finding, where it is zero.
std::optional<Eigen::Vector3d> direction(FrameBuilder& builder, const Sentence& sentence, const char* key,
                                         const Eigen::Vector3d& usual)
{
    const Eigen::Vector3d stated = sentence.has(key) ? asVector(sentence.vector(key)) : usual;
    if (stated.norm() > 0.0) return stated;
    builder.complain("the direction is 0, 0, 0", "Give a direction such as 0, 0, 1.");
    return std::nullopt;
}

} // namespace

void addPlate(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto axes = statedAxes(builder, sentence);
    if (!at || !axes) return;
    Sheet sheet = sheetOf(builder, sentence);
    sheet.flat.push_back(rectangle(*at, *axes, sentence.number("length"), sentence.number("width")));
    builder.addSheet(std::move(sheet));
}

void addPlateThrough(FrameBuilder& builder, const Sentence& sentence)
{
    std::vector<Eigen::Vector3d> corners;
    for (const auto& row : *sentence.table("rows").rows)
        corners.emplace_back(std::get<Quantity>(row[0]).si, std::get<Quantity>(row[1]).si,
                             std::get<Quantity>(row[2]).si);
    if (corners.size() < 3) return builder.complain("a plate has three corners at least", "Add rows to its corners.");
    Eigen::Vector3d normal = Eigen::Vector3d::Zero(); // twice the area (Newell)
    double size = 0.0;
    for (std::size_t at = 0; at < corners.size(); ++at) {
        const Eigen::Vector3d a = corners[at] - corners[0], b = corners[(at + 1) % corners.size()] - corners[0];
        if ((b - a).norm() < sameInShapes)
            return builder.complain(fmt::format("two corners of {} are at the same place", builder.groupName()));
        normal += a.cross(b);
        size = std::max(size, a.norm());
    }
    if (normal.norm() < 1e-9 * size * size)
        return builder.complain(fmt::format("the corners of {} lie on one line", builder.groupName()));
    Eigen::Matrix3d axes;
    axes.col(2) = normal.normalized();
    Eigen::Vector3d along = corners[1] - corners[0];
    along -= along.dot(axes.col(2)) * axes.col(2);
    axes.col(0) = along.normalized();
    axes.col(1) = axes.col(2).cross(axes.col(0));
    FlatPanel panel{corners[0], axes, {}, {}};
    std::vector<double> radii;
    for (std::size_t at = 0; at < corners.size(); ++at) {
        const Eigen::Vector3d own = axes.transpose() * (corners[at] - corners[0]);
        if (std::abs(own.z()) > 1e-6 * size)
            return builder.complain(fmt::format("corner {} of {} lies {:.3g} m out of the plane of the others", at + 1,
                                                builder.groupName(), std::abs(own.z())),
                                    "Move it into their plane, or make two plates of it.");
        const auto& row = (*sentence.table("rows").rows)[at];
        panel.outline.corners.push_back({own.head<2>(), std::get<Quantity>(row[4]).si});
        radii.push_back(std::get<Quantity>(row[3]).si);
    }
    std::string problem;
    panel.outline = counterClockwise(rounded(panel.outline, radii, problem));
    if (!problem.empty())
        return builder.complain(fmt::format("{}: {}", builder.groupName(), problem),
                                "Make the radius smaller, or take it away.");
    if (crossesItself(panel.outline))
        return builder.complain(fmt::format("the outline of {} crosses itself", builder.groupName()),
                                "Give its corners one after the other round it.");
    Sheet sheet = sheetOf(builder, sentence);
    sheet.flat.push_back(std::move(panel));
    builder.addSheet(std::move(sheet));
}

void addDisc(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto facing = direction(builder, sentence, "facing", Eigen::Vector3d::UnitZ());
    if (!at || !facing) return;
    Sheet sheet = sheetOf(builder, sentence);
    FlatPanel panel{*at, axesFacing(*facing), circleAbout({0.0, 0.0}, sentence.number("diameter") / 2.0), {}};
    if (sentence.has("inner")) {
        if (sentence.number("inner") >= sentence.number("diameter"))
            return builder.complain("the opening is as large as the disc", "Make it smaller.");
        panel.holes.push_back(circleAbout({0.0, 0.0}, sentence.number("inner") / 2.0));
    }
    sheet.flat.push_back(std::move(panel));
    builder.addSheet(std::move(sheet));
}

namespace {

/// The part of the turn that a sentence covers.
double coveredTurn(const Sentence& sentence)
{
    return sentence.has("angle") ? sentence.number("angle") : 2.0 * std::numbers::pi;
}

} // namespace

void addCylinderShell(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto along = direction(builder, sentence, "along", Eigen::Vector3d::UnitZ());
    if (!at || !along) return;
    Sheet sheet = sheetOf(builder, sentence);
    const double radius = sentence.number("diameter") / 2.0;
    sheet.turned.push_back(
        {*at, axesFacing(*along), coveredTurn(sentence), {radius, 0.0}, {radius, sentence.number("length")}, {}});
    builder.addSheet(std::move(sheet));
}

void addConeShell(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto along = direction(builder, sentence, "along", Eigen::Vector3d::UnitZ());
    if (!at || !along) return;
    Sheet sheet = sheetOf(builder, sentence);
    sheet.turned.push_back({*at,
                            axesFacing(*along),
                            coveredTurn(sentence),
                            {sentence.number("diameter") / 2.0, 0.0},
                            {sentence.number("far") / 2.0, sentence.number("length")},
                            {}});
    builder.addSheet(std::move(sheet));
}

/// A part of a sphere: rings that narrow from the rim up, and a cap on them that has no pole in its middle.
void addDome(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto along = direction(builder, sentence, "along", Eigen::Vector3d::UnitZ());
    if (!at || !along) return;
    const double rim = sentence.number("diameter") / 2.0, height = sentence.number("height");
    if (height > rim * (1.0 + 1e-9))
        return builder.complain(fmt::format("{} is higher than half a ball", builder.groupName()),
                                fmt::format("Make it {:.4g} m high at most, or set it on a cylinder.", rim));
    const double radius = (rim * rim + height * height) / (2.0 * height);
    const double whole = std::acos(std::clamp((radius - height) / radius, 0.0, 1.0)); // between axis and rim
    double top = whole > 0.7 ? 0.45 : whole;
    Sheet sheet = sheetOf(builder, sentence);
    const Eigen::Matrix3d axes = axesFacing(*along);
    if (sentence.has("inner")) {
        const double inner = sentence.number("inner") / 2.0;
        if (inner >= rim - sameInShapes)
            return builder.complain("the opening is as large as the dome", "Make it smaller.");
        top = std::asin(inner / radius);
    } else {
        sheet.crowns.push_back({*at + (height - radius) * axes.col(2), axes, radius, top});
    }
    if (top < whole)
        sheet.turned.push_back(
            {*at,
             axes,
             2.0 * std::numbers::pi,
             {},
             {},
             TurnedPanel::Arc{
                 {0.0, height - radius}, radius, std::numbers::pi / 2.0 - whole, std::numbers::pi / 2.0 - top}});
    builder.addSheet(std::move(sheet));
}

void addElbow(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto along = direction(builder, sentence, "along", Eigen::Vector3d::UnitX());
    const auto towards = direction(builder, sentence, "towards", Eigen::Vector3d::UnitZ());
    if (!at || !along || !towards) return;
    const auto axes = axesOf(builder, *along, *towards);
    if (!axes) return;
    const double bend = sentence.number("bend"), radius = sentence.number("diameter") / 2.0;
    if (bend <= radius + sameInShapes)
        return builder.complain(fmt::format("{} bends more tightly than its own tube is wide", builder.groupName()),
                                "Make the radius of the bend larger than half the tube's diameter.");
    // The tube's axis turns about a line through the bend's centre, square to the plane of both directions.
    Eigen::Matrix3d own;
    own << -axes->col(1), axes->col(0), axes->col(2);
    Sheet sheet = sheetOf(builder, sentence);
    sheet.turned.push_back({*at + bend * axes->col(1),
                            own,
                            sentence.number("angle"),
                            {},
                            {},
                            // From 0 on: the kernel joins nothing to a torus that is closed elsewhere.
                            TurnedPanel::Arc{{bend, 0.0}, radius, 0.0, 2.0 * std::numbers::pi}});
    builder.addSheet(std::move(sheet));
}

void addSheetBox(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto stated = statedAxes(builder, sentence);
    if (!at || !stated) return;
    const Eigen::Vector3d size(sentence.number("x"), sentence.number("y"), sentence.number("z"));
    const std::string open = sentence.text("open");
    const auto side = [&](const char* name, int axis, bool far, bool left) {
        if (left) return;
        // Right-handed with the normal along the axis.
        const int first = (axis + 1) % 3, second = (axis + 2) % 3;
        Eigen::Matrix3d axes = Eigen::Matrix3d::Zero();
        axes(first, 0) = axes(second, 1) = axes(axis, 2) = 1.0;
        Sheet sheet = sheetOf(builder, sentence);
        sheet.name += std::string(".") + name;
        sheet.flat.push_back(
            rectangle(*at + (far ? size[axis] : 0.0) * stated->col(axis), *stated * axes, size[first], size[second]));
        builder.addSheet(std::move(sheet));
    };
    side("bottom", 2, false, open == "open below" || open == "open above and below");
    side("top", 2, true, open == "open above" || open == "open above and below");
    side("front", 1, false, open == "open at both ends of y");
    side("back", 1, true, open == "open at both ends of y");
    side("left", 0, false, open == "open at both ends of x");
    side("right", 0, true, open == "open at both ends of x");
}

void addFoldedSheet(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto axes = statedAxes(builder, sentence);
    const auto& rows = *sentence.table("rows").rows;
    if (rows.size() < 2) return builder.complain("a folded sheet needs two lines of its profile at least", "Add rows.");
    if (!at || !axes) return;
    Sheet sheet = sheetOf(builder, sentence);
    const auto foldAt = [&](const Row& row) {
        return Eigen::Vector3d(*at + std::get<Quantity>(row[0]).si * axes->col(1) +
                               std::get<Quantity>(row[1]).si * axes->col(2));
    };
    for (std::size_t fold = 0; fold + 1 < rows.size(); ++fold) {
        const Eigen::Vector3d from = foldAt(rows[fold]), to = foldAt(rows[fold + 1]);
        if ((to - from).norm() < sameInShapes)
            return builder.complain(
                fmt::format("lines {} and {} of the profile are at the same place", fold + 1, fold + 2));
        Eigen::Matrix3d own;
        own << axes->col(0), (to - from).normalized(), axes->col(0).cross((to - from).normalized());
        sheet.flat.push_back(rectangle(from, own, sentence.number("length"), (to - from).norm()));
    }
    builder.addSheet(std::move(sheet));
}

void addRib(FrameBuilder& builder, const Sentence& sentence)
{
    const auto from = builder.place("from"), to = builder.place("to");
    const auto towards = direction(builder, sentence, "towards", Eigen::Vector3d::UnitZ());
    if (!from || !to || !towards) return;
    if ((*to - *from).norm() < sameInShapes) return builder.complain("the rib begins and ends at the same place");
    const auto axes = axesOf(builder, *to - *from, *towards);
    if (!axes) return;
    Sheet sheet = sheetOf(builder, sentence);
    sheet.flat.push_back(rectangle(*from, *axes, (*to - *from).norm(), sentence.number("height")));
    builder.addSheet(std::move(sheet));
}

} // namespace undisona
