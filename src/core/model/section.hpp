#pragma once
#include <array>
#include <string>
#include <vector>

namespace undisona {

enum class SectionShape { round, tube, rectangle, box, iShape, channel, angle, tee, given };

using OutlinePoint = std::array<double, 2>; ///< y to the right, z up, from the centroid, m

/// A cross-section with its computed constants in SI. The drawing's axes are y (right) and z (up) through the
/// centroid; the principal axes 1 and 2 are turned from y and z by `principalAngle`.
struct Section {
    SectionShape shape = SectionShape::given;
    std::string text;              ///< as written: "angle 50x50x5 mm"
    std::array<double, 4> sizes{}; ///< m, as the shape's text orders them

    double area = 0.0;                   ///< m2
    double iy = 0.0, iz = 0.0;           ///< m4, integrals of z2 and of y2
    double iyz = 0.0;                    ///< m4, integral of y z
    double principalAngle = 0.0;         ///< rad, from y to axis 1, counter-clockwise with z up
    double i1 = 0.0, i2 = 0.0;           ///< m4, bending about axis 1 and axis 2
    double torsion = 0.0;                ///< m4
    double warping = 0.0;                ///< m6, about the shear centre; 0 where it does not matter
    double perimeter = 0.0;              ///< m, outer
    std::array<double, 2> shearCentre{}; ///< y, z from the centroid, m
    std::array<double, 2> shearAreas{};  ///< given sections only: along axis 1 and axis 2, m2; 0 is stiff
    bool thinOpen = false;               ///< its true twisting stiffness is higher by warping

    std::vector<OutlinePoint> outline; ///< counter-clockwise; for drawing
    std::vector<OutlinePoint> hole;    ///< empty for a solid section

    double polarMoment() const { return iy + iz; }
    /// Shear area along principal axis 1 (index 0) and 2 (index 1), m2; 0 means stiff in shear.
    /// Round, rectangle, box and I: Cowper, The shear coefficient in Timoshenko's beam theory, 1966.
    /// Other thin-walled ones: energy of the shear flow (Pilkey, Formulas for Stress, Strain, and Structural
    /// Matrices, 2005, ch. 2).
    double shearArea(int axis, double poisson) const;
    /// The energy shear areas of thin-walled open sections, filled in with the constants.
    std::array<double, 2> shearFlowAreas{};
};

// The catalogue. Sizes in m, all positive; walls thinner than half of what they belong to (see section_text).
Section roundSection(double diameter);
Section tubeSection(double diameter, double wall);
Section rectangleSection(double height, double width);
Section boxSection(double height, double width, double wall);
Section iSection(double height, double width, double web, double flange);
Section channelSection(double height, double width, double web, double flange); ///< flanges point to +y
Section angleSection(double height, double width, double wall);                 ///< corner at lower left
Section teeSection(double height, double width, double web, double flange);     ///< flange on top
Section givenSection(double area, double iy, double iz, double torsion);

} // namespace undisona
