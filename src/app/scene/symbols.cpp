#include "app/scene/symbols.hpp"

#include "app/session/theme.hpp"
#include "core/system/facing.hpp"
#include "core/system/hold_axes.hpp"
#include "core/system/line_joint.hpp"

#include <numbers>

namespace undisona {

namespace {

class SymbolBuilder {
public:
    explicit SymbolBuilder(Symbol& symbol) : symbol_(symbol) {}

    std::int64_t vertex(const Eigen::Vector3d& place)
    {
        for (int k = 0; k < 3; ++k)
            symbol_.place.push_back(static_cast<float>(place[k]));
        return static_cast<std::int64_t>(symbol_.place.size()) / 3 - 1;
    }

    /// A wedge whose tip is at the point and whose back, along `side`, lies against the direction.
    void wedge(const Eigen::Vector3d& along, const Eigen::Vector3d& side, double size)
    {
        const Eigen::Vector3d other = along.cross(side);
        const auto tip = vertex(Eigen::Vector3d::Zero());
        std::int64_t back[4];
        for (int corner = 0; corner < 4; ++corner) {
            const double s = (corner == 0 || corner == 3) ? 1.0 : -1.0, o = corner < 2 ? 1.0 : -1.0;
            back[corner] = vertex(-size * along + 0.36 * size * (s * side + o * other));
        }
        for (int corner = 0; corner < 4; ++corner)
            triangle(tip, back[corner], back[(corner + 1) % 4]);
        triangle(back[0], back[2], back[1]);
        triangle(back[0], back[3], back[2]);
    }

    /// A block under the point, seen along the direction.
    void block(const Eigen::Vector3d& along, const Eigen::Vector3d& side, double size)
    {
        slab(along, side, 0.42 * size, 0.0, -0.8 * size);
    }

    /// A square one of half that width, from one height along the direction to another.
    void slab(const Eigen::Vector3d& along, const Eigen::Vector3d& side, double half, double from, double to)
    {
        const Eigen::Vector3d other = along.cross(side);
        std::array<std::int64_t, 8> corners{};
        for (std::size_t corner = 0; corner < 8; ++corner) {
            const double s = corner % 4 == 0 || corner % 4 == 3 ? 1.0 : -1.0, o = corner % 4 < 2 ? 1.0 : -1.0;
            corners[corner] = vertex((corner < 4 ? from : to) * along + half * (s * side + o * other));
        }
        const auto four = [&](std::size_t a, std::size_t b, std::size_t c, std::size_t d) {
            triangle(corners[a], corners[b], corners[c]);
            triangle(corners[a], corners[c], corners[d]);
        };
        four(0, 1, 2, 3);
        four(7, 6, 5, 4);
        for (std::size_t at = 0; at < 4; ++at)
            four(at, at + 4, (at + 1) % 4 + 4, (at + 1) % 4);
    }

    /// Two lines beside each other along which something rolls.
    void rails(const Eigen::Vector3d& middle, const Eigen::Vector3d& along, const Eigen::Vector3d& beside, double size)
    {
        for (const double apart : {-0.2, 0.2}) {
            const Eigen::Vector3d centre = middle + apart * size * beside;
            line(vertex(centre - 0.8 * size * along), vertex(centre + 0.8 * size * along));
        }
    }

    /// A line to a place, parted in the middle: by pads that push each other, or tips of arrows that pull.
    void oneSided(const Eigen::Vector3d& to, const Eigen::Vector3d& pushes, double size)
    {
        const double length = to.norm(), half = std::min(0.15 * size, 0.2 * length);
        const Eigen::Vector3d along = length > 1e-9 ? Eigen::Vector3d(to / length) : Eigen::Vector3d(-pushes);
        const Eigen::Vector3d near = to / 2.0 - half * along, far = to / 2.0 + half * along;
        line(vertex(Eigen::Vector3d::Zero()), vertex(near));
        line(vertex(far), vertex(to));
        const bool pulls = pushes.dot(along) > 0.0;
        for (const double sign : {-1.0, 1.0}) {
            const Eigen::Vector3d end = sign < 0.0 ? near : far;
            if (pulls) {
                arrow(end, -sign * along, 0.6 * size);
                continue;
            }
            const Eigen::Vector3d side = along.unitOrthogonal(), other = along.cross(side);
            const double wide = 0.25 * size;
            std::array<std::int64_t, 4> corners{vertex(end + wide * side), vertex(end + wide * other),
                                                vertex(end - wide * side), vertex(end - wide * other)};
            triangle(corners[0], corners[1], corners[2]);
            triangle(corners[0], corners[2], corners[3]);
        }
    }

