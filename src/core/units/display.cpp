#include "core/units/display.hpp"

#include "core/base/number_text.hpp"
#include "core/units/unit.hpp"

namespace undisona {

namespace {

struct KindUnits {
    QuantityKind kind;
    const char* unit[5];
};

constexpr KindUnits table[] = {
    {QuantityKind::share, {"%", "%", "%", "%", "%"}},
    {QuantityKind::length, {"m", "mm", "mm", "in", "ft"}},
    {QuantityKind::area, {"m2", "mm2", "mm2", "in2", "ft2"}},
    {QuantityKind::secondMoment, {"m4", "mm4", "mm4", "in4", "ft4"}},
    {QuantityKind::warpingConstant, {"m6", "mm6", "mm6", "in6", "ft6"}},
    {QuantityKind::mass, {"kg", "kg", "t", "lb", "lb"}},
    {QuantityKind::massPerLength, {"kg/m", "kg/m", "t/mm", "lb/in", "lb/ft"}},
    {QuantityKind::massPerArea, {"kg/m2", "kg/m2", "t/mm2", "lb/in2", "lb/ft2"}},
    {QuantityKind::density, {"kg/m3", "kg/m3", "t/mm3", "lb/in3", "lb/ft3"}},
    {QuantityKind::inertia, {"kg m2", "kg m2", "t mm2", "lb in2", "lb ft2"}},
    {QuantityKind::force, {"N", "N", "N", "lbf", "kip"}},
    {QuantityKind::forcePerLength, {"N/m", "N/mm", "N/mm", "lbf/in", "kip/ft"}},
    {QuantityKind::forcePerArea, {"N/m2", "N/mm2", "N/mm2", "lbf/in2", "kip/ft2"}},
    {QuantityKind::forcePerVolume, {"N/m3", "N/mm3", "N/mm3", "lbf/in3", "kip/ft3"}},
    {QuantityKind::stress, {"MPa", "MPa", "MPa", "psi", "ksi"}},
    {QuantityKind::stiffness, {"N/m", "N/mm", "N/mm", "lbf/in", "kip/ft"}},
    {QuantityKind::turningStiffness, {"N m/rad", "N mm/rad", "N mm/rad", "lbf in/rad", "kip ft/rad"}},
    {QuantityKind::turningStiffnessPerLength, {"N/rad", "N/rad", "N/rad", "lbf/rad", "kip/rad"}},
    {QuantityKind::stiffnessPerLength, {"N/m2", "N/mm2", "N/mm2", "lbf/in2", "kip/ft2"}},
    {QuantityKind::stiffnessPerArea, {"N/m3", "N/mm3", "N/mm3", "lbf/in3", "kip/ft3"}},
    {QuantityKind::stiffnessPerVolume, {"N/m4", "N/mm4", "N/mm4", "lbf/in4", "kip/ft4"}},
    {QuantityKind::frequency, {"Hz", "Hz", "Hz", "Hz", "Hz"}},
    {QuantityKind::angle, {"deg", "deg", "deg", "deg", "deg"}},
    {QuantityKind::temperature, {"K", "K", "K", "K", "K"}},
    {QuantityKind::acceleration, {"m/s2", "mm/s2", "mm/s2", "in/s2", "ft/s2"}},
    {QuantityKind::time, {"s", "s", "s", "s", "s"}},
    {QuantityKind::velocity, {"m/s", "mm/s", "mm/s", "in/s", "ft/s"}},
    {QuantityKind::moment, {"N m", "N mm", "N mm", "lbf in", "kip ft"}},
    {QuantityKind::energy, {"J", "J", "J", "lbf in", "lbf ft"}},
    {QuantityKind::warming, {"K", "K", "K", "K", "K"}},
    {QuantityKind::expansion, {"1/K", "1/K", "1/K", "1/K", "1/K"}},
};

} // namespace

const std::vector<std::string>& DisplayUnits::names()
{
    static const std::vector<std::string> sets{"m kg N", "mm kg N", "mm t N", "in lb lbf", "ft lb kip"};
    return sets;
}

DisplayUnits::DisplayUnits(std::string_view name)
{
    for (std::size_t set = 0; set < names().size(); ++set)
        if (names()[set] == name) set_ = set;
}

std::string DisplayUnits::unit(QuantityKind kind) const
{
    for (const auto& row : table)
        if (row.kind == kind) return row.unit[set_];
    return {};
}

double DisplayUnits::value(double si, QuantityKind kind) const
{
    const auto known = readUnit(unit(kind));
    return known ? si / known->factor : si;
}

std::string DisplayUnits::text(double si, QuantityKind kind, int digits) const
{
    const std::string symbol = unit(kind);
    return rounded(value(si, kind), digits) + (symbol.empty() ? "" : " " + symbol);
}

} // namespace undisona
