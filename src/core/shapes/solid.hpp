#pragma once
#include "core/shapes/kept_shape.hpp"
#include "core/shapes/mesh_file.hpp"
#include "core/shapes/outline.hpp"

#include <memory>
#include <optional>
#include <string>
#include <variant>

namespace undisona {

/// A profile drawn out along z, or turned about z, in axes of its own.
struct SolidForm {
    Eigen::Vector3d origin;
    Eigen::Matrix3d axes; ///< right-handed
    Outline profile;      ///< in x and y; of a turned one in r >= 0 and z
    std::vector<Outline> holes;
    bool turned = false;
    double extent; ///< m along z, or rad about it
};

/// Bodies joined, cut and cut with each other, as a tree.
struct SolidShape {
    enum class Operation { join, cut, common };
    struct Pair {
        Operation operation;
        std::shared_ptr<const SolidShape> first, second;
    };
    struct Moved {
        std::shared_ptr<const SolidShape> shape;
        Eigen::Matrix3d turn; ///< may be a reflection
        Eigen::Vector3d shift;
    };
    std::variant<SolidForm, Pair, Moved, KeptShape, PlacedMesh> what;
};

/// The mesh that a solid comes as, where it stands now; nothing of one that is drawn.
std::optional<PlacedMesh> placedMesh(const SolidShape&);

/// What elements a body is made of.
enum class BodyElements { byShape, tetrahedra, bricks20, bricks8 };

/// What one sentence makes that has a volume.
struct Solid {
    std::string name, sentence;
    double size = 0.0; ///< of its elements, m; 0: by itself
    std::shared_ptr<const SolidShape> shape;
    bool spent = false;                      ///< became a part of another one
    std::optional<Eigen::Vector3d> colour{}; ///< red, green, blue, 0...1, as its file has it
};

/// The same under place -> turn * place + shift.
Solid moved(Solid, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);

} // namespace undisona
