#include "core/mesh/plane_mesh.hpp"

#include "core/mesh/triangulate.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;

double cross(const Two& a, const Two& b)
{
    return a.x() * b.y() - a.y() * b.x();
}

double distanceTo(const Two& place, const Two& a, const Two& b)
{
    const double share = std::clamp((place - a).dot(b - a) / std::max((b - a).squaredNorm(), 1e-300), 0.0, 1.0);
    return (a + share * (b - a) - place).norm();
}

class Filling {
public:
    using SizeAt = std::function<double(const Two&)>;

    Filling(const PlaneRegion& region, double size, const SizeAt& sizeAt)
        : region_(region), size_(size), sizeAt_(sizeAt)
    {
        mesh_.points = region.points;
        for (const auto& loop : region.loops)
            for (std::size_t at = 0; at < loop.size(); ++at)
                lines_.push_back({loop[at], loop[(at + 1) % loop.size()]});
        border_ = lines_.size();
        lines_.insert(lines_.end(), region.segments.begin(), region.segments.end());
        for (const auto& [from, to] : lines_) {
            low_ = low_.cwiseMin(at(from)).cwiseMin(at(to));
            high_ = high_.cwiseMax(at(from)).cwiseMax(at(to));
        }
        cell_ = size_;
        if (sizeAt_) // as fine as about the finest part, so that few points share a cell
            for (const auto& point : region.points)
                cell_ = std::min(cell_, 2.0 * sizeAt_(point));
        cell_ = std::max(cell_, size_ / 16.0);
        for (std::size_t line = 0; line < lines_.size(); ++line)
            eachCell(at(lines_[line][0]), at(lines_[line][1]),
                     [&](std::vector<int>& lines, std::vector<int>&) { lines.push_back(static_cast<int>(line)); });
        for (std::size_t point = 0; point < mesh_.points.size(); ++point)
            noteInCell(static_cast<int>(point));
    }

    PlaneMesh filled()
    {
        for (std::size_t loop = 1; loop < region_.loops.size(); ++loop)
            layRings(region_.loops[loop]);
        layGrid();
        cells();
        smooth();
        splitBad();
        return std::move(mesh_);
    }

private:
    const Two& at(int point) const { return mesh_.points[static_cast<std::size_t>(point)]; }
    using Key = std::array<long, 2>;
    Key keyOf(const Two& place) const
    {
        return {static_cast<long>(std::floor((place.x() - low_.x()) / cell_)),
                static_cast<long>(std::floor((place.y() - low_.y()) / cell_))};
    }
    struct Held {
        std::vector<int> lines, points;
    };
    template <class Take>
    void eachCell(const Two& a, const Two& b, const Take& take)
    {
        const Key from = keyOf(a.cwiseMin(b)), to = keyOf(a.cwiseMax(b));
        for (long x = from[0]; x <= to[0]; ++x)
            for (long y = from[1]; y <= to[1]; ++y) {
                auto& held = held_[{x, y}];
                take(held.lines, held.points);
            }
    }
    void noteInCell(int point) { held_[keyOf(at(point))].points.push_back(point); }
    double sizeAt(const Two& place) const { return sizeAt_ ? std::min(size_, sizeAt_(place)) : size_; }
    /// Whether no line is nearer than `toLines`, and no point than `toPoints`.
    bool clear(const Two& place, double toLines, double toPoints) const
    {
        const Key home = keyOf(place);
        const long reach = static_cast<long>(std::ceil(std::max(toLines, toPoints) / cell_));
        for (long x = home[0] - reach; x <= home[0] + reach; ++x)
            for (long y = home[1] - reach; y <= home[1] + reach; ++y) {
                const auto held = held_.find({x, y});
                if (held == held_.end()) continue;
                for (const int line : held->second.lines)
                    if (distanceTo(place, at(lines_[static_cast<std::size_t>(line)][0]),
                                   at(lines_[static_cast<std::size_t>(line)][1])) < toLines)
                        return false;
                for (const int point : held->second.points)
                    if ((at(point) - place).norm() < toPoints) return false;
            }
        return true;
    }
    bool inside(const Two& place) const
    {
        bool within = false;
        for (std::size_t line = 0; line < border_; ++line) {
            const Two &a = at(lines_[line][0]), &b = at(lines_[line][1]);
            if ((a.y() > place.y()) != (b.y() > place.y()) &&
                place.x() < a.x() + (b.x() - a.x()) * (place.y() - a.y()) / (b.y() - a.y()))
                within = !within;
        }
        return within;
    }
    int add(const Two& place)
    {
        mesh_.points.push_back(place);
        const int index = static_cast<int>(mesh_.points.size()) - 1;
        noteInCell(index);
        return index;
    }

