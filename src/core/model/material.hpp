#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// A linear elastic, isotropic material in SI.
struct Material {
    std::string name;
    double modulus = 0.0;      ///< E, Pa, > 0
    double poisson = 0.0;      ///< 0 ... < 0.5
    double density = 0.0;      ///< kg/m3, >= 0
    double dampingRatio = 0.0; ///< share of critical damping that the bare material gives
    std::string source;        ///< where the figures come from

    double shearModulus() const { return modulus / (2.0 * (1.0 + poisson)); }
};

/// The library, in the order in which it is shown.
const std::vector<Material>& materialLibrary();
std::optional<Material> libraryMaterial(std::string_view name);

} // namespace undisona
