#include "core/shapes/solid.hpp"

namespace undisona {

Solid moved(Solid solid, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    if (const auto mesh = placedMesh(*solid.shape)) {
        solid.shape = std::make_shared<const SolidShape>(SolidShape{moved(*mesh, turn, shift)});
        return solid;
    }
    solid.shape =
        std::make_shared<const SolidShape>(SolidShape{SolidShape::Moved{std::move(solid.shape), turn, shift}});
    return solid;
}

std::optional<PlacedMesh> placedMesh(const SolidShape& shape)
{
    const auto* mesh = std::get_if<PlacedMesh>(&shape.what);
    return mesh ? std::optional(*mesh) : std::nullopt;
}

} // namespace undisona
