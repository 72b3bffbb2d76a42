#pragma once
#include <Eigen/Dense>

#include <string>
#include <vector>

namespace undisona {

/// A round hole in a panel, in its own plane, m.
struct RoundHole {
    Eigen::Vector2d centre;
    double radius;
};

/// A flat panel: a polygon, or a disc about its origin where there are no corners.
struct FlatPanel {
    Eigen::Vector3d origin;
    Eigen::Matrix3d axes; ///< columns x, y in the plane, z normal to it; right-handed
    std::vector<Eigen::Vector2d> corners;
    double radius = 0.0;
    std::vector<RoundHole> holes;

    Eigen::Vector3d place(const Eigen::Vector2d& own) const { return origin + axes.leftCols<2>() * own; }
};

/// A part of a cylinder: from the direction x of its axes on, by `angle` about z.
struct RoundPanel {
    Eigen::Vector3d origin;
    Eigen::Matrix3d axes; ///< z along the cylinder's axis; right-handed
    double radius, length, angle;

    Eigen::Vector3d place(double turn, double along) const
    {
        return origin + axes * Eigen::Vector3d(radius * std::cos(turn), radius * std::sin(turn), along);
    }
};

/// What one sentence makes of thin sheet.
struct Sheet {
    std::string name, sentence;
    double thickness = 0.0;
    double size = 0.0; ///< of its elements, m; 0: as the asked frequency needs
    std::vector<FlatPanel> flat;
    std::vector<RoundPanel> round;
};

/// The same panel under place -> turn * place + shift; `turn` may be a reflection.
FlatPanel moved(FlatPanel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);
RoundPanel moved(RoundPanel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);

} // namespace undisona
