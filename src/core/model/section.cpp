#include "core/model/section.hpp"

#include "core/model/thin_walled.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace undisona {

namespace {

constexpr double pi = std::numbers::pi;

std::vector<OutlinePoint> circle(double radius)
{
    std::vector<OutlinePoint> points;
    for (int step = 0; step < 24; ++step) {
        const double angle = 2.0 * pi * step / 24.0;
        points.push_back({radius * std::cos(angle), radius * std::sin(angle)});
    }
    return points;
}

/// Area, centroid and second moments of a polygon by Green's theorem (Steger 1996); shifts the outline so
/// that its centroid is the origin, and returns where it was.
OutlinePoint takePolygon(Section& section, std::vector<OutlinePoint> outline)
{
    double area = 0.0, sy = 0.0, sz = 0.0, yy = 0.0, zz = 0.0, yz = 0.0;
    for (std::size_t at = 0; at < outline.size(); ++at) {
        const auto [y0, z0] = outline[at];
        const auto [y1, z1] = outline[(at + 1) % outline.size()];
        const double cross = y0 * z1 - y1 * z0;
        area += cross / 2.0;
        sy += cross * (y0 + y1) / 6.0;
        sz += cross * (z0 + z1) / 6.0;
        yy += cross * (y0 * y0 + y0 * y1 + y1 * y1) / 12.0;
        zz += cross * (z0 * z0 + z0 * z1 + z1 * z1) / 12.0;
        yz += cross * (y0 * z1 + 2.0 * y0 * z0 + 2.0 * y1 * z1 + y1 * z0) / 24.0;
        section.perimeter += std::hypot(y1 - y0, z1 - z0);
    }
    const double yc = sy / area, zc = sz / area;
    section.area = area;
    section.iz = yy - area * yc * yc;
    section.iy = zz - area * zc * zc;
    section.iyz = yz - area * yc * zc;
    for (auto& point : outline)
        point = {point[0] - yc, point[1] - zc};
    section.outline = std::move(outline);
    return {yc, zc};
}

/// Principal moments: axis 1 is the one nearer to y; equal moments keep y and z.
void takePrincipalAxes(Section& section)
{
    const double difference = (section.iy - section.iz) / 2.0;
    const double size = section.iy + section.iz;
    if (std::abs(section.iyz) < 1e-12 * size) {
        section.iyz = 0.0;
        section.i1 = section.iy;
        section.i2 = section.iz;
        return;
    }
    // About an axis turned by a: I(a) = mean + difference cos 2a - iyz sin 2a.
    double angle = 0.5 * std::atan2(-section.iyz, difference);
    if (angle > pi / 4) angle -= pi / 2;
    if (angle <= -pi / 4) angle += pi / 2;
    const double mean = size / 2.0;
    const double part = difference * std::cos(2 * angle) - section.iyz * std::sin(2 * angle);
    section.principalAngle = angle;
    section.i1 = mean + part;
    section.i2 = mean - part;
}

void takeThinWalls(Section& section, const ThinWalls& walls, const OutlinePoint& centroid)
{
    const auto flow = shearFlowConstants(walls, section.principalAngle);
    section.shearCentre = {flow.shearCentre[0] - centroid[0], flow.shearCentre[1] - centroid[1]};
    section.warping = flow.warping;
    section.shearFlowAreas = flow.shearAreas;
    section.thinOpen = true;
}

Section named(SectionShape shape, std::array<double, 4> sizes)
{
    Section section;
    section.shape = shape;
    section.sizes = sizes;
    return section;
}

// Torsion constants of open sections of rectangles: Roark's Formulas for Stress and Strain (Young and
// Budynas, 2002), table 10.1, cases 23 to 26, after El Darwish and Johnston (1965); no fillets.
double endRectangle(double length, double thickness)
{
    const double ratio = thickness / length;
    return length * std::pow(thickness, 3) * (1.0 / 3.0 - 0.21 * ratio * (1.0 - std::pow(ratio, 4) / 12.0));
}

double halfEndRectangle(double length, double thickness)
{
    const double ratio = thickness / length;
    return length * std::pow(thickness, 3) * (1.0 / 3.0 - 0.105 * ratio * (1.0 - std::pow(ratio, 4) / 192.0));
}

double teeJunction(double flange, double web)
{
    const double alpha = 0.15 * std::min(flange, web) / std::max(flange, web);
    const double inscribed = flange + web * web / (4.0 * flange);
    return alpha * std::pow(inscribed, 4);
}

double angleTorsion(double longLeg, double thick, double shortLeg, double thin)
{
    const double inscribed = 2.0 * (thin + thick - std::sqrt(2.0 * thin * thick));
    return endRectangle(longLeg, thick) + halfEndRectangle(shortLeg, thin) +
           0.07 * thin / thick * std::pow(inscribed, 4);
}

} // namespace

