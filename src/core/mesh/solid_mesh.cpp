#include "core/mesh/solid_mesh.hpp"

#include "core/mesh/crossing_triangles.hpp"
#include "core/mesh/plane_mesh.hpp"
#include "core/mesh/tetrahedralize.hpp"
#include "core/shapes/frame.hpp"
#include "core/shapes/kept_answers.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <numbers>
#include <set>

namespace undisona {

namespace {

class BodyMesher {
public:
    BodyMesher(const JoinedFaces& faces, const SheetMesh& surface, Progress* progress)
        : faces_(faces), surface_(surface), progress_(progress), elementsOf_(faces.faces.size())
    {
        for (const auto& element : surface.elements)
            elementsOf_[static_cast<std::size_t>(element.face)].push_back(&element);
    }

    SolidMesh meshed()
    {
        mesh_.ofBody.resize(faces_.solids.size());
        mesh_.problems.resize(faces_.solids.size());
        mesh_.finerAt.resize(faces_.solids.size());
        double all = 0.0, done = 0.0;
        for (const auto& body : faces_.solids)
            all += body.volume;
        for (std::size_t body = 0; body < faces_.solids.size() && !(progress_ && progress_->stopped()); ++body) {
            if (surface_.plan.bodies[body].sweep)
                layer(body);
            else if (surface_.plan.bodies[body].turn)
                turn(body);
            else
                fill(body, surface_.plan.bodies[body].size);
            done += faces_.solids[body].volume;
            if (progress_) progress_->fraction(surfaceShare + (1.0 - surfaceShare) * done / all);
        }
        listFaces();
        return std::move(mesh_);
    }

private:
    const Eigen::Vector3d& place(int node) const
    {
        const auto at = static_cast<std::size_t>(node);
        return at < surface_.nodes.size() ? surface_.nodes[at] : mesh_.nodes[at - surface_.nodes.size()];
    }

    int add(const Eigen::Vector3d& at)
    {
        mesh_.nodes.push_back(at);
        return static_cast<int>(surface_.nodes.size() + mesh_.nodes.size()) - 1;
    }

    void fill(std::size_t body, double size)
    {
        std::vector<Eigen::Vector3d> points;
        std::vector<int> nodes;
        std::map<int, int> known;
        std::vector<std::array<int, 3>> triangles;
        std::set<std::pair<int, int>> onSurface;
        for (const int face : faces_.solids[body].faces)
            for (const auto* element : elementsOf_[static_cast<std::size_t>(face)]) {
                std::array<int, 3> own{};
                for (std::size_t corner = 0; corner < 3; ++corner) {
                    const int node = element->nodes[corner];
                    const auto [at, isNew] = known.emplace(node, static_cast<int>(points.size()));
                    if (isNew) {
                        points.push_back(surface_.nodes[static_cast<std::size_t>(node)]);
                        nodes.push_back(node);
                    }
                    own[corner] = at->second;
                    onSurface.insert(std::minmax(node, element->nodes[(corner + 1) % 3]));
                }
                triangles.push_back(own);
            }
        mesh_.problems[body] = faultOf(points, triangles, mesh_.finerAt[body]);
        if (!mesh_.problems[body].empty()) return;
        const FilledSurface filled = fillSurface(points, triangles, size * size * size / 6.0, progress_);
        if (progress_ && progress_->stopped()) return;
        mesh_.problems[body] = filled.problem;
        if (!filled.problem.empty()) return;
        for (std::size_t at = points.size(); at < filled.points.size(); ++at)
            nodes.push_back(add(filled.points[at]));
        std::map<std::pair<int, int>, int> middles; // inside this body
        std::map<int, std::pair<int, int>> curved;  // middles off their chord, with its ends
        const auto sides = sidesOf(SolidKind::tetrahedron10);
        for (const auto& cell : filled.tetrahedra) {
            SolidMesh::Element element{SolidKind::tetrahedron10, {}};
            element.nodes.fill(-1);
            for (std::size_t corner = 0; corner < 4; ++corner)
                element.nodes[corner] = nodes[static_cast<std::size_t>(cell[corner])];
            for (std::size_t side = 0; side < sides.size(); ++side) {
                const std::pair<int, int> ends = std::minmax(element.nodes[static_cast<std::size_t>(sides[side][0])],
                                                             element.nodes[static_cast<std::size_t>(sides[side][1])]);
                const bool outside = onSurface.contains(ends);
                auto& list = outside ? mesh_.middles : middles;
                const auto [at, isNew] = list.emplace(ends, -1);
                if (isNew) {
                    const Eigen::Vector3d chord = (place(ends.first) + place(ends.second)) / 2.0;
                    const auto true_ = outside ? surface_.middleOf.find(ends) : surface_.middleOf.end();
                    at->second = add(true_ == surface_.middleOf.end() ? chord : true_->second);
                }
                if (outside) curved[at->second] = ends;
                element.nodes[4 + side] = at->second;
            }
            mesh_.ofBody[body].push_back(element);
        }
        straighten(mesh_.ofBody[body], curved);
    }

