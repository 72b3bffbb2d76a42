#pragma once
#include <Eigen/Dense>

#include <string>
#include <vector>

namespace undisona {

/// A closed line in a plane, m: a circle where it has no corners, else sides between them, straight or arcs.
struct Outline {
    struct Corner {
        Eigen::Vector2d at;
        /// Height over its chord of the arc that runs to the next corner, 0 for a straight side. Positive to the right
        /// of the way, which is outwards where the corners run counter-clockwise.
        double bow = 0.0;
    };
    std::vector<Corner> corners;
    Eigen::Vector2d centre = Eigen::Vector2d::Zero(); ///< of a circle
    double radius = 0.0;

    bool isCircle() const { return corners.empty(); }
    /// The middle of the side from a corner on; on the arc where it is one.
    Eigen::Vector2d middleOfSide(std::size_t corner) const;
    /// Places round it, arcs by 64 to the turn.
    std::vector<Eigen::Vector2d> drawn() const;
    double area() const; ///< m2, positive where it runs counter-clockwise; exact
};

Outline circleAbout(const Eigen::Vector2d& centre, double radius);
Outline polygon(const std::vector<Eigen::Vector2d>& corners);

/// The same run counter-clockwise.
Outline counterClockwise(Outline);

/// Corners cut round by an arc each of a radius (0: left sharp), between straight sides. What does not fit is said in
/// `problem`, and the outline is as it was.
Outline rounded(const Outline&, const std::vector<double>& radii, std::string& problem);

/// Whether the line crosses or touches itself.
bool crossesItself(const Outline&);
/// Whether a hole lies within an outline, clear of it.
bool liesWithin(const Outline& hole, const Outline& outline);
/// Whether two holes keep clear of each other.
bool areApart(const Outline&, const Outline&);

} // namespace undisona