    /// That ends at a place.
    void arrow(const Eigen::Vector3d& tip, const Eigen::Vector3d& along, double size)
    {
        const Eigen::Vector3d a = along.unitOrthogonal(), b = along.cross(a), back = tip - 0.35 * size * along;
        line(vertex(tip - size * along), vertex(back));
        const auto point = vertex(tip);
        std::array<std::int64_t, 6> rim{};
        for (std::size_t at = 0; at < rim.size(); ++at) {
            const double angle = 2.0 * std::numbers::pi * double(at) / double(rim.size());
            rim[at] = vertex(back + 0.13 * size * (std::cos(angle) * a + std::sin(angle) * b));
        }
        for (std::size_t at = 0; at < rim.size(); ++at)
            triangle(point, rim[at], rim[(at + 1) % rim.size()]);
    }

    void arc(const Eigen::Vector3d& axis, double size)
    {
        const Eigen::Vector3d a = axis.unitOrthogonal(), b = axis.cross(a);
        std::int64_t last = -1;
        for (int step = 0; step <= 18; ++step) {
            const double angle = 1.5 * std::numbers::pi * step / 18.0;
            const auto next = vertex(0.75 * size * (std::cos(angle) * a + std::sin(angle) * b));
            if (last >= 0) line(last, next);
            last = next;
        }
    }

    void zigzag(const Eigen::Vector3d& from, const Eigen::Vector3d& to, double size)
    {
        const Eigen::Vector3d along = to - from;
        const Eigen::Vector3d side =
            along.norm() > 0 ? Eigen::Vector3d(along.normalized().unitOrthogonal()) : Eigen::Vector3d::UnitX();
        std::int64_t last = vertex(from);
        for (int step = 1; step < 9; ++step) {
            const double swing = step % 2 ? 0.22 : -0.22;
            const auto next = vertex(from + along * (0.15 + 0.7 * (step - 1) / 7.0) + swing * size * side);
            line(last, next);
            last = next;
        }
        line(last, vertex(to));
    }

    void sphere(const Eigen::Vector3d& centre, double radius)
    {
        constexpr int rings = 10, around = 18;
        std::vector<std::int64_t> grid;
        for (int ring = 0; ring <= rings; ++ring)
            for (int step = 0; step < around; ++step) {
                const double polar = std::numbers::pi * ring / rings, angle = 2 * std::numbers::pi * step / around;
                grid.push_back(
                    vertex(centre + radius * Eigen::Vector3d(std::sin(polar) * std::cos(angle),
                                                             std::sin(polar) * std::sin(angle), std::cos(polar))));
            }
        const auto at = [&](int ring, int step) {
            return grid[static_cast<std::size_t>(ring * around + step % around)];
        };
        for (int ring = 0; ring < rings; ++ring)
            for (int step = 0; step < around; ++step) {
                triangle(at(ring, step), at(ring + 1, step), at(ring + 1, step + 1));
                triangle(at(ring, step), at(ring + 1, step + 1), at(ring, step + 1));
            }
    }

