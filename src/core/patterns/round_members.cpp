// Members that are bent: pipes with bends, arcs, round rings. Each arc is made of straight pieces.
#include "core/base/same_place.hpp"
#include "core/model/pipe_bend.hpp"
#include "core/patterns/frame_builder.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Pieces turn by no more than this from one to the next, rad: their length is short by 0.03 %.
constexpr double widestTurn = std::numbers::pi / 36.0;

/// A part of a circle: from `centre` + radius * `first`, turning towards `second` by `angle`.
struct Arc {
    Eigen::Vector3d centre, first, second; ///< m; unit, square to each other
    double radius = 0.0, angle = 0.0;      ///< m, rad

    Eigen::Vector3d at(double turn) const
    {
        return centre + radius * (std::cos(turn) * first + std::sin(turn) * second);
    }
    Eigen::Vector3d normal() const { return first.cross(second); }
    long pieces() const { return std::max(2L, static_cast<long>(std::ceil(angle / widestTurn - 1e-9))); }
};

/// A place on the centre line of a pipe, by the distance along it from its beginning.
struct Mark {
    double along; ///< m
    std::string name, role;
};

/// What lies between two bends, or a bend.
struct Stretch {
    Eigen::Vector3d from, to; ///< m
    std::optional<Arc> arc;
    double begin = 0.0, length = 0.0; ///< m, along the centre line

    Eigen::Vector3d at(double along) const
    {
        const double share = std::clamp((along - begin) / length, 0.0, 1.0);
        if (share == 0.0) return from;
        if (share == 1.0) return to;
        return arc ? arc->at(share * arc->angle) : Eigen::Vector3d(from + share * (to - from));
    }
};

struct Corner {
    Eigen::Vector3d place;
    double radius = 0.0;               ///< of the bend there, m; 0: none
    double angle = 0.0, tangent = 0.0; ///< by which the pipe turns, rad; of its straight that the bend takes, m
};

/// The centre line of a pipe through corners, and its named places.
struct CentreLine {
    std::vector<Stretch> stretches;
    std::vector<Mark> marks;
    double length() const { return stretches.back().begin + stretches.back().length; }

    void add(Stretch stretch)
    {
        if (stretch.length < samePlace) return;
        stretch.begin = stretches.empty() ? 0.0 : length();
        stretches.push_back(std::move(stretch));
    }
};

std::optional<std::vector<Corner>> cornersOf(FrameBuilder& builder, const Sentence& sentence)
{
    std::vector<Corner> corners;
    const double usual = sentence.has("radius") ? sentence.number("radius") : 0.0;
    for (const auto& row : *sentence.table("rows").rows) {
        const auto place = builder.placeIn(textOf(row[0]));
        if (!place) return std::nullopt;
        const double own = row.size() > 1 ? std::get<Quantity>(row[1]).si : 0.0;
        if (!corners.empty() && (*place - corners.back().place).norm() < samePlace) {
            builder.complain(fmt::format("two places of the pipe after one another are one: {}", placeText(*place)),
                             "Take one of them away.");
            return std::nullopt;
        }
        corners.push_back({*place, own > 0.0 ? own : usual});
    }
    if (corners.size() >= 2) return corners;
    builder.complain("a pipe runs through two places at least", "Add its places, a line each.");
    return std::nullopt;
}

/// Fills in how much each bend turns and takes of its straights; false, and a finding, where they do not fit.
bool bendsFit(FrameBuilder& builder, std::vector<Corner>& corners, double diameter)
{
    for (std::size_t at = 1; at + 1 < corners.size(); ++at) {
        Corner& corner = corners[at];
        const Eigen::Vector3d in = (corner.place - corners[at - 1].place).normalized(),
                              out = (corners[at + 1].place - corner.place).normalized();
        corner.angle = std::atan2(in.cross(out).norm(), in.dot(out));
        if (corner.angle > std::numbers::pi - 0.01) {
            builder.complain(fmt::format("the pipe turns back on itself at {}.{}", builder.groupName(), at),
                             "Go round by two places.");
            return false;
        }
        if (corner.angle < 1e-6 || corner.radius == 0.0) continue;
        if (corner.radius <= diameter / 2.0) {
            builder.complain(fmt::format("the bend at {}.{} is tighter than the pipe is wide: radius {:.4g} mm of a "
                                         "pipe of {:.4g} mm",
                                         builder.groupName(), at, 1e3 * corner.radius, 1e3 * diameter),
                             "The radius is that of the centre line.");
            return false;
        }
        corner.tangent = corner.radius * std::tan(corner.angle / 2.0);
    }
    for (std::size_t at = 1; at < corners.size(); ++at) {
        const double there = (corners[at].place - corners[at - 1].place).norm(),
                     taken = corners[at - 1].tangent + corners[at].tangent;
        if (taken <= there + samePlace) continue;
        builder.complain(
            fmt::format("between {0}.{1} and {0}.{2} the pipe is {3:.4g} mm long, but its bends take {4:.4g} mm of it",
                        builder.groupName(), at - 1, at, 1e3 * there, 1e3 * taken),
            fmt::format("Radii of at most {:.0f} % of these fit; or move the places apart.",
                        std::floor(100.0 * there / taken)));
        return false;
    }
    return true;
}