Section roundSection(double diameter)
{
    Section section = named(SectionShape::round, {diameter});
    section.area = pi * diameter * diameter / 4.0;
    section.iy = section.iz = section.i1 = section.i2 = pi * std::pow(diameter, 4) / 64.0;
    section.torsion = section.iy + section.iz;
    section.perimeter = pi * diameter;
    section.outline = circle(diameter / 2.0);
    return section;
}

Section tubeSection(double diameter, double wall)
{
    Section section = named(SectionShape::tube, {diameter, wall});
    const double inner = diameter - 2.0 * wall;
    section.area = pi * (diameter * diameter - inner * inner) / 4.0;
    section.iy = section.iz = section.i1 = section.i2 = pi * (std::pow(diameter, 4) - std::pow(inner, 4)) / 64.0;
    section.torsion = section.iy + section.iz;
    section.perimeter = pi * diameter;
    section.outline = circle(diameter / 2.0);
    section.hole = circle(inner / 2.0);
    return section;
}

Section rectangleSection(double height, double width)
{
    Section section = named(SectionShape::rectangle, {height, width});
    const double y = width / 2.0, z = height / 2.0;
    takePolygon(section, {{-y, -z}, {y, -z}, {y, z}, {-y, z}});
    takePrincipalAxes(section);
    // Saint-Venant's series (Timoshenko and Goodier, Theory of Elasticity, 1970, art. 109).
    const double longer = std::max(height, width), shorter = std::min(height, width);
    double sum = 0.0;
    for (int n = 1; n < 40; n += 2)
        sum += std::tanh(n * pi * longer / (2.0 * shorter)) / std::pow(n, 5);
    section.torsion = longer * std::pow(shorter, 3) / 3.0 * (1.0 - 192.0 / std::pow(pi, 5) * shorter / longer * sum);
    return section;
}

Section boxSection(double height, double width, double wall)
{
    Section section = named(SectionShape::box, {height, width, wall});
    Section inner = rectangleSection(height - 2.0 * wall, width - 2.0 * wall);
    takePolygon(
        section,
        {{-width / 2, -height / 2}, {width / 2, -height / 2}, {width / 2, height / 2}, {-width / 2, height / 2}});
    section.area -= inner.area;
    section.iy -= inner.iy;
    section.iz -= inner.iz;
    takePrincipalAxes(section);
    section.hole = inner.outline;
    // Bredt's tube plus each wall's own twisting (Megson, Aircraft Structures, 2007, ch. 18).
    const double h = height - wall, b = width - wall, around = 2.0 * (h + b);
    section.torsion = 4.0 * h * h * b * b * wall / around + around * std::pow(wall, 3) / 3.0;
    return section;
}

Section iSection(double height, double width, double web, double flange)
{
    Section section = named(SectionShape::iShape, {height, width, web, flange});
    const double y = width / 2, z = height / 2, w = web / 2, f = z - flange;
    const OutlinePoint centroid = takePolygon(
        section,
        {{-y, -z}, {y, -z}, {y, -f}, {w, -f}, {w, f}, {y, f}, {y, z}, {-y, z}, {-y, f}, {-w, f}, {-w, -f}, {-y, -f}});
    takePrincipalAxes(section);
    section.torsion = 2.0 * endRectangle(width, flange) + (height - 2.0 * flange) * std::pow(web, 3) / 3.0 +
                      2.0 * teeJunction(flange, web);
    const double m = z - flange / 2;
    takeThinWalls(section,
                  {{{-y, -m}, {0, -m}, flange},
                   {{y, -m}, {0, -m}, flange},
                   {{0, -m}, {0, m}, web},
                   {{-y, m}, {0, m}, flange},
                   {{y, m}, {0, m}, flange}},
                  centroid);
    return section;
}

Section channelSection(double height, double width, double web, double flange)
{
    Section section = named(SectionShape::channel, {height, width, web, flange});
    const double z = height / 2, f = z - flange;
    const OutlinePoint centroid =
        takePolygon(section, {{0, -z}, {width, -z}, {width, -f}, {web, -f}, {web, f}, {width, f}, {width, z}, {0, z}});
    takePrincipalAxes(section);
    section.torsion = 2.0 * angleTorsion(width, flange, height / 2 - flange, web);
    const double m = z - flange / 2, w = web / 2;
    takeThinWalls(section, {{{width, -m}, {w, -m}, flange}, {{w, -m}, {w, m}, web}, {{width, m}, {w, m}, flange}},
                  centroid);
    return section;
}

