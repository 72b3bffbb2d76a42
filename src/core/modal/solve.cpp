#include "core/modal/solve.hpp"

#include "core/base/memory.hpp"
#include "core/base/number_text.hpp"
#include "core/mesh/given_mesh.hpp"
#include "core/mesh/sheet_mesh.hpp"
#include "core/modal/energy.hpp"
#include "core/modal/estimate_ahead.hpp"
#include "core/modal/hand_check.hpp"
#include "core/modal/judged.hpp"
#include "core/modal/participation.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/modal/refine_mesh.hpp"
#include "core/modal/shape_name.hpp"
#include "core/modal/solution_findings.hpp"
#include "core/pencil/hertz.hpp"
#include "core/statement/stoppable.hpp"

#include <numeric>

#include <system_error>

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double refineAbove = 0.005; // share of the frequency error above which a member is split

/// Everything that is read of a pass. One that was cut short is not worth another factorisation.
std::shared_ptr<Solution> complete(std::shared_ptr<const Structure> structure, Pass pass, MeshErrors errors,
                                   Progress& progress, bool cutShort)
{
    progress.stage("readings");
    auto solution = std::make_shared<Solution>();
    Extraction& extraction = pass.extraction;
    const Eigen::Vector3d reference = structure->ask.reference.value_or(pass.mass.centre);
    solution->structure = structure;
    solution->system = pass.system;
    solution->shift = pass.shift;
    solution->allModes = extraction.all;
    solution->ritz = extraction.ritz;
    // A stop after the proof of all that was asked cut nothing short.
    solution->stopped = extraction.cutShort || (cutShort && !extraction.check.proven);
    solution->residual = std::move(pass.residual);
    solution->mass = pass.mass;
    solution->participation = participationOf(*pass.system, extraction.shapes, pass.mass, reference);
    solution->energies = energiesOf(*structure, pass.mesh, *pass.system, extraction);
    for (Eigen::Index at = 0; at < extraction.lambda.size(); ++at) {
        Mode mode;
        mode.number = static_cast<int>(at) + 1;
        mode.group = pass.groups[static_cast<std::size_t>(at)];
        mode.lambda = extraction.lambda[at];
        mode.frequency = toHertz(mode.lambda);
        mode.rigid = at < extraction.rigid;
        mode.ritz = extraction.ritz && !mode.rigid;
        mode.mechanism = !mode.rigid && at < extraction.rigid + extraction.mechanisms;
        mode.acceptedError = extraction.acceptedError[at];
        mode.residual = extraction.residual[at];
        mode.floor = extraction.floor[at];
        mode.meshError = errors.total[at];
        mode.meshErrorEither = errors.either[at];
        if (std::abs(mode.meshError) > mostTold) { // kept as a size, of which no more than that is known
            mode.meshErrorEither = std::abs(mode.meshError);
            mode.meshError = std::numeric_limits<double>::quiet_NaN();
        }
        solution->modes.push_back(mode);
    }
    nameShapes(*structure, pass.mesh, *pass.system, extraction, solution->energies, solution->participation,
               solution->modes);
    for (auto& mode : solution->modes)
        if (mode.ritz) mode.name = "like " + mode.name;
    solution->shapes = extraction.shapes;
    solution->pieceErrors = std::move(errors.pieces);
    solution->mesh = std::move(pass.mesh);
    if (!cutShort) solution->handChecks = handEstimates(*solution);
    solution->count = extraction.check;
    solution->count.shown = static_cast<std::int64_t>(solution->modes.size());
    solution->count.lastHz = solution->modes.empty() ? 0.0 : solution->modes.back().frequency;
    const Ask& ask = structure->ask;
    if (ask.until == Ask::Until::frequency && extraction.nextLambda > 0.0 &&
        toHertz(extraction.nextLambda) <= ask.frequency)
        solution->count.cutHz = ask.frequency;
    solution->findings = findingsOf(*solution, extraction, pass.missing);
    solution->timings = progress.timings();
    solution->peakMemoryMb = peakMegabytes();
    solution->record = extraction.record;
    return solution;
}

