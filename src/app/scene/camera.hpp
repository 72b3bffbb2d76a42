#pragma once
#include <Eigen/Dense>

#include <QPointF>
#include <QSizeF>

namespace undisona {

/// A perspective camera on a turntable: z stays up.
class Camera {
public:
    void frame(const Eigen::Vector3d& low, const Eigen::Vector3d& high);
    void look(double azimuth, double elevation); ///< rad; from which direction the target is seen
    void orbit(double azimuth, double elevation);
    void pan(const QPointF& pixels, const QSizeF& view);
    /// Nearer or farther, keeping what is under the cursor in its place.
    void zoom(double factor, const QPointF& cursor, const QSizeF& view);

    Eigen::Vector3d position() const;
    const Eigen::Vector3d& target() const { return target_; }
    Eigen::Vector3d forward() const { return (target_ - position()).normalized(); }
    Eigen::Vector3d right() const;
    Eigen::Vector3d up() const { return right().cross(forward()); }
    double distance() const { return distance_; }
    double size() const { return size_; }     ///< of what is framed, m
    static constexpr double viewAngle = 30.0; ///< degrees, upright

    /// Pixel of a place, y downwards, and its depth; depth <= 0 is behind.
    Eigen::Vector3d project(const Eigen::Vector3d& place, const QSizeF& view) const;
    /// The unit direction from the camera through a pixel.
    Eigen::Vector3d ray(const QPointF& pixel, const QSizeF& view) const;
    /// Metres per pixel at the target.
    double scale(const QSizeF& view) const;
    bool operator==(const Camera&) const = default;

private:
    Eigen::Vector3d target_ = Eigen::Vector3d::Zero();
    double azimuth_ = -1.0, elevation_ = 0.25, distance_ = 10.0, size_ = 5.0;
};

} // namespace undisona