    /// What keeps a surface from being filled, and where: the generator must not see it then.
    static std::string faultOf(const std::vector<Eigen::Vector3d>& points,
                               const std::vector<std::array<int, 3>>& triangles, std::vector<SizeField::Source>& where)
    {
        std::map<std::pair<int, int>, int> beside;
        for (const auto& triangle : triangles)
            for (std::size_t side = 0; side < 3; ++side)
                ++beside[std::minmax(triangle[side], triangle[(side + 1) % 3])];
        const auto at = [&](int node) -> const Eigen::Vector3d& { return points[static_cast<std::size_t>(node)]; };
        const auto halved = [&](const std::vector<int>& nodes) { // in the middle of them, half as large
            SizeField::Source source{Eigen::Vector3d::Zero(), 0.0};
            for (std::size_t node = 0; node < nodes.size(); ++node) {
                source.place += at(nodes[node]) / double(nodes.size());
                source.size = std::max(source.size, (at(nodes[node]) - at(nodes[0])).norm() / 2.0);
            }
            return source;
        };
        for (const auto& [ends, count] : beside)
            if (count != 2) where.push_back(halved({ends.first, ends.second}));
        if (!where.empty()) return fmt::format("its surface does not close at {}", placeText(where.front().place));
        for (const auto& pair : crossingTriangles(points, triangles))
            for (const int triangle : {pair.first, pair.second}) {
                const auto& nodes = triangles[static_cast<std::size_t>(triangle)];
                where.push_back(halved({nodes[0], nodes[1], nodes[2]}));
            }
        if (where.empty()) return {};
        return fmt::format("elements of its surface cross at {}", placeText(where.front().place));
    }

    /// The middle of a side: where it is known already, or a new one.
    int middle(int one, int other, const Eigen::Vector3d& at)
    {
        const auto [known, isNew] = mesh_.middles.emplace(std::minmax(one, other), -1);
        if (isNew) known->second = add(at);
        return known->second;
    }

    /// Stacks the first face's elements along the sweep.
    void layer(std::size_t body)
    {
        const BodyPlan& plan = surface_.plan.bodies[body];
        const Sweep& sweep = *plan.sweep;
        auto columns = surface_.columns[body];
        for (auto& [start, column] : columns)
            for (std::size_t level = 0; level < column.size(); ++level)
                if (column[level] < 0)
                    column[level] = add(sweep.motion.at(place(start), double(level) / double(column.size() - 1)));
        for (const auto* cell : elementsOf_[static_cast<std::size_t>(sweep.from)]) {
            std::vector<int> base(cell->nodes.begin(), cell->nodes.begin() + (cell->nodes[3] < 0 ? 3 : 4));
            const Eigen::Vector3d normal = (place(base[1]) - place(base[0])).cross(place(base[2]) - place(base[0]));
            if (normal.dot(sweep.motion.wayFrom(place(base[0]))) < 0.0) std::reverse(base.begin(), base.end());
            const std::size_t layers = columns.at(base[0]).size() - 1;
            for (std::size_t level = 0; level < layers; ++level)
                mesh_.ofBody[body].push_back(stacked(plan.linear, sweep.motion, base, columns, level, layers));
        }
    }