/// A size that would give more elements than can be solved is refused before any is made.
std::optional<Finding> tooFine(const Structure& structure, const MeshSizes& sizes)
{
    if (!structure.frame.faces) return std::nullopt;
    constexpr double most = 1e6;
    const double elements = sheetElements(structure, sizes);
    if (elements <= most) return std::nullopt;
    const std::string millions = elements < 1e9 ? fmt::format("about {:.2g}", elements / 1e6) : "more than a thousand";
    if (sheetElements(structure, sizes, false) <= most) {
        const auto& finest = *std::min_element(structure.localSizes.begin(), structure.localSizes.end(),
                                               [](const auto& a, const auto& b) { return a.size < b.size; });
        return errorAt(finest.sentence,
                       fmt::format("elements of {:.3g} mm there would make {} million of them; {:.0f} million "
                                   "are the most",
                                   1e3 * finest.size, millions, most / 1e6),
                       fmt::format("Make them about {:.2g} mm large.", 1e3 * finest.size * elements / most));
    }
    const auto finest =
        static_cast<std::size_t>(std::min_element(sizes.ofPart.begin(), sizes.ofPart.end()) - sizes.ofPart.begin());
    return errorAt(structure.frame.partSentence(static_cast<int>(finest)),
                   fmt::format("elements of {:.3g} mm on {} would make {} million of them; {:.0f} million are the most",
                               1e3 * sizes.ofPart[finest], structure.frame.partName(static_cast<int>(finest)), millions,
                               most / 1e6),
                   fmt::format("Make them about {:.2g} mm large, or ask for lower frequencies.",
                               1e3 * sizes.ofPart[finest] *
                                   std::pow(elements / most, finest < structure.sheets.size() ? 0.5 : 1.0 / 3.0)));
}

/// Solves on finer and finer meshes until the modes are as near as the ask has it; says what it reached.
void refine(const Structure& structure, Pass& pass, MeshErrors& errors, Progress& progress, const RunListener& listener,
            KeptRuns* kept, Findings& remarks)
{
    const auto& goal = *structure.ask.refine;
    if (const std::string part = partWithOneMesh(structure); !part.empty()) {
        remarks.push_back(warningAt(goal.sentence, fmt::format("not refined: {} comes as a mesh", part),
                                    "Refine it where it was made, or draw or import it as a shape."));
        return;
    }
    const std::string which =
        goal.below > 0.0 ? fmt::format("every mode below {:.4g} Hz", goal.below) : std::string("every mode");
    constexpr int mostRounds = 6;
    int round = 0, idle = 0; // rounds that took little off, one after the other
    RefinementState state = refinementState(structure.ask, pass.extraction, errors);
    const auto reached = [&] {
        return fmt::format("the largest mesh error is {} %, of mode {}, with {} unknowns",
                           rounded(100.0 * state.worst, 2), state.mode + 1, pass.system->size());
    };
    for (; state.worst > goal.within && round < mostRounds && !progress.stopped(); ++round) {
        const MeshPlan finer{
            refinedSplits(structure, pass.mesh, errors.members, goal.within / 2.0),
            refinedSizes(structure, pass.mesh, pass.extraction, errors, {.within = goal.within, .below = goal.below})};
        if (structure.frame.faces && sheetElements(structure, finer.sizes) > 1e6) {
            remarks.push_back(warningAt(goal.sentence,
                                        "refined no further: it would take more than a million elements; " + reached(),
                                        "A mass or a support on a single place never settles; or ask for less."));
            return;
        }
        auto next = runPass(structure, structure.ask, finer, progress, listener, kept);
        if (progress.stopped() && !(next && next->extraction.check.proven)) break;
        if (!next) {
            remarks.push_back(warningAt(
                goal.sentence, fmt::format("refined no further: {}; {}", next.findings().front().what, reached()),
                next.findings().front().remedy));
            return;
        }
        MeshErrors nextErrors = judged(structure, *next, progress);
        if (progress.stopped()) break;
        const double before = state.worst;
        pass = std::move(*next);
        errors = std::move(nextErrors);
        state = refinementState(structure.ask, pass.extraction, errors);
        idle = state.worst > 0.8 * before ? idle + 1 : 0;
        if (state.worst > goal.within && idle == 2) {
            remarks.push_back(warningAt(
                goal.sentence, fmt::format("refining helps no more after {} rounds: {}", round + 1, reached()),
                "The colour \"mesh error\" shows where: a mass or a support on a single place never settles."));
            return;
        }
    }
    if (state.untold > 0)
        remarks.push_back(
            warningAt(goal.sentence,
                      fmt::format("{} of {} modes have no estimate of the mesh error and were not refined for",
                                  state.untold, state.judged),
                      "Thin and curved bodies of bricks: ask for more through the thickness, or for tetrahedra."));
    if (state.mode < 0) return;
    if (state.worst <= goal.within)
        remarks.push_back(
            noteAt(goal.sentence, fmt::format("{} is within {:.3g} % after {} refinement{}: {}", which,
                                              100.0 * goal.within, round, round == 1 ? "" : "s", reached())));
    else
        remarks.push_back(warningAt(
            goal.sentence, fmt::format("stopped after {} refinement{}: {}", round, round == 1 ? "" : "s", reached()),
            "Solve again to go on, or ask for less."));
}

