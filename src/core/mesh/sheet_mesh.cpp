#include "core/mesh/sheet_mesh.hpp"

#include "core/mesh/plane_mesh.hpp"

#include <algorithm>
#include <cmath>
#include <list>
#include <mutex>
#include <numbers>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;

/// Where the outline of a face turns by so much it has a corner.
constexpr double cornerTurn = std::numbers::pi / 5.0;
/// A curved edge is divided at least every so often; of a hole in a plane, and of a curved face.
constexpr double planeTurn = std::numbers::pi / 6.0, roundTurn = std::numbers::pi / 12.0;

class Mesher {
public:
    Mesher(const JoinedFaces& faces, const std::vector<double>& sizes, const SizeField& field, const Progress* progress)
        : faces_(faces), sizes_(sizes), field_(field), progress_(progress)
    {
    }

    SheetMesh meshed()
    {
        divide(field_);
        findSides();
        gradeShortEdges();
        matchSides();
        mesh_.nodes = faces_.vertices;
        for (std::size_t edge = 0; edge < faces_.edges.size(); ++edge) {
            const auto& own = faces_.edges[edge];
            std::vector<int> nodes{own.first};
            for (long part = 1; part < parts_[edge]; ++part) {
                nodes.push_back(static_cast<int>(mesh_.nodes.size()));
                mesh_.nodes.push_back(faces_.onEdge(static_cast<int>(edge), shareOf(edge, part)));
            }
            nodes.push_back(own.last);
            mesh_.ofEdge.push_back(std::move(nodes));
        }
        middlesOfEdges();
        for (std::size_t face = 0; face < faces_.faces.size() && !stopped(); ++face)
            if (!mapped(static_cast<int>(face))) fill(static_cast<int>(face));
        return std::move(mesh_);
    }

private:
    bool stopped() const { return progress_ && progress_->stopped(); }
    double sizeOf(int face) const { return sizes_[static_cast<std::size_t>(face)]; }
    bool isPlane(int face) const
    {
        if (faces_.faces[static_cast<std::size_t>(face)].loops.empty()) return false;
        const auto& loop = faces_.faces[static_cast<std::size_t>(face)].loops[0];
        const Eigen::Vector3d first = faces_.normal(face, faces_.onFace(face, 0, 0, 0.3));
        for (std::size_t use = 0; use < loop.size(); ++use)
            if (first.dot(faces_.normal(face, faces_.onFace(face, 0, static_cast<int>(use), 0.6))) < 1.0 - 1e-9)
                return false;
        return true;
    }

    void divide(const SizeField& field)
    {
        parts_.clear();
        grading_.clear();
        std::vector<char> plane(faces_.faces.size());
        for (std::size_t face = 0; face < plane.size(); ++face)
            plane[face] = isPlane(static_cast<int>(face));
        for (const auto& edge : faces_.edges) {
            double wanted = 1.0;
            for (const int face : edge.faces) {
                wanted = std::max(wanted, edge.length / sizeOf(face) - 1e-6);
                wanted = std::max(wanted,
                                  edge.turn / (plane[static_cast<std::size_t>(face)] ? planeTurn : roundTurn) - 1e-6);
            }
            if (edge.first == edge.last) wanted = std::max(wanted, 3.0);
            grade(parts_.size(), wanted, field);
            parts_.push_back(static_cast<long>(std::ceil(wanted)));
        }
    }

    /// Notes how the parts of an edge get smaller where the field says so, and how many there are then.
    void grade(std::size_t edge, double& wanted, const SizeField& field)
    {
        grading_.emplace_back();
        if (field.empty()) return;
        constexpr int samples = 128;
        const double even = faces_.edges[edge].length / wanted;
        std::vector<double> parts{0.0};
        double least = even;
        for (int sample = 0; sample < samples; ++sample) {
            const double size = field.at(faces_.onEdge(static_cast<int>(edge), (sample + 0.5) / samples), even);
            least = std::min(least, size);
            parts.push_back(parts.back() + faces_.edges[edge].length / samples / size);
        }
        if (least > 0.99 * even) return;
        wanted = std::max(wanted, parts.back() - 1e-6);
        grading_.back() = std::move(parts);
    }

