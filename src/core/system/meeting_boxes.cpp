#include "core/system/meeting_boxes.hpp"

#include <CGAL/box_intersection_d.h>

namespace undisona {

void eachMeeting(const std::vector<Eigen::AlignedBox3d>& ones, const std::vector<Eigen::AlignedBox3d>& others,
                 const std::function<void(int one, int other)>& take)
{
    using Box = CGAL::Box_intersection_d::Box_with_handle_d<double, 3, const Eigen::AlignedBox3d*>;
    const auto boxesOf = [](const std::vector<Eigen::AlignedBox3d>& list) {
        std::vector<Box> boxes;
        for (const auto& box : list) {
            Box own(&box);
            Eigen::Vector3d least = box.min(), most = box.max();
            own.extend(least.data());
            own.extend(most.data());
            boxes.push_back(own);
        }
        return boxes;
    };
    std::vector<Box> first = boxesOf(ones), second = boxesOf(others);
    CGAL::box_intersection_d(
        first.begin(), first.end(), second.begin(), second.end(), [&](const Box& one, const Box& other) {
            take(static_cast<int>(one.handle() - ones.data()), static_cast<int>(other.handle() - others.data()));
        });
}

} // namespace undisona