bool isOf(const MeshPlan& plan, const Structure& structure)
{
    return plan.splits.size() == structure.members.size() &&
           plan.sizes.ofPart.size() == structure.sheets.size() + structure.solids.size();
}

/// One run on a mesh that is given.
Result<std::shared_ptr<Solution>> runOnMesh(std::shared_ptr<const Structure> structure, const MeshPlan& plan,
                                            Progress& progress, const RunListener& listener, KeptRuns* kept)
{
    if (!isOf(plan, *structure))
        return errorAt({}, "the mesh that was ordered is of another model", "Solve the model first.");
    if (auto refused = tooFine(*structure, plan.sizes)) return *refused;
    auto pass = runPass(*structure, structure->ask, plan, progress, listener, kept);
    if (!pass) return pass.findings();
    MeshErrors errors = judged(*structure, *pass, progress);
    return complete(structure, std::move(*pass), std::move(errors), progress, progress.stopped());
}

/// One run on the mesh of a model like this one; nothing where this one wants a finer one.
std::shared_ptr<Solution> runBeside(std::shared_ptr<const Structure> structure, const MeshPlan& plan,
                                    Progress& progress, const RunListener& listener, KeptRuns* kept)
{
    const auto until = structure->ask.until;
    if (!isOf(plan, *structure) || structure->ask.refine || until == Ask::Until::all || until == Ask::Until::ritz ||
        tooFine(*structure, plan.sizes))
        return nullptr;
    auto pass = runPass(*structure, structure->ask, plan, progress, listener, kept);
    if (!pass || pass->extraction.lambda.size() == 0 || progress.stopped()) return nullptr;
    if (refinedSplits(*structure, pass->mesh, memberErrors(*structure, pass->mesh, *pass->system, pass->extraction),
                      refineAbove) != plan.splits)
        return nullptr;
    constexpr double coarser = 1.2; // than its own first mesh would be, at most
    const MeshSizes own = proposeSizes(*structure, toHertz(pass->extraction.lambda.tail<1>()[0]));
    for (std::size_t part = 0; part < own.ofPart.size(); ++part)
        if (plan.sizes.ofPart[part] > coarser * own.ofPart[part]) return nullptr;
    MeshErrors errors = judged(*structure, *pass, progress);
    constexpr double most = 0.01; // of a frequency of a model with bodies, whose first mesh follows what is found
    const auto fine = [&](double error) { return std::abs(error) < most; }; // not where it cannot be told
    if (!structure->solids.empty() && !std::all_of(errors.total.begin(), errors.total.end(), fine)) return nullptr;
    return complete(structure, std::move(*pass), std::move(errors), progress, progress.stopped());
}

