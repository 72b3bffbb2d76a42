#include "core/elements/laminate.hpp"

#include <array>
#include <cmath>

namespace undisona {

namespace {

/// A layer as it lies in the stack, by shares of the whole thickness from its middle.
struct Layer {
    double below, above;
    PlaneElasticity elasticity;
};

std::vector<Layer> layersOf(const std::vector<Ply>& plies)
{
    double whole = 0.0, height = -0.5;
    for (const Ply& ply : plies)
        whole += ply.thickness;
    std::vector<Layer> layers;
    for (const Ply& ply : plies) {
        const double above = height + ply.thickness / whole;
        layers.push_back({height, above, planeElasticity(ply.material).seenFrom(-ply.angle)});
        height = above;
    }
    return layers;
}

/// The transverse shear stiffness per thickness along axis 0 or 1: the stress that balances the bending stresses
/// Q (z - z0) is their moment below z, a parabola in each layer; its energy is that of shear force squared over twice
/// the stiffness.
double shearAlong(const std::vector<Layer>& layers, int axis)
{
    double stretch = 0.0, moment = 0.0, second = 0.0;
    for (const Layer& layer : layers) {
        const double q = layer.elasticity.plane(axis, axis), a = layer.below, b = layer.above;
        stretch += q * (b - a);
        moment += q * (b * b - a * a) / 2.0;
        second += q * (b * b * b - a * a * a) / 3.0;
    }
    const double neutral = moment / stretch, bending = second - neutral * moment;
    double below = 0.0, energy = 0.0;
    for (const Layer& layer : layers) {
        const double q = layer.elasticity.plane(axis, axis), g = layer.elasticity.shear(axis, axis);
        const double a = layer.below - neutral, b = layer.above - neutral, middle = (a + b) / 2.0, half = (b - a) / 2.0;
        const auto flow = [&](double z) { return below - q * (z * z - a * a) / 2.0; };
        // A parabola squared: exact by three places (Gauss).
        const double out = half * std::sqrt(0.6);
        const auto squared = [&](double z) { return flow(z) * flow(z); };
        energy += half / g * (5.0 * squared(middle - out) + 8.0 * squared(middle) + 5.0 * squared(middle + out)) / 9.0;
        below = flow(b);
    }
    return bending * bending / energy;
}

} // namespace

PlaneElasticity laminateElasticity(const std::vector<Ply>& plies)
{
    const std::vector<Layer> layers = layersOf(plies);
    PlaneElasticity all{Eigen::Matrix3d::Zero(), Eigen::Matrix3d::Zero(), Eigen::Matrix3d::Zero(),
                        Eigen::Matrix2d::Zero()};
    double largest = 0.0;
    for (const auto& [a, b, own] : layers) {
        all.plane += own.plane * (b - a);
        all.coupling += own.plane * (b * b - a * a) / 2.0;
        all.bending += own.plane * 4.0 * (b * b * b - a * a * a);
        largest = std::max(largest, own.plane.cwiseAbs().maxCoeff());
    }
    if (all.coupling.cwiseAbs().maxCoeff() < 1e-12 * largest)
        all.coupling.setZero();              // rounding of a stack that mirrors
    constexpr double correction = 6.0 / 5.0; // what uses it takes 5/6 of it
    for (int axis = 0; axis < 2; ++axis)
        all.shear(axis, axis) = correction * shearAlong(layers, axis);
    return all;
}

Material layeredMaterial(std::string name, std::vector<Ply> plies)
{
    const PlaneElasticity elasticity = laminateElasticity(plies);
    Material material;
    double whole = 0.0, stiff = 0.0, damped = 0.0;
    for (const Ply& ply : plies) {
        whole += ply.thickness;
        material.density += ply.thickness * ply.material.density;
        stiff += ply.thickness * ply.material.modulus;
        damped += ply.thickness * ply.material.modulus * ply.material.dampingRatio;
    }
    material.name = std::move(name);
    material.density /= whole;
    material.dampingRatio = damped / stiff;
    const Eigen::Matrix3d& d = elasticity.bending;
    material.poisson = std::clamp(d(0, 1) / d(1, 1), 0.0, 0.499);
    material.modulus = d(0, 0) - d(0, 1) * d(0, 1) / d(1, 1);
    material.source = "stated in the model";
    material.layers = std::make_shared<const std::vector<Ply>>(std::move(plies));
    return material;
}

} // namespace undisona
