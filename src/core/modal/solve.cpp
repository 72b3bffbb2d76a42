#include "core/modal/solve.hpp"

#include <set>

#include "core/base/memory.hpp"
#include "core/base/number_text.hpp"
#include "core/mesh/given_mesh.hpp"
#include "core/mesh/sheet_mesh.hpp"
#include "core/modal/answer_ask.hpp"
#include "core/modal/coarser_mesh.hpp"
#include "core/modal/energy.hpp"
#include "core/modal/hand_check.hpp"
#include "core/modal/hertz.hpp"
#include "core/modal/mesh_error.hpp"
#include "core/modal/participation.hpp"
#include "core/modal/refine_mesh.hpp"
#include "core/modal/shape_name.hpp"

#include <numeric>

#include <system_error>

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double mostTold = 0.15; // an estimate of a mesh's error that is larger says no more than that it is coarse
constexpr double refineAbove = 0.005; // share of the frequency error above which a member is split

/// One pass over one mesh: from equations to modes.
struct Pass {
    FrameMesh mesh;
    std::shared_ptr<const System> system;
    double shift = 0.0; ///< the last one used
    Extraction extraction;
    std::vector<int> groups; ///< of each mode
    std::vector<MissingMass> missing;
    ResidualVectors residual;
    MassSummary mass;
};

/// A pass as far as its equations.
Pass equationsOf(const Structure& structure, const MeshPlan& plan, Progress& progress)
{
    Pass pass;
    progress.stage("mesh");
    pass.mesh = meshOf(structure, plan.splits, plan.sizes, &progress);
    pass.mass = massSummary(structure, pass.mesh);
    pass.system = std::make_shared<const System>(assemble(structure, pass.mesh, progress));
    return pass;
}

void settle(const Structure& structure, Pass& pass)
{
    pass.groups = groupsOf(pass.extraction);
    settleShapes(pass.extraction, pass.groups, *pass.system, pass.mesh,
                 structure.ask.reference.value_or(pass.mass.centre));
}

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

Result<Pass> runPass(const Structure& structure, const MeshPlan& plan, Progress& progress, const RunListener& listener,
                     KeptRuns* kept, bool prove = true)
{
    Pass pass = equationsOf(structure, plan, progress);
    if (hasError(pass.mesh.problems)) return pass.mesh.problems;
    ModeListener inner{listener.frequencies, {}};
    if (listener.modes)
        inner.modes = [&](const Extraction& soFar) { listener.modes(foundOf(structure, plan, pass, soFar)); };
    auto answer = answerAsk(structure.ask, *pass.system, pass.mass, progress, inner, kept, prove);
    if (!answer) return answer.findings();
    pass.shift = answer->shift;
    pass.extraction = std::move(answer->extraction);
    if (!pass.extraction.lambda.allFinite() || !pass.extraction.shapes.allFinite())
        return errorAt({}, "the equations are singular: something moves with neither stiffness nor mass",
                       "Look for joints that release what nothing else holds, and hold or tie it.");
    pass.missing = std::move(answer->missing);
    pass.residual = std::move(answer->residual);
    if (listener.modes && pass.extraction.check.proven) listener.modes(foundOf(structure, plan, pass, pass.extraction));
    settle(structure, pass);
    return pass;
}

/// The frequency that a first mesh is made for: the limit asked, or a guess from a coarse run.
double guessedFrequency(const Structure& structure, Progress& progress, KeptRuns* kept)
{
    if (const double stated = statedFrequency(structure.ask); stated > 0.0) return stated;
    if (structure.ask.until == Ask::Until::all) return 0.0; // all of the mesh as it is
    const bool stated =
        structure.ask.elements > 0 || std::all_of(structure.frame.members.begin(), structure.frame.members.end(),
                                                  [](const FrameMember& member) { return member.elements > 0; });
    const bool sized = std::all_of(structure.frame.sheets.begin(), structure.frame.sheets.end(),
                                   [](const Sheet& sheet) { return sheet.size > 0.0; });
    const bool filled = std::all_of(structure.frame.solids.begin(), structure.frame.solids.end(),
                                    [](const Solid& solid) { return solid.spent || solid.size > 0.0; });
    if (stated && sized && filled) return 0.0; // the user has said how fine all is
    // Two elements a member already bend by themselves, so that the guess is not far too high.
    Splits coarse = proposeSplits(structure, 0.0);
    if (coarse.size() < 5000)
        for (auto& split : coarse)
            split = std::max(split, 2L);
    auto pass = runPass(structure, {coarse, proposeSizes(structure, 0.0)}, progress, {}, kept, false);
    if (!pass || pass->extraction.lambda.size() == 0) return 0.0;
    // In steps of a fifth, so that a mass moved a little leaves the mesh, and with it the stiffness, as it is.
    const double guess = toHertz(pass->extraction.lambda[pass->extraction.lambda.size() - 1]);
    return guess > 0.0 ? std::exp2(std::ceil(4.0 * std::log2(guess)) / 4.0) : 0.0;
}

