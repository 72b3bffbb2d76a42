// Sentences that cut holes and openings into flat sheet.
#include "core/base/same_place.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/shapes/flat_face.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;
constexpr std::size_t mostHoles = 2500; // each is set against every other

/// The sheet's one flat panel; nothing, and a finding, where it is anything else.
FlatPanel* panelOf(FrameBuilder& builder, int index)
{
    Sheet& sheet = builder.frame.sheets[static_cast<std::size_t>(index)];
    const bool drawn = sheet.turned.empty() && sheet.crowns.empty() && !sheet.mesh;
    if (drawn && sheet.flat.size() == 1 && sheet.kept.empty()) return &sheet.flat[0];
    if (drawn && sheet.flat.empty() && sheet.kept.size() == 1)
        if (auto panel = flatPanelOf(sheet.kept[0])) { // one from a file, or what a mid-face gave
            sheet.kept.clear();
            sheet.flat.push_back(std::move(*panel));
            return &sheet.flat[0];
        }
    builder.complain(
        fmt::format("{} is not one flat plate within lines and arcs, so that it has no directions to measure holes by",
                    sheet.name),
        "Cut the holes into a flat plate.");
    return nullptr;
}

void cut(FrameBuilder& builder, const std::vector<Outline>& openings)
{
    const auto picked = builder.where("sheet");
    if (!picked) return;
    for (const int index : picked->sheets) {
        FlatPanel* panel = panelOf(builder, index);
        if (!panel) continue;
        if (const std::size_t all = panel->holes.size() + openings.size(); all > mostHoles) {
            builder.complain(fmt::format("{} would have {} holes; {} are the most",
                                         builder.frame.sheets[static_cast<std::size_t>(index)].name, all, mostHoles),
                             "Take many small ones into account as less density and stiffness of the sheet.");
            continue;
        }
        for (const auto& opening : openings) {
            const bool fits = liesWithin(opening, panel->outline) &&
                              std::all_of(panel->holes.begin(), panel->holes.end(),
                                          [&](const Outline& other) { return areApart(opening, other); });
            if (fits) {
                panel->holes.push_back(opening);
                continue;
            }
            const Two at = opening.isCircle() ? opening.centre : opening.corners[0].at;
            builder.complain(fmt::format("the hole at {:.4g}, {:.4g} m does not lie within {}, or meets another hole",
                                         at.x(), at.y(), builder.frame.sheets[static_cast<std::size_t>(index)].name),
                             "Move it or make it smaller.");
        }
    }
}

void cutCircles(FrameBuilder& builder, const Sentence& sentence, const std::vector<Two>& places)
{
    std::vector<Outline> openings;
    for (const auto& place : places)
        openings.push_back(circleAbout(place, sentence.number("diameter") / 2.0));
    cut(builder, openings);
}

double numberIn(const Row& row, std::size_t column)
{
    return std::get<Quantity>(row[column]).si;
}

} // namespace

void cutHoles(FrameBuilder& builder, const Sentence& sentence)
{
    std::vector<Two> places;
    for (const auto& row : *sentence.table("rows").rows)
        places.emplace_back(numberIn(row, 0), numberIn(row, 1));
    if (sentence.has("mirror")) {
        const auto picked = builder.where("sheet");
        if (!picked) return;
        const FlatPanel* panel = panelOf(builder, picked->sheets.front());
        if (!panel) return;
        Two low = Two::Constant(1e300), high = -low;
        for (const auto& corner : panel->outline.drawn()) {
            low = low.cwiseMin(corner);
            high = high.cwiseMax(corner);
        }
        if (panel->outline.isCircle()) low = high = panel->outline.centre;
        const Two twice = low + high;
        const std::string about = sentence.text("mirror");
        const auto reflect = [&](bool x, bool y) {
            const auto stated = places;
            for (const auto& place : stated) {
                const Two image(x ? twice.x() - place.x() : place.x(), y ? twice.y() - place.y() : place.y());
                if ((image - place).norm() > sameInShapes) places.push_back(image);
            }
        };
        if (about != "its width") reflect(false, true);
        if (about != "its length") reflect(true, false);
    }
    cutCircles(builder, sentence, places);
}

void cutHoleGrid(FrameBuilder& builder, const Sentence& sentence)
{
    std::vector<Two> places;
    for (long line = 0; line < sentence.count("lines"); ++line)
        for (long column = 0; column < sentence.count("columns"); ++column)
            places.emplace_back(sentence.number("x") + double(column) * sentence.number("apart-x"),
                                sentence.number("y") + double(line) * sentence.number("apart-y"));
    cutCircles(builder, sentence, places);
}

void cutHoleCircle(FrameBuilder& builder, const Sentence& sentence)
{
    std::vector<Two> places;
    const long count = sentence.count("count");
    for (long hole = 0; hole < count; ++hole) {
        const double angle = 2.0 * std::numbers::pi * double(hole) / double(count);
        places.emplace_back(sentence.number("x") + sentence.number("round") / 2.0 * std::cos(angle),
                            sentence.number("y") + sentence.number("round") / 2.0 * std::sin(angle));
    }
    cutCircles(builder, sentence, places);
}

void cutOpening(FrameBuilder& builder, const Sentence& sentence)
{
    const double x = sentence.number("x"), y = sentence.number("y"), length = sentence.number("length"),
                 width = sentence.number("width");
    std::string problem;
    const double round = sentence.has("round") ? sentence.number("round") : 0.0;
    const Outline opening = rounded(polygon({{x, y}, {x + length, y}, {x + length, y + width}, {x, y + width}}),
                                    {round, round, round, round}, problem);
    if (!problem.empty()) return builder.complain(problem, "Make the radius smaller.");
    cut(builder, {opening});
}

void cutOpeningThrough(FrameBuilder& builder, const Sentence& sentence)
{
    Outline opening;
    std::vector<double> radii;
    for (const auto& row : *sentence.table("rows").rows) {
        opening.corners.push_back({{numberIn(row, 0), numberIn(row, 1)}, numberIn(row, 3)});
        radii.push_back(numberIn(row, 2));
    }
    if (opening.corners.size() < 3)
        return builder.complain("an opening has three corners at least", "Add rows to its corners.");
    std::string problem;
    opening = counterClockwise(rounded(opening, radii, problem));
    if (!problem.empty()) return builder.complain(problem, "Make the radius smaller, or take it away.");
    if (crossesItself(opening) || !(std::abs(opening.area()) > sameInShapes * sameInShapes))
        return builder.complain("the opening crosses itself or has no area",
                                "Give its corners one after the other round it.");
    cut(builder, {opening});
}

} // namespace undisona
