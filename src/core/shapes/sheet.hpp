#pragma once
#include "core/shapes/kept_shape.hpp"
#include "core/shapes/mesh_file.hpp"
#include "core/shapes/outline.hpp"

#include <array>
#include <memory>
#include <optional>

namespace undisona {

/// A flat panel within an outline, which runs counter-clockwise; holes do as well.
struct FlatPanel {
    Eigen::Vector3d origin;
    Eigen::Matrix3d axes; ///< columns x, y in the plane, z normal to it; right-handed
    Outline outline;
    std::vector<Outline> holes;

    Eigen::Vector3d place(const Eigen::Vector2d& own) const { return origin + axes.leftCols<2>() * own; }
};

/// A line (r, z) turned about the z axis of its axes, from the direction x on by `angle`: a cylinder, a cone, a dome, a
/// bend of a tube.
struct TurnedPanel {
    struct Arc {
        Eigen::Vector2d centre; ///< r, z
        double radius;
        double first, last; ///< direction from the centre, from r towards z, rad; first < last
    };
    Eigen::Vector3d origin;
    Eigen::Matrix3d axes; ///< right-handed
    double angle;
    Eigen::Vector2d from, to; ///< r, z of a straight line's ends; of no meaning where it is an arc
    std::optional<Arc> arc;

    Eigen::Vector2d profile(double share) const; ///< r, z
    Eigen::Vector3d place(double turn, double share) const
    {
        const Eigen::Vector2d own = profile(share);
        return origin + axes * Eigen::Vector3d(own.x() * std::cos(turn), own.x() * std::sin(turn), own.y());
    }
    bool wholeTurn() const;
};

/// A cap cut from a sphere about the z axis of its axes.
struct CrownPanel {
    Eigen::Vector3d centre; ///< of the sphere
    Eigen::Matrix3d axes;
    double radius; ///< of the sphere
    double half;   ///< angle between its axis and its rim
};

/// Faces that the kernel holds, carried by place -> turn * place + shift.
struct KeptFaces {
    KeptShape kept;
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    Eigen::Vector3d shift = Eigen::Vector3d::Zero();
};

/// What one sentence makes of thin sheet.
struct Sheet {
    std::string name, sentence;
    double thickness = 0.0;
    double size = 0.0;  ///< of its elements, m; 0: as the asked frequency needs
    double above = 0.0; ///< how far the middle face lies above the drawn one along its normal, by half thicknesses
    struct Taper {
        std::array<Eigen::Vector3d, 2> between;
        std::array<double, 2> thickness;
    };
    std::optional<Taper> taper{};
    std::vector<FlatPanel> flat{};
    std::vector<TurnedPanel> turned{};
    std::vector<CrownPanel> crowns{};
    std::vector<KeptFaces> kept{};
    std::optional<PlacedMesh> mesh{};        ///< in place of faces
    std::optional<Eigen::Vector3d> colour{}; ///< red, green, blue, 0...1, as its file has it

    /// The thickness there, m: even, or as the taper has it, which is even beyond its two places.
    double thicknessAt(const Eigen::Vector3d& place) const;
    double leastThickness() const;
};

/// The same under place -> turn * place + shift; `turn` may be a reflection.
Sheet moved(Sheet, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);

} // namespace undisona