/// A whole run; the caller may still add to what it gives.
Result<std::shared_ptr<Solution>> run(std::shared_ptr<const Structure> structure, Progress& progress,
                                      const RunListener& listener, KeptRuns* kept)
{
    if (auto refused = tooFine(*structure, proposeSizes(*structure, 0.0))) return *refused;
    FirstGuess guess = firstGuess(*structure, progress, listener, kept);
    MeshPlan& plan = guess.plan;
    if (auto refused = tooFine(*structure, plan.sizes)) return *refused;
    auto pass = guess.whole ? Result<Pass>(std::move(*guess.pass))
                            : runPass(*structure, structure->ask, plan, progress, listener, kept);
    if (!pass && !progress.stopped() && guess.pass) { // bodies that are filled, or fit, on even elements alone
        plan.sizes = proposeSizes(*structure, guess.frequency);
        pass = runPass(*structure, structure->ask, plan, progress, listener, kept);
    }
    if (!pass) return pass.findings();
    Findings remarks;
    if (!progress.stopped() && structure->ask.until != Ask::Until::all &&
        structure->ask.until != Ask::Until::ritz) { // whose highest are of the mesh alone
        const Splits finer = refinedSplits(
            *structure, pass->mesh, memberErrors(*structure, pass->mesh, *pass->system, pass->extraction), refineAbove);
        const auto split = std::inner_product(finer.begin(), finer.end(), plan.splits.begin(), 0L, std::plus<>(),
                                              std::not_equal_to<>());
        if (split > 0) {
            auto second = runPass(*structure, structure->ask, {finer, plan.sizes}, progress, listener, kept);
            if (progress.stopped() && pass->extraction.check.proven && !(second && second->extraction.check.proven)) {
                remarks.push_back(noteAt({},
                                         "stopped while solving once more on a finer mesh: these are the first run's",
                                         "Solve again for the finer ones."));
            } else {
                if (!second) return second.findings();
                pass = std::move(second);
                remarks.push_back(noteAt(
                    {}, fmt::format("{} member{} split into more elements after a first run and solved once more",
                                    split, split == 1 ? " was" : "s were")));
            }
        }
    }
    MeshErrors errors = judged(*structure, *pass, progress, guess);
    if (progress.stopped() && pass->extraction.check.proven)
        remarks.push_back(noteAt({}, "stopped before the mesh was judged", "Solve again to see how far off it is."));
    if (structure->ask.refine && structure->ask.until != Ask::Until::all && structure->ask.until != Ask::Until::ritz)
        refine(*structure, *pass, errors, progress, listener, kept, remarks);
    auto solution = complete(structure, std::move(*pass), std::move(errors), progress, progress.stopped());
    solution->findings.insert(solution->findings.end(), remarks.begin(), remarks.end());
    return solution;
}

} // namespace

double statedFrequency(const Ask& ask)
{
    if (ask.until == Ask::Until::frequency || ask.until == Ask::Until::band) return ask.frequency;
    return ask.until == Ask::Until::nearest ? 1.5 * ask.frequency : 0.0;
}

Findings refusalOf(const Structure& structure, Progress& progress)
{
    const double stated = statedFrequency(structure.ask);
    if (auto refused = tooFine(structure, proposeSizes(structure, stated))) return {*refused};
    constexpr std::int64_t shortRun = 60'000; // unknowns
    if (unknownsAbout(structure) > shortRun) return {};
    const MeshPlan plan = stated > 0.0 ? plainPlan(structure) : coarsePlan(structure);
    const Pass pass = equationsOf(structure, plan, progress);
    Findings findings;
    for (const auto& problem : pass.mesh.problems)
        if (problem.severity == Severity::error) findings.push_back(problem);
    if (!findings.empty()) return findings;
    const auto pencil = pencilOf(*pass.system);
    if (!pencil) return pencil.findings();
    const auto prepared = ModeExtractor::prepare(*pencil, progress, nullptr, structure.ask.count);
    return prepared ? Findings{} : prepared.findings();
}

namespace {

using Solved = Result<std::shared_ptr<const Solution>>;

/// Nothing that is thrown leaves a run unsaid; want of memory is its caller's to tell.
Solved guarded(Progress& progress, const std::function<Solved()>& work)
{
    try {
        return work();
    } catch (const std::bad_alloc&) {
        throw;
    } catch (const std::system_error&) { // no room for a thread's stack
        throw;
    } catch (const std::exception& thrown) {
        return programFault(thrown, progress.lastStage());
    }
}

Solved solveModel(const Model&, Progress&, const SolveOptions&, const RunListener&);
Solved solutionOf(const Model&, const FoundModes&, Progress&);

} // namespace

Solved solve(std::shared_ptr<const Structure> structure, Progress& progress, const RunListener& listener,
             KeptRuns* kept)
{
    return guarded(progress, [&]() -> Solved {
        auto solution = run(std::move(structure), progress, listener, kept);
        if (!solution) return solution.findings();
        return std::shared_ptr<const Solution>(std::move(*solution));
    });
}

Solved solve(const Model& model, Progress& progress, const SolveOptions& options, const RunListener& listener)
{
    return guarded(progress, [&] { return solveModel(model, progress, options, listener); });
}