    /// Where on an edge its part with this number ends, 0...1.
    double shareOf(std::size_t edge, long part) const
    {
        const double even = double(part) / double(parts_[edge]);
        const auto& sums = grading_[edge];
        if (sums.empty() || part == 0 || part == parts_[edge]) return even;
        const double wanted = even * sums.back();
        const auto above = std::upper_bound(sums.begin(), sums.end(), wanted);
        const auto at = std::min<long>(above - sums.begin(), static_cast<long>(sums.size()) - 1);
        const double low = sums[static_cast<std::size_t>(at - 1)], high = sums[static_cast<std::size_t>(at)];
        return (double(at - 1) + (wanted - low) / (high - low)) / double(sums.size() - 1);
    }

    /// Whether the field asks for sizes on a face that are far from each other.
    bool isGraded(int face) const
    {
        if (field_.empty() || faces_.faces[static_cast<std::size_t>(face)].loops.empty()) return false;
        Two low = Two::Constant(1e300), high = -low;
        const auto& loop = faces_.faces[static_cast<std::size_t>(face)].loops[0];
        for (std::size_t use = 0; use < loop.size(); ++use)
            for (const double share : {0.0, 0.25, 0.5, 0.75}) {
                low = low.cwiseMin(faces_.onFace(face, 0, static_cast<int>(use), share));
                high = high.cwiseMax(faces_.onFace(face, 0, static_cast<int>(use), share));
            }
        double least = 1e300, most = 0.0;
        constexpr int steps = 16;
        for (int x = 0; x <= steps; ++x)
            for (int y = 0; y <= steps; ++y) {
                const Two own = low + (high - low).cwiseProduct(Two(x, y)) / steps;
                const double size = field_.at(faces_.place(face, own), sizeOf(face));
                least = std::min(least, size);
                most = std::max(most, size);
            }
        return most > 1.4 * least;
    }

    /// The four sides of faces that have four corners, one loop and nothing inside; runs of uses of the loop.
    void findSides()
    {
        sides_.resize(faces_.faces.size());
        for (std::size_t index = 0; index < faces_.faces.size(); ++index) {
            const auto& face = faces_.faces[index];
            const int own = static_cast<int>(index);
            if (face.loops.size() != 1 || !face.innerEdges.empty() || !face.innerVertices.empty() || isGraded(own))
                continue;
            const int uses = static_cast<int>(face.loops[0].size());
            std::vector<int> corners; // uses that begin at one
            for (int use = 0; use < uses; ++use) {
                const int before = (use + uses - 1) % uses;
                const Two in = (faces_.onFace(own, 0, before, 1.0) - faces_.onFace(own, 0, before, 0.98)).normalized(),
                          out = (faces_.onFace(own, 0, use, 0.02) - faces_.onFace(own, 0, use, 0.0)).normalized();
                if (std::acos(std::clamp(in.dot(out), -1.0, 1.0)) > cornerTurn) corners.push_back(use);
            }
            if (corners.size() != 4) continue;
            for (std::size_t side = 0; side < 4; ++side) {
                std::vector<int> run;
                for (int use = corners[side]; use != corners[(side + 1) % 4]; use = (use + 1) % uses)
                    run.push_back(use);
                sides_[index].push_back(std::move(run));
            }
        }
    }

    /// Faces that will be filled grow coarser from their short edges and small arcs on, in place of meeting them with
    /// slivers.
    void gradeShortEdges()
    {
        std::vector<SizeField::Source> sources = field_.sources();
        const std::size_t stated = sources.size();
        std::set<int> seen;
        for (std::size_t face = 0; face < faces_.faces.size(); ++face) {
            if (!sides_[face].empty()) continue;
            for (const auto& loop : faces_.faces[face].loops)
                for (const auto& [edge, backwards] : loop) {
                    const auto at = static_cast<std::size_t>(edge);
                    const double part = faces_.edges[at].length / double(parts_[at]);
                    if (part > 0.6 * sizeOf(static_cast<int>(face)) || !grading_[at].empty()) continue;
                    if (!seen.insert(edge).second) continue;
                    for (long which = 0; which <= parts_[at]; ++which)
                        sources.push_back({faces_.onEdge(edge, double(which) / double(parts_[at])), part});
                }
        }
        if (sources.size() == stated) return;
        own_ = SizeField(std::move(sources));
        divide(own_);
    }

    long partsOf(std::size_t face, std::size_t side) const
    {
        long sum = 0;
        for (const int use : sides_[face][side])
            sum += parts_[static_cast<std::size_t>(faces_.faces[face].loops[0][static_cast<std::size_t>(use)].edge)];
        return sum;
    }

