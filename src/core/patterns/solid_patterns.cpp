// Sentences that make solids, and those that join and cut them.
#include "core/base/same_place.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/picks/sentence_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

void add(FrameBuilder& builder, const Sentence& sentence, SolidForm form)
{
    Solid solid{builder.groupName(), sentence.id, 0.0, nullptr, false};
    if (sentence.has("size")) solid.size = sentence.number("size");
    solid.shape = std::make_shared<const SolidShape>(SolidShape{std::move(form)});
    builder.addSolid(std::move(solid));
}

std::optional<Eigen::Matrix3d> facing(FrameBuilder& builder, const Sentence& sentence)
{
    const Eigen::Vector3d along =
        sentence.has("along") ? asVector(sentence.vector("along")) : Eigen::Vector3d(Eigen::Vector3d::UnitZ());
    if (!(along.norm() > 0.0)) {
        builder.complain("the direction is 0, 0, 0", "Give a direction such as 0, 0, 1.");
        return std::nullopt;
    }
    if (!sentence.has("towards")) return axesFacing(along);
    const Eigen::Vector3d towards = asVector(sentence.vector("towards"));
    const Eigen::Vector3d across = along.cross(towards);
    if (!(across.norm() > 1e-9 * along.norm() * towards.norm())) {
        builder.complain("the two directions of the solid are the same or zero",
                         "Give two directions across each other.");
        return std::nullopt;
    }
    Eigen::Matrix3d axes;
    axes.col(2) = along.normalized();
    axes.col(1) = across.normalized();
    axes.col(0) = axes.col(1).cross(axes.col(2));
    return axes;
}

/// The sentence's outline, its corners rounded and its sides bowed; nothing, and a finding, where it is none.
std::optional<Outline> profileOf(FrameBuilder& builder, const Sentence& sentence)
{
    Outline outline;
    std::vector<double> radii;
    for (const auto& row : *sentence.table("rows").rows) {
        outline.corners.push_back(
            {{std::get<Quantity>(row[0]).si, std::get<Quantity>(row[1]).si}, std::get<Quantity>(row[3]).si});
        radii.push_back(std::get<Quantity>(row[2]).si);
    }
    if (outline.corners.size() < 2 || (outline.corners.size() == 2 && outline.corners[0].bow == 0.0)) {
        builder.complain(fmt::format("the profile of {} needs three corners at least", builder.groupName()),
                         "Add rows to its corners.");
        return std::nullopt;
    }
    std::string problem;
    outline = counterClockwise(rounded(outline, radii, problem));
    if (problem.empty() && (crossesItself(outline) || !(std::abs(outline.area()) > sameInShapes * sameInShapes)))
        problem = "its outline crosses itself or has no area";
    if (problem.empty()) return outline;
    builder.complain(fmt::format("{}: {}", builder.groupName(), problem),
                     "Give its corners one after the other round it.");
    return std::nullopt;
}

} // namespace

void addSolidBox(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto axes = statedAxes(builder, sentence);
    if (!at || !axes) return;
    const double x = sentence.number("x"), y = sentence.number("y");
    add(builder, sentence, {*at, *axes, polygon({{0, 0}, {x, 0}, {x, y}, {0, y}}), {}, false, sentence.number("z")});
}

void addSolidCylinder(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto axes = facing(builder, sentence);
    if (!at || !axes) return;
    SolidForm form{*at, *axes, circleAbout({0, 0}, sentence.number("diameter") / 2.0),
                   {},  false, sentence.number("length")};
    if (sentence.has("inner")) {
        if (sentence.number("inner") >= sentence.number("diameter") - sameInShapes)
            return builder.complain("the bore is as wide as the cylinder", "Make it narrower.");
        form.holes.push_back(circleAbout({0, 0}, sentence.number("inner") / 2.0));
    }
    add(builder, sentence, std::move(form));
}

void addSolidSphere(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    if (!at) return;
    const double r = sentence.number("diameter") / 2.0, bow = r * (1.0 - std::sqrt(0.5));
    Outline half; // two quarters, so that each has one pole alone
    half.corners = {{{0, -r}, bow}, {{r, 0}, bow}, {{0, r}, 0.0}};
    add(builder, sentence, {*at, Eigen::Matrix3d::Identity(), half, {}, true, 2.0 * std::numbers::pi});
}

void addExtrusion(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto axes = facing(builder, sentence);
    const auto profile = profileOf(builder, sentence);
    if (!at || !axes || !profile) return;
    add(builder, sentence, {*at, *axes, *profile, {}, false, sentence.number("length")});
}

void addRevolution(FrameBuilder& builder, const Sentence& sentence)
{
    const auto at = builder.place("at");
    const auto axes = facing(builder, sentence);
    const auto profile = profileOf(builder, sentence);
    if (!at || !axes || !profile) return;
    for (const auto& place : profile->drawn())
        if (place.x() < -sameInShapes)
            return builder.complain(fmt::format("the profile of {} crosses its axis", builder.groupName()),
                                    "Its distances from the axis are zero or more.");
    add(builder, sentence,
        {*at, *axes, *profile, {}, true, sentence.has("angle") ? sentence.number("angle") : 2.0 * std::numbers::pi});
}

void combineSolids(FrameBuilder& builder, const Sentence& sentence)
{
    const auto bodies = builder.where("body"), tools = builder.where("tool");
    if (!bodies || !tools) return;
    const std::string& kind = sentence.kind->key;
    const auto operation = kind == "solid-cut"     ? SolidShape::Operation::cut
                           : kind == "solid-union" ? SolidShape::Operation::join
                                                   : SolidShape::Operation::common;
    if (bodies->solids.size() != 1 && operation != SolidShape::Operation::cut)
        return builder.complain("one body is needed here, but several are named", "Name one.");
    for (const auto* list : {&bodies->solids, &tools->solids})
        for (const int which : *list)
            if (const Solid& solid = builder.frame.solids[static_cast<std::size_t>(which)]; placedMesh(*solid.shape))
                return builder.complain(fmt::format("{} comes as a mesh, which is neither cut nor joined", solid.name),
                                        "Cut it where it was made, or draw it.");
    for (const int body : bodies->solids)
        for (const int tool : tools->solids) {
            if (body == tool)
                return builder.complain(
                    fmt::format("{} is named on both sides", builder.frame.solids[static_cast<std::size_t>(body)].name),
                    "Name two different solids.");
            Solid& own = builder.frame.solids[static_cast<std::size_t>(body)];
            own.shape = std::make_shared<const SolidShape>(SolidShape{
                SolidShape::Pair{operation, own.shape, builder.frame.solids[static_cast<std::size_t>(tool)].shape}});
        }
    if (sentence.has("afterwards") && sentence.text("afterwards") == "stays in place") return;
    for (const int tool : tools->solids)
        builder.frame.solids[static_cast<std::size_t>(tool)].spent = true;
}

} // namespace undisona