    /// Rings of points round a round hole, each a little wider, until their spacing is that of the grid.
    void layRings(const std::vector<int>& hole)
    {
        Two centre = Two::Zero();
        for (const int point : hole)
            centre += at(point) / double(hole.size());
        const double radius = (at(hole[0]) - centre).norm();
        for (const int point : hole)
            if (std::abs((at(point) - centre).norm() - radius) > 0.02 * radius) return;
        double reach = radius;
        for (int ring = 0; ring < 40; ++ring) {
            const double spacing = 2.0 * std::numbers::pi * reach / double(hole.size());
            const double size = sizeAt(centre + reach / radius * (at(hole[0]) - centre));
            if ((spacing > 0.9 * size_ || spacing > 1.8 * size) && ring > 0) return;
            reach += std::min(spacing, size_);
            std::vector<Two> places;
            for (const int point : hole)
                places.push_back(centre + reach / radius * (at(point) - centre));
            const double apart = 0.6 * std::min(spacing, size_);
            for (const auto& place : places)
                if (!inside(place) || !clear(place, apart, apart)) return; // whole rings alone
            for (const auto& place : places)
                add(place);
        }
    }

    void layGrid()
    {
        Two along = Two::UnitX();
        double longest = 0.0;
        const auto& outer = region_.loops[0];
        for (std::size_t from = 0; from < outer.size(); ++from) { // a straight run of the outline
            const Two first = (at(outer[(from + 1) % outer.size()]) - at(outer[from])).normalized();
            std::size_t to = from + 1;
            while (to < from + outer.size() &&
                   std::abs(cross(
                       first, (at(outer[(to + 1) % outer.size()]) - at(outer[to % outer.size()])).normalized())) < 1e-6)
                ++to;
            const double run = (at(outer[to % outer.size()]) - at(outer[from])).norm();
            if (to < from + 2 || run < longest * (1.0 + 1e-9)) continue;
            longest = run;
            along = first;
            corner_ = at(outer[from]);
        }
        const Two across(-along.y(), along.x());
        Two low = Two::Constant(1e300), high = -low;
        for (const auto& point : region_.points) {
            const Two own((point - corner_).dot(along), (point - corner_).dot(across));
            low = low.cwiseMin(own);
            high = high.cwiseMax(own);
        }
        const Eigen::Array2d first = (low / size_).array().floor(), last = (high / size_).array().ceil();
        const Eigen::Matrix2d axes = (Eigen::Matrix2d() << along, across).finished();
        for (long y = static_cast<long>(first[1]); y <= static_cast<long>(last[1]); ++y)
            for (long x = static_cast<long>(first[0]); x <= static_cast<long>(last[0]); ++x)
                layIn(axes, corner_ + size_ * (double(x) * along + double(y) * across), size_);
    }

    /// The corner of a square of the grid; where smaller sizes are wanted in it, those of its quarters.
    void layIn(const Eigen::Matrix2d& axes, const Two& place, double side)
    {
        double wanted = size_;
        for (const Two& share : {Two(0, 0), Two(1, 0), Two(0, 1), Two(1, 1), Two(0.5, 0.5)})
            if (sizeAt_) wanted = std::min(wanted, sizeAt(place + side * axes * share));
        if (side > size_ / 512.0 && side > 1.5 * wanted) {
            for (const Two& quarter : {Two(0, 0), Two(1, 0), Two(0, 1), Two(1, 1)})
                layIn(axes, place + side / 2.0 * axes * quarter, side / 2.0);
            return;
        }
        if (clear(place, 0.55 * side, 0.6 * side) && inside(place)) add(place);
    }

