#include "tests/mesh_error_cases.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

SaidModel with(Words values, const Words& size, const char* kind)
{
    values.insert(size.begin(), size.end());
    SaidModel model = steel();
    model.say(kind, values);
    return model;
}
/// Solids in elements somewhat larger than they are proposed, so that the much smaller ones still can be solved.
Words orElse(const Words& size, const char* usual)
{
    return size.empty() ? Words{{"size", usual}} : size;
}
SaidModel& first20(SaidModel& model)
{
    return model.say("lowest", {{"count", "20"}});
}
SaidModel plate(const Words& size, const char* thickness)
{
    return with({{"name", "P"}, {"length", "1 m"}, {"width", "0.7 m"}, {"thickness", thickness}}, size, "plate");
}
SaidModel bar(const Words& size, const char* elements, const char* matrix)
{
    SaidModel model =
        with({{"name", "S"}, {"x", "0.5 m"}, {"y", "40 mm"}, {"z", "60 mm"}}, orElse(size, "34 mm"), "solid-box");
    model.say("solid-elements", {{"what", "S"}, {"elements", elements}})
        .say("hold", {{"where", "faces at x = 0 m of S"}, {"directions", "all"}})
        .say("mass-matrix", {{"matrix", matrix}});
    return first20(model);
}

SaidModel cantileverPlate(const Words& size)
{
    SaidModel model = plate(size, "10 mm");
    return first20(model.say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}}));
}
SaidModel thickCantileverPlate(const Words& size)
{
    SaidModel model = plate(size, "60 mm");
    return first20(model.say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}}));
}
SaidModel clampedPlate(const Words& size)
{
    SaidModel model = plate(size, "5 mm");
    return first20(model.say("hold", {{"where", "free edges of P"}, {"directions", "all"}}));
}
SaidModel supportedPlate(const Words& size)
{
    SaidModel model = plate(size, "5 mm");
    return first20(model.say("hold", {{"where", "free edges of P"}, {"directions", "x y z"}}));
}
SaidModel lumpedPlate(const Words& size)
{
    SaidModel model = plate(size, "10 mm");
    model.say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
        .say("mass-matrix", {{"matrix", "lumped"}});
    return first20(model);
}
SaidModel clampedDisc(const Words& size)
{
    SaidModel model = with({{"name", "D"}, {"diameter", "1 m"}, {"thickness", "8 mm"}}, size, "disc");
    return first20(model.say("hold", {{"where", "free edges of D"}, {"directions", "all"}}));
}
SaidModel anglePlate(const Words& size)
{
    SaidModel model =
        with({{"name", "L"},
              {"rows", "0 m|0 m|0 m\n1 m|0 m|0 m\n1 m|0.5 m|0 m\n0.5 m|0.5 m|0 m\n0.5 m|1 m|0 m\n0 m|1 m|0 m"},
              {"thickness", "6 mm"}},
             size, "plate-through");
    return first20(model.say("hold", {{"where", "free edges of L"}, {"directions", "x y z"}}));
}
SaidModel cylinder(const Words& size)
{
    SaidModel model = with({{"name", "C"}, {"diameter", "0.6 m"}, {"length", "0.9 m"}, {"thickness", "8 mm"}}, size,
                           "cylinder-shell");
    return first20(model.say("hold", {{"where", "free edges of C"}, {"directions", "all"}}));
}
SaidModel box(const Words& size)
{
    SaidModel model =
        with({{"name", "B"}, {"x", "0.5 m"}, {"y", "0.4 m"}, {"z", "0.3 m"}, {"thickness", "3 mm"}}, size, "sheet-box");
    return first20(model.say("hold", {{"where", "edges at z = 0 m"}, {"directions", "all"}}));
}
/// A panel on four legs with a member along its middle and a deck covering.
SaidModel table(const Words& size)
{
    SaidModel model =
        with({{"name", "P"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "5 mm"}}, size, "plate");
    model.say("run",
              {{"name", "Beam"}, {"from", "0, 0.3, 0 m"}, {"to", "1, 0.3, 0 m"}, {"section", "rectangle 12x30 mm"}});
    int leg = 0;
    for (const char* at : {"0, 0, {} m", "1, 0, {} m", "0, 0.6, {} m", "1, 0.6, {} m"})
        model.say("run", {{"name", fmt::format("Leg{}", ++leg)},
                          {"from", fmt::format(fmt::runtime(at), "0")},
                          {"to", fmt::format(fmt::runtime(at), "-0.5")},
                          {"section", "rectangle 40x40 mm"}});
    model.say("mass-spread", {{"where", "P"}, {"mass", "15 kg/m2"}})
        .say("hold", {{"where", "points at z = -0.5 m"}, {"directions", "all"}});
    return first20(model);
}
SaidModel barOfTetrahedra(const Words& size)
{
    return bar(size, "tetrahedra", "consistent");
}
SaidModel lumpedTetrahedra(const Words& size)
{
    return bar(size, "tetrahedra", "lumped");
}
SaidModel barOfBricks(const Words& size)
{
    return bar(size, "20-node bricks", "consistent");
}
SaidModel barOfLinearBricks(const Words& size) // of the proposed size one would lie through it
{
    return bar(orElse(size, "12 mm"), "8-node bricks", "consistent");
}
SaidModel ball(const Words& size)
{
    SaidModel model = with({{"name", "S"}, {"diameter", "0.2 m"}}, orElse(size, "54 mm"), "solid-sphere");
    return model.say("lowest", {{"count", "26"}});
}
SaidModel angle(const Words& size)
{
    SaidModel model = with({{"name", "S"},
                            {"rows", "0 m|0 m\n0.2 m|0 m\n0.2 m|0.05 m\n0.05 m|0.05 m\n0.05 m|0.2 m\n0 m|0.2 m"},
                            {"length", "60 mm"}},
                           orElse(size, "28 mm"), "extrusion");
    model.say("solid-elements", {{"what", "S"}, {"elements", "tetrahedra"}})
        .say("hold", {{"where", "faces at x = 0.2 m of S"}, {"directions", "all"}});
    return first20(model);
}
SaidModel tube(const Words& size)
{
    SaidModel model = with({{"name", "S"}, {"diameter", "0.1 m"}, {"inner", "80 mm"}, {"length", "0.3 m"}},
                           orElse(size, "14 mm"), "solid-cylinder");
    model.say("solid-elements", {{"what", "S"}, {"elements", "tetrahedra"}})
        .say("hold", {{"where", "faces at z = 0 m of S"}, {"directions", "all"}});
    return first20(model);
}
SaidModel plateOfTetrahedra(const Words& size)
{
    SaidModel model =
        with({{"name", "S"}, {"x", "0.3 m"}, {"y", "0.22 m"}, {"z", "8 mm"}}, orElse(size, "11 mm"), "solid-box");
    model.say("solid-elements", {{"what", "S"}, {"elements", "tetrahedra"}})
        .say("hold", {{"where", "faces at x = 0 m of S"}, {"directions", "all"}});
    return first20(model);
}

} // namespace

