#include "core/numerics/level_dissection.hpp"

namespace undisona {

namespace {

constexpr std::size_t smallest = 48; // below so many the order hardly matters

class Dissection {
public:
    Dissection(const Graph& graph, double narrow)
        : graph_(graph), narrow_(narrow), part_(static_cast<std::size_t>(graph.size()), 0)
    {
        order_.reserve(part_.size());
    }

    bool run()
    {
        std::vector<std::int32_t> all(part_.size());
        for (std::size_t at = 0; at < all.size(); ++at)
            all[at] = static_cast<std::int32_t>(at);
        split(all, 0, true);
        return narrowEnough_;
    }
    std::vector<std::int64_t> order() && { return std::move(order_); }

private:
    using List = std::vector<std::int32_t>;

    /// The vertices of the part that can be reached, by their distance: `levels` begins each and ends the last.
    void levelsFrom(std::int32_t first, std::int32_t part, List& reached, std::vector<std::size_t>& levels)
    {
        const std::int32_t seen = nextPart_++;
        reached = {first};
        levels = {0};
        part_[static_cast<std::size_t>(first)] = seen;
        for (std::size_t from = 0; from < reached.size();) {
            const std::size_t to = reached.size();
            for (; from < to; ++from)
                for (const auto* other = graph_.begin(reached[from]); other != graph_.end(reached[from]); ++other)
                    if (part_[static_cast<std::size_t>(*other)] == part) {
                        part_[static_cast<std::size_t>(*other)] = seen;
                        reached.push_back(*other);
                    }
            levels.push_back(to);
        }
        for (const auto vertex : reached)
            part_[static_cast<std::size_t>(vertex)] = part;
    }

    /// Orders a part, whose vertices carry its number, piece by connected piece.
    void split(const List& vertices, std::int32_t part, bool outermost)
    {
        List piece;
        std::vector<std::size_t> levels;
        const std::int32_t done = nextPart_++;
        for (const auto vertex : vertices) {
            if (!narrowEnough_) return;
            if (part_[static_cast<std::size_t>(vertex)] != part) continue;
            levelsFrom(vertex, part, piece, levels);
            // From the far end, twice: nearly as many levels as there can be.
            for (int round = 0; round < 2 && piece.size() > smallest; ++round)
                levelsFrom(piece.back(), part, piece, levels);
            const std::size_t count = levels.size() - 1;
            if (outermost && piece.size() > 4 * smallest && double(piece.size()) > narrow_ * double(count)) {
                narrowEnough_ = false;
                return;
            }
            for (const auto own : piece)
                part_[static_cast<std::size_t>(own)] = done;
            if (piece.size() <= smallest || count < 3) {
                order_.insert(order_.end(), piece.begin(), piece.end());
                continue;
            }
            std::size_t cut = 0; // the narrowest level of those in the middle
            const auto width = [&](std::size_t level) { return levels[level + 1] - levels[level]; };
            for (std::size_t level = 1; level + 1 < count; ++level) {
                const bool middle = levels[level + 1] * 10 >= piece.size() * 4 && levels[level] * 10 <= piece.size() * 6;
                if (middle && (cut == 0 || width(level) < width(cut))) cut = level;
            }
            if (cut == 0) cut = count / 2;
            const auto at = [&](std::size_t level) { return piece.begin() + static_cast<std::ptrdiff_t>(levels[level]); };
            const List before(piece.begin(), at(cut)), cutting(at(cut), at(cut + 1)), after(at(cut + 1), piece.end());
            for (const List* half : {&before, &after}) {
                const std::int32_t own = nextPart_++;
                for (const auto one : *half)
                    part_[static_cast<std::size_t>(one)] = own;
                split(*half, own, false);
            }
            order_.insert(order_.end(), cutting.begin(), cutting.end());
        }
    }

    const Graph& graph_;
    double narrow_;
    std::vector<std::int32_t> part_; ///< the number of the part that a vertex lies in
    std::int32_t nextPart_ = 1;
    std::vector<std::int64_t> order_;
    bool narrowEnough_ = true;
};

} // namespace

std::optional<std::vector<std::int64_t>> levelDissection(const Graph& graph, double narrow)
{
    Dissection dissection(graph, narrow);
    if (!dissection.run()) return std::nullopt;
    return std::move(dissection).order();
}

} // namespace undisona
