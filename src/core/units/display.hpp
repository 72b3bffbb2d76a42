#pragma once
#include "core/units/dimension.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// A consistent set of units in which a document shows its numbers. The data do not change with it.
class DisplayUnits {
public:
    /// "m kg N", "mm kg N", "mm t N", "in lb lbf", "ft lb kip".
    static const std::vector<std::string>& names();
    /// The first set for a name that is not known.
    explicit DisplayUnits(std::string_view name = "m kg N");

    const std::string& name() const { return names()[set_]; }
    /// The unit's symbol for a kind; empty for a plain number.
    std::string unit(QuantityKind) const;
    double value(double si, QuantityKind) const;
    /// Rounded and with its unit: "1 284 kg".
    std::string text(double si, QuantityKind, int digits = 4) const;

private:
    std::size_t set_ = 0;
};

} // namespace undisona