    /// Triangles are in or out together with those that no line parts from them, as the largest of these is: the middle
    /// of a sliver between places that lie on one line but for rounding says nothing.
    std::vector<std::array<int, 3>> trianglesInside() const
    {
        const auto all = constrainedTriangles(mesh_.points, lines_);
        std::set<std::array<int, 2>> parting;
        for (const auto& [from, to] : lines_)
            parting.insert({std::min(from, to), std::max(from, to)});
        std::map<std::array<int, 2>, std::vector<std::size_t>> beside;
        const auto sideOf = [&](std::size_t triangle, std::size_t side) {
            const int a = all[triangle][side], b = all[triangle][(side + 1) % 3];
            return std::array{std::min(a, b), std::max(a, b)};
        };
        for (std::size_t at = 0; at < all.size(); ++at)
            for (std::size_t side = 0; side < 3; ++side)
                beside[sideOf(at, side)].push_back(at);
        std::vector<std::array<int, 3>> within;
        std::vector<char> seen(all.size(), 0);
        for (std::size_t first = 0; first < all.size(); ++first) {
            if (seen[first]) continue;
            std::vector<std::size_t> together{first};
            seen[first] = 1;
            bool open = false; // towards what lies round all of them
            for (std::size_t next = 0; next < together.size(); ++next)
                for (std::size_t side = 0; side < 3; ++side) {
                    const auto line = sideOf(together[next], side);
                    if (parting.contains(line)) continue;
                    const auto& both = beside[line];
                    open = open || both.size() == 1;
                    for (const std::size_t other : both)
                        if (!seen[other]) {
                            seen[other] = 1;
                            together.push_back(other);
                        }
                }
            if (open) continue;
            const auto areaOf = [&](std::size_t triangle) {
                const Two a = at(all[triangle][1]) - at(all[triangle][0]),
                          b = at(all[triangle][2]) - at(all[triangle][0]);
                return std::abs(a.x() * b.y() - a.y() * b.x());
            };
            const std::size_t largest =
                *std::max_element(together.begin(), together.end(),
                                  [&](std::size_t one, std::size_t other) { return areaOf(one) < areaOf(other); });
            if (!inside((at(all[largest][0]) + at(all[largest][1]) + at(all[largest][2])) / 3.0)) continue;
            for (const std::size_t triangle : together)
                within.push_back(all[triangle]);
        }
        return within;
    }

    void cells()
    {
        std::vector<std::array<int, 3>> triangles = trianglesInside();
        std::sort(triangles.begin(), triangles.end());
        std::set<std::array<int, 2>> kept; // lines that no quadrilateral may take in
        for (const auto& [from, to] : lines_)
            kept.insert({std::min(from, to), std::max(from, to)});
        std::map<std::array<int, 2>, std::vector<int>> sides;
        for (std::size_t index = 0; index < triangles.size(); ++index)
            for (std::size_t side = 0; side < 3; ++side) {
                const int a = triangles[index][side], b = triangles[index][(side + 1) % 3];
                sides[{std::min(a, b), std::max(a, b)}].push_back(static_cast<int>(index));
            }
        struct Pair {
            double shape;
            int first, second;
            PlaneCell cell;
        };
        std::vector<Pair> pairs;
        for (const auto& [side, both] : sides) {
            if (both.size() != 2 || kept.contains(side)) continue;
            const auto &one = triangles[static_cast<std::size_t>(both[0])],
                       &other = triangles[static_cast<std::size_t>(both[1])];
            const auto apex = [&](const std::array<int, 3>& triangle) {
                return *std::find_if(triangle.begin(), triangle.end(),
                                     [&, s = side](int p) { return p != s[0] && p != s[1]; });
            };
            const auto place = static_cast<std::size_t>(std::find(one.begin(), one.end(), apex(one)) - one.begin());
            const PlaneCell cell{one[place], one[(place + 1) % 3], apex(other), one[(place + 2) % 3]};
            const double shape = shapeOf(mesh_.points, cell);
            if (shape > 0.35) pairs.push_back({shape, both[0], both[1], cell});
        }
        std::stable_sort(pairs.begin(), pairs.end(),
                         [](const Pair& a, const Pair& b) { return a.shape > b.shape + 1e-9; });
        std::vector<char> taken(triangles.size(), 0);
        for (const auto& pair : pairs) {
            auto &first = taken[static_cast<std::size_t>(pair.first)],
                 &second = taken[static_cast<std::size_t>(pair.second)];
            if (first || second) continue;
            first = second = 1;
            mesh_.cells.push_back(pair.cell);
        }
        for (std::size_t index = 0; index < triangles.size(); ++index)
            if (!taken[index])
                mesh_.cells.push_back({triangles[index][0], triangles[index][1], triangles[index][2], -1});
    }

