#pragma once
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

/// A linear elastic material in SI; isotropic unless it has a grain, along which its E and its Poisson ratio hold then.
struct Material {
    std::string name;
    double modulus = 0.0;      ///< E, Pa, > 0
    double poisson = 0.0;      ///< 0 ... < 0.5
    double density = 0.0;      ///< kg/m3, >= 0
    double dampingRatio = 0.0; ///< share of critical damping that the bare material gives
    std::string source;        ///< where the figures come from
    std::optional<Grain> grain{};

    double shearModulus() const { return grain ? grain->shear : modulus / (2.0 * (1.0 + poisson)); }
};

/// The library, in the order in which it is shown.
const std::vector<Material>& materialLibrary();
std::optional<Material> libraryMaterial(std::string_view name);

} // namespace undisona