    /// Opposite sides get the same number of parts, the coarser one more of them, until all agree or it does not
    /// settle.
    void matchSides()
    {
        for (int sweep = 0; sweep < 30; ++sweep) {
            bool changed = false;
            for (std::size_t face = 0; face < sides_.size(); ++face)
                for (std::size_t side = 0; side < 2 && !sides_[face].empty(); ++side) {
                    const long one = partsOf(face, side), other = partsOf(face, side + 2);
                    if (one == other) continue;
                    const std::size_t coarse = one < other ? side : side + 2;
                    int longest = -1; // by the length of its parts
                    double most = 0.0;
                    for (const int use : sides_[face][coarse]) {
                        const int edge = faces_.faces[face].loops[0][static_cast<std::size_t>(use)].edge;
                        const double length = faces_.edges[static_cast<std::size_t>(edge)].length /
                                              double(parts_[static_cast<std::size_t>(edge)]);
                        if (length > most * (1.0 + 1e-9)) {
                            most = length;
                            longest = edge;
                        }
                    }
                    parts_[static_cast<std::size_t>(longest)] +=
                        sides_[face][coarse].size() == 1 ? std::abs(one - other) : 1;
                    changed = true;
                }
            if (!changed) return;
        }
    }

    bool boundsSolid(int face) const { return !faces_.faces[static_cast<std::size_t>(face)].solids.empty(); }

    void middlesOfEdges()
    {
        for (std::size_t edge = 0; edge < faces_.edges.size(); ++edge) {
            const auto& faces = faces_.edges[edge].faces;
            if (std::none_of(faces.begin(), faces.end(), [&](int face) { return boundsSolid(face); })) continue;
            const auto& nodes = mesh_.ofEdge[edge];
            for (std::size_t part = 0; part + 1 < nodes.size(); ++part) {
                const double share =
                    (shareOf(edge, static_cast<long>(part)) + shareOf(edge, static_cast<long>(part) + 1)) / 2.0;
                mesh_.middleOf.emplace(std::minmax(nodes[part], nodes[part + 1]),
                                       faces_.onEdge(static_cast<int>(edge), share));
            }
        }
    }

    /// Takes an element into the mesh: cut in two, with the middles of its sides, where its face bounds a solid;
    /// `places` are those of its corners in the face's own plane.
    void take(int face, const std::array<int, 4>& nodes, const std::array<Two, 4>& places)
    {
        if (!boundsSolid(face)) {
            mesh_.elements.push_back({face, nodes});
            return;
        }
        const auto triangle = [&](std::size_t a, std::size_t b, std::size_t c) {
            const std::array<std::size_t, 3> corner{a, b, c};
            for (std::size_t at = 0; at < 3; ++at) {
                const std::size_t i = corner[at], j = corner[(at + 1) % 3];
                if (nodes[i] == nodes[j]) return; // at a pole
                const std::pair<int, int> ends = std::minmax(nodes[i], nodes[j]);
                if (!mesh_.middleOf.contains(ends))
                    mesh_.middleOf.emplace(ends, faces_.place(face, (places[i] + places[j]) / 2.0));
            }
            mesh_.elements.push_back({face, {nodes[a], nodes[b], nodes[c], -1}});
        };
        if (nodes[3] < 0) return triangle(0, 1, 2);
        if ((places[2] - places[0]).norm() <= (places[3] - places[1]).norm() * (1.0 + 1e-9)) {
            triangle(0, 1, 2);
            triangle(0, 2, 3);
        } else {
            triangle(0, 1, 3);
            triangle(1, 2, 3);
        }
    }

    struct Side {
        std::vector<int> nodes;
        std::vector<Two> places;
    };
    /// Nodes and their places on the face, the end of the last use left out.
    Side along(int face, int loop, const std::vector<int>& uses) const
    {
        Side side;
        for (const int use : uses) {
            const auto [edge, backwards] = faces_.faces[static_cast<std::size_t>(face)]
                                               .loops[static_cast<std::size_t>(loop)][static_cast<std::size_t>(use)];
            const auto& nodes = mesh_.ofEdge[static_cast<std::size_t>(edge)];
            const std::size_t parts = nodes.size() - 1;
            for (std::size_t part = 0; part < parts; ++part) {
                const std::size_t own = backwards ? parts - part : part;
                const double share = shareOf(static_cast<std::size_t>(edge), static_cast<long>(own));
                side.nodes.push_back(nodes[own]);
                side.places.push_back(faces_.onFace(face, loop, use, backwards ? 1.0 - share : share));
            }
        }
        return side;
    }