    /// Fills the outline of a body of a whole turn and carries it round; at the axis stand wedges.
    void turn(std::size_t body)
    {
        const BodyPlan& plan = surface_.plan.bodies[body];
        const WholeTurn& turn = *plan.turn;
        const SweepMotion motion{true, turn.place, turn.axis, 2.0 * std::numbers::pi};
        auto columns = surface_.columns[body];
        const std::size_t around = columns.begin()->second.size() - 1;
        const Eigen::Vector3d first = place(columns.begin()->first) - turn.place;
        const Eigen::Vector3d out = (first - first.dot(turn.axis) * turn.axis).normalized();
        const auto flat = [&](int node) {
            const Eigen::Vector3d off = place(node) - turn.place;
            return Eigen::Vector2d(off.dot(out), off.dot(turn.axis));
        };
        const auto addColumn = [&](const Eigen::Vector2d& at) {
            const Eigen::Vector3d start = turn.place + at.x() * out + at.y() * turn.axis;
            std::vector<int> column{add(start)};
            for (std::size_t step = 1; step < around; ++step)
                column.push_back(add(motion.at(start, double(step) / double(around))));
            column.push_back(column.front());
            const int node = column.front();
            columns.emplace(node, std::move(column));
            return node;
        };
        std::vector<int> outline = surface_.outlines[body];
        if (turn.meetsAxis()) { // along it a strip of wedges
            const int from = outline.back(), to = outline.front();
            outline = {outline.begin() + 1, outline.end() - 1};
            const Eigen::Vector2d last = flat(outline.back()), start = flat(outline.front());
            const double length = (place(to) - place(from)).norm();
            const long parts = std::max(1L, std::lround(length / plan.size));
            std::vector<int> axis{from}, beside{outline.back()};
            for (long part = 1; part < parts; ++part) {
                const double share = double(part) / double(parts);
                axis.push_back(add(place(from) + share * (place(to) - place(from))));
                beside.push_back(addColumn(last + share * (start - last)));
                outline.push_back(beside.back());
            }
            axis.push_back(to);
            beside.push_back(outline.front());
            for (std::size_t part = 0; part + 1 < axis.size(); ++part) {
                const bool rises = (place(axis[part + 1]) - place(axis[part])).dot(turn.axis) > 0.0;
                const std::size_t low = rises ? part : part + 1, high = rises ? part + 1 : part;
                for (std::size_t level = 0; level < around; ++level)
                    mesh_.ofBody[body].push_back(wedge(plan.linear, motion, {axis[low], axis[high]},
                                                       {beside[low], beside[high]}, columns, level, around));
            }
        }
        PlaneRegion region;
        region.loops.emplace_back();
        std::vector<int> nodes;
        for (const int node : outline) {
            region.loops[0].push_back(static_cast<int>(nodes.size()));
            region.points.push_back(flat(node));
            nodes.push_back(node);
        }
        double twice = 0.0;
        for (std::size_t at = 0; at < nodes.size(); ++at) {
            const auto &a = region.points[at], &b = region.points[(at + 1) % nodes.size()];
            twice += a.x() * b.y() - a.y() * b.x();
        }
        if (twice < 0.0) std::reverse(region.loops[0].begin(), region.loops[0].end());
        const PlaneMesh filled = fillRegion(region, plan.size);
        for (std::size_t at = nodes.size(); at < filled.points.size(); ++at)
            nodes.push_back(addColumn(filled.points[at]));
        for (const auto& cell : filled.cells) {
            std::vector<int> corners; // clockwise in the outline's plane, so that it faces the way it moves
            for (std::size_t corner = cell[3] < 0 ? 3 : 4; corner > 0; --corner)
                corners.push_back(nodes[static_cast<std::size_t>(cell[corner - 1])]);
            for (const auto& base : withoutFlatCorner(corners))
                for (std::size_t level = 0; level < around; ++level)
                    mesh_.ofBody[body].push_back(stacked(plan.linear, motion, base, columns, level, around));
        }
    }