    void line(std::int64_t a, std::int64_t b) { symbol_.lines.insert(symbol_.lines.end(), {a, b}); }
    void triangle(std::int64_t a, std::int64_t b, std::int64_t c)
    {
        symbol_.triangles.insert(symbol_.triangles.end(), {a, b, c});
    }

private:
    Symbol& symbol_;
};

/// Nodes along an edge, evenly and about so far apart.
std::vector<int> spreadAlong(const FrameMesh& mesh, int edge, double apart)
{
    const auto& nodes = mesh.edgeNodes[static_cast<std::size_t>(edge)];
    double length = 0.0;
    for (std::size_t place = 1; place < nodes.size(); ++place)
        length += (mesh.nodes[static_cast<std::size_t>(nodes[place])].place -
                   mesh.nodes[static_cast<std::size_t>(nodes[place - 1])].place)
                      .norm();
    const auto count = std::clamp<std::size_t>(static_cast<std::size_t>(length / apart), 1, nodes.size() - 1);
    std::vector<int> some;
    for (std::size_t which = 0; which < count; ++which)
        some.push_back(nodes[(2 * which + 1) * (nodes.size() - 1) / (2 * count)]);
    return some;
}

/// Nodes of a face or a part, none nearer to another than so, and no more than can be told apart.
std::vector<int> spreadOver(const FrameMesh& mesh, Target target, int at, double apart)
{
    constexpr std::size_t most = 200;
    std::vector<int> some;
    for (const int node : mesh.nodesOf(target, at)) {
        if (some.size() == most) break;
        const auto& place = mesh.nodes[static_cast<std::size_t>(node)].place;
        if (std::all_of(some.begin(), some.end(), [&](int other) {
                return (mesh.nodes[static_cast<std::size_t>(other)].place - place).norm() >= apart;
            }))
            some.push_back(node);
    }
    return some;
}

/// Of those that something has, where each is to be drawn.
std::vector<int> someNodesOf(const FrameMesh& mesh, Target target, int at, double apart)
{
    if (target == Target::point) return {at};
    return target == Target::edge ? spreadAlong(mesh, at, apart) : spreadOver(mesh, target, at, apart);
}

/// Three short lines that cross at a node.
void addStitch(std::vector<Symbol>& symbols, int node, double size, const QColor& colour, const std::string& sentence)
{
    Symbol symbol{node, {}, {}, {}, colour, sentence};
    SymbolBuilder builder(symbol);
    for (int axis = 0; axis < 3; ++axis)
        builder.line(builder.vertex(-0.15 * size * Eigen::Vector3d::Unit(axis)),
                     builder.vertex(0.15 * size * Eigen::Vector3d::Unit(axis)));
    symbols.push_back(std::move(symbol));
}

/// Where two sides of a joint meet: seams, or springs across; stitches beside lines, and the outlines of sections that
/// stand on the other side.
void addJoint(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint, double size,
              const Theme& theme, std::vector<Symbol>& symbols)
{
    for (const int edge : joint.edges)
        for (const int node : spreadAlong(mesh, edge, 0.6 * size))
            addStitch(symbols, node, size, theme.quiet, joint.sentence);
    if (!joint.members.empty()) {
        Findings said; // where the joint is solved
        const LinesOnSurface on(structure, mesh, joint, said);
        for (const int node : on.nodes)
            addStitch(symbols, node, size, theme.quiet, joint.sentence);
        for (const auto& [node, outline] : on.outlines) {
            Symbol symbol{node, {}, {}, {}, theme.quiet, joint.sentence};
            SymbolBuilder builder(symbol);
            std::vector<std::int64_t> corners;
            for (const auto& place : outline)
                corners.push_back(builder.vertex(place - mesh.nodes[static_cast<std::size_t>(node)].place));
            for (std::size_t at = 0; at < corners.size(); ++at)
                builder.line(corners[at], corners[(at + 1) % corners.size()]);
            symbols.push_back(std::move(symbol));
        }
    }
    if (joint.hasLines()) return;
    const Facing facing = facingOf(structure, mesh, joint);
    std::vector<Eigen::Vector3d> drawn;
    constexpr std::size_t most = 300; // that can be told apart
    for (const auto& meeting : facing.meetings) {
        Eigen::Vector3d middle = Eigen::Vector3d::Zero();
        for (const auto& corner : meeting.outline)
            middle += corner / double(meeting.outline.size());
        const bool apart = std::all_of(drawn.begin(), drawn.end(), [&](const Eigen::Vector3d& other) {
            return (middle - other).norm() >= 1.2 * size;
        });
        if (!apart || drawn.size() == most) continue;
        drawn.push_back(middle);
        const SurfaceFacet& one = facing.ones[static_cast<std::size_t>(meeting.one)];
        const Eigen::Vector3d &a = meeting.outline[0], &b = meeting.outline[1], &c = meeting.outline[2];
        const Eigen::Vector3d across = (b - a).cross(c - a).normalized() * (meeting.behindOne ? -1.0 : 1.0);
        const double reach = std::max(std::abs(meeting.gap), 0.4 * size);
        Symbol symbol{one.nodes.front(), {}, {}, {}, joint.springs ? theme.accent : theme.quiet, joint.sentence};
        SymbolBuilder builder(symbol);
        const Eigen::Vector3d from = middle - mesh.nodes[static_cast<std::size_t>(symbol.node)].place +
                                     (std::abs(meeting.gap) - reach) / 2.0 * across;
        if (joint.springs)
            builder.zigzag(from, from + reach * across, 0.5 * size);
        else
            builder.line(builder.vertex(from), builder.vertex(from + reach * across));
        symbols.push_back(std::move(symbol));
    }
}

/// One support at a node: a block where nothing moves, a wedge where it may turn, on rails along what is free, on
/// springs along what is elastic; alone, what is held of turns as arcs. What is free or elastic has its direction's
/// colour.
void addHold(const Hold& hold, int node, const Eigen::Matrix3d& axes, double size, const Theme& theme,
             std::vector<Symbol>& symbols)
{
    std::vector<int> rigid, elastic, loose, turns;
    for (std::size_t at = 0; at < 3; ++at)
        (hold.rigid[at] ? rigid : hold.elastic[at] != 0.0 ? elastic : loose).push_back(static_cast<int>(at));
    for (std::size_t at = 3; at < 6; ++at)
        if (hold.rigid[at] || hold.elastic[at] != 0.0) turns.push_back(static_cast<int>(at) - 3);
    const bool whole = rigid.size() == 3 && hold.rigid[3] && hold.rigid[4] && hold.rigid[5];
    // It stands below the point, or behind it where that is the one direction that is held.
    int stands = rigid.size() == 1 && elastic.empty() ? rigid[0] : 2;
    if (rigid.size() != 1 || !elastic.empty())
        for (int at = 0; at < 3; ++at)
            if (std::abs(axes(2, at)) > std::abs(axes(2, stands)) + 1e-6) stands = at;
    const Eigen::Vector3d up = axes.col(stands), side = axes.col((stands + 1) % 3);
    const auto begun = [&](const QColor& colour) -> Symbol& {
        symbols.push_back({node, {}, {}, {}, colour, hold.sentence});
        return symbols.back();
    };
    const QColor body = rigid.size() == 1 ? theme.axis[rigid[0]] : theme.dark ? QColor("#9AA4AB") : QColor("#59636A");
    if (whole)
        SymbolBuilder(begun(body)).block(up, side, size);
    else if (!rigid.empty())
        SymbolBuilder(begun(body)).wedge(up, side, 0.9 * size);
    const Eigen::Vector3d base = rigid.empty() ? Eigen::Vector3d(0, 0, 0) : Eigen::Vector3d(-0.9 * size * up);
    for (const int at : elastic) {
        const Eigen::Vector3d along = axes.col(at);
        const Eigen::Vector3d from = at == stands || rigid.empty() ? base : Eigen::Vector3d(0.6 * base);
        SymbolBuilder(begun(theme.axis[at])).zigzag(from - 1.1 * size * along, from, 0.8 * size);
    }
    for (const int at : loose)
        if (!rigid.empty() && at != stands) {
            const Eigen::Vector3d along = axes.col(at);
            SymbolBuilder(begun(theme.axis[at]))
                .rails(base - 0.08 * size * up, along, up.cross(along).normalized(), size);
        }
    if (!whole)
        for (const int at : turns)
            SymbolBuilder(begun(theme.axis[at])).arc(axes.col(at), 0.8 * size);
}

/// Where a surface points to at each of its nodes; of sheet, or of a body outwards.
std::map<int, Eigen::Vector3d> normalsOf(const FrameMesh& mesh, Target of, int at)
{
    std::map<int, Eigen::Vector3d> normals;
    const auto add = [&](const auto& corners, std::size_t count) {
        const auto place = [&](std::size_t corner) {
            return mesh.nodes[static_cast<std::size_t>(corners[corner])].place;
        };
        const Eigen::Vector3d normal = (place(1) - place(0)).cross(place(2) - place(0)).normalized();
        for (std::size_t corner = 0; corner < count; ++corner)
            normals.emplace(corners[corner], Eigen::Vector3d(0, 0, 0)).first->second += normal;
    };
    if (of == Target::sheet)
        for (const auto& shell : mesh.shells)
            if (shell.sheet == at) add(shell.nodes, shell.corners());
    if (of == Target::face)
        for (const auto& piece : mesh.outer)
            if (piece.face == at) add(piece.corners, piece.count());
    return normals;
}

/// Arrows where something pushes, a few of them where it is spread; arcs about the axis of a moment; a pair of arrows
/// that pull at what is drawn tight.
void addLoad(const Structure& structure, const FrameMesh& mesh, const Load& load, double size, const Theme& theme,
             std::vector<Symbol>& symbols)
{
    const auto begun = [&](int node) -> Symbol& {
        symbols.push_back({node, {}, {}, {}, theme.dark ? QColor("#D58BB5") : QColor("#9C3A73"), load.sentence});
        return symbols.back();
    };
    const Eigen::Vector3d here(0, 0, 0);
    switch (load.kind) {
    case Load::Kind::weight:
    case Load::Kind::spin:
    case Load::Kind::warming:
        return;
    case Load::Kind::moment: {
        SymbolBuilder builder(begun(load.at));
        const Eigen::Vector3d axis = load.vector.normalized();
        builder.arc(axis, 1.4 * size);
        builder.arrow(0.8 * size * axis, axis, 0.7 * size);
        return;
    }
    case Load::Kind::shift:
    case Load::Kind::force: {
        if (load.vector.isZero(0.0)) return;
        const Eigen::Vector3d along = load.vector.normalized();
        if (load.over == Target::point) return SymbolBuilder(begun(load.at)).arrow(here, along, 2.4 * size);
        for (const int node : someNodesOf(mesh, load.over, load.at, 2.5 * size))
            SymbolBuilder(begun(node)).arrow(here, along, 1.3 * size);
        return;
    }
    case Load::Kind::pressure: {
        const auto normals = normalsOf(mesh, load.over, load.at);
        for (const int node : someNodesOf(mesh, load.over, load.at, 3.0 * size))
            if (const auto found = normals.find(node); found != normals.end() && found->second.norm() > 0.0)
                SymbolBuilder(begun(node))
                    .arrow(here, (load.amount < 0.0 ? 1.0 : -1.0) * found->second.normalized(), 1.1 * size);
        return;
    }
    case Load::Kind::pretension: {
        const auto& member = structure.frame.members[static_cast<std::size_t>(load.at)];
        const Eigen::Vector3d along = structure.frame.direction(member) * (load.amount < 0.0 ? -1.0 : 1.0);
        const double inset = 2.0 * size;
        SymbolBuilder(begun(member.from)).arrow(inset * along, -along, 1.2 * size);
        SymbolBuilder(begun(member.to)).arrow(-inset * along, along, 1.2 * size);
        return;
    }
    }
}

} // namespace

double massRadius(double mass, double heaviest, double size)
{
    return heaviest > 0.0 ? 0.8 * size * std::max(0.3, std::cbrt(mass / heaviest)) : 0.0;
}

std::vector<Symbol> symbolsOf(const Structure& structure, const FrameMesh& mesh, double size)
{
    const Theme& theme = Theme::now();
    std::vector<Symbol> symbols;
    for (const auto* holds : {&structure.holds, &structure.atRestAlone.holds})
        for (const auto& hold : *holds)
            if (hold.on == Target::point)
                addHold(hold, hold.at, hold.axes, size, theme, symbols);
            else // a strip of them, half as large
                for (const int node : someNodesOf(mesh, hold.on, hold.at, 2.5 * size))
                    addHold(hold, node, axesAt(structure, mesh, hold, node).value_or(hold.axes), size / 2.0, theme,
                            symbols);
    const auto placeOf = [&](int point) { return structure.frame.points[static_cast<std::size_t>(point)].place; };
    const auto pad = [&](const Contact& contact, int node, double large) { // that does not touch: it may let go
        Symbol symbol{node, {}, {}, {}, theme.accent, contact.sentence};
        SymbolBuilder builder(symbol);
        const Eigen::Vector3d side = contact.pushes.unitOrthogonal();
        builder.slab(contact.pushes, side, 0.45 * large, -0.22 * large, -0.4 * large);
        builder.line(builder.vertex(-0.4 * large * contact.pushes), builder.vertex(-0.9 * large * contact.pushes));
        symbols.push_back(std::move(symbol));
    };
    for (const auto& contact : structure.contacts) {
        if (contact.over) {
            for (const int node : someNodesOf(mesh, contact.over->first, contact.over->second, 2.5 * size))
                pad(contact, node, size / 2.0);
        } else if (contact.other < 0) {
            pad(contact, contact.point, size);
        } else {
            Symbol symbol{contact.point, {}, {}, {}, theme.accent, contact.sentence};
            SymbolBuilder(symbol).oneSided(placeOf(contact.other) - placeOf(contact.point), contact.pushes, size);
            symbols.push_back(std::move(symbol));
        }
    }
    double heaviest = 0.0;
    for (const auto& mass : structure.pointMasses)
        heaviest = std::max(heaviest, mass.mass);
    for (const auto& mass : structure.pointMasses) {
        Symbol symbol{mass.point, {}, {}, {}, theme.dark ? QColor("#C9CDD0") : QColor("#3B4247"), mass.sentence};
        SymbolBuilder builder(symbol);
        builder.sphere(mass.centre, massRadius(mass.mass, heaviest, size));
        if (mass.centre.norm() > 1e-6)
            builder.line(builder.vertex(Eigen::Vector3d::Zero()), builder.vertex(mass.centre));
        symbols.push_back(std::move(symbol));
    }
    for (const auto& spring : structure.springs) {
        Symbol symbol{spring.from, {}, {}, {}, theme.accent, spring.sentence};
        SymbolBuilder(symbol).zigzag(Eigen::Vector3d::Zero(), placeOf(spring.to) - placeOf(spring.from), size);
        symbols.push_back(std::move(symbol));
    }
    for (const auto& tie : structure.ties) { // a spoke to each that follows
        Symbol symbol{tie.leader, {}, {}, {}, theme.quiet, tie.sentence};
        SymbolBuilder builder(symbol);
        const auto middle = builder.vertex(Eigen::Vector3d::Zero());
        for (const int node : someNodesOf(mesh, tie.on, tie.at, 1.5 * size))
            builder.line(middle,
                         builder.vertex(mesh.nodes[static_cast<std::size_t>(node)].place - placeOf(tie.leader)));
        symbols.push_back(std::move(symbol));
    }
    for (const auto& joint : structure.surfaceJoints)
        addJoint(structure, mesh, joint, size, theme, symbols);
    for (const auto& mean : structure.means) { // spokes that end before what is followed: it is not held
        Symbol symbol{mean.point, {}, {}, {}, theme.quiet, mean.sentence};
        SymbolBuilder builder(symbol);
        const auto middle = builder.vertex(Eigen::Vector3d::Zero());
        for (const auto& [target, at] : mean.of)
            for (const int node : someNodesOf(mesh, target, at, 2.0 * size))
                builder.line(middle, builder.vertex(0.8 * (mesh.nodes[static_cast<std::size_t>(node)].place -
                                                           placeOf(mean.point))));
        symbols.push_back(std::move(symbol));
    }
    for (const auto& load : structure.loads)
        addLoad(structure, mesh, load, size, theme, symbols);
    return symbols;
}

} // namespace undisona