    bool mapped(int index)
    {
        const auto face = static_cast<std::size_t>(index);
        if (sides_[face].empty() || partsOf(face, 0) != partsOf(face, 2) || partsOf(face, 1) != partsOf(face, 3))
            return false;
        std::array<Side, 4> side;
        for (std::size_t at = 0; at < 4; ++at)
            side[at] = along(index, 0, sides_[face][at]);
        const std::size_t columns = side[0].nodes.size(), rows = side[1].nodes.size();
        // By column and row; sides run round, so the third and the fourth run against it.
        std::vector<int> nodes((columns + 1) * (rows + 1), -1);
        std::vector<Two> places(nodes.size());
        const auto put = [&](std::size_t column, std::size_t row, const Side& from, std::size_t at) {
            nodes[row * (columns + 1) + column] = from.nodes[at];
            places[row * (columns + 1) + column] = from.places[at];
        };
        for (std::size_t at = 0; at < columns; ++at) {
            put(at, 0, side[0], at);
            put(columns - at, rows, side[2], at);
        }
        for (std::size_t at = 0; at < rows; ++at) {
            put(columns, at, side[1], at);
            put(0, rows - at, side[3], at);
        }
        const auto place = [&](std::size_t column, std::size_t row) { return places[row * (columns + 1) + column]; };
        for (std::size_t row = 1; row < rows; ++row)
            for (std::size_t column = 1; column < columns; ++column) { // transfinite (Gordon and Hall 1973)
                const double x = double(column) / double(columns), y = double(row) / double(rows);
                const Two inner = (1 - y) * place(column, 0) + y * place(column, rows) + (1 - x) * place(0, row) +
                                  x * place(columns, row) - (1 - x) * (1 - y) * place(0, 0) -
                                  x * (1 - y) * place(columns, 0) - x * y * place(columns, rows) -
                                  (1 - x) * y * place(0, rows);
                nodes[row * (columns + 1) + column] = static_cast<int>(mesh_.nodes.size());
                places[row * (columns + 1) + column] = inner;
                mesh_.nodes.push_back(faces_.place(index, inner));
            }
        for (std::size_t row = 0; row < rows; ++row)
            for (std::size_t column = 0; column < columns; ++column) {
                const std::size_t at = row * (columns + 1) + column;
                take(index, {nodes[at], nodes[at + 1], nodes[at + columns + 2], nodes[at + columns + 1]},
                     {places[at], places[at + 1], places[at + columns + 2], places[at + columns + 1]});
            }
        return true;
    }

    void fill(int index)
    {
        const auto& face = faces_.faces[static_cast<std::size_t>(index)];
        if (face.loops.empty()) return;
        PlaneRegion region;
        std::vector<int> nodes;
        std::map<int, int> known; // points of the region by node; a seam has its nodes twice
        for (std::size_t loop = 0; loop < face.loops.size(); ++loop) {
            std::vector<int> uses(face.loops[loop].size());
            for (std::size_t use = 0; use < uses.size(); ++use)
                uses[use] = static_cast<int>(use);
            const Side side = along(index, static_cast<int>(loop), uses);
            region.loops.emplace_back();
            for (std::size_t at = 0; at < side.nodes.size(); ++at) {
                region.loops.back().push_back(static_cast<int>(region.points.size()));
                known[side.nodes[at]] = static_cast<int>(region.points.size());
                region.points.push_back(side.places[at]);
                nodes.push_back(side.nodes[at]);
            }
        }
        const auto pointOf = [&](int node, const Two& place) {
            const auto [at, isNew] = known.emplace(node, static_cast<int>(region.points.size()));
            if (isNew) {
                region.points.push_back(place);
                nodes.push_back(node);
            }
            return at->second;
        };
        for (std::size_t inner = 0; inner < face.innerEdges.size(); ++inner) {
            const auto& own = mesh_.ofEdge[static_cast<std::size_t>(face.innerEdges[inner])];
            int last = -1;
            for (std::size_t at = 0; at < own.size(); ++at) {
                const int point =
                    pointOf(own[at], faces_.insideFace(index, static_cast<int>(inner),
                                                       shareOf(static_cast<std::size_t>(face.innerEdges[inner]),
                                                               static_cast<long>(at))));
                if (last >= 0) region.segments.push_back({last, point});
                last = point;
            }
        }
        for (std::size_t inner = 0; inner < face.innerVertices.size(); ++inner)
            pointOf(face.innerVertices[inner], faces_.vertexOnFace(index, static_cast<int>(inner)));
        std::function<double(const Two&)> sizeAt;
        if (const SizeField& field = own_.empty() ? field_ : own_; !field.empty())
            sizeAt = [&](const Two& own) { return field.at(faces_.place(index, own), sizeOf(index)); };
        const PlaneMesh filled = fillRegion(region, sizeOf(index), sizeAt);
        for (std::size_t at = region.points.size(); at < filled.points.size(); ++at) {
            nodes.push_back(static_cast<int>(mesh_.nodes.size()));
            mesh_.nodes.push_back(faces_.place(index, filled.points[at]));
        }
        for (const auto& cell : filled.cells) {
            std::array<int, 4> own{-1, -1, -1, -1};
            std::array<Two, 4> places;
            for (std::size_t corner = 0; corner < 4; ++corner) {
                if (cell[corner] < 0) continue;
                own[corner] = nodes[static_cast<std::size_t>(cell[corner])];
                places[corner] = filled.points[static_cast<std::size_t>(cell[corner])];
            }
            take(index, own, places);
        }
    }