/// How far off the mesh leaves each mode: by its own strains, and of solids by the same modes on a coarser mesh.
MeshErrors judged(const Structure& structure, const Pass& pass, Progress& progress)
{
    MeshErrors errors = meshErrors(structure, pass.mesh, *pass.system, pass.extraction, progress);
    const Ask& ask = structure.ask;
    if (progress.stopped() || pass.mesh.solids.empty() || pass.extraction.lambda.size() == pass.extraction.rigid ||
        ask.until == Ask::Until::all || ask.until == Ask::Until::ritz || !partWithOneMesh(structure).empty())
        return errors;
    progress.stage("mesh error");
    Structure same = structure;
    same.ask = askOfCoarser(ask, pass.extraction);
    Progress* inner = nullptr;
    Progress within([&](const std::string&, double) { // its stages are all one to who waits
        if (progress.stopped()) inner->stop();
    });
    inner = &within;
    const auto beside = runPass(same, scaled(planOf(pass.mesh), coarser), within, {}, nullptr, false);
    if (beside)
        judgeByCoarser(errors, {structure, pass.mesh, *pass.system, pass.extraction.shapes, pass.groups},
                       pass.extraction.lambda,
                       {structure, beside->mesh, *beside->system, beside->extraction.shapes, beside->groups},
                       beside->extraction.lambda);
    return errors;
}

/// Where the stiffness is more than 3e10 times what is usual in the model, so that rounding there drowns the rest.
std::optional<std::string> stiffestPlace(const System& system)
{
    std::vector<std::pair<double, std::size_t>> diagonal;
    for (Eigen::Index at = 0; at < system.size(); ++at)
        if (!system.motions.unknowns[static_cast<std::size_t>(at)].rotation && system.stiffness.diagonal(at) > 0.0)
            diagonal.emplace_back(system.stiffness.diagonal(at), static_cast<std::size_t>(at));
    if (diagonal.empty()) return std::nullopt;
    std::sort(diagonal.begin(), diagonal.end());
    if (diagonal.back().first < 3e10 * diagonal[diagonal.size() / 2].first) return std::nullopt;
    return system.motions.unknowns[diagonal.back().second].where;
}

/// A mechanism with its place, the release that opened it where there is one, and the mode that plays it.
Finding looseness(const Solution& solution, const Mode& mode)
{
    const auto& unknowns = solution.system->motions.unknowns;
    const auto shape = solution.shapes.col(mode.number - 1);
    // What moves most; turns only where nothing shifts.
    std::array<std::size_t, 2> most{unknowns.size(), unknowns.size()};
    std::optional<std::size_t> end; // the released member end that turns or shifts most
    for (std::size_t at = 0; at < unknowns.size(); ++at) {
        const auto moves = [&](std::size_t which) { return std::abs(shape[static_cast<Eigen::Index>(which)]); };
        auto& largest = most[unknowns[at].rotation ? 1 : 0];
        if (largest == unknowns.size() || moves(at) > moves(largest)) largest = at;
        if (unknowns[at].memberEnd && (!end || moves(at) > moves(*end))) end = at;
    }
    const auto size = [&](std::size_t at) {
        return at < unknowns.size() ? std::abs(shape[static_cast<Eigen::Index>(at)]) : 0.0;
    };
    const double reach = std::max(1e-9, solution.structure->frame.span());
    const std::size_t place = size(most[0]) > 1e-6 * reach * size(most[1]) ? most[0] : most[1];
    Finding finding = errorAt({}, "part of the structure is loose: it moves without costing energy, and not as a whole",
                              "Hold it there, or take back a release.");
    finding.place = unknowns[place].where;
    finding.mode = mode.number;
    if (end && size(*end) > 1e-3 * size(most[unknowns[*end].rotation ? 1 : 0])) {
        const auto& members = solution.structure->frame.members;
        for (std::size_t at = 0; at < members.size(); ++at)
            if (members[at].name == unknowns[*end].where)
                finding.sentence = solution.structure->members[at].releaseSentence;
    }
    return finding;
}

