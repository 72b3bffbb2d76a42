#include "core/mesh/turned_body.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace undisona {

TurnedBody::TurnedBody(const JoinedFaces& faces, const WholeTurn& turn, SheetMesh& mesh,
                       std::function<double(int, const Eigen::Vector3d&)> sizeAt)
    : faces_(faces), turn_(turn), mesh_(mesh), sizeAt_(std::move(sizeAt))
{
    const int rim = std::max(turn.parts.front().from, turn.parts.front().to);
    count_ = mesh.ofEdge[static_cast<std::size_t>(rim)].size() - 1;
}

int TurnedBody::add(const Eigen::Vector3d& place)
{
    mesh_.nodes.push_back(place);
    return static_cast<int>(mesh_.nodes.size()) - 1;
}

void TurnedBody::addColumn(int node)
{
    if (columns_.contains(node)) return;
    std::vector<int> column{node};
    for (std::size_t step = 1; step < count_; ++step)
        column.push_back(add(turn_.turned(mesh_.nodes[static_cast<std::size_t>(node)],
                                          2.0 * std::numbers::pi * double(step) / double(count_))));
    column.push_back(node);
    columns_.emplace(node, std::move(column));
}

/// A circle's own nodes, in the sense of the turn.
void TurnedBody::addRim(int edge)
{
    auto nodes = mesh_.ofEdge[static_cast<std::size_t>(edge)];
    if (columns_.contains(nodes.front())) return;
    const auto at = [&](double share) { return Eigen::Vector3d(faces_.onEdge(edge, share) - turn_.place); };
    if (at(0.0).cross(at(0.125)).dot(turn_.axis) < 0.0) std::reverse(nodes.begin(), nodes.end());
    columns_.emplace(nodes.front(), std::move(nodes));
}

std::vector<int> TurnedBody::stations(const WholeTurn::Part& part)
{
    const auto on = [&](double share) { return onOutline(faces_, turn_, part, share); };
    const auto vertex = [&](int rim) { return faces_.edges[static_cast<std::size_t>(rim)].first; };
    for (const int rim : {part.from, part.to})
        if (rim >= 0) addRim(rim);
    std::vector<double> shares;
    std::vector<int> nodes;
    const JoinedFace& face = faces_.faces[static_cast<std::size_t>(part.face)];
    int seam = -1;
    for (const auto& loop : face.loops)
        for (const auto& use : loop)
            if (use.edge != part.from && use.edge != part.to) seam = use.edge;
    middles_.clear();
    if (seam >= 0) {
        nodes = mesh_.ofEdge[static_cast<std::size_t>(seam)];
        if (nodes.front() != vertex(part.from)) std::reverse(nodes.begin(), nodes.end());
        for (std::size_t at = 0; at + 1 < nodes.size(); ++at)
            middles_.push_back(mesh_.middleOf.at(std::minmax(nodes[at], nodes[at + 1])));
    } else {
        // As many parts as the sizes along the line add up to; two at least where it meets the axis.
        constexpr int samples = 64;
        std::vector<double> sums{0.0};
        for (int sample = 0; sample < samples; ++sample) {
            const Eigen::Vector3d from = on(double(sample) / samples), to = on(double(sample + 1) / samples);
            sums.push_back(sums.back() + (to - from).norm() / sizeAt_(part.face, (from + to) / 2.0));
        }
        const bool meetsAxis = part.from < 0 || part.to < 0;
        const long parts = std::max(meetsAxis ? 2L : 1L, static_cast<long>(std::ceil(sums.back() - 1e-6)));
        const auto shareOf = [&](double step) {
            const double wanted = step / double(parts) * sums.back();
            const auto above = std::upper_bound(sums.begin(), sums.end(), wanted);
            const auto at = std::min<long>(above - sums.begin(), static_cast<long>(sums.size()) - 1);
            const double low = sums[static_cast<std::size_t>(at - 1)], high = sums[static_cast<std::size_t>(at)];
            return (double(at - 1) + (wanted - low) / (high - low)) / samples;
        };
        for (long step = 0; step <= parts; ++step) {
            const int rim = step == 0 ? part.from : step == parts ? part.to : -1;
            nodes.push_back(rim >= 0 ? vertex(rim) : add(on(shareOf(double(step)))));
            if (step > 0) middles_.push_back(on(shareOf(double(step) - 0.5)));
        }
    }
    for (std::size_t at = 0; at < nodes.size(); ++at) {
        const bool ends = (at == 0 && part.from < 0) || (at + 1 == nodes.size() && part.to < 0);
        if (!ends) addColumn(nodes[at]);
    }
    return nodes;
}

void TurnedBody::cover(const WholeTurn::Part& part, const std::vector<int>& nodes,
                       const std::vector<Eigen::Vector3d>& middles)
{
    const double step = 2.0 * std::numbers::pi / double(count_);
    for (std::size_t at = 0; at + 1 < nodes.size(); ++at)
        for (std::size_t turn = 0; turn < count_; ++turn) {
            const auto node = [&](std::size_t which, std::size_t more) {
                return onAxis(nodes[which]) ? nodes[which] : columns_.at(nodes[which])[turn + more];
            };
            std::vector<int> corners{node(at, 0), node(at + 1, 0), node(at + 1, 1), node(at, 1)};
            mesh_.middleOf.emplace(std::minmax(corners[0], corners[1]), turn_.turned(middles[at], step * double(turn)));
            for (const std::size_t which : {at, at + 1})
                if (!onAxis(nodes[which]))
                    mesh_.middleOf.emplace(
                        std::minmax(node(which, 0), node(which, 1)),
                        turn_.turned(mesh_.nodes[static_cast<std::size_t>(nodes[which])], step * (double(turn) + 0.5)));
            corners.erase(std::unique(corners.begin(), corners.end()), corners.end());
            if (corners.front() == corners.back()) corners.pop_back();
            std::array<int, 4> own{-1, -1, -1, -1};
            std::copy(corners.begin(), corners.end(), own.begin());
            mesh_.elements.push_back({part.face, own});
        }
}

void TurnedBody::addTo(int body)
{
    auto& outline = mesh_.outlines[static_cast<std::size_t>(body)];
    for (const auto& part : turn_.parts) {
        const auto nodes = stations(part);
        cover(part, nodes, middles_);
        outline.insert(outline.end(), nodes.begin() + (outline.empty() ? 0 : 1), nodes.end());
    }
    if (!turn_.meetsAxis()) outline.pop_back(); // round to the first
    mesh_.columns[static_cast<std::size_t>(body)] = columns_;
}

} // namespace undisona