    /// Points inside move to the middle of their neighbours where the worst cell about them gains by it.
    void smooth()
    {
        std::vector<std::vector<int>> about(mesh_.points.size());
        for (std::size_t cell = 0; cell < mesh_.cells.size(); ++cell)
            for (const int point : mesh_.cells[cell])
                if (point >= 0) about[static_cast<std::size_t>(point)].push_back(static_cast<int>(cell));
        const auto worst = [&](std::size_t point) {
            double least = 1.0;
            for (const int cell : about[point])
                least = std::min(least, shapeOf(mesh_.points, mesh_.cells[static_cast<std::size_t>(cell)]));
            return least;
        };
        for (int sweep = 0; sweep < 6; ++sweep)
            for (std::size_t point = region_.points.size(); point < mesh_.points.size(); ++point) {
                Two middle = Two::Zero();
                double count = 0.0;
                for (const int cell : about[point])
                    for (const int other : mesh_.cells[static_cast<std::size_t>(cell)])
                        if (other >= 0 && other != static_cast<int>(point)) {
                            middle += at(other);
                            count += 1.0;
                        }
                if (count == 0.0) continue;
                const double before = worst(point);
                const Two old = mesh_.points[point];
                mesh_.points[point] = middle / count;
                if (worst(point) < before + 1e-12) mesh_.points[point] = old;
            }
    }

    /// What smoothing left badly formed of four sides is better as two of three.
    void splitBad()
    {
        constexpr double bad = 0.4;
        const std::size_t count = mesh_.cells.size();
        for (std::size_t at = 0; at < count; ++at) {
            const PlaneCell own = mesh_.cells[at];
            if (own[3] < 0 || shapeOf(mesh_.points, own) > bad) continue;
            PlaneCell best[2];
            double most = shapeOf(mesh_.points, own);
            for (std::size_t from = 0; from < 2; ++from) {
                const PlaneCell first{own[from], own[from + 1], own[(from + 2) % 4], -1},
                    second{own[from], own[(from + 2) % 4], own[(from + 3) % 4], -1};
                const double shape = std::min(shapeOf(mesh_.points, first), shapeOf(mesh_.points, second));
                if (shape <= most) continue;
                most = shape;
                best[0] = first;
                best[1] = second;
            }
            if (most <= shapeOf(mesh_.points, own)) continue;
            mesh_.cells[at] = best[0];
            mesh_.cells.push_back(best[1]);
        }
    }

    const PlaneRegion& region_;
    double size_;
    const SizeAt& sizeAt_;
    double cell_ = 1.0;
    PlaneMesh mesh_;
    std::vector<std::array<int, 2>> lines_; ///< boundary, then those inside
    std::size_t border_ = 0;
    Two low_ = Two::Constant(1e300), high_ = Two::Constant(-1e300), corner_ = Two::Zero();
    std::map<Key, Held> held_;
};

} // namespace

double shapeOf(const std::vector<Two>& points, const PlaneCell& cell)
{
    const std::size_t corners = cell[3] < 0 ? 3 : 4;
    // The sine of each corner, over that of the even cell; and how unequal the sides at it are.
    double worst = 1.0;
    for (std::size_t at = 0; at < corners; ++at) {
        const Two &here = points[static_cast<std::size_t>(cell[at])],
                  &next = points[static_cast<std::size_t>(cell[(at + 1) % corners])],
                  &last = points[static_cast<std::size_t>(cell[(at + corners - 1) % corners])];
        const Two a = next - here, b = last - here;
        const double sine = cross(a, b) / std::max(a.norm() * b.norm(), 1e-300);
        const double ratio = std::min(a.norm(), b.norm()) / std::max(a.norm(), b.norm());
        const double even = corners == 4 ? sine : std::min(sine / 0.8660254037844386, 1.0);
        worst = std::min(worst, even > 0.0 ? even * std::sqrt(std::sqrt(ratio)) : even);
    }
    return worst;
}

PlaneMesh fillRegion(const PlaneRegion& region, double size, const std::function<double(const Two&)>& sizeAt)
{
    return Filling(region, size, sizeAt).filled();
}

} // namespace undisona
