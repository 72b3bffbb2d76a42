#include "core/modal/solution_findings.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/number_text.hpp"
#include "core/modal/answer_ask.hpp"
#include "core/picks/pick.hpp"

#include <fmt/format.h>

#include <set>

namespace undisona {

namespace {

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
    const auto say = [&](const std::string& part, const std::string& joined, const std::string& sentence, int solid) {
        if (solid < 0 || !said.insert({part, solid}).second) return;
        const std::string& body = frame.solids[static_cast<std::size_t>(solid)].name;
        findings.push_back(warningAt(
            sentence, fmt::format("{} is hinged to {}: a solid's nodes take forces, but no moments", part, body),
            "Join it to the solid, so that it turns with it, or say that it is hinged."));
        findings.back().cures = {{fmt::format("Join {} to {}", joined, body),
                                  {{"join", {}, {}, {{"what", joined}, {"other", quotedName(body)}}}}}};
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
        if (count > 0 && count < shell.corners())
            say(sheet.name, "edges of " + quotedName(sheet.name), sheet.sentence, common);
    }
    for (const auto& element : mesh.elements)
        for (const int node : element.nodes)
            if (const auto at = static_cast<std::size_t>(node); solidAt[at] >= 0 && !ofSheet[at]) {
                const FrameMember& member = frame.members[static_cast<std::size_t>(element.member)];
                say(member.name, quotedName(member.name), member.sentence, solidAt[at]);
            }
}

/// A mass whose own mode lies far below all others, as nothing stiff carries it.
void massesHardlyCarried(const Solution& solution, Findings& findings)
{
    constexpr double far = 20.0, nearlyAll = 0.9;
    const auto elastic = [](const Mode& mode) { return !mode.rigid && !mode.mechanism && !mode.ritz; };
    const auto first = std::find_if(solution.modes.begin(), solution.modes.end(), elastic);
    const auto& energies = solution.energies;
    if (first == solution.modes.end() || energies.kinetic.cols() != Eigen::Index(solution.modes.size())) return;
    std::map<std::string, std::vector<int>> low; // by the sentence of the mass that moves: numbers of modes
    for (auto mode = first; mode != solution.modes.end(); ++mode) {
        std::map<std::string, double> shares;
        for (std::size_t row = 0; row < energies.rows.size(); ++row)
            if (energies.rows[row].kind == PartKind::pointMass)
                shares[energies.rows[row].sentence] +=
                    energies.kinetic(Eigen::Index(row), mode - solution.modes.begin());
        const auto most = std::max_element(shares.begin(), shares.end(),
                                           [](const auto& a, const auto& b) { return a.second < b.second; });
        if (most == shares.end() || most->second < nearlyAll) {
            if (low.empty() || mode->frequency < far * std::prev(mode)->frequency) return;
            break;
        }
        low[most->first].push_back(mode->number);
        if (std::next(mode) == solution.modes.end()) return; // nothing to compare with
    }
    for (const auto& [sentence, numbers] : low)
        findings.push_back(warningAt(
            sentence,
            fmt::format("nothing stiff carries this mass: {} it moves alone, at {} Hz and far below all others",
                        numbers.size() == 1 ? fmt::format("in mode {}", numbers[0])
                                            : fmt::format("in {} modes", numbers.size()),
                        rounded(solution.modes[static_cast<std::size_t>(numbers[0] - 1)].frequency, 3)),
            "Join it to more, or check the units of its springs; right where it hangs on soft mounts."));
}

} // namespace

Findings findingsOf(const Solution& solution, const Extraction& extraction, const std::vector<MissingMass>& lacking)
{
    Findings findings;
    const Structure& structure = *solution.structure;
    findings.insert(findings.end(), solution.mesh.problems.begin(), solution.mesh.problems.end());
    if (!solution.mesh.solids.empty()) hingesOnSolids(solution, findings);
    massesHardlyCarried(solution, findings);
    if (extraction.rigid > 0)
        findings.push_back(
            warningAt({},
                      fmt::format("the structure is not fully held: {} rigid motion{} cost{} no energy",
                                  extraction.rigid, extraction.rigid == 1 ? "" : "s", extraction.rigid == 1 ? "s" : ""),
                      "They stand in the bracket at 0 Hz. Hold it, if it is not meant to float."));
    if (const Mask3& acts = structure.discretised.acts; !structure.discretised.allMassActs()) {
        std::string along;
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (acts[axis]) along += (along.empty() ? "" : " and ") + std::string(1, "xyz"[axis]);
        findings.push_back(noteAt({}, fmt::format("mass acts only along {}, as Ask has it", along),
                                  "Modes along other directions are not among these."));
    }
    const auto uneven = stiffestPlace(*solution.system);
    if (!uneven) loosenesses(solution, findings);
    for (const auto& sentence : solution.system->motions.vain)
        findings.push_back(warningAt(sentence, "what this ties is tied or held already, so that it joins nothing",
                                     "Take it away, or name what it was meant to tie."));
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
        findings.push_back(
            warningAt(hand.sentence,
                      loose ? "no hand check: what moves freely gives a load no answer"
                            : "no hand check: the point is held in that direction, or nothing moves with it",
                      loose ? "Hold the structure." : "Load a point that can move."));
    }
    const auto coarse = std::count_if(solution.modes.begin(), solution.modes.end(), [](const Mode& mode) {
        return !mode.judged() && mode.meshErrorEither > mostTold;
    });
    if (coarse > 0)
        findings.push_back(
            warningAt({},
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
        if (!extraction.ritz && mode.acceptedError > std::max(structure.ask.tolerance, reach) &&
            mode.acceptedError > 10.0 * mode.floor)
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
                shares += fmt::format(
                    " (it can reach {:.1f} % of the total: {:.1f} % of the mass moves with the supports on this mesh)",
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

} // namespace undisona
