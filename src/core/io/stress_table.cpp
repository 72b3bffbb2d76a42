#include "core/io/stress_table.hpp"

#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"
#include "core/shapes/frame.hpp"
#include "core/studies/answer_fields.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace undisona {

namespace {

nlohmann::json pointOf(const Eigen::Vector3d& place)
{
    return {place.x(), place.y(), place.z()};
}

std::array<double, 6> carried(const SectionForces& forces, double factor)
{
    return {factor * forces.axial,    factor * forces.shear[0],   factor * forces.shear[1],
            factor * forces.twisting, factor * forces.bending[0], factor * forces.bending[1]};
}

} // namespace

std::string placeIn(const DisplayUnits& units, const Eigen::Vector3d& place)
{
    const auto along = [&](int axis) {
        const double value = units.value(place[axis], QuantityKind::length);
        return fmt::format("{:.4g}", std::abs(value) < 1e-9 ? 0.0 : value);
    };
    return fmt::format("{}, {}, {} {}", along(0), along(1), along(2), units.unit(QuantityKind::length));
}

std::string scaleWords(const ModalStress& stress, const ScaledMode& at, const DisplayUnits& units)
{
    const auto text = [&](double si, QuantityKind kind) { return amplitudeText(si, kind, units); };
    std::string words =
        fmt::format("{} at most, at {}: {}, {}; energy {}", text(at.displacement, QuantityKind::length),
                    placeIn(units, at.place), text(at.velocity, QuantityKind::velocity),
                    text(at.acceleration, QuantityKind::acceleration), text(at.energy, QuantityKind::energy));
    if (!stress.parts.empty() && stress.parts[0].most.equivalent > 0.0)
        words += fmt::format("; {} at most, in {}", text(at.stress, QuantityKind::stress), stress.parts[0].name);
    return words;
}

std::string partTable(const std::vector<PartStress>& parts, double factor, const DisplayUnits& units)
{
    std::string out;
    std::size_t width = 4;
    for (const auto& part : parts)
        width = std::max(width, part.name.size());
    const auto figure = [&](double si, QuantityKind kind) {
        return fmt::format("{:>11.4g}", units.value(factor * si, kind));
    };
    const std::string unit = units.unit(QuantityKind::stress);
    const bool isStated = std::any_of(parts.begin(), parts.end(), [](const auto& part) { return part.bears > 0.0; });
    const auto share = [&](const std::string& text) { return isStated ? fmt::format(" {:>8}", text) : std::string(); };
    out += fmt::format("\n{:<{}} {:>11} {:>11} {:>11} {:>7}{}  {}\n", "part", width, "equivalent", "greatest", "least",
                       "jump", share("share"), unit + "; at");
    for (const auto& part : parts) {
        if (!part.known) {
            out += fmt::format("{:<{}} {:>11} {:>11} {:>11} {:>7}{}  its fibres are not known\n", part.name, width, ".",
                               ".", ".", ".", share("."));
            continue;
        }
        if (!(part.most.equivalent > 0.0)) continue;
        out += fmt::format(
            "{:<{}} {} {} {} {:>7}{}  {}{}\n", part.name, width, figure(part.most.equivalent, QuantityKind::stress),
            figure(part.most.greatest, QuantityKind::stress), figure(part.most.least, QuantityKind::stress),
            part.of == OwnerKind::member ? "." : fmt::format("{:.0f} %", 100.0 * part.jump),
            share(part.bears > 0.0 ? fmt::format("{:.3g} %", 100.0 * part.share()) : "."), placeIn(units, part.place),
            part.where.empty() ? "" : ", " + part.where);
    }
    bool first = true;
    for (const auto& part : parts) {
        if (part.of != OwnerKind::member) continue;
        if (std::exchange(first, false))
            out += fmt::format("\n{:<{}} {:>11} {:>11} {:>11} {:>11} {:>11} {:>11}  {}, {}\n", "member", width, "axial",
                               "shear 1", "shear 2", "twisting", "bending 1", "bending 2",
                               units.unit(QuantityKind::force), units.unit(QuantityKind::moment));
        const auto all = carried(part.forces, factor);
        out += fmt::format("{:<{}}", part.name, width);
        for (std::size_t which = 0; which < all.size(); ++which)
            out += fmt::format(" {:>11.4g}",
                               units.value(all[which], which < 3 ? QuantityKind::force : QuantityKind::moment));
        out += "\n";
    }
    return out;
}

