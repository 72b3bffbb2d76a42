#include "core/geometry/solid.hpp"

namespace undisona {

Solid moved(Solid solid, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    solid.shape =
        std::make_shared<const SolidShape>(SolidShape{SolidShape::Moved{std::move(solid.shape), turn, shift}});
    return solid;
}

} // namespace undisona