    const JoinedFaces& faces_;
    const std::vector<double>& sizes_;
    const SizeField& field_;
    const Progress* progress_;
    SizeField own_; ///< with what short edges ask for; empty where none do
    SheetMesh mesh_;
    std::vector<long> parts_;                          ///< by edge
    std::vector<std::vector<double>> grading_;         ///< by edge: parts up to each of its even pieces; empty: even
    std::vector<std::vector<std::vector<int>>> sides_; ///< by face, empty or four
};

} // namespace

namespace {

class LatelyMeshed {
public:
    struct Entry {
        std::weak_ptr<const JoinedFaces> faces;
        std::vector<double> sizes;
        std::vector<SizeField::Source> sources;
        std::shared_ptr<const SheetMesh> mesh;
    };

    std::shared_ptr<const SheetMesh> find(const std::shared_ptr<const JoinedFaces>& faces,
                                          const std::vector<double>& sizes,
                                          const std::vector<SizeField::Source>& sources)
    {
        const std::lock_guard lock(mutex_);
        std::erase_if(kept_, [](const Entry& entry) { return entry.faces.expired(); });
        for (auto at = kept_.begin(); at != kept_.end(); ++at)
            if (at->faces.lock() == faces && at->sizes == sizes && same(at->sources, sources)) {
                kept_.splice(kept_.begin(), kept_, at);
                return kept_.front().mesh;
            }
        return nullptr;
    }
    void keep(Entry entry)
    {
        constexpr std::size_t most = 6;
        const std::lock_guard lock(mutex_);
        kept_.push_front(std::move(entry));
        if (kept_.size() > most) kept_.pop_back();
    }

private:
    static bool same(const std::vector<SizeField::Source>& one, const std::vector<SizeField::Source>& other)
    {
        return std::equal(one.begin(), one.end(), other.begin(), other.end(),
                          [](const auto& a, const auto& b) { return a.place == b.place && a.size == b.size; });
    }
    std::mutex mutex_;
    std::list<Entry> kept_;
};

} // namespace

std::shared_ptr<const SheetMesh> meshFaces(const std::shared_ptr<const JoinedFaces>& faces,
                                           const std::vector<double>& sizeOfFace, const SizeField& field,
                                           const Progress* progress)
{
    static LatelyMeshed lately;
    if (auto known = lately.find(faces, sizeOfFace, field.sources())) return known;
    auto mesh = std::make_shared<const SheetMesh>(Mesher(*faces, sizeOfFace, field, progress).meshed());
    if (!progress || !progress->stopped()) lately.keep({faces, sizeOfFace, field.sources(), mesh});
    return mesh;
}

double elementsOf(const JoinedFaces& faces, const std::vector<double>& sizeOfFace)
{
    double count = 0.0;
    for (std::size_t face = 0; face < faces.faces.size(); ++face)
        count += faces.faces[face].area / std::pow(sizeOfFace[face], 2);
    return count;
}

} // namespace undisona