/// The first few of many names.
std::string someOf(const std::vector<std::string>& names)
{
    std::string all;
    for (std::size_t at = 0; at < names.size() && at < 4; ++at)
        all += (at == 0 ? "" : ", ") + names[at];
    if (names.size() > 4) all += fmt::format(" and {} more", names.size() - 4);
    return all;
}

/// Motions that are loose for one and the same reason are one finding, with the places.
void loosenesses(const Solution& solution, Findings& findings)
{
    std::vector<std::pair<Finding, std::vector<std::string>>> found;
    std::vector<int> counts;
    for (const auto& mode : solution.modes) {
        if (!mode.mechanism) continue;
        Finding own = looseness(solution, mode);
        std::size_t at = 0;
        while (at < found.size() && found[at].first.sentence != own.sentence)
            ++at;
        if (at == found.size()) {
            found.emplace_back(own, std::vector<std::string>{});
            counts.push_back(0);
        }
        ++counts[at];
        auto& places = found[at].second;
        if (std::find(places.begin(), places.end(), own.place) == places.end()) places.push_back(own.place);
    }
    for (std::size_t at = 0; at < found.size(); ++at) {
        auto& [finding, places] = found[at];
        finding.what += counts[at] == 1 ? fmt::format(" (mode {})", finding.mode)
                                        : fmt::format(" (mode {} and {} more)", finding.mode, counts[at] - 1);
        finding.place = someOf(places);
        findings.push_back(std::move(finding));
    }
}

/// Members and sheets that end on a solid without turning with it: its nodes have no turns to share.
void hingesOnSolids(const Solution& solution, Findings& findings)
{
    const FrameMesh& mesh = solution.mesh;
    const Frame& frame = solution.structure->frame;
    std::vector<int> solidAt(mesh.nodes.size(), -1);
    for (const auto& solid : mesh.solids)
        for (std::size_t node = 0; node < solid.count(); ++node)
            solidAt[static_cast<std::size_t>(solid.nodes[node])] = solid.solid;
    std::set<std::pair<std::string, int>> said;
    const auto say = [&](const std::string& part, const std::string& sentence, int solid) {
        if (solid < 0 || !said.insert({part, solid}).second) return;
        findings.push_back(warningAt(sentence,
                                     fmt::format("{} is hinged to {}: a solid's nodes take forces, but no moments",
                                                 part, frame.solids[static_cast<std::size_t>(solid)].name),
                                     "Let it run into the solid as a solid itself, or along a face of it."));
    };
    std::vector<char> ofSheet(mesh.nodes.size(), 0);
    for (const auto& shell : mesh.shells) {
        int common = -1;
        std::size_t count = 0;
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            const auto node = static_cast<std::size_t>(shell.nodes[corner]);
            ofSheet[node] = 1;
            if (solidAt[node] >= 0) {
                common = solidAt[node];
                ++count;
            }
        }
        const Sheet& sheet = frame.sheets[static_cast<std::size_t>(shell.sheet)];
        if (count > 0 && count < shell.corners()) say(sheet.name, sheet.sentence, common);
    }
    for (const auto& element : mesh.elements)
        for (const int node : element.nodes)
            if (const auto at = static_cast<std::size_t>(node); solidAt[at] >= 0 && !ofSheet[at]) {
                const FrameMember& member = frame.members[static_cast<std::size_t>(element.member)];
                say(member.name, member.sentence, solidAt[at]);
            }
}

