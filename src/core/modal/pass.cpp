#include "core/modal/pass.hpp"

#include "core/modal/participation.hpp"
#include "core/modal/rigid_modes.hpp"
#include "core/modal/static_state.hpp"
#include "core/pencil/hertz.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

FoundModes foundOf(const Structure& structure, const MeshPlan& plan, const Pass& pass, const Extraction& extraction)
{
    FoundModes found{plan, extraction, {}};
    const auto participation =
        participationOf(*pass.system, extraction.shapes, pass.mass, structure.ask.reference.value_or(pass.mass.centre));
    found.mass.sums.resize(extraction.lambda.size(), 3);
    for (Eigen::Index at = 0; at < extraction.lambda.size(); ++at) {
        found.mass.hertz.push_back(toHertz(extraction.lambda[at]));
        for (int direction = 0; direction < 3; ++direction)
            found.mass.sums(at, direction) = participation.sumFor(structure.ask, at, direction);
    }
    return found;
}

/// What cannot be had where mass acts along some directions alone: what is asked of the others, or moves along them
/// without stiffness either.
std::optional<Finding> withoutMass(const Structure& structure, const Ask& ask, const System& system)
{
    const Mask3& acts = structure.discretised.acts;
    if (structure.discretised.allMassActs()) return std::nullopt;
    const char* remedy = "Take \"let mass act only along\" away, or ask for the lowest modes.";
    if (ask.until == Ask::Until::all)
        return errorAt(ask.sentence, "every mode is asked, and mass acts along some directions alone", remedy);
    const auto refuse = [&](const Mask3& asked, const std::string& sentence) -> std::optional<Finding> {
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (asked[axis] && !acts[axis])
                return errorAt(sentence, fmt::format("no mass acts along {}, of which something is asked", "xyz"[axis]),
                               fmt::format("Take {} out of the directions, or let mass act there too.", "xyz"[axis]));
        return std::nullopt;
    };
    const auto shakes = [](const LoadPatterns& loads) { return loads.from != LoadPatterns::From::force; };
    if (ask.until == Ask::Until::massShare || (ask.until == Ask::Until::ritz && ask.share > 0.0))
        if (auto refused = refuse(ask.directions, ask.sentence)) return refused;
    if (ask.until == Ask::Until::ritz && shakes(ask.ritz))
        if (auto refused = refuse(ask.ritz.directions, ask.sentence)) return refused;
    if (ask.residual && shakes(*ask.residual))
        if (auto refused = refuse(ask.residual->directions, ask.residual->sentence)) return refused;
    if (const RigidModes rigid = rigidModes(system); rigid.massless || rigid.motions.cols() > 0)
        return errorAt({}, "the structure is not fully held, and mass acts along some directions alone",
                       "Hold it along the others, or let mass act there too.");
    return std::nullopt;
}

/// Masses below nothing must leave mass in every motion: K + s M is definite for however large an s.
std::optional<Finding> lessThanNoMass(const Structure& structure, const System& system)
{
    std::string sentence;
    for (const auto& mass : structure.pointMasses)
        if (sentence.empty() && mass.mass < 0.0) sentence = mass.sentence;
    for (const auto& attached : structure.attachments)
        if (sentence.empty() && attached.effect == Attachment::Effect::mass && attached.perExtent() < 0.0)
            sentence = attached.sentence;
    if (sentence.empty()) return std::nullopt;
    double largest = 0.0;
    for (Eigen::Index at = 0; at < system.size(); ++at)
        if (const double mass = std::abs(system.mass.diagonal(at)); mass > 0.0)
            largest = std::max(largest, std::abs(system.stiffness.diagonal(at)) / mass);
    std::int64_t at = -1;
    const double shift = 1e8 * std::max(largest, 1.0);
    const auto analysis = Analysis::of(sum(system.stiffness, 0.0, system.mass));
    if (analysis &&
        SignedFactor::factorise(analysis, {system.stiffness, shift, system.mass, {}}, {.definite = true}, &at))
        return std::nullopt;
    if (at < 0) return std::nullopt; // no memory: what comes after says so
    return errorAt(sentence,
                   fmt::format("more mass is taken away than is there: at {} less than nothing is left",
                               system.motions.unknowns[static_cast<std::size_t>(at)].where),
                   "Take less away, or spread it over more; a mass at a point takes it from what is next to it.");
}

} // namespace

Pass equationsOf(const Structure& structure, const MeshPlan& plan, Progress& progress)
{
    Pass pass;
    progress.stage("mesh");
    pass.mesh = meshOf(structure, plan.splits, plan.sizes, &progress);
    pass.mass = massSummary(structure, pass.mesh);
    pass.system = std::make_shared<const System>(systemOf(structure, pass.mesh, progress));
    const Findings& more = pass.system->motions.problems;
    pass.mesh.problems.insert(pass.mesh.problems.end(), more.begin(), more.end());
    return pass;
}

void settle(const Structure& structure, Pass& pass)
{
    pass.groups = groupsOf(pass.extraction);
    settleShapes(pass.extraction, pass.groups, *pass.system, pass.mesh,
                 structure.ask.reference.value_or(pass.mass.centre));
}

Result<Pass> runPass(const Structure& structure, const Ask& ask, const MeshPlan& plan, Progress& progress,
                     const RunListener& listener, KeptRuns* kept, bool prove)
{
    return runPass(structure, ask, equationsOf(structure, plan, progress), progress, listener, kept, prove);
}

Result<Pass> runPass(const Structure& structure, const Ask& ask, Pass pass, Progress& progress,
                     const RunListener& listener, KeptRuns* kept, bool prove)
{
    const MeshPlan plan = planOf(pass.mesh);
    if (hasError(pass.mesh.problems)) return pass.mesh.problems;
    if (auto refused = withoutMass(structure, ask, *pass.system)) return *refused;
    if (auto refused = lessThanNoMass(structure, *pass.system)) return *refused;
    ModeListener inner{listener.frequencies, {}};
    if (listener.modes)
        inner.modes = [&](const Extraction& soFar) { listener.modes(foundOf(structure, plan, pass, soFar)); };
    auto answer = answerAsk(ask, *pass.system, pass.mass, progress, inner, kept, prove);
    if (!answer) return answer.findings();
    pass.shift = answer->shift;
    pass.extraction = std::move(answer->extraction);
    if (!pass.extraction.lambda.allFinite() || !pass.extraction.shapes.allFinite())
        return errorAt({}, "the equations are singular: something moves with neither stiffness nor mass",
                       "Look for joints that release what nothing else holds, and hold or tie it.");
    if (pass.extraction.mechanisms > 0 && !structure.discretised.allMassActs())
        return errorAt({}, "part of the structure is loose, and mass acts along some directions alone",
                       "Switch \"let mass act only along\" off to see it move, and hold it.");
    pass.missing = std::move(answer->missing);
    pass.residual = std::move(answer->residual);
    progress.stage("readings"); // the movable mass may be found for the first time
    if (listener.modes && pass.extraction.check.proven) listener.modes(foundOf(structure, plan, pass, pass.extraction));
    settle(structure, pass);
    return pass;
}

} // namespace undisona
