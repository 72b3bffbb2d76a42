// Parts that come as meshes in, faces and edges on them out.
#include "core/shapes/given_faces.hpp"

#include "core/base/same_place.hpp"
#include "core/shapes/frame.hpp"

#include <algorithm>
#include <numeric>
#include <set>

namespace undisona {

namespace {

constexpr double mostTurn = 0.766; // cosine of 40 degrees, from piece to piece: twelve go round a bore of one face

/// The places of an element's nodes in the order that they have in its mirror image.
std::vector<std::size_t> mirrored(SolidKind kind)
{
    switch (kind) {
    case SolidKind::tetrahedron10:
        return {0, 2, 1, 3, 6, 5, 4, 7, 9, 8};
    case SolidKind::brick8:
        return {0, 3, 2, 1, 4, 7, 6, 5};
    case SolidKind::brick20:
        return {0, 3, 2, 1, 4, 7, 6, 5, 11, 10, 9, 8, 15, 14, 13, 12, 16, 19, 18, 17};
    case SolidKind::wedge6:
        return {0, 2, 1, 3, 5, 4};
    case SolidKind::wedge15:
        break;
    }
    return {0, 2, 1, 3, 5, 4, 8, 7, 6, 11, 10, 9, 12, 14, 13};
}

std::array<int, 4> sorted(std::array<int, 4> corners)
{
    std::sort(corners.begin(), corners.end());
    return corners;
}

using Side = std::array<int, 2>; ///< of the mesh, the lower node first

} // namespace

/// Adds to the drawn faces what lies on the meshes.
class GivenFaceMaker {
public:
    GivenFaceMaker(std::shared_ptr<const JoinedFaces> drawn, const Frame& frame)
        : frame_(frame), joined_(new JoinedFaces(*drawn)), given_(new GivenFaces)
    {
        given_->firstEdge = drawn->edges.size();
        given_->firstFace = drawn->faces.size();
        given_->firstSolid = drawn->solids.size();
        joined_->drawn = std::move(drawn);
        joined_->stamp = newStamp();
    }

    std::shared_ptr<const JoinedFaces> made()
    {
        for (std::size_t sheet = 0; sheet < frame_.sheets.size(); ++sheet)
            if (frame_.sheets[sheet].mesh) takeSheet(*frame_.sheets[sheet].mesh, static_cast<int>(sheet));
        for (std::size_t solid = 0; solid < frame_.solids.size(); ++solid)
            if (!frame_.solids[solid].spent)
                if (const auto mesh = placedMesh(*frame_.solids[solid].shape))
                    takeSolid(*mesh, static_cast<int>(solid));
        takeSidesOfSolids();
        findPoints();
        firstVertex_ = static_cast<int>(joined_->vertices.size());
        joined_->vertices.insert(joined_->vertices.end(), given_->nodes.begin(), given_->nodes.end());
        for (const auto& [point, node] : given_->nodeOfPoint)
            if (int& vertex = joined_->vertexOfPoint[static_cast<std::size_t>(point)]; vertex < 0)
                vertex = firstVertex_ + node;
        findSides();
        growFaces();
        findEdges();
        for (std::size_t face = given_->firstFace; face < joined_->faces.size(); ++face)
            chainLoops(static_cast<int>(face));
        joined_->given = std::move(given_);
        return joined_;
    }

private:
    /// A piece of sheet or of the outside of a solid before the faces are known.
    struct Piece {
        int sheet = -1;
        std::array<int, 2> solids{-1, -1};
        GivenFaces::Piece nodes;
        int face = -1;
        bool sameOwner(const Piece& other) const { return sheet == other.sheet && solids == other.solids; }
    };

    const Eigen::Vector3d& place(int node) const { return given_->nodes[static_cast<std::size_t>(node)]; }

    // Nodes.

    std::array<long, 3> cellOf(const Eigen::Vector3d& at) const
    {
        const auto cell = [](double value) { return std::lround(std::floor(value / (4.0 * sameInShapes))); };
        return {cell(at.x()), cell(at.y()), cell(at.z())};
    }
    template <class Visit>
    void near(const Eigen::Vector3d& at, const Visit& visit) const
    {
        const auto home = cellOf(at);
        for (long dx = -1; dx <= 1; ++dx)
            for (long dy = -1; dy <= 1; ++dy)
                for (long dz = -1; dz <= 1; ++dz)
                    if (const auto cell = cells_.find({home[0] + dx, home[1] + dy, home[2] + dz}); cell != cells_.end())
                        for (const int node : cell->second)
                            if ((place(node) - at).norm() <= sameInShapes && visit(node)) return;
    }