std::string stressTable(const Solution& solution, const ModalStress& stress, const ScaledMode& at,
                        const DisplayUnits& units)
{
    const Mode& mode = solution.modes[static_cast<std::size_t>(stress.mode - 1)];
    std::string out = fmt::format("mode {}, {:.6g} Hz, {}\n{}\n", mode.number, mode.frequency,
                                  mode.calledBy(solution.structure->modeNames), scaleWords(stress, at, units));
    return out + partTable(stress.parts, at.factor, units);
}

std::string partCsv(const std::vector<PartStress>& parts, double factor)
{
    std::string out = "part,of,equivalent_pa,greatest_pa,least_pa,jump,x_m,y_m,z_m,where,axial_n,shear_1_n,shear_2_n,"
                      "twisting_nm,bending_1_nm,bending_2_nm,bears_pa\r\n";
    for (const auto& part : parts) {
        out += fmt::format("{},{}", csvText(part.name), wordOf(part.of));
        for (const double figure : {part.most.equivalent, part.most.greatest, part.most.least})
            out += "," + (part.known ? shortest(factor * figure) : std::string());
        out += fmt::format(",{},{},{},{},{}", shortest(part.jump), shortest(part.place.x()), shortest(part.place.y()),
                           shortest(part.place.z()), part.where);
        for (const double figure : carried(part.forces, factor))
            out += "," + (part.of == OwnerKind::member ? shortest(figure) : std::string());
        out += "," + (part.bears > 0.0 ? shortest(part.bears) : std::string()) + "\r\n";
    }
    return out;
}

std::string stressCsv(const ModalStress& stress, const ScaledMode& at)
{
    return partCsv(stress.parts, at.factor);
}

std::string stressJson(const Solution& solution, const ModalStress& stress, const ScaledMode& at)
{
    using Json = nlohmann::json;
    const Mode& mode = solution.modes[static_cast<std::size_t>(stress.mode - 1)];
    Json out = {{"mode", mode.number},
                {"frequency_hz", mode.frequency},
                {"name", mode.calledBy(solution.structure->modeNames)},
                {"factor", at.factor},
                {"displacement_m", at.displacement},
                {"displacement_at_m", pointOf(at.place)},
                {"velocity_m_s", at.velocity},
                {"acceleration_m_s2", at.acceleration},
                {"energy_j", at.energy},
                {"equivalent_pa", at.stress},
                {"parts", Json::array()}};
    for (const auto& part : stress.parts) {
        Json own = {{"name", part.name}, {"of", wordOf(part.of)}, {"sentence", part.sentence}};
        own["stress"] = part.known ? Json{{"equivalent_pa", at.factor * part.most.equivalent},
                                          {"greatest_pa", at.factor * part.most.greatest},
                                          {"least_pa", at.factor * part.most.least},
                                          {"at_m", pointOf(part.place)},
                                          {"where", part.where},
                                          {"jump", part.jump}}
                                   : Json(nullptr);
        if (part.of == OwnerKind::member) {
            const auto all = carried(part.forces, at.factor);
            own["forces"] = {{"axial_n", all[0]},
                             {"shear_n", {all[1], all[2]}},
                             {"twisting_nm", all[3]},
                             {"bending_nm", {all[4], all[5]}}};
        }
        out["parts"].push_back(std::move(own));
    }
    return out.dump(2) + "\n";
}

} // namespace undisona
