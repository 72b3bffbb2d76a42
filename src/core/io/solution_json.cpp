#include "core/io/certificate_output.hpp"
#include "core/io/export.hpp"
#include "core/pencil/hertz.hpp"
#include "core/studies/answer_fields.hpp"

#include <nlohmann/json.hpp>

namespace undisona {

namespace {

using Json = nlohmann::ordered_json;

Json listOf(const Eigen::VectorXd& values)
{
    return std::vector<double>(values.data(), values.data() + values.size());
}

template <class F>
Json six(F value)
{
    Json list = Json::array();
    for (int direction = 0; direction < 6; ++direction)
        list.push_back(value(direction));
    return list;
}

/// Shares by sentence and kind; single members would make the file many times larger.
Json energyOf(const Solution& solution, Eigen::Index mode)
{
    std::map<std::pair<std::string, PartKind>, std::array<double, 5>> sums;
    const auto& energies = solution.energies;
    for (std::size_t row = 0; row < energies.rows.size(); ++row) {
        const auto at = static_cast<Eigen::Index>(row);
        auto& sum = sums[{energies.rows[row].sentence, energies.rows[row].kind}];
        const double parts[5] = {energies.strain(at, mode), energies.kinetic(at, mode), energies.axial(at, mode),
                                 energies.twisting(at, mode), energies.bending(at, mode)};
        for (std::size_t part = 0; part < 5; ++part)
            sum[part] += parts[part];
    }
    Json list = Json::array();
    for (const auto& [key, sum] : sums)
        list.push_back({{"sentence", key.first},
                        {"kind", wordOf(key.second)},
                        {"strain", sum[0]},
                        {"kinetic", sum[1]},
                        {"axial", sum[2]},
                        {"twisting", sum[3]},
                        {"bending", sum[4]}});
    return list;
}

Json modeOf(const Solution& solution, std::size_t index, bool shapes)
{
    const auto& mode = solution.modes[index];
    const auto& participation = solution.participation;
    const auto row = static_cast<Eigen::Index>(index);
    Json json = {{"position", solution.count.before + mode.number},
                 {"number", mode.number},
                 {"group", mode.group},
                 {"frequency_hz", mode.frequency},
                 {"period_s", mode.frequency > 0.0 ? Json(1.0 / mode.frequency) : Json(nullptr)},
                 {"name", mode.calledBy(solution.structure->modeNames)},
                 {"part", mode.part.empty() ? Json(nullptr) : Json(mode.part)},
                 {"motion", mode.motion},
                 {"local", mode.local},
                 {"matters", six([&](int d) { return mode.matters[static_cast<std::size_t>(d)]; })},
                 {"no_mass_because", mode.noMass.empty() ? Json(nullptr) : Json(mode.noMass)},
                 {"rigid", mode.rigid},
                 {"mechanism", mode.mechanism},
                 {"participation", six([&](int d) { return participation.factor(row, d); })},
                 {"effective_mass", six([&](int d) { return participation.effective(row, d); })},
                 {"fraction_of_movable", six([&](int d) { return participation.ofMovable(row, d); })},
                 {"fraction_of_total", six([&](int d) { return participation.ofTotal(row, d); })},
                 {"cumulative_of_movable", six([&](int d) { return participation.sumOfMovable(row, d); })},
                 {"cumulative_of_total", six([&](int d) { return participation.sumOfTotal(row, d); })},
                 {"residual", mode.residual},
                 {"residual_floor", mode.floor},
                 {"accepted_error", mode.acceptedError},
                 {"mesh_error", mode.judged() ? Json(mode.meshError) : Json(nullptr)},
                 {"mesh_error_either_way", mode.judged() ? Json(mode.meshErrorEither) : Json(nullptr)},
                 {"energy", energyOf(solution, row)}};
    if (!shapes) return json;
    json["shape"] = listOf(solution.shapes.col(row));
    json["motion"] = Json::array(); // beside "nodes"
    for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node)
        json["motion"].push_back(listOf(solution.motion(static_cast<int>(node), index)));
    return json;
}

} // namespace