    /// The nodes of a part, by those of its file; those of other parts at the same places are used again, but within a
    /// part nodes at one place stay apart, as its file has them.
    std::vector<int> nodesOf(const PlacedMesh& mesh)
    {
        std::vector<int> own(mesh.file->nodes.size(), -1);
        const int before = static_cast<int>(given_->nodes.size());
        std::set<int> taken;
        for (const int at : *mesh.cells) {
            const auto& cell = mesh.file->cells[static_cast<std::size_t>(at)];
            for (std::size_t node = 0; node < cell.count(); ++node) {
                int& known = own[static_cast<std::size_t>(cell.nodes[node])];
                if (known >= 0) continue;
                const Eigen::Vector3d where = mesh.place(cell.nodes[node]);
                near(where, [&](int other) {
                    if (other >= before || !taken.insert(other).second) return false;
                    known = other;
                    return true;
                });
                if (known >= 0) continue;
                known = static_cast<int>(given_->nodes.size());
                given_->nodes.push_back(where);
            }
        }
        for (int node = before; node < static_cast<int>(given_->nodes.size()); ++node)
            cells_[cellOf(place(node))].push_back(node);
        return own;
    }

    // Pieces.

    void takeSheet(const PlacedMesh& mesh, int sheet)
    {
        const auto own = nodesOf(mesh);
        for (const int at : *mesh.cells) {
            const auto& cell = mesh.file->cells[static_cast<std::size_t>(at)];
            Piece piece;
            piece.sheet = sheet;
            for (std::size_t corner = 0; corner < cell.count(); ++corner)
                piece.nodes.corners[corner] = own[static_cast<std::size_t>(cell.nodes[corner])];
            pieces_.push_back(piece);
        }
    }

    void takeSolid(const PlacedMesh& mesh, int solid)
    {
        const auto own = nodesOf(mesh);
        const bool turned = mesh.turn.determinant() < 0.0;
        given_->ofSolid.emplace_back();
        for (const int at : *mesh.cells) {
            const auto& cell = mesh.file->cells[static_cast<std::size_t>(at)];
            GivenFaces::Element element{cell.kind, {}};
            element.nodes.fill(-1);
            const auto order = turned ? mirrored(cell.kind) : std::vector<std::size_t>();
            for (std::size_t node = 0; node < cell.count(); ++node)
                element.nodes[node] = own[static_cast<std::size_t>(cell.nodes[turned ? order[node] : node])];
            given_->ofSolid.back().push_back(element);
        }
        solidOf_.push_back(solid);
        joined_->solids.push_back({solid, {}, 0.0});
    }