    /// A corner between two sides of one arc is flat when they are curved: the quadrilateral is parted there.
    /// The sides of a triangle with such a corner become straight.
    std::vector<std::vector<int>> withoutFlatCorner(const std::vector<int>& corners)
    {
        constexpr double widest = 0.75 * std::numbers::pi;
        const auto leaving = [&](int from, int to) {
            return Eigen::Vector3d(4.0 * middleOnOutline(from, to) - 3.0 * place(from) - place(to));
        };
        const std::size_t count = corners.size();
        for (std::size_t at = 0; at < count; ++at) {
            const auto node = [&](std::size_t step) { return corners[(at + step) % count]; };
            const Eigen::Vector3d one = leaving(node(0), node(1)), other = leaving(node(0), node(count - 1));
            if (std::atan2(one.cross(other).norm(), one.dot(other)) < widest) continue;
            if (count == 4) {
                auto both = withoutFlatCorner({node(0), node(1), node(2)});
                both.push_back(withoutFlatCorner({node(0), node(2), node(3)}).front());
                return both;
            }
            straight_.insert(std::minmax(node(0), node(1)));
            straight_.insert(std::minmax(node(0), node(2)));
        }
        return {corners};
    }

    Eigen::Vector3d middleOnOutline(int one, int other) const
    {
        const std::pair<int, int> ends = std::minmax(one, other);
        const auto known = surface_.middleOf.find(ends);
        return known == surface_.middleOf.end() || straight_.contains(ends)
                   ? Eigen::Vector3d((place(one) + place(other)) / 2.0)
                   : known->second;
    }

    /// A slice at an axis: its sides along the axis, low and high, and beside it.
    SolidMesh::Element wedge(bool isLinear, const SweepMotion& motion, const std::array<int, 2>& axis,
                             const std::array<int, 2>& beside, const std::map<int, std::vector<int>>& columns,
                             std::size_t level, std::size_t layers)
    {
        SolidMesh::Element element{isLinear ? SolidKind::wedge6 : SolidKind::wedge15, {}};
        element.nodes.fill(-1);
        const auto corner = [&](std::size_t end, std::size_t at) {
            return at == 0 ? axis[end] : columns.at(beside[end])[level + at - 1];
        };
        for (std::size_t at = 0; at < 6; ++at)
            element.nodes[at] = corner(at / 3, at % 3);
        if (isLinear) return element;
        const auto share = [&](double step) { return (double(level) + step) / double(layers); };
        const auto sides = sidesOf(SolidKind::wedge15);
        for (std::size_t side = 0; side < sides.size(); ++side) {
            const auto [one, other] = sides[side];
            const int a = element.nodes[static_cast<std::size_t>(one)],
                      b = element.nodes[static_cast<std::size_t>(other)];
            Eigen::Vector3d at = (place(a) + place(b)) / 2.0;
            if (const auto known = surface_.middleOf.find(std::minmax(a, b)); known != surface_.middleOf.end())
                at = known->second;
            else if (one % 3 > 0 && other % 3 > 0 && one / 3 == other / 3) // round the axis
                at = motion.at(place(beside[static_cast<std::size_t>(one / 3)]), share(0.5));
            element.nodes[6 + side] = middle(a, b, at);
        }
        return element;
    }

    SolidMesh::Element stacked(bool isLinear, const SweepMotion& motion, const std::vector<int>& base,
                               const std::map<int, std::vector<int>>& columns, std::size_t level, std::size_t layers)
    {
        const std::size_t corners = base.size();
        const SolidKind linear = corners == 4 ? SolidKind::brick8 : SolidKind::wedge6;
        SolidMesh::Element element{isLinear ? linear : corners == 4 ? SolidKind::brick20 : SolidKind::wedge15, {}};
        element.nodes.fill(-1);
        const auto node = [&](std::size_t corner, std::size_t step) {
            return columns.at(base[corner % corners])[level + step];
        };
        for (std::size_t corner = 0; corner < corners; ++corner)
            for (const std::size_t step : {0, 1})
                element.nodes[step * corners + corner] = node(corner, step);
        if (isLinear) return element;
        const auto share = [&](double step) { return (double(level) + step) / double(layers); };
        for (std::size_t corner = 0; corner < corners; ++corner) {
            const Eigen::Vector3d start = middleOnOutline(base[corner], base[(corner + 1) % corners]);
            for (const std::size_t step : {0, 1})
                element.nodes[(2 + step) * corners + corner] =
                    middle(node(corner, step), node(corner + 1, step), motion.at(start, share(double(step))));
            element.nodes[4 * corners + corner] =
                middle(node(corner, 0), node(corner, 1), motion.at(place(base[corner]), share(0.5)));
        }
        return element;
    }