std::string solutionJson(const Solution& solution, const ClashReading& clashes, bool shapes)
{
    Json out;
    out["total_mass_kg"] = solution.mass.mass;
    out["mass_center_m"] = listOf(solution.mass.centre);
    out["reference_point_m"] = listOf(solution.participation.reference);
    out["total_by_direction"] = listOf(solution.participation.total);
    out["movable_by_direction"] = listOf(solution.participation.movable);
    out["mass_by_sentence_kg"] = Json::object();
    for (const auto& [sentence, mass] : solution.mass.bySentence)
        out["mass_by_sentence_kg"][sentence] = mass.mass;
    out["unknowns"] = solution.system->size();
    out["elements"] = solution.mesh.elements.size() + solution.mesh.shells.size() + solution.mesh.solids.size();
    out["shift"] = solution.shift;
    out["all_modes"] = solution.allModes;
    out["stopped"] = solution.stopped;
    if (shapes) {
        out["nodes"] = Json::array();
        for (const auto& node : solution.mesh.nodes)
            out["nodes"].push_back(
                {{"place_m", listOf(node.place)},
                 {"point", node.point < 0
                               ? Json(nullptr)
                               : Json(solution.structure->frame.points[static_cast<std::size_t>(node.point)].name)}});
    }
    out["modes"] = Json::array();
    for (std::size_t mode = 0; mode < solution.modes.size(); ++mode)
        out["modes"].push_back(modeOf(solution, mode, shapes));
    if (solution.residual.loads > 0) {
        out["residual_vectors"] = {{"loads", solution.residual.loads},
                                   {"static_error", solution.residual.staticError},
                                   {"vectors", Json::array()}};
        for (Eigen::Index at = 0; at < solution.residual.lambda.size(); ++at) {
            Json vector = {{"frequency_hz", toHertz(solution.residual.lambda[at])}};
            if (shapes) vector["shape"] = listOf(solution.residual.shapes.col(at));
            out["residual_vectors"]["vectors"].push_back(std::move(vector));
        }
    }
    out["count_check"] = {{"above_hz", solution.count.aboveHz},
                          {"below_hz", solution.count.belowHz},
                          {"before", solution.count.before},
                          {"expected", solution.count.expected},
                          {"found", solution.count.found},
                          {"method", solution.count.method},
                          {"proven", solution.count.proven},
                          {"shown", solution.count.shown},
                          {"cut_below_hz", solution.count.cutHz > 0.0 ? Json(solution.count.cutHz) : Json(nullptr)}};
    out["certificate"] = certificateJson(certificateOf(solution), solution.record);
    out["clashes"] = Json::array();
    for (const auto& pair : clashes.pairs)
        out["clashes"].push_back(
            {{"excitation", solution.structure->excitations[pair.excitation].name},
             {"order", pair.order},
             {"low_hz", pair.low},
             {"high_hz", pair.high},
             {"critical_speed_rpm", pair.criticalSpeedRpm > 0.0 ? Json(pair.criticalSpeedRpm) : Json(nullptr)},
             {"mode", pair.mode},
             {"separation_percent", 100.0 * pair.separation},
             {"strength", pair.strength},
             {"weak", pair.weak},
             {"verdict", wordOf(pair.verdict)},
             {"why", pair.why}});
    out["free_speed_windows"] = Json::array();
    for (const auto& windows : clashes.windows) {
        Json list = Json::array();
        for (const auto& window : windows.freeRpm)
            list.push_back({window[0], window[1]});
        out["free_speed_windows"].push_back(
            {{"excitation", solution.structure->excitations[windows.excitation].name}, {"rpm", list}});
    }
    out["hand_checks"] = Json::array();
    for (const auto& check : solution.handChecks)
        out["hand_checks"].push_back({{"sentence", check.sentence},
                                      {"deflection", check.deflection},
                                      {"stiffness", check.stiffness},
                                      {"mass_kg", check.mass},
                                      {"frequency_hz", check.frequency},
                                      {"nearest_mode", check.nearestMode}});
    out["findings"] = Json::array();
    for (const auto& finding : solution.findings)
        out["findings"].push_back({{"severity", wordOf(finding.severity)},
                                   {"what", finding.what},
                                   {"remedy", finding.remedy},
                                   {"sentence", finding.sentence},
                                   {"place", finding.place}});
    out["timings_s"] = solution.timings;
    out["peak_memory_mb"] = solution.peakMemoryMb;
    return out.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

} // namespace undisona