Section angleSection(double height, double width, double wall)
{
    Section section = named(SectionShape::angle, {height, width, wall});
    const OutlinePoint centroid =
        takePolygon(section, {{0, 0}, {width, 0}, {width, wall}, {wall, wall}, {wall, height}, {0, height}});
    takePrincipalAxes(section);
    const double longer = std::max(height, width), shorter = std::min(height, width);
    section.torsion = angleTorsion(longer, wall, shorter - wall, wall);
    const double w = wall / 2;
    takeThinWalls(section, {{{width, w}, {w, w}, wall}, {{w, height}, {w, w}, wall}}, centroid);
    return section;
}

Section teeSection(double height, double width, double web, double flange)
{
    Section section = named(SectionShape::tee, {height, width, web, flange});
    const double y = width / 2, w = web / 2, f = height - flange;
    const OutlinePoint centroid =
        takePolygon(section, {{-w, 0}, {w, 0}, {w, f}, {y, f}, {y, height}, {-y, height}, {-y, f}, {-w, f}});
    takePrincipalAxes(section);
    section.torsion = endRectangle(width, flange) + halfEndRectangle(height - flange, web) + teeJunction(flange, web);
    const double m = height - flange / 2;
    takeThinWalls(section, {{{-y, m}, {0, m}, flange}, {{y, m}, {0, m}, flange}, {{0, 0}, {0, m}, web}}, centroid);
    return section;
}

Section givenSection(double area, double iy, double iz, double torsion)
{
    Section section = named(SectionShape::given, {});
    section.area = area;
    section.iy = section.i1 = iy;
    section.iz = section.i2 = iz;
    section.torsion = torsion;
    // Drawn as the rectangle with the same second moments.
    const double height = std::sqrt(12.0 * iy / area), width = std::sqrt(12.0 * iz / area);
    section.outline = {
        {-width / 2, -height / 2}, {width / 2, -height / 2}, {width / 2, height / 2}, {-width / 2, height / 2}};
    section.perimeter = 2.0 * (width + height);
    return section;
}

double Section::shearArea(int axis, double nu) const
{
    switch (shape) {
    case SectionShape::given:
        return shearAreas[static_cast<std::size_t>(axis)];
    case SectionShape::round:
        return area * 6.0 * (1.0 + nu) / (7.0 + 6.0 * nu);
    case SectionShape::tube: {
        const double m = 1.0 - 2.0 * sizes[1] / sizes[0], q = (1.0 + m * m) * (1.0 + m * m);
        return area * 6.0 * (1.0 + nu) * q / ((7.0 + 6.0 * nu) * q + (20.0 + 12.0 * nu) * m * m);
    }
    case SectionShape::rectangle:
        return area * 10.0 * (1.0 + nu) / (12.0 + 11.0 * nu);
    case SectionShape::box: {
        const double along = (axis == 1 ? sizes[0] : sizes[1]) - sizes[2]; // the walls that carry the shear
        const double across = (axis == 1 ? sizes[1] : sizes[0]) - sizes[2];
        const double m = across / along, n = across / along;
        return area * 10.0 * (1.0 + nu) * std::pow(1.0 + 3.0 * m, 2) /
               (12.0 + 72.0 * m + 150.0 * m * m + 90.0 * m * m * m +
                nu * (11.0 + 66.0 * m + 135.0 * m * m + 90.0 * m * m * m) +
                10.0 * n * n * ((3.0 + nu) * m + 3.0 * m * m));
    }
    case SectionShape::iShape:
        if (axis == 1) {
            const double h = sizes[0] - sizes[3], n = sizes[1] / h, m = 2.0 * sizes[1] * sizes[3] / (h * sizes[2]);
            return area * 10.0 * (1.0 + nu) * std::pow(1.0 + 3.0 * m, 2) /
                   (12.0 + 72.0 * m + 150.0 * m * m + 90.0 * m * m * m +
                    nu * (11.0 + 66.0 * m + 135.0 * m * m + 90.0 * m * m * m) + 30.0 * n * n * (m + m * m) +
                    5.0 * nu * n * n * (8.0 * m + 9.0 * m * m));
        }
        return shearFlowAreas[0];
    case SectionShape::channel:
    case SectionShape::angle:
    case SectionShape::tee:
        break;
    }
    return shearFlowAreas[static_cast<std::size_t>(axis)];
}

} // namespace undisona