    /// The sides of elements that belong to one element alone, and those between two parts.
    void takeSidesOfSolids()
    {
        struct OfElement {
            std::array<int, 4> key;
            int body;
            GivenFaces::Piece piece;
        };
        std::vector<OfElement> all;
        for (std::size_t body = 0; body < given_->ofSolid.size(); ++body)
            for (const auto& element : given_->ofSolid[body]) {
                const auto ends = sidesOf(element.kind);
                const std::size_t corners = cornersOf(element.kind);
                const bool curved = undisona::nodesOf(element.kind) > corners;
                for (const auto& face : facesOf(element.kind)) {
                    OfElement side{{}, static_cast<int>(body), {}};
                    for (std::size_t corner = 0; corner < 4 && face[corner] >= 0; ++corner)
                        side.piece.corners[corner] = element.nodes[static_cast<std::size_t>(face[corner])];
                    const std::size_t count = side.piece.count();
                    for (std::size_t corner = 0; curved && corner < count; ++corner) {
                        const int one = face[corner], other = face[(corner + 1) % count];
                        const auto at = std::find_if(ends.begin(), ends.end(), [&](const auto& pair) {
                            return std::minmax(pair[0], pair[1]) == std::minmax(one, other);
                        });
                        side.piece.middles[corner] =
                            element.nodes[corners + static_cast<std::size_t>(at - ends.begin())];
                    }
                    side.key = sorted(side.piece.corners);
                    all.push_back(side);
                }
                addVolume(body, element);
            }
        std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.key < b.key; });
        for (std::size_t at = 0; at < all.size();) {
            std::size_t end = at + 1;
            while (end < all.size() && all[end].key == all[at].key)
                ++end;
            Piece piece;
            piece.solids[0] = solidOf_[static_cast<std::size_t>(all[at].body)];
            if (end - at > 1) piece.solids[1] = solidOf_[static_cast<std::size_t>(all[at + 1].body)];
            if (end - at == 1 || piece.solids[0] != piece.solids[1]) {
                piece.nodes = all[at].piece;
                pieces_.push_back(piece);
            }
            at = end;
        }
    }

    void addVolume(std::size_t body, const GivenFaces::Element& element)
    {
        SolidElement own{element.kind, {}, 1.0, 0.0, 1.0};
        for (std::size_t node = 0; node < undisona::nodesOf(element.kind); ++node)
            own.node.push_back(place(element.nodes[node]));
        joined_->solids[given_->firstSolid + body].volume += volumeOf(own);
    }

    // Faces.

    void findSides()
    {
        for (std::size_t at = 0; at < pieces_.size(); ++at) {
            const auto& corners = pieces_[at].nodes.corners;
            const std::size_t count = pieces_[at].nodes.count();
            for (std::size_t corner = 0; corner < count; ++corner) {
                const auto [low, high] = std::minmax(corners[corner], corners[(corner + 1) % count]);
                sides_.push_back({{low, high}, static_cast<int>(at), static_cast<int>(corner)});
            }
        }
        std::stable_sort(sides_.begin(), sides_.end(), [](const auto& a, const auto& b) { return a.side < b.side; });
        for (std::size_t at = 0; at < sides_.size(); at = runFrom(at))
            starts_.push_back(at);
    }
    std::size_t runFrom(std::size_t at) const
    {
        std::size_t end = at + 1;
        while (end < sides_.size() && sides_[end].side == sides_[at].side)
            ++end;
        return end;
    }

    Eigen::Vector3d areaOf(const GivenFaces::Piece& piece) const // along its normal
    {
        const auto corner = [&](std::size_t at) { return place(piece.corners[at]); };
        return piece.count() == 4 ? Eigen::Vector3d((corner(2) - corner(0)).cross(corner(3) - corner(1)) / 2.0)
                                  : Eigen::Vector3d((corner(1) - corner(0)).cross(corner(2) - corner(0)) / 2.0);
    }

    /// The normal in the middle of a piece's side; of a curved one by the second-order shape that its nodes state.
    Eigen::Vector3d normalAt(const GivenFaces::Piece& piece, int side) const
    {
        if (piece.middles[0] < 0) return areaOf(piece).normalized();
        const std::size_t count = piece.count(), at = static_cast<std::size_t>(side);
        const auto corner = [&](std::size_t which) { return place(piece.corners[which % count]); };
        const auto middle = [&](std::size_t which) { return place(piece.middles[which % count]); };
        Eigen::Vector3d half, far; // on the way from the side across the piece
        if (count == 4) {
            half = (middle(0) + middle(1) + middle(2) + middle(3)) / 2.0 -
                   (corner(0) + corner(1) + corner(2) + corner(3)) / 4.0;
            far = middle(at + 2);
        } else {
            half = (middle(at + 1) + middle(at + 2)) / 2.0 + middle(at) / 4.0 - (corner(at) + corner(at + 1)) / 8.0;
            far = corner(at + 2);
        }
        const Eigen::Vector3d inwards = 4.0 * half - 3.0 * middle(at) - far;
        return (corner(at + 1) - corner(at)).cross(inwards).normalized();
    }

    void growFaces()
    {
        std::vector<std::vector<int>> beside(pieces_.size());
        for (const std::size_t start : starts_) {
            const std::size_t end = runFrom(start);
            // Sheet ends where other sheet meets it; the outside of a solid where that of the same one does not go on.
            for (std::size_t at = start; at < end; ++at) {
                const Piece& piece = pieces_[static_cast<std::size_t>(sides_[at].piece)];
                std::vector<std::size_t> others;
                bool alone = true;
                for (std::size_t other = start; other < end; ++other) {
                    if (other == at) continue;
                    const Piece& own = pieces_[static_cast<std::size_t>(sides_[other].piece)];
                    if (own.sameOwner(piece)) others.push_back(other);
                    alone = alone && (piece.sheet < 0 || own.sheet < 0 || own.sheet == piece.sheet);
                }
                if (others.size() != 1 || !alone) continue;
                const SideUse& next = sides_[others[0]];
                const Eigen::Vector3d one = normalAt(piece.nodes, sides_[at].corner),
                                      two = normalAt(pieces_[static_cast<std::size_t>(next.piece)].nodes, next.corner);
                if (std::abs(one.dot(two)) >= mostTurn)
                    beside[static_cast<std::size_t>(sides_[at].piece)].push_back(next.piece);
            }
        }
        for (std::size_t first = 0; first < pieces_.size(); ++first) {
            if (pieces_[first].face >= 0) continue;
            const int face = static_cast<int>(joined_->faces.size());
            std::vector<int> grown{static_cast<int>(first)};
            pieces_[first].face = face;
            for (std::size_t at = 0; at < grown.size(); ++at)
                for (const int next : beside[static_cast<std::size_t>(grown[at])])
                    if (pieces_[static_cast<std::size_t>(next)].face < 0) {
                        pieces_[static_cast<std::size_t>(next)].face = face;
                        grown.push_back(next);
                    }
            std::sort(grown.begin(), grown.end());
            addFace(face, grown);
        }
    }

    void addFace(int index, const std::vector<int>& grown)
    {
        const Piece& first = pieces_[static_cast<std::size_t>(grown[0])];
        JoinedFace face{first.sheet, {}, {}, {}, 0.0};
        for (const int solid : first.solids)
            if (solid >= 0) face.solids.push_back(solid);
        given_->ofFace.emplace_back();
        Eigen::Vector3d normal = Eigen::Vector3d::Zero();
        std::vector<int> nodes;
        for (const int at : grown) {
            const auto& piece = pieces_[static_cast<std::size_t>(at)].nodes;
            given_->ofFace.back().push_back(piece);
            for (const auto& [a, b, c] : triangles(piece))
                face.area += (place(b) - place(a)).cross(place(c) - place(a)).norm() / 2.0;
            const Eigen::Vector3d area = areaOf(piece);
            normal += area.dot(normal) < 0.0 ? Eigen::Vector3d(-area) : area;
            for (std::size_t corner = 0; corner < piece.count(); ++corner)
                nodes.push_back(piece.corners[corner]);
        }
        std::sort(nodes.begin(), nodes.end());
        nodes.erase(std::unique(nodes.begin(), nodes.end()), nodes.end());
        normal.normalize();
        const Eigen::Vector3d on = place(nodes[0]);
        if (std::all_of(nodes.begin(), nodes.end(),
                        [&](int node) { return std::abs((place(node) - on).dot(normal)) < sameInShapes; }))
            face.plane = JoinedFace::Plane{on, normal};
        else
            face.radius = radiusOf(grown, nodes);
        for (const int solid : face.solids)
            for (std::size_t body = 0; body < solidOf_.size(); ++body)
                if (solidOf_[body] == solid) joined_->solids[given_->firstSolid + body].faces.push_back(index);
        joined_->faces.push_back(std::move(face));
    }

    static std::vector<std::array<int, 3>> triangles(const GivenFaces::Piece& piece)
    {
        const std::size_t count = piece.count();
        const auto corner = [&](std::size_t at) { return piece.corners[at % count]; };
        const auto middle = [&](std::size_t at) { return piece.middles[at % count]; };
        std::vector<std::array<int, 3>> list;
        if (middle(0) < 0) {
            for (std::size_t at = 1; at + 1 < count; ++at)
                list.push_back({corner(0), corner(at), corner(at + 1)});
            return list;
        }
        for (std::size_t at = 0; at < count; ++at)
            list.push_back({middle(at), corner(at + 1), middle(at + 1)});
        for (std::size_t at = 1; at + 1 < count; ++at)
            list.push_back({middle(0), middle(at), middle(at + 1)});
        return list;
    }

    /// Of a face whose nodes lie on a circular cylinder; 0 of another one. Its axis is the direction that its normals
    /// have least of.
    double radiusOf(const std::vector<int>& grown, const std::vector<int>& nodes) const
    {
        Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
        for (const int at : grown) {
            const Eigen::Vector3d area = areaOf(pieces_[static_cast<std::size_t>(at)].nodes);
            if (area.norm() > 0.0) spread += area * area.transpose() / area.norm();
        }
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
        const Eigen::Matrix<double, 3, 2> across = axes.eigenvectors().rightCols<2>();
        // x^2 + y^2 + a x + b y + c = 0 by least squares.
        Eigen::MatrixXd rows(static_cast<Eigen::Index>(nodes.size()), 3);
        Eigen::VectorXd squares(rows.rows());
        const Eigen::Vector3d about = place(nodes[0]);
        for (Eigen::Index at = 0; at < rows.rows(); ++at) {
            const Eigen::Vector2d own = across.transpose() * (place(nodes[static_cast<std::size_t>(at)]) - about);
            rows.row(at) << own.x(), own.y(), 1.0;
            squares[at] = -own.squaredNorm();
        }
        const Eigen::Vector3d fit = rows.colPivHouseholderQr().solve(squares);
        const Eigen::Vector2d centre = -fit.head<2>() / 2.0;
        const double radius = std::sqrt(std::max(0.0, centre.squaredNorm() - fit[2]));
        for (Eigen::Index at = 0; at < rows.rows(); ++at)
            if (std::abs((rows.row(at).head<2>().transpose() - centre).norm() - radius) > 1e-4 * radius) return 0.0;
        return radius;
    }

    // Edges.

    /// Sides of the mesh where faces end, joined to edges as long as the same faces meet there and they run smoothly.
    void findEdges()
    {
        struct Border {
            Side side;
            std::vector<int> faces;
            int middle;
            bool used = false;
        };
        std::vector<Border> borders;
        std::map<int, std::vector<int>> at; // by node
        for (const std::size_t start : starts_) {
            const std::size_t end = runFrom(start);
            std::vector<int> faces;
            int middle = -1;
            for (std::size_t use = start; use < end; ++use) {
                const Piece& piece = pieces_[static_cast<std::size_t>(sides_[use].piece)];
                faces.push_back(piece.face);
                middle = std::max(middle, piece.nodes.middles[static_cast<std::size_t>(sides_[use].corner)]);
            }
            std::sort(faces.begin(), faces.end());
            if (faces.size() == 2 && faces[0] == faces[1]) continue; // within a face
            for (const int node : sides_[start].side)
                at[node].push_back(static_cast<int>(borders.size()));
            borders.push_back({sides_[start].side, std::move(faces), middle});
        }
        const auto other = [&](const Border& border, int node) {
            return border.side[0] == node ? border.side[1] : border.side[0];
        };
        /// The border that goes on beyond a node; -1 where the edge ends.
        const auto next = [&](int border, int node) {
            const auto& here = at.at(node);
            if (here.size() != 2) return -1;
            const int on = here[0] == border ? here[1] : here[0];
            const Border &one = borders[static_cast<std::size_t>(border)], &two = borders[static_cast<std::size_t>(on)];
            const auto leaving = [&](const Border& own) { // along its parabola where it has a middle
                const Eigen::Vector3d far = place(other(own, node)) - place(node);
                return own.middle < 0 ? Eigen::Vector3d(far.normalized())
                                      : Eigen::Vector3d((4.0 * (place(own.middle) - place(node)) - far).normalized());
            };
            return one.faces == two.faces && -leaving(one).dot(leaving(two)) >= mostTurn ? on : -1;
        };
        for (std::size_t first = 0; first < borders.size(); ++first) {
            if (borders[first].used) continue;
            // Back to where the edge begins, or round to where it started.
            int border = static_cast<int>(first), node = borders[first].side[0];
            for (int before = next(border, node); before >= 0; before = next(border, node)) {
                if (before == static_cast<int>(first)) break;
                node = other(borders[static_cast<std::size_t>(before)], node);
                border = before;
            }
            GivenFaces::Line line{{node}, {}};
            const auto& faces = borders[first].faces;
            while (border >= 0 && !borders[static_cast<std::size_t>(border)].used) {
                Border& own = borders[static_cast<std::size_t>(border)];
                own.used = true;
                node = other(own, node);
                line.nodes.push_back(node);
                if (own.middle >= 0) line.middles.push_back(own.middle);
                border = next(border, node);
            }
            addEdge(std::move(line), faces);
        }
    }

    void addEdge(GivenFaces::Line line, const std::vector<int>& faces)
    {
        FaceEdge edge{firstVertex_ + line.nodes.front(), firstVertex_ + line.nodes.back(), 0.0, 0.0, {}, faces};
        const bool curved = line.middles.size() + 1 == line.nodes.size();
        if (!curved) line.middles.clear();
        for (std::size_t node = 0; node < line.nodes.size(); ++node) {
            edge.along.push_back(place(line.nodes[node]));
            if (curved && node < line.middles.size()) edge.along.push_back(place(line.middles[node]));
        }
        for (std::size_t part = 0; part + 1 < edge.along.size(); ++part) {
            const Eigen::Vector3d way = edge.along[part + 1] - edge.along[part];
            edge.length += way.norm();
            if (part + 2 >= edge.along.size()) continue;
            const Eigen::Vector3d on = edge.along[part + 2] - edge.along[part + 1];
            edge.turn += std::atan2(way.cross(on).norm(), way.dot(on));
        }
        std::set<int> sheets;
        for (const int face : faces)
            if (const int sheet = joined_->faces[static_cast<std::size_t>(face)].sheet; sheet >= 0)
                sheets.insert(sheet);
        edge.sheets = static_cast<int>(sheets.size());
        const int index = static_cast<int>(joined_->edges.size());
        for (const int face : faces)
            edgesOfFace_[face].insert(index);
        joined_->edges.push_back(std::move(edge));
        given_->ofEdge.push_back(std::move(line));
    }

    /// The edges about a face one after the other, the longest way round first.
    void chainLoops(int index)
    {
        std::set<int>& left = edgesOfFace_[index];
        std::vector<std::pair<double, std::vector<EdgeUse>>> loops;
        while (!left.empty()) {
            std::vector<EdgeUse> loop{{*left.begin(), false}};
            left.erase(left.begin());
            const auto edge = [&](int at) -> const FaceEdge& { return joined_->edges[static_cast<std::size_t>(at)]; };
            const int start = edge(loop[0].edge).first;
            double length = edge(loop[0].edge).length;
            for (int end = edge(loop[0].edge).last; end != start;) {
                const auto on = std::find_if(left.begin(), left.end(),
                                             [&](int at) { return edge(at).first == end || edge(at).last == end; });
                if (on == left.end()) break;
                const bool backwards = edge(*on).first != end;
                loop.push_back({*on, backwards});
                length += edge(*on).length;
                end = backwards ? edge(*on).first : edge(*on).last;
                left.erase(on);
            }
            loops.emplace_back(-length, std::move(loop));
        }
        std::stable_sort(loops.begin(), loops.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
        for (auto& [length, loop] : loops)
            joined_->faces[static_cast<std::size_t>(index)].loops.push_back(std::move(loop));
    }

    void findPoints()
    {
        for (std::size_t point = 0; point < frame_.points.size(); ++point)
            if (!frame_.points[point].made)
                near(frame_.points[point].place, [&, at = static_cast<int>(point)](int node) {
                    given_->nodeOfPoint.emplace(at, node);
                    return true;
                });
    }

    struct SideUse {
        Side side;
        int piece, corner;
    };
    const Frame& frame_;
    std::shared_ptr<JoinedFaces> joined_;
    std::shared_ptr<GivenFaces> given_;
    std::map<std::array<long, 3>, std::vector<int>> cells_; ///< nodes by place
    std::vector<int> solidOf_;                              ///< by given_->ofSolid
    std::vector<Piece> pieces_;
    std::vector<SideUse> sides_;
    std::vector<std::size_t> starts_; ///< where the uses of each side begin
    std::map<int, std::set<int>> edgesOfFace_;
    int firstVertex_ = 0;
};

std::shared_ptr<const JoinedFaces> withGiven(std::shared_ptr<const JoinedFaces> drawn, const Frame& frame)
{
    const bool any = std::any_of(frame.sheets.begin(), frame.sheets.end(),
                                 [](const Sheet& sheet) { return sheet.mesh.has_value(); }) ||
                     std::any_of(frame.solids.begin(), frame.solids.end(),
                                 [](const Solid& solid) { return !solid.spent && placedMesh(*solid.shape); });
    return any ? GivenFaceMaker(std::move(drawn), frame).made() : drawn;
}

} // namespace undisona