Findings findingsOf(const Solution& solution, const Extraction& extraction, const std::vector<MissingMass>& lacking)
{
    Findings findings;
    const Structure& structure = *solution.structure;
    findings.insert(findings.end(), solution.mesh.problems.begin(), solution.mesh.problems.end());
    if (!solution.mesh.solids.empty()) hingesOnSolids(solution, findings);
    if (extraction.rigid > 0)
        findings.push_back(
            warningAt({},
                      fmt::format("the structure is not fully held: {} rigid motion{} cost{} no energy",
                                  extraction.rigid, extraction.rigid == 1 ? "" : "s", extraction.rigid == 1 ? "s" : ""),
                      "They stand in the bracket at 0 Hz. Hold it, if it is not meant to float."));
    const auto uneven = stiffestPlace(*solution.system);
    if (!uneven) loosenesses(solution, findings);
    if (const auto& idle = solution.system->motions.idle; !idle.empty())
        findings.push_back(noteAt({},
                                  fmt::format("{} freely with neither stiffness nor mass, which is left out: {}",
                                              idle.size() == 1 ? std::string("one point turns or shifts")
                                                               : fmt::format("{} points turn or shift", idle.size()),
                                              someOf(idle)),
                                  "No mode depends on it."));
    if (solution.count.expected >= 0 && !solution.count.proven)
        findings.push_back(errorAt({}, "only " + wordsOf(solution.count), "Ask for more modes and solve again."));
    for (std::size_t at = 0; at < solution.handChecks.size(); ++at) {
        const HandEstimate& hand = solution.handChecks[at];
        if (hand.frequency > 0.0) continue;
        const bool loose = !solution.modes.empty() && (solution.modes[0].rigid || solution.modes[0].mechanism);
        findings.push_back(warningAt(hand.sentence,
                                     loose ? "no hand check: what moves freely gives a load no answer"
                                           : "no hand check: the point is held in that direction, or nothing moves with it",
                                     loose ? "Hold the structure." : "Load a point that can move."));
    }
    const auto coarse = std::count_if(solution.modes.begin(), solution.modes.end(),
                                      [](const Mode& mode) { return !mode.judged() && mode.meshErrorEither > mostTold; });
    if (coarse > 0)
        findings.push_back(warningAt({},
                                     fmt::format("the mesh is too coarse for {} to tell how far off {}",
                                                 coarse == 1 ? std::string("one mode") : fmt::format("{} modes", coarse),
                                                 coarse == 1 ? "it is" : "they are"),
                                     "Give smaller elements, or let the mesh be refined (a sentence in Ask)."));
    if (solution.count.cutHz > 0.0)
        findings.push_back(warningAt(structure.ask.sentence,
                                     fmt::format("{} modes are the most that may be found, and they end at {} Hz: more "
                                                 "lie below the {} Hz that was asked",
                                                 structure.ask.count, rounded(solution.count.lastHz, 4),
                                                 rounded(solution.count.cutHz, 4)),
                                     "Allow more modes, or ask for a lower frequency."));
    if (solution.count.expected < 0 && !extraction.ritz && !solution.stopped) // of a stop is said elsewhere
        findings.push_back(structure.ask.prove
                               ? warningAt({}, "the count of modes could not be made; none missed is not proven")
                               : noteAt({}, "the modes were not counted, as asked: one may be missing",
                                        "Switch the sentence off that leaves out the proof, and solve again."));
    for (Eigen::Index at = extraction.rigid + extraction.mechanisms; at < extraction.lambda.size(); ++at) {
        const auto& mode = solution.modes[static_cast<std::size_t>(at)];
        const double reach = 1e-13 * mode.lambda /
                             solution.modes[static_cast<std::size_t>(extraction.rigid + extraction.mechanisms)].lambda;
        if (!extraction.ritz && mode.acceptedError > std::max(structure.ask.tolerance, reach) && mode.acceptedError > 10.0 * mode.floor)
            findings.push_back(
                warningAt({}, fmt::format("mode {} is accurate to {:.1g} only", mode.number, mode.acceptedError)));
    }
    const Eigen::Index first = extraction.rigid + extraction.mechanisms;
    const double floor = first < extraction.lambda.size() ? extraction.floor[first] : 1.0;
    if (uneven) {
        findings.push_back(warningAt({},
                                     fmt::format("the part at {} is so much stiffer than the rest that about {:.0f} "
                                                 "digits of the lowest frequency are left",
                                                 *uneven, std::max(0.0, -std::log10(floor))),
                                     "Tie its points rigidly instead of making it very stiff."));
    }
    if (structure.ask.until == Ask::Until::massShare && !solution.stopped &&
        !targetReached(solution.participation, structure.ask, solution.participation.effective.rows())) {
        const Participation& participation = solution.participation;
        const Eigen::Index last = participation.effective.rows() - 1;
        std::string shares;
        bool outOfReach = true; // with every mode there is
        for (int direction = 0; direction < 3; ++direction) {
            if (!structure.ask.directions[static_cast<std::size_t>(direction)]) continue;
            const double all = participation.movable[direction] / std::max(participation.total[direction], 1e-300);
            const double now = last < 0 ? 0.0 : participation.sumFor(structure.ask, last, direction);
            const double target = structure.ask.target(direction);
            if (now >= target) continue;
            const bool held = !structure.ask.ofMovable && all < target;
            outOfReach = outOfReach && held;
            shares += fmt::format("{}{} {:.0f} of {:.0f} %", shares.empty() ? "" : ", ", "XYZ"[direction], 100.0 * now,
                                  100.0 * target);
            if (held)
                shares += fmt::format(" (it can reach {:.1f} % of the total: {:.1f} % of the mass moves with the supports on this mesh)",
                                      100.0 * all, 100.0 * (1.0 - all));
        }
        findings.push_back(
            warningAt(structure.ask.sentence,
                      fmt::format("the target is not reached with {} modes: {}", solution.modes.size(), shares),
                      outOfReach ? "Take the share of the movable mass, or a lower target." : "Ask for more modes."));
        for (const auto& missing : lacking) {
            std::string more = fmt::format("{}: the {:.0f} % that is still wanted lies mostly between {} and {} Hz",
                                           "XYZ"[missing.direction], 100.0 * missing.share, rounded(missing.lowHz, 2),
                                           rounded(missing.highHz, 2));
            if (missing.modesBelow >= 0)
                more += fmt::format(
                    ", about {} modes more",
                    std::max<std::int64_t>(1, missing.modesBelow - static_cast<std::int64_t>(solution.modes.size())));
            findings.push_back(noteAt(structure.ask.sentence, more,
                                      fmt::format("An estimate from a short run; its upper end is sure to {} Hz.",
                                                  rounded(std::max(missing.spreadHz, 1e-3), 2))));
        }
    }
    if (structure.ask.residual && solution.residual.loads > 0 && extraction.mechanisms > 0)
        findings.push_back(warningAt(structure.ask.residual->sentence,
                                     "no residual vectors: what is loose has no static answer to a load",
                                     "Hold it, or take back a release."));
    if (structure.ask.residual && extraction.ritz)
        findings.push_back(noteAt(structure.ask.residual->sentence,
                                  "no residual vectors: Ritz vectors hold the static answers to their loads already"));
    // Thin open sections are stiffer in twisting than Saint-Venant's theory says.
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        double twisting = 0.0;
        for (std::size_t row = 0; row < solution.energies.rows.size(); ++row) {
            const auto& energy = solution.energies.rows[row];
            if (energy.kind == PartKind::member &&
                structure.frame.members[static_cast<std::size_t>(energy.owner)].section->thinOpen)
                twisting += solution.energies.twisting(static_cast<Eigen::Index>(row), static_cast<Eigen::Index>(at));
        }
        if (twisting > 0.2)
            findings.push_back(warningAt(
                {},
                fmt::format("mode {}: warping is left out: the true frequency is higher", solution.modes[at].number),
                fmt::format("{:.0f} % of its strain energy twists thin open sections.", 100.0 * twisting)));
    }
    return findings;
}

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
    nameShapes(*structure, pass.mesh, *pass.system, extraction, solution->energies, solution->modes);
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
    if (sheetElements(structure, sizes, false) <= most) {
        const auto& finest = *std::min_element(structure.localSizes.begin(), structure.localSizes.end(),
                                               [](const auto& a, const auto& b) { return a.size < b.size; });
        return errorAt(
            finest.sentence,
            fmt::format("elements of {:.3g} mm there would make about {:.2g} million of them; {:.0f} million "
                        "are the most",
                        1e3 * finest.size, elements / 1e6, most / 1e6),
            fmt::format("Make them about {:.2g} mm large.", 1e3 * finest.size * elements / most));
    }
    const auto finest =
        static_cast<std::size_t>(std::min_element(sizes.ofPart.begin(), sizes.ofPart.end()) - sizes.ofPart.begin());
    return errorAt(
        structure.frame.partSentence(static_cast<int>(finest)),
        fmt::format("elements of {:.3g} mm on {} would make about {:.2g} million of them; {:.0f} million are the most",
                    1e3 * sizes.ofPart[finest], structure.frame.partName(static_cast<int>(finest)), elements / 1e6,
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
        const MeshPlan finer{refinedSplits(structure, pass.mesh, errors.members, goal.within / 2.0),
                             refinedSizes(structure, pass.mesh, pass.extraction, errors)};
        if (structure.frame.faces && sheetElements(structure, finer.sizes) > 1e6) {
            remarks.push_back(warningAt(goal.sentence,
                                        "refined no further: it would take more than a million elements; " + reached(),
                                        "A mass or a support on a single place never settles; or ask for less."));
            return;
        }
        auto next = runPass(structure, finer, progress, listener, kept);
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

/// One run on a mesh that is given.
Result<std::shared_ptr<Solution>> runOnMesh(std::shared_ptr<const Structure> structure, const MeshPlan& plan,
                                            Progress& progress, const RunListener& listener, KeptRuns* kept)
{
    if (plan.splits.size() != structure->members.size() ||
        plan.sizes.ofPart.size() != structure->sheets.size() + structure->solids.size())
        return errorAt({}, "the mesh that was ordered is of another model", "Solve the model first.");
    if (auto refused = tooFine(*structure, plan.sizes)) return *refused;
    auto pass = runPass(*structure, plan, progress, listener, kept);
    if (!pass) return pass.findings();
    MeshErrors errors = judged(*structure, *pass, progress);
    return complete(structure, std::move(*pass), std::move(errors), progress, progress.stopped());
}

/// A whole run; the caller may still add to what it gives.
Result<std::shared_ptr<Solution>> run(std::shared_ptr<const Structure> structure, Progress& progress,
                                      const RunListener& listener, KeptRuns* kept)
{
    if (auto refused = tooFine(*structure, proposeSizes(*structure, 0.0))) return *refused;
    const double highest = guessedFrequency(*structure, progress, kept);
    const MeshPlan plan{proposeSplits(*structure, highest), proposeSizes(*structure, highest)};
    if (auto refused = tooFine(*structure, plan.sizes)) return *refused;
    auto pass = runPass(*structure, plan, progress, listener, kept);
    if (!pass) return pass.findings();
    Findings remarks;
    MeshErrors errors = judged(*structure, *pass, progress);
    if (progress.stopped() && pass->extraction.check.proven)
        remarks.push_back(noteAt({}, "stopped before the mesh was judged", "The mesh errors say how far to trust it."));
    if (!progress.stopped() && structure->ask.until != Ask::Until::all &&
        structure->ask.until != Ask::Until::ritz) { // whose highest are of the mesh alone
        const Splits finer = refinedSplits(*structure, pass->mesh, errors.members, refineAbove);
        const auto split = std::inner_product(finer.begin(), finer.end(), plan.splits.begin(), 0L, std::plus<>(),
                                              std::not_equal_to<>());
        if (split > 0) {
            auto second = runPass(*structure, {finer, plan.sizes}, progress, listener, kept);
            if (progress.stopped() && pass->extraction.check.proven && !(second && second->extraction.check.proven)) {
                remarks.push_back(noteAt({}, "stopped while solving once more on a finer mesh: these are the first run's",
                                         "The mesh errors say how far to trust them."));
            } else {
                if (!second) return second.findings();
                pass = std::move(second);
                errors = judged(*structure, *pass, progress);
                remarks.push_back(noteAt(
                    {}, fmt::format("{} member{} split into more elements after a first run and solved once more",
                                    split, split == 1 ? " was" : "s were")));
            }
        }
    }
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
    auto built = buildStructure(model);
    if (hasError(built.findings)) return built.findings;
    if (options.ask) {
        Ask ask = *options.ask;
        ask.byCaller = true;
        const Ask& own = built.structure.ask;
        ask.lumped = own.lumped;
        ask.elements = own.elements;
        ask.reference = own.reference;
        ask.tolerance = own.tolerance;
        ask.prove = own.prove;
        ask.residual = own.residual;
        ask.refine = own.refine;
        built.structure.ask = ask;
    }
    auto structure = std::make_shared<const Structure>(std::move(built.structure));
    auto ran = options.plan ? runOnMesh(structure, *options.plan, progress, listener, options.kept)
                            : run(structure, progress, listener, options.kept);
    if (!ran) return ran.findings();
    Solution& solution = **ran;
    solution.key = solveKey(model);
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
    measureResiduals(*pass.system, pass.extraction);
    pass.extraction.record.orthogonality = orthogonalityLoss(*pass.system, pass.extraction.shapes);
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