CentreLine centreLine(const std::vector<Corner>& corners)
{
    CentreLine line;
    Eigen::Vector3d from = corners.front().place;
    line.marks.push_back({0.0, "0", "ends"});
    for (std::size_t at = 1; at < corners.size(); ++at) {
        const Corner& corner = corners[at];
        const Eigen::Vector3d in = (corner.place - corners[at - 1].place).normalized();
        const Eigen::Vector3d begin = corner.place - corner.tangent * in;
        line.add({from, begin, {}, 0.0, (begin - from).norm()});
        const double here = line.stretches.empty() ? 0.0 : line.length();
        const std::string name = std::to_string(at);
        from = begin;
        if (corner.tangent == 0.0) {
            line.marks.push_back({here, name, at + 1 == corners.size() ? "ends" : "places"});
            continue;
        }
        const Eigen::Vector3d out = (corners[at + 1].place - corner.place).normalized();
        const Eigen::Vector3d inwards = (out - out.dot(in) * in).normalized();
        const Arc arc{begin + corner.radius * inwards, -inwards, in, corner.radius, corner.angle};
        from = corner.place + corner.tangent * out;
        line.add({begin, from, arc, 0.0, corner.radius * corner.angle});
        line.marks.push_back({here, name + ".in", {}});
        line.marks.push_back({here + corner.radius * corner.angle / 2.0, name, "places"});
        line.marks.push_back({line.length(), name + ".out", {}});
        const long pieces = (arc.pieces() + 1) / 2 * 2; // the middle has a name of its own
        for (long piece = 1; piece < pieces; ++piece)
            if (2 * piece != pieces)
                line.marks.push_back({here + corner.radius * corner.angle * double(piece) / double(pieces),
                                      fmt::format("{}.{}", name, piece),
                                      {}});
    }
    return line;
}

/// What the sentence says of places along the pipe; false, and a finding, where it does not read.
bool addStops(FrameBuilder& builder, const Sentence& sentence, CentreLine& line)
{
    std::vector<double> stops;
    if (sentence.has("stops")) {
        const auto read = readQuantities(sentence.text("stops"), QuantityKind::length, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
            builder.complain(fmt::format("the distances along the pipe do not read: {}", problem->what),
                             "Such as \"0.5, 2, 3.5 m\".");
            return false;
        }
        stops = std::get<std::vector<double>>(read);
    }
    if (sentence.has("every")) {
        const double every = sentence.number("every");
        if (line.length() / every > 10000.0) {
            builder.complain(fmt::format("that would be {:.0f} places along the pipe", line.length() / every),
                             "Set them further apart.");
            return false;
        }
        for (long at = 1; double(at) * every < line.length() - samePlace; ++at)
            stops.push_back(double(at) * every);
    }
    std::sort(stops.begin(), stops.end());
    int number = 0;
    for (const double stop : stops) {
        if (stop < -samePlace || stop > line.length() + samePlace) {
            builder.complain(fmt::format("{:.6g} m lie beyond the end of the pipe, which is {:.6g} m long along its "
                                         "centre line",
                                         stop, line.length()),
                             "Name distances from its beginning.");
            return false;
        }
        line.marks.push_back({stop, fmt::format("s{}", ++number), "stops"});
    }
    return true;
}

/// One after the other; of those in one place the one first whose name a person would look for.
void putInOrder(std::vector<Mark>& marks)
{
    const auto rank = [](const Mark& mark) {
        return mark.role == "ends" ? 0 : mark.role == "places" ? 1 : mark.role == "stops" ? 2 : 3;
    };
    std::stable_sort(marks.begin(), marks.end(),
                     [](const Mark& one, const Mark& other) { return one.along < other.along; });
    for (auto first = marks.begin(); first != marks.end();) {
        const auto beyond =
            std::find_if(first, marks.end(), [&](const Mark& mark) { return mark.along - first->along >= samePlace; });
        std::stable_sort(first, beyond, [&](const Mark& one, const Mark& other) { return rank(one) < rank(other); });
        first = beyond;
    }
}

/// A note for each radius.
void tellFlexibility(FrameBuilder& builder, const Section& section, const std::vector<Corner>& corners)
{
    std::map<double, int> byRadius;
    for (const auto& corner : corners)
        if (corner.tangent > 0.0) ++byRadius[corner.radius];
    for (const auto& [radius, count] : byRadius)
        builder.findings.push_back(
            noteAt(builder.sentence(),
                   fmt::format("{} of {} with radius {:.4g} mm turn{} oval as {} bent: {:.3g} times as flexible as "
                               "straight pipe (h = {:.2g})",
                               count == 1 ? "1 bend" : fmt::format("{} bends", count), builder.groupName(),
                               1e3 * radius, count == 1 ? "s" : "", count == 1 ? "it is" : "they are",
                               bendFlexibility(section, radius), bendCharacteristic(section, radius))));
}

