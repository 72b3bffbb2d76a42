#include "app/scene/camera.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace undisona {

namespace {

double halfTangent()
{
    return std::tan(Camera::viewAngle * std::numbers::pi / 360.0);
}

} // namespace

void Camera::frame(const Eigen::Vector3d& low, const Eigen::Vector3d& high)
{
    target_ = (low + high) / 2.0;
    size_ = std::max(0.5 * (high - low).norm(), 1e-3);
    distance_ = 1.12 * size_ / std::sin(viewAngle * std::numbers::pi / 360.0);
}

void Camera::look(double azimuth, double elevation)
{
    azimuth_ = azimuth;
    elevation_ = elevation;
}

void Camera::orbit(double azimuth, double elevation)
{
    azimuth_ += azimuth;
    elevation_ = std::clamp(elevation_ + elevation, -1.5607, 1.5607);
}

Eigen::Vector3d Camera::position() const
{
    return target_ + distance_ * Eigen::Vector3d(std::cos(elevation_) * std::cos(azimuth_),
                                                 std::cos(elevation_) * std::sin(azimuth_), std::sin(elevation_));
}

Eigen::Vector3d Camera::right() const
{
    return {-std::sin(azimuth_), std::cos(azimuth_), 0.0};
}

double Camera::scale(const QSizeF& view) const
{
    return 2.0 * distance_ * halfTangent() / std::max(1.0, view.height());
}

void Camera::pan(const QPointF& pixels, const QSizeF& view)
{
    target_ += scale(view) * (-pixels.x() * right() + pixels.y() * up());
}

void Camera::zoom(double factor, const QPointF& cursor, const QSizeF& view)
{
    const double before = scale(view);
    distance_ = std::clamp(distance_ * factor, 1e-4 * size_, 1e3 * size_);
    const double change = before - scale(view);
    const QPointF off = cursor - QPointF(view.width() / 2.0, view.height() / 2.0);
    target_ += change * (off.x() * right() - off.y() * up());
}

Eigen::Vector3d Camera::ray(const QPointF& pixel, const QSizeF& view) const
{
    const double step = 2.0 * halfTangent() / std::max(1.0, view.height());
    return (forward() + step * ((pixel.x() - view.width() / 2.0) * right() - (pixel.y() - view.height() / 2.0) * up()))
        .normalized();
}

Eigen::Vector3d Camera::project(const Eigen::Vector3d& place, const QSizeF& view) const
{
    const Eigen::Vector3d from = place - position();
    const double depth = from.dot(forward());
    if (depth <= 1e-9) return {0, 0, -1};
    const double pixels = view.height() / (2.0 * halfTangent() * depth);
    return {view.width() / 2.0 + pixels * from.dot(right()), view.height() / 2.0 - pixels * from.dot(up()), depth};
}

} // namespace undisona
