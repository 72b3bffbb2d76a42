#include "core/shapes/sheet.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace undisona {

namespace {

FlatPanel moved(FlatPanel panel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    panel.origin = turn * panel.origin + shift;
    panel.axes.leftCols<2>() = (turn * panel.axes.leftCols<2>()).eval();
    panel.axes.col(2) = panel.axes.col(0).cross(panel.axes.col(1));
    return panel;
}

TurnedPanel moved(TurnedPanel panel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
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

CrownPanel moved(CrownPanel panel, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    panel.centre = turn * panel.centre + shift;
    panel.axes.col(2) = (turn * panel.axes.col(2)).eval();
    panel.axes.col(0) = (turn * panel.axes.col(0)).eval();
    panel.axes.col(1) = panel.axes.col(2).cross(panel.axes.col(0));
    return panel;
}

KeptFaces moved(KeptFaces faces, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    faces.turn = turn * faces.turn;
    faces.shift = turn * faces.shift + shift;
    return faces;
}

} // namespace

Eigen::Vector2d TurnedPanel::profile(double share) const
{
    if (!arc) return from + share * (to - from);
    const double direction = arc->first + share * (arc->last - arc->first);
    return arc->centre + arc->radius * Eigen::Vector2d(std::cos(direction), std::sin(direction));
}

bool TurnedPanel::wholeTurn() const
{
    return angle > 2.0 * std::numbers::pi - 1e-9;
}

double Sheet::thicknessAt(const Eigen::Vector3d& place) const
{
    if (!taper) return thickness;
    const Eigen::Vector3d way = taper->between[1] - taper->between[0];
    const double share = std::clamp((place - taper->between[0]).dot(way) / way.squaredNorm(), 0.0, 1.0);
    return taper->thickness[0] + share * (taper->thickness[1] - taper->thickness[0]);
}

double Sheet::leastThickness() const
{
    return taper ? std::min(taper->thickness[0], taper->thickness[1]) : thickness;
}

Sheet moved(Sheet sheet, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    const auto move = [&](auto& panels) {
        for (auto& panel : panels)
            panel = moved(std::move(panel), turn, shift);
    };
    move(sheet.flat);
    move(sheet.turned);
    move(sheet.crowns);
    move(sheet.kept);
    if (sheet.mesh) sheet.mesh = moved(*sheet.mesh, turn, shift);
    if (sheet.taper)
        for (auto& place : sheet.taper->between)
            place = turn * place + shift;
    return sheet;
}

} // namespace undisona
