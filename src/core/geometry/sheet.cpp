#include "core/geometry/sheet.hpp"

#include <cmath>

namespace undisona {

FlatPanel moved(FlatPanel panel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    panel.origin = turn * panel.origin + shift;
    panel.axes.leftCols<2>() = (turn * panel.axes.leftCols<2>()).eval();
    panel.axes.col(2) = panel.axes.col(0).cross(panel.axes.col(1));
    return panel;
}

RoundPanel moved(RoundPanel panel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    panel.origin = turn * panel.origin + shift;
    Eigen::Vector3d begin = panel.axes.col(0);
    if (turn.determinant() < 0.0) // the image runs the other way round: it begins where the panel ends
        begin = std::cos(panel.angle) * panel.axes.col(0) + std::sin(panel.angle) * panel.axes.col(1);
    panel.axes.col(0) = turn * begin;
    panel.axes.col(2) = (turn * panel.axes.col(2)).eval();
    panel.axes.col(1) = panel.axes.col(2).cross(panel.axes.col(0));
    return panel;
}

} // namespace undisona