    /// Where a curved side turns an element nearly inside out its middle goes back towards the chord, half of the way
    /// at a time, so that as little volume as may be is lost.
    void straighten(const std::vector<SolidMesh::Element>& elements, const std::map<int, std::pair<int, int>>& curved)
    {
        constexpr double least = 0.08;
        constexpr int halvings = 4;
        std::map<int, int> moved;
        bool changed = true;
        while (changed) { // every round has fewer curved sides, or straighter ones
            changed = false;
            for (const auto& element : elements) {
                SolidElement own{element.kind, {}, 1.0, 0.0, 1.0};
                for (std::size_t node = 0; node < 10; ++node)
                    own.node.push_back(place(element.nodes[node]));
                if (jacobianRatio(own) > least) continue;
                for (std::size_t node = 4; node < 10; ++node) {
                    const auto at = curved.find(element.nodes[node]);
                    if (at == curved.end()) continue;
                    const Eigen::Vector3d chord = (place(at->second.first) + place(at->second.second)) / 2.0;
                    auto& middle = mesh_.nodes[static_cast<std::size_t>(at->first) - surface_.nodes.size()];
                    if (middle == chord) continue;
                    const bool last = ++moved[at->first] == halvings;
                    middle = last ? chord : Eigen::Vector3d((middle + chord) / 2.0);
                    changed = true;
                }
            }
        }
    }

    void listFaces()
    {
        mesh_.ofFace.resize(faces_.faces.size());
        for (std::size_t face = 0; face < faces_.faces.size(); ++face) {
            if (faces_.faces[face].solids.empty()) continue;
            std::set<int> nodes;
            for (const auto* element : elementsOf_[face])
                for (std::size_t corner = 0, corners = element->nodes[3] < 0 ? 3 : 4; corner < corners; ++corner) {
                    nodes.insert(element->nodes[corner]);
                    const auto middle =
                        mesh_.middles.find(std::minmax(element->nodes[corner], element->nodes[(corner + 1) % corners]));
                    if (middle != mesh_.middles.end()) nodes.insert(middle->second);
                }
            mesh_.ofFace[face].assign(nodes.begin(), nodes.end());
        }
    }

    const JoinedFaces& faces_;
    const SheetMesh& surface_;
    Progress* progress_;
    std::vector<std::vector<const SheetMesh::Element*>> elementsOf_; ///< by face
    std::set<std::pair<int, int>> straight_; ///< sides of outlines, by their ends, that do not follow the surface
    SolidMesh mesh_;
};

} // namespace

std::shared_ptr<const SolidMesh> meshBodies(const JoinedFaces& faces, const SheetMesh& surface, Progress* progress)
{
    static KeptAnswers<std::shared_ptr<const SolidMesh>> lately(6, [](const std::shared_ptr<const SolidMesh>& one) {
        double elements = 0.0;
        for (const auto& body : one->ofBody)
            elements += double(body.size());
        return 1e-6 * (sizeof(SolidMesh::Element) * elements + 60.0 * double(one->nodes.size() + one->middles.size()));
    });
    if (const auto known = lately.find({surface.stamp})) return *known;
    auto mesh = std::make_shared<const SolidMesh>(BodyMesher(faces, surface, progress).meshed());
    if (!progress || !progress->stopped()) lately.keep({surface.stamp}, mesh);
    return mesh;
}

} // namespace undisona
