#include "core/mesh/size_field.hpp"

#include <algorithm>

namespace undisona {

SizeField::SizeField(std::vector<Source> sources) : sources_(std::move(sources))
{
    if (!sources_.empty()) branch(0, sources_.size());
}

int SizeField::branch(std::size_t begin, std::size_t end)
{
    constexpr std::size_t leaf = 8;
    Branch own{begin, end, -1, -1, sources_[begin].place, sources_[begin].place, sources_[begin].size};
    for (std::size_t at = begin; at < end; ++at) {
        own.low = own.low.cwiseMin(sources_[at].place);
        own.high = own.high.cwiseMax(sources_[at].place);
        own.least = std::min(own.least, sources_[at].size);
    }
    const auto index = branches_.size();
    branches_.push_back(own);
    if (end - begin > leaf) {
        Eigen::Index axis = 0;
        (own.high - own.low).maxCoeff(&axis);
        const std::size_t middle = (begin + end) / 2;
        std::nth_element(sources_.begin() + static_cast<long>(begin), sources_.begin() + static_cast<long>(middle),
                         sources_.begin() + static_cast<long>(end),
                         [axis](const Source& a, const Source& b) { return a.place[axis] < b.place[axis]; });
        const int left = branch(begin, middle), right = branch(middle, end);
        branches_[index].left = left;
        branches_[index].right = right;
    }
    return static_cast<int>(index);
}

void SizeField::search(int which, const Eigen::Vector3d& place, double& best) const
{
    const Branch& own = branches_[static_cast<std::size_t>(which)];
    const Eigen::Vector3d outside = (own.low - place).cwiseMax(place - own.high).cwiseMax(Eigen::Vector3d::Zero());
    if (own.least + growth * outside.norm() >= best) return;
    if (own.left >= 0) {
        search(own.left, place, best);
        search(own.right, place, best);
        return;
    }
    for (std::size_t at = own.begin; at < own.end; ++at)
        best = std::min(best, sources_[at].size + sources_[at].growth * (sources_[at].place - place).norm());
}

double SizeField::at(const Eigen::Vector3d& place, double largest) const
{
    if (!sources_.empty()) search(0, place, largest);
    return largest;
}

} // namespace undisona