/// The members of an arc by pieces of equal length, the points between them named by number; its ends are there.
void addPieces(FrameBuilder& builder, const Arc& arc, int first, int last, long pieces,
               const FrameBuilder::Style& style)
{
    const std::string& name = builder.groupName();
    int from = first;
    for (long piece = 1; piece <= pieces; ++piece) {
        const int to = piece == pieces ? last
                                       : builder.addPoint(fmt::format("{}.{}", name, piece),
                                                          arc.at(arc.angle * double(piece) / double(pieces)), true);
        builder.addMember(fmt::format("{}.{}-{}", name, piece - 1, piece), from, to, style);
        from = to;
    }
}

long piecesOf(const Sentence& sentence, const Arc& arc)
{
    return sentence.has("parts") ? sentence.count("parts") : arc.pieces();
}

} // namespace

void addPipe(FrameBuilder& builder, const Sentence& sentence)
{
    auto style = builder.style(sentence.text("section"));
    auto corners = cornersOf(builder, sentence);
    if (!corners || !style.section) return;
    if (style.section->shape != SectionShape::tube)
        return builder.complain(fmt::format("a pipe is a tube, and \"{}\" is none", style.section->text),
                                "Say \"tube 60.3x2.9 mm\", or lay straight runs and arcs of that section.");
    if (!bendsFit(builder, *corners, style.section->sizes[0])) return;
    CentreLine line = centreLine(*corners);
    if (!addStops(builder, sentence, line)) return;
    if (!sentence.has("flexibility")) tellFlexibility(builder, *style.section, *corners);
    putInOrder(line.marks);
    const std::string& name = builder.groupName();
    auto stretch = line.stretches.begin();
    int last = -1;
    const Mark* before = nullptr;
    for (const Mark& mark : line.marks) {
        while (stretch + 1 != line.stretches.end() && mark.along > stretch->begin + stretch->length + samePlace)
            ++stretch;
        const bool same = before && mark.along - before->along < samePlace;
        const int point = builder.addPoint(name + "." + mark.name, stretch->at(mark.along), true, mark.role);
        if (point < 0) return;
        if (before && !same) {
            const bool bent = stretch->arc && before->along > stretch->begin - samePlace;
            auto own = style;
            if (bent)
                own.flexibility = sentence.has("flexibility") ? sentence.number("flexibility")
                                                              : bendFlexibility(*style.section, stretch->arc->radius);
            builder.addMember(fmt::format("{}.{}-{}", name, before->name, mark.name), last, point, own,
                              bent ? "bends" : "straights");
        }
        if (same) continue; // a second name for one place
        last = point;
        before = &mark;
    }
}

void addArc(FrameBuilder& builder, const Sentence& sentence)
{
    const auto from = builder.place("from"), through = builder.place("through"), to = builder.place("to");
    auto style = builder.style(sentence.text("section"));
    if (!from || !through || !to) return;
    const Eigen::Vector3d a = *through - *from, b = *to - *from, normal = a.cross(b);
    if (!(normal.norm() > 1e-6 * a.norm() * b.norm()))
        return builder.complain("the three places of the arc lie on one line, or two of them are one",
                                "Name a place beside the line between its ends.");
    // The centre of the circle through three places.
    const Eigen::Vector3d centre =
        *from + (b.squaredNorm() * normal.cross(a) - a.squaredNorm() * normal.cross(b)) / (2.0 * normal.squaredNorm());
    const double radius = (*from - centre).norm();
    const Eigen::Vector3d first = (*from - centre) / radius, second = normal.normalized().cross(first);
    double angle = std::atan2((*to - centre).dot(second), (*to - centre).dot(first));
    if (angle < 0.0) angle += 2.0 * std::numbers::pi;
    const Arc arc{centre, first, second, radius, angle};
    if (!style.towards) style.towards = arc.normal();
    const long pieces = piecesOf(sentence, arc);
    const std::string& name = builder.groupName();
    const int begin = builder.addPoint(name + ".0", *from, true, "ends");
    const int end = builder.addPoint(fmt::format("{}.{}", name, pieces), *to, true, "ends");
    addPieces(builder, arc, begin, end, pieces, style);
}

void addCircle(FrameBuilder& builder, const Sentence& sentence)
{
    const auto centre = builder.place("at");
    auto style = builder.style(sentence.text("section"));
    if (!centre) return;
    const int axis = sentence.text("axis")[0] - 'x';
    const Arc arc{*centre, Eigen::Vector3d::Unit((axis + 1) % 3), Eigen::Vector3d::Unit((axis + 2) % 3),
                  sentence.number("diameter") / 2.0, 2.0 * std::numbers::pi};
    if (!style.towards) style.towards = arc.normal();
    const int begin = builder.addPoint(builder.groupName() + ".0", arc.at(0.0), true);
    addPieces(builder, arc, begin, begin, piecesOf(sentence, arc), style);
}

} // namespace undisona
