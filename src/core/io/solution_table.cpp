#include "core/base/number_text.hpp"
#include "core/io/certificate_output.hpp"
#include "core/io/csv_text.hpp"
#include "core/io/export.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

namespace {

constexpr const char* directions[6] = {"x", "y", "z", "rx", "ry", "rz"};

std::string percent(double share)
{
    return share < 0.0005 ? "." : fmt::format("{:.1f}", 100.0 * share);
}

/// A list of numbers in runs: "1 to 4, 7".
std::string runsOf(const std::vector<int>& numbers)
{
    std::string all;
    for (std::size_t at = 0; at < numbers.size();) {
        std::size_t end = at;
        while (end + 1 < numbers.size() && numbers[end + 1] == numbers[end] + 1)
            ++end;
        all += fmt::format("{}{}", all.empty() ? "" : ", ", numbers[at]);
        if (end > at) all += fmt::format("{}{}", end > at + 1 ? " to " : ", ", numbers[end]);
        at = end + 1;
    }
    return all;
}

/// Which modes are of small parts alone, which matter along each direction, and why others carry no mass.
std::string toldApart(const Solution& solution, const ClashReading& clashes, bool foldLocal)
{
    std::string out;
    std::array<std::vector<int>, 3> matters;
    std::map<std::string, std::vector<int>> local, folded;
    for (const Mode& mode : solution.modes) {
        if (mode.local) (foldLocal && !clashes.meets(mode) ? folded : local)[mode.part].push_back(mode.number);
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (mode.matters[axis]) matters[axis].push_back(mode.number);
    }
    for (std::size_t axis = 0; axis < 3; ++axis)
        if (!matters[axis].empty())
            out += fmt::format("{}mode{} {} matter{} along {}", out.empty() ? "" : "; ",
                               matters[axis].size() == 1 ? "" : "s", runsOf(matters[axis]),
                               matters[axis].size() == 1 ? "s" : "", directions[axis]);
    if (!out.empty()) out += "\n";
    for (const auto& [part, numbers] : local)
        out += fmt::format("local, of {} alone: {}\n", part, runsOf(numbers));
    for (const auto& [part, numbers] : folded)
        out += fmt::format("left out, of {} alone: {}\n", part, runsOf(numbers));
    for (const Mode& mode : solution.modes)
        if (!mode.noMass.empty() && !mode.local)
            out += fmt::format("mode {} carries no mass: {}\n", mode.number, mode.noMass);
    return out.empty() ? out : "\n" + out + "\n";
}

} // namespace

std::string massWords(const MassSummary& mass, const DisplayUnits& units)
{
    const auto along = [&](int axis) { return units.value(mass.centre[axis], QuantityKind::length); };
    return fmt::format("{:.6g} {} at {:.4g}, {:.4g}, {:.4g} {}", units.value(mass.mass, QuantityKind::mass),
                       units.unit(QuantityKind::mass), along(0), along(1), along(2), units.unit(QuantityKind::length));
}

std::string solutionTable(const Solution& solution, const ClashReading& clashes, const DisplayUnits& units,
                          bool foldLocal)
{
    const auto& participation = solution.participation;
    std::string out =
        fmt::format("{} {}, {} unknowns, {}\n\n", solution.modes.size(), solution.ritz ? "Ritz vectors" : "modes",
                    solution.system->size(), massWords(solution.mass, units));
    out += fmt::format("{:>5} {:>12} {:>12} {:>7} {:>7} {:>7} {:>6} {:>6} {:>6} {:>9} {:>9}  {}\n", "mode", "Hz",
                       "period s", "X %", "Y %", "Z %", "rx %", "ry %", "rz %", "mesh err", "accepted", "shape");
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        const auto& mode = solution.modes[at];
        const auto row = static_cast<Eigen::Index>(at);
        if (foldLocal && mode.local && !clashes.meets(mode)) continue;
        out +=
            fmt::format("{:>5} {:>12.6g} {:>12} {:>7} {:>7} {:>7} {:>6} {:>6} {:>6} {:>9} {:>9.1e}  {}\n", mode.number,
                        mode.frequency, mode.frequency > 0.0 ? fmt::format("{:.5g}", 1.0 / mode.frequency) : "-",
                        percent(participation.ofTotal(row, 0)), percent(participation.ofTotal(row, 1)),
                        percent(participation.ofTotal(row, 2)), percent(participation.ofTotal(row, 3)),
                        percent(participation.ofTotal(row, 4)), percent(participation.ofTotal(row, 5)),
                        mode.lambda > 0.0 ? meshErrorText(mode) : ".", mode.acceptedError,
                        mode.calledBy(solution.structure->modeNames));
    }
    out += toldApart(solution, clashes, foldLocal);
    const auto last = static_cast<Eigen::Index>(solution.modes.size()) - 1;
    const auto sumOf = [&](bool movable, int direction) {
        return movable ? participation.sumOfMovable(last, direction) : participation.sumOfTotal(last, direction);
    };
    if (last >= 0)
        for (const bool movable : {false, true})
            out += fmt::format("{}of the {} mass: X {:.1f} %, Y {:.1f} %, Z {:.1f} %\n", movable ? "" : "\n",
                               movable ? "movable" : "total", 100.0 * sumOf(movable, 0), 100.0 * sumOf(movable, 1),
                               100.0 * sumOf(movable, 2));
    const Ask& ask = solution.structure->ask;
    for (int direction = 0; direction < 3 && ask.until == Ask::Until::massShare; ++direction) {
        if (!ask.directions[static_cast<std::size_t>(direction)]) continue;
        Eigen::Index mode = 0;
        while (mode <= last && participation.sumFor(ask, mode, direction) < ask.target(direction))
            ++mode;
        if (mode <= last)
            out += fmt::format("{} passed {:.0f} % at mode {}\n", "XYZ"[direction], 100.0 * ask.target(direction),
                               mode + 1);
    }
    const auto inUnits = [&](double si, QuantityKind kind) {
        return fmt::format("{:.4g} {}", units.value(si, kind), units.unit(kind));
    };
    for (std::size_t at = 0; at < solution.handChecks.size(); ++at) {
        const HandEstimate& hand = solution.handChecks[at];
        if (!(hand.frequency > 0.0)) continue;
        const HandCheck& check = solution.structure->handChecks[at];
        out += fmt::format(
            "hand check at {} {} {}: {} and {} give {:.5g} Hz; mode {} moves most there\n",
            solution.structure->frame.points[static_cast<std::size_t>(check.point)].name,
            check.moment ? "about" : "along", "xyz"[check.direction],
            inUnits(hand.stiffness, check.moment ? QuantityKind::turningStiffness : QuantityKind::stiffness),
            inUnits(hand.mass, check.moment ? QuantityKind::inertia : QuantityKind::mass), hand.frequency,
            hand.nearestMode);
    }
    out += certificateText(certificateOf(solution));
    if (!clashes.pairs.empty()) out += "\n";
    for (const auto& pair : clashes.pairs) {
        const auto& excitation = solution.structure->excitations[pair.excitation];
        out += fmt::format("{:<6} {} order {}: {}\n", wordOf(pair.verdict), excitation.name, shortest(pair.order),
                           pair.why);
    }
    return out;
}