const std::vector<MeshErrorCase>& meshErrorCases()
{
    static const std::vector<MeshErrorCase> cases{{"plate held at one edge", cantileverPlate, 3.0, 2},
                                                  {"the same, thick", thickCantileverPlate, 3.0, 2, true},
                                                  {"plate clamped all round", clampedPlate, 2.5, 2, true},
                                                  {"plate supported all round", supportedPlate, 2.5, 2, true},
                                                  {"plate held at one edge, lumped mass", lumpedPlate, 3.0, 2, true},
                                                  {"disc clamped all round", clampedDisc, 2.5, 2, true},
                                                  {"plate with a re-entrant corner", anglePlate, 3.0, 2, true},
                                                  {"cylinder clamped at both ends", cylinder, 2.5, 2, true},
                                                  {"box of sheet", box, 2.5, 2, true},
                                                  {"panel with a beam on four legs", table, 3.0, 2},
                                                  {"bar, tetrahedra", barOfTetrahedra, 2.5, 4},
                                                  {"bar, tetrahedra, lumped mass", lumpedTetrahedra, 2.5, 2},
                                                  {"bar, 20-node bricks", barOfBricks, 2.5, 4},
                                                  {"bar, 8-node bricks", barOfLinearBricks, 3.0, 2},
                                                  {"ball", ball, 2.2, 4},
                                                  {"angle with a re-entrant edge, tetrahedra", angle, 2.5, 4},
                                                  {"tube, tetrahedra", tube, 2.0, 4, true},
                                                  {"plate, tetrahedra", plateOfTetrahedra, 2.0, 4, true}};
    return cases;
}

bool MeshErrorReport::One::isGood() const
{
    const double ratio = estimate / truth;
    return (ratio >= 0.5 && ratio <= 2.0) || std::abs(truth - estimate) <= either;
}

double MeshErrorReport::One::share() const
{
    return std::max(std::abs(estimate + either), std::abs(estimate - either)) / std::abs(truth);
}

double MeshErrorReport::good() const
{
    return double(std::count_if(modes.begin(), modes.end(), [](const One& one) { return one.isGood(); })) /
           double(modes.size());
}

double MeshErrorReport::least() const
{
    double share = 1e300;
    for (const auto& one : modes)
        share = std::min(share, one.share());
    return share;
}

MeshErrorReport reportOf(const MeshErrorCase& of)
{
    const auto rough = of.said({}).solved();
    MeshErrorReport report{{}, rough->mesh.shells.size() + rough->mesh.solids.size(), 0};
    if (rough->modes.empty()) return report;
    const double finer = rough->mesh.sizes.ofPart.front() / of.finer;
    const auto fine = of.said({{"size", fmt::format("{:.6f} m", finer)}}).solvedUnjudged();
    for (std::size_t at = 0; at < rough->modes.size() && at < fine->modes.size(); ++at) {
        const Mode& mode = rough->modes[at];
        if (mode.rigid) continue;
        if (!mode.judged()) {
            ++report.untold;
            continue;
        }
        const double apart = mode.frequency / fine->modes[at].frequency - 1.0;
        report.modes.push_back(
            {mode.frequency, apart / (1.0 - std::pow(of.finer, -of.rate)), mode.meshError, mode.meshErrorEither});
    }
    return report;
}

} // namespace undisona
