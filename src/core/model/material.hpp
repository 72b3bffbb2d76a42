#pragma once
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// How a material with a grain differs from an isotropic one; moduli in Pa.
struct Grain {
    double across;        ///< E across the grain
    double shear;         ///< G along the grain; in the plane of a sheet
    double rolling;       ///< G across the grain; through the thickness of a sheet
    double poissonAcross; ///< between two directions across the grain; of solids alone
};

struct Ply;

/// A linear elastic material in SI; isotropic unless it has a grain, along which its E and its Poisson ratio hold then,
/// or is a stack of layers, whose E and Poisson ratio are those of bending along the direction that the stack has.
struct Material {
    std::string name;
    double modulus = 0.0;      ///< E, Pa, > 0
    double poisson = 0.0;      ///< 0 ... < 0.5
    double density = 0.0;      ///< kg/m3, >= 0
    double dampingRatio = 0.0; ///< share of critical damping that the bare material gives
    std::string source;        ///< where the figures come from
    std::optional<Grain> grain{};
    double expansion = 0.0;                           ///< by temperature, 1/K; 0: not known
    std::shared_ptr<const std::vector<Ply>> layers{}; ///< from below up; null for what is one through its thickness
    double strength = 0.0;                            ///< the equivalent stress that it bears, Pa; 0: not stated
    /// The share of its stiffness that it keeps where it is so much warmer than its figures are stated for, K.
    std::vector<std::pair<double, double>> keeps{};

    /// Whether it is not alike in all directions, so that the grain's or the stack's must be known.
    bool hasDirection() const { return grain || layers; }
    double shearModulus() const { return grain ? grain->shear : modulus / (2.0 * (1.0 + poisson)); }
};

/// A layer of a stack.
struct Ply {
    Material material;      ///< no stack itself
    double thickness = 0.0; ///< m
    double angle = 0.0;     ///< rad, of its grain from the stack's direction, about the normal
};

/// The library, in the order in which it is shown.
const std::vector<Material>& materialLibrary();
std::optional<Material> libraryMaterial(std::string_view name);

} // namespace undisona