std::string solutionCsv(const Solution& solution)
{
    std::string out = "mode,group,frequency_hz,period_s,rigid,accepted_error,residual,mesh_error,mesh_error_either_way";
    for (const auto* direction : directions)
        out += fmt::format(",participation_{0},effective_mass_{0},of_movable_{0},of_total_{0}", direction);
    out += ",local,matters,name\r\n";
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        const auto& mode = solution.modes[at];
        const auto row = static_cast<Eigen::Index>(at);
        out += fmt::format("{},{},{},{},{},{},{},{},{}", mode.number, mode.group, shortest(mode.frequency),
                           mode.frequency > 0 ? shortest(1.0 / mode.frequency) : "", mode.rigid,
                           shortest(mode.acceptedError), shortest(mode.residual),
                           mode.judged() ? shortest(mode.meshError) : "",
                           mode.judged() ? shortest(mode.meshErrorEither) : "");
        for (int d = 0; d < 6; ++d)
            out += fmt::format(",{},{},{},{}", shortest(solution.participation.factor(row, d)),
                               shortest(solution.participation.effective(row, d)),
                               shortest(solution.participation.ofMovable(row, d)),
                               shortest(solution.participation.ofTotal(row, d)));
        std::string matters;
        for (std::size_t d = 0; d < 6; ++d)
            if (mode.matters[d]) matters += (matters.empty() ? "" : " ") + std::string(directions[d]);
        out += fmt::format(",{},{},{}\r\n", mode.local, matters, csvText(mode.calledBy(solution.structure->modeNames)));
    }
    return out;
}

std::string shapesCsv(const Solution& solution)
{
    std::string out = "mode,frequency_hz,node,point,x_m,y_m,z_m,ux,uy,uz,rx,ry,rz\r\n";
    const auto modes = static_cast<Eigen::Index>(solution.modes.size());
    for (std::size_t at = 0; at < solution.shapesWritten(); ++at) {
        const auto beyond = static_cast<Eigen::Index>(at) - modes; // of a residual vector its number less one
        const std::string name = beyond < 0 ? fmt::format("{}", at + 1) : fmt::format("residual {}", beyond + 1);
        const double hertz = beyond < 0 ? solution.modes[at].frequency : toHertz(solution.residual.lambda[beyond]);
        for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node) {
            const auto& own = solution.mesh.nodes[node];
            const Vector6 motion = solution.motionWritten(static_cast<int>(node), at);
            out += fmt::format("{},{},{},{},{},{},{}", name, shortest(hertz), node + 1,
                               own.point >= 0
                                   ? csvText(solution.structure->frame.points[static_cast<std::size_t>(own.point)].name)
                                   : "",
                               shortest(own.place.x()), shortest(own.place.y()), shortest(own.place.z()));
            for (int d = 0; d < 6; ++d)
                out += "," + shortest(motion[d]);
            out += "\r\n";
        }
    }
    return out;
}

std::string unknownsCsv(const std::vector<Unknown>& unknowns)
{
    std::string out = "row,point,kind,dx,dy,dz,x_m,y_m,z_m,base_x,base_y,base_z,base_rx,base_ry,base_rz\r\n";
    for (std::size_t at = 0; at < unknowns.size(); ++at) {
        const auto& unknown = unknowns[at];
        out += fmt::format("{},{},{}", at + 1, csvText(unknown.where), unknown.rotation ? "r" : "u");
        for (const auto& three : {unknown.direction, unknown.place})
            for (int axis = 0; axis < 3; ++axis)
                out += "," + shortest(three[axis]);
        for (int way = 0; way < 6; ++way)
            out += "," + shortest(unknown.fromRigid[way]);
        out += "\r\n";
    }
    return out;
}

} // namespace undisona