Solved solutionFrom(const Model& model, const FoundModes& found, Progress& progress)
{
    return guarded(progress, [&] { return solutionOf(model, found, progress); });
}

namespace {

Solved solveModel(const Model& model, Progress& progress, const SolveOptions& options, const RunListener& listener)
{
    progress.stage("read");
    auto built = buildStructure(model, progress);
    if (progress.stopped()) return warningAt({}, "the run was stopped before a mode was found");
    if (hasError(built.findings)) return built.findings;
    if (options.ask) {
        Ask ask = *options.ask;
        ask.byCaller = true;
        const Ask& own = built.structure.ask;
        ask.reference = own.reference;
        ask.tolerance = own.tolerance;
        ask.prove = own.prove;
        ask.residual = own.residual;
        ask.refine = own.refine;
        built.structure.ask = ask;
    }
    built.structure.ask.meshErrors = options.meshErrors;
    auto structure = std::make_shared<const Structure>(std::move(built.structure));
    std::shared_ptr<Solution> beside;
    if (options.beside) beside = runBeside(structure, *options.beside, progress, listener, options.kept);
    auto ran = beside         ? Result<std::shared_ptr<Solution>>(std::move(beside))
               : options.plan ? runOnMesh(structure, *options.plan, progress, listener, options.kept)
                              : run(structure, progress, listener, options.kept);
    if (!ran) return ran.findings();
    Solution& solution = **ran;
    solution.key = solveKey(model);
    if (const int about = structure->aboutState; about >= 0)
        solution.findings.push_back(
            noteAt({}, fmt::format("these are small motions about the static state \"{}\"",
                                   structure->staticStates[static_cast<std::size_t>(about)].name)));
    solution.findings.insert(solution.findings.begin(), built.findings.begin(), built.findings.end());
    return std::shared_ptr<const Solution>(std::move(*ran));
}

Solved solutionOf(const Model& model, const FoundModes& found, Progress& progress)
{
    auto built = buildStructure(model);
    if (hasError(built.findings)) return built.findings;
    const auto structure = std::make_shared<const Structure>(std::move(built.structure));
    Pass pass = equationsOf(*structure, found.plan, progress);
    if (found.extraction.shapes.rows() != pass.system->size())
        return errorAt({}, "the modes found are not of this model", "Solve again.");
    pass.extraction = found.extraction;
    measureResiduals(matricesOf(*pass.system), pass.extraction);
    pass.extraction.record.orthogonality = orthogonalityLoss(matricesOf(*pass.system), pass.extraction.shapes);
    settle(*structure, pass);
    MeshErrors errors = judged(*structure, pass, progress);
    auto solution = complete(structure, std::move(pass), std::move(errors), progress, true);
    solution->timings.clear(); // those of the run have gone with it
    solution->peakMemoryMb = 0.0;
    solution->key = solveKey(model);
    solution->findings.insert(solution->findings.begin(), built.findings.begin(), built.findings.end());
    return std::shared_ptr<const Solution>(std::move(solution));
}

} // namespace

std::string meshErrorText(const Mode& mode)
{
    if (!mode.judged()) return "no estimate";
    const std::string error = rounded(100.0 * mode.meshError, 2);
    if (mode.meshErrorEither < 0.1 * std::abs(mode.meshError) || mode.meshErrorEither < 5e-6) return error + " %";
    return error + " ± " + rounded(100.0 * mode.meshErrorEither, 1) + " %";
}

Certificate certificateOf(const Solution& solution)
{
    CertificateFigures run{.check = solution.count,
                           .record = solution.record,
                           .modes = static_cast<std::int64_t>(solution.modes.size()),
                           .unknowns = solution.system->size(),
                           .all = solution.allModes,
                           .ritz = solution.ritz,
                           .seconds = solution.timings,
                           .peakMegabytes = solution.peakMemoryMb,
                           .residualVectors = static_cast<long>(solution.residual.lambda.size()),
                           .residualLoads = solution.residual.loads,
                           .staticError = solution.residual.staticError};
    for (const auto& mode : solution.modes) {
        run.acceptedError = std::max(run.acceptedError, mode.acceptedError);
        run.residual = std::max(run.residual, mode.residual);
    }
    return certificateOf(run);
}

} // namespace undisona
