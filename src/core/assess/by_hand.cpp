#include "core/assess/by_hand.hpp"

#include "core/assess/closed_forms.hpp"
#include "core/base/number_text.hpp"
#include "core/modal/moving_part.hpp"
#include "core/modal/part_form.hpp"
#include "core/modal/shape_name.hpp"
#include "core/modal/static_state.hpp"
#include "core/numerics/signed_factor.hpp"
#include "core/pencil/hertz.hpp"
#include "core/units/amplitude_text.hpp"
#include "core/units/unit.hpp"

#include <fmt/format.h>

#include <numbers>

namespace undisona {

namespace {

constexpr double tellsApart = 0.10;
constexpr double leastShare = 0.5; // of a static deflection's work
/// "pinned at both ends", "clamped and free at its ends".
std::string endsInWords(BeamEnd one, BeamEnd other)
{
    const auto word = [](BeamEnd end) {
        return end == BeamEnd::free ? "free" : end == BeamEnd::pinned ? "pinned" : "clamped";
    };
    return one == other ? fmt::format("{} at both ends", word(one))
                        : fmt::format("{} and {} at its ends", word(one), word(other));
}

class HandReader {
public:
    HandReader(const Solution& solution, const DisplayUnits& units, Progress& progress)
        : solution_(solution), structure_(*solution.structure), frame_(structure_.frame), units_(units),
          progress_(progress)
    {
    }

    HandReading read()
    {
        progress_.stage("by hand");
        const auto elastic = [](const Mode& mode) { return mode.lambda > 0.0 && !mode.ritz; };
        if (std::none_of(solution_.modes.begin(), solution_.modes.end(), elastic)) {
            found_.findings.push_back(noteAt({}, "there is no mode above 0 Hz to check by hand"));
            return std::move(found_);
        }
        straightBeam();
        partsByThemselves();
        if (!progress_.stopped()) byStatics();
        std::stable_sort(found_.checks.begin(), found_.checks.end(),
                         [](const auto& a, const auto& b) { return a.mode < b.mode; });
        return std::move(found_);
    }

private:
    std::string text(double si, QuantityKind kind) const { return units_.text(si, kind, 3); }

    /// Puts it beside the mode; `explains` says what may explain a difference, empty if nothing does.
    void add(HandComparison check, const std::string& explains)
    {
        check.computed = solution_.modes[static_cast<std::size_t>(check.mode - 1)].frequency;
        check.off = check.within() ? 0.0 : check.computed / (check.computed < check.low ? check.low : check.high) - 1.0;
        if (std::abs(check.off) > tellsApart) {
            check.flagged = explains.empty();
            check.why = explains.empty() ? "nothing that is known here explains it" : explains;
        }
        found_.checks.push_back(std::move(check));
    }

    // What a static solve tells.

    void byStatics()
    {
        const bool loose = solution_.modes[0].rigid || solution_.modes[0].mechanism;
        if (loose) {
            found_.findings.push_back(
                noteAt({}, "what moves freely comes to no rest: no check by its own weight or by a load"));
            return;
        }
        const System system = systemOf(structure_, solution_.mesh, progress_);
        if (progress_.stopped()) return;
        progress_.stage("factorise");
        const auto factor = SignedFactor::definite(system.stiffness);
        if (!factor || progress_.stopped()) return;
        progress_.stage("by hand");
        const BorderedSolve solve(&system.apart, [&](const Eigen::MatrixXd& x) { return factor->solve(x); });
        const Eigen::MatrixXd loads = system.baseLoads(Eigen::Vector3d::Zero());
        for (int axis = 0; axis < 3; ++axis)
            if (loads.col(axis).norm() > 0.0)
                underItsWeight(system, loads.col(axis), solve(loads.col(axis)).col(0), axis);
        atLiveliest(system, [&](const Eigen::VectorXd& load) { return Eigen::VectorXd(solve(load).col(0)); });
    }

    /// Of the work of a load on its static deflection what is a mode's: (phi' f)2 / lambda.
    double shareOf(std::size_t mode, const Eigen::VectorXd& load, double work) const
    {
        const double part = solution_.shapes.col(static_cast<Eigen::Index>(mode)).dot(load);
        return part * part / solution_.modes[mode].lambda / work;
    }

    /// Whose share is the largest, and that.
    std::pair<std::size_t, double> mainModeOf(const Eigen::VectorXd& load, double work) const
    {
        std::pair<std::size_t, double> most{0, 0.0};
        for (std::size_t mode = 0; mode < solution_.modes.size(); ++mode) {
            if (!(solution_.modes[mode].lambda > 0.0)) continue;
            if (const double own = shareOf(mode, load, work); own > most.second) most = {mode, own};
        }
        return most;
    }

    /// The energies of its deflection u under mass that pulls along an axis with 1 m/s2.
    void underItsWeight(const System& system, const Eigen::VectorXd& load, const Eigen::VectorXd& u, int axis)
    {
        const double work = load.dot(u), moving = u.dot((system.mass * u).col(0));
        if (!(work > 0.0) || !(moving > 0.0)) return;
        double most = 0.0;
        for (std::size_t node = 0; node < solution_.mesh.nodes.size(); ++node)
            most = std::max(most, std::abs(system.motionOf(static_cast<int>(node), u)[axis]));
        const auto [mode, share] = mainModeOf(load, work);
        if (share < leastShare) return; // of many modes: it tells nothing of one
        HandComparison check;
        check.mode = solution_.modes[mode].number;
        check.high = toHertz(work / moving);
        check.low = std::min(check.high, 1.0 / std::sqrt(most) / (2.0 * std::numbers::pi));
        check.of = fmt::format("own weight along {}: {} at most", "xyz"[axis],
                               amplitudeText(standardGravity * most, QuantityKind::length, units_));
        check.by = "from sqrt(g / delta) to the energies of that deflection (Rayleigh)";
        const double lowest = lowestHertz();
        if (check.high < lowest * (1.0 - 1e-6)) {
            check.flagged = true;
            check.computed = solution_.modes[mode].frequency;
            check.off = check.computed / check.high - 1.0;
            check.why =
                fmt::format("no shape can swing below the lowest mode, at {} Hz: stiffness, mass and modes do not "
                            "belong together",
                            rounded(lowest, 4));
            found_.checks.push_back(std::move(check));
            return;
        }
        add(std::move(check), share < 0.9
                                  ? fmt::format("the deflection is to {:.0f} % that of mode {}, the rest of others",
                                                100.0 * share, solution_.modes[mode].number)
                                  : std::string());
    }

    double lowestHertz() const
    {
        for (const Mode& mode : solution_.modes)
            if (mode.lambda > 0.0) return mode.frequency;
        return 0.0;
    }

    /// Stiffness and moving mass at the point that moves most, along its motion, of the first modes that matter.
    template <class Solve>
    void atLiveliest(const System& system, const Solve& solve)
    {
        int made = 0;
        for (std::size_t mode = 0; mode < solution_.modes.size() && made < 3; ++mode) {
            const Mode& own = solution_.modes[mode];
            if (!(own.lambda > 0.0) || !(own.matters[0] || own.matters[1] || own.matters[2])) continue;
            int point = -1;
            double most = 0.0;
            for (std::size_t at = 0; at < frame_.points.size(); ++at)
                if (const double size = solution_.motion(static_cast<int>(at), mode).head<3>().norm(); size > most) {
                    most = size;
                    point = static_cast<int>(at);
                }
            if (point < 0 || progress_.stopped()) continue;
            const Eigen::Vector3d way = solution_.motion(point, mode).head<3>() / most;
            const auto& node = system.motions.nodes[static_cast<std::size_t>(point)];
            Eigen::VectorXd load = Eigen::VectorXd::Zero(system.size());
            for (std::size_t at = 0; at < node.unknowns.size(); ++at)
                load[node.unknowns[at]] += way.dot(node.basis.col(static_cast<Eigen::Index>(at)).template head<3>());
            if (!(load.norm() > 0.0)) continue;
            const Eigen::VectorXd u = solve(load);
            const double gives = load.dot(u), moving = u.dot((system.mass * u).col(0)) / (gives * gives);
            if (!(gives > 0.0) || !(moving > 0.0)) continue;
            const double ofThis = shareOf(mode, load, gives);
            if (ofThis < leastShare) continue;
            ++made;
            HandComparison check;
            check.mode = own.number;
            check.low = check.high = toHertz(1.0 / gives / moving);
            check.of = fmt::format(
                "{} at {} along its motion, where {} move with it", text(1.0 / gives, QuantityKind::stiffness),
                frame_.points[static_cast<std::size_t>(point)].name, text(moving, QuantityKind::mass));
            check.by = "sqrt(k / m), the mass by the energies of the deflected shape (Rayleigh)";
            add(std::move(check),
                ofThis < 0.9
                    ? fmt::format("a load there bends other modes too: the deflection is to {:.0f} % that of mode {}",
                                  100.0 * ofThis, own.number)
                    : std::string());
        }
    }

    // Closed forms.

    /// Of a member: its length as it is meshed, stiffness in bending by the axis along which it moves, mass per length.
    struct Uniform {
        double length = 0.0, massPerLength = 0.0;
        std::array<double, 2> bending{}; ///< that move it along axis 1 and 2
        Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
        double radius = 0.0; ///< of inertia, the larger, m
    };
    Uniform uniformOf(int member) const
    {
        Uniform own;
        for (const auto& element : solution_.mesh.elements) {
            if (element.member != member) continue;
            const OwnMember one = memberOf(structure_, solution_.mesh, element);
            own.length += one.element.length;
            own.massPerLength = one.element.massPerLength;
            own.bending = {one.element.bending[1], one.element.bending[0]};
            own.axes = one.axes;
            own.radius = std::sqrt(std::max(one.element.bending[0], one.element.bending[1]) / one.element.axial);
        }
        for (const auto& attachment : structure_.attachments)
            if (attachment.effect == Attachment::Effect::mass && attachment.over == Target::member &&
                attachment.at == member)
                own.massPerLength += attachment.perExtent();
        return own;
    }

    /// Which of its axes it moves along where it moves most; nothing where along both.
    std::optional<int> movesAlong(int member, std::size_t mode, const Eigen::Matrix3d& axes) const
    {
        Eigen::Vector3d moves = Eigen::Vector3d::Zero();
        for (const auto& element : solution_.mesh.elements)
            if (element.member == member)
                for (const int node : element.nodes)
                    if (const Eigen::Vector3d own = solution_.motion(node, mode).head<3>(); own.norm() > moves.norm())
                        moves = own;
        const double one = std::abs(moves.dot(axes.col(1))), two = std::abs(moves.dot(axes.col(2)));
        if (one > 4.0 * two) return 0;
        if (two > 4.0 * one) return 1;
        return std::nullopt;
    }

    bool isReleased(int member, int end) const
    {
        const auto& own = structure_.members[static_cast<std::size_t>(member)];
        const auto at = static_cast<std::size_t>(6 * end);
        return own.rod || (own.released[at + 4] && own.released[at + 5] && own.releaseSpring[at + 4] == 0.0 &&
                           own.releaseSpring[at + 5] == 0.0);
    }

    /// What a point of a member moves in a mode, as a share of what the member does at most.
    double endMoves(int point, int member, std::size_t mode) const
    {
        double most = 0.0;
        for (const auto& element : solution_.mesh.elements)
            if (element.member == member)
                for (const int node : element.nodes)
                    most = std::max(most, solution_.motion(node, mode).head<3>().norm());
        return solution_.motion(point, mode).head<3>().norm() / std::max(most, 1e-300);
    }

    /// Members and rectangles of sheet that move by themselves.
    void partsByThemselves()
    {
        const MassPoints points = massPoints(structure_, solution_.mesh);
        std::set<std::string> told; // one of each kind: its twins have the same figures
        for (std::size_t at = 0; at < solution_.modes.size() && !progress_.stopped(); ++at) {
            const Mode& mode = solution_.modes[at];
            if (!(mode.lambda > 0.0) || mode.ritz) continue;
            if (mode.part.empty()) { // most of the structure: of one sheet that
                if (frame_.parts() == 1 && frame_.sheets.size() == 1 && frame_.members.empty())
                    plateByItself(0, at, told);
                continue;
            }
            Motions motion;
            for (std::size_t node = 0; node < solution_.mesh.nodes.size(); ++node)
                motion.push_back(solution_.motion(static_cast<int>(node), at));
            const bool twists = mode.motion.find("twisting") != std::string::npos;
            const MovingPart part =
                movingPart(structure_, points, solution_.energies, motion, static_cast<Eigen::Index>(at), twists);
            if (part.mostly || twists) continue;
            if (!part.members.empty() && mode.motion.find("bending") != std::string::npos)
                memberByItself(part.members.front(), at, told);
            else if (part.parts.size() == 1)
                plateByItself(part.parts.front(), at, told);
        }
    }

    void memberByItself(int member, std::size_t at, std::set<std::string>& told)
    {
        const Mode& mode = solution_.modes[at];
        const auto& drawn = frame_.members[static_cast<std::size_t>(member)];
        const Uniform own = uniformOf(member);
        const auto along = movesAlong(member, at, own.axes);
        if (!along && std::abs(own.bending[0] / own.bending[1] - 1.0) > 0.02) return;
        const double stiffness = own.bending[static_cast<std::size_t>(along.value_or(0))];
        std::array<BeamEnd, 2> low{}, high{};
        double moves = 0.0;
        for (const int end : {0, 1}) {
            const double gives = endMoves(end == 0 ? drawn.from : drawn.to, member, at);
            if (gives > 0.2 && gives < 0.5) return; // neither held nor free
            const auto which = static_cast<std::size_t>(end);
            moves = std::max(moves, gives > 0.5 ? 0.0 : gives);
            low[which] = gives > 0.5 ? BeamEnd::free : BeamEnd::pinned;
            high[which] = gives > 0.5 ? BeamEnd::free : isReleased(member, end) ? BeamEnd::pinned : BeamEnd::clamped;
        }
        const int order = std::max(1, orderTold(mode.motion));
        const bool hangs = low[0] == BeamEnd::free || low[1] == BeamEnd::free;
        if (low[0] == BeamEnd::free && low[1] == BeamEnd::free) return;
        // What hangs from a pin swings freely first, and bends from the next on.
        const double least = !hangs       ? beamRoot(low[0], low[1], order)
                             : order == 1 ? 0.0
                                          : beamRoot(BeamEnd::pinned, BeamEnd::free, order - 1);
        HandComparison check;
        check.mode = mode.number;
        check.low = beamFrequency(least, own.length, stiffness, own.massPerLength);
        check.high = beamFrequency(beamRoot(high[0], high[1], order), own.length, stiffness, own.massPerLength);
        const bool one = check.high < 1.0001 * check.low;
        check.of = fmt::format("{}, {}, {}", drawn.name, text(own.length, QuantityKind::length),
                               one ? endsInWords(low[0], low[1])
                                   : std::string("between pinned and clamped where it is joined"));
        if (!told.insert(fmt::format("{} {} {}", mode.part, order, check.high)).second) return;
        check.by = "(beta / L)2 / 2 pi sqrt(EI / m), a uniform beam (Blevins 1979, table 8-1)";
        const double slender = own.length / std::max(own.radius, 1e-12) / order;
        add(std::move(check),
            moves > 0.05     ? fmt::format("its joints move too, by {:.0f} % of what it does", 100.0 * moves)
            : slender < 25.0 ? fmt::format("it is stocky (L / r {:.0f} to a wave): shear softens it", slender)
                             : std::string());
    }

    void plateByItself(int part, std::size_t at, std::set<std::string>& told)
    {
        const Mode& mode = solution_.modes[at];
        int m = 0, n = 0;
        char rest[24] = {};
        if (std::sscanf(mode.motion.c_str(), "%d by %d half-%10s", &m, &n, rest) != 3) return;
        if (part >= static_cast<int>(frame_.sheets.size()) || std::string(rest).substr(0, 5) != "waves") return;
        const Sheet& sheet = frame_.sheets[static_cast<std::size_t>(part)];
        const SheetProperties& properties = structure_.sheets[static_cast<std::size_t>(part)];
        const Material& material = *properties.material;
        if (sheet.taper || material.layers || material.grain || properties.membrane) return;
        const auto formed = formedPart(frame_, solution_.mesh, part);
        if (!formed || formed->form.kind != PartForm::Kind::rectangle) return;
        Eigen::Vector2d low = Eigen::Vector2d::Constant(1e300), high = -low;
        for (const int node : formed->nodes) {
            const Eigen::Vector3d own =
                formed->form.axes.transpose() *
                (solution_.mesh.nodes[static_cast<std::size_t>(node)].place - formed->form.origin);
            low = low.cwiseMin(own.head<2>());
            high = high.cwiseMax(own.head<2>());
        }
        const Eigen::Vector2d sides = high - low;
        double perArea = properties.density() * sheet.thickness;
        for (const auto& attachment : structure_.attachments)
            if (attachment.effect == Attachment::Effect::mass && attachment.over == Target::sheet &&
                attachment.at == part)
                perArea += attachment.perExtent();
        const double stiffness =
            material.modulus * std::pow(sheet.thickness, 3) / 12.0 / (1.0 - material.poisson * material.poisson);
        HandComparison check;
        check.mode = mode.number;
        check.low = plateFrequency(false, sides.x(), sides.y(), m, n, stiffness, perArea);
        check.high = plateFrequency(true, sides.x(), sides.y(), m, n, stiffness, perArea);
        check.of = fmt::format("{}, {} by {}, {} thick, edges between pinned and clamped", sheet.name,
                               text(sides.x(), QuantityKind::length), text(sides.y(), QuantityKind::length),
                               amplitudeText(sheet.thickness, QuantityKind::length, units_));
        if (!told.insert(fmt::format("plate {} {} {}", sheet.name, m, n)).second) return;
        check.by = "a uniform rectangle, pinned exactly, clamped by beam functions (Warburton 1954)";
        // Other parts that take part, or stand on it.
        double others = 0.0;
        for (std::size_t row = 0; row < solution_.energies.rows.size(); ++row)
            if (const auto& of = solution_.energies.rows[row]; !(of.kind == PartKind::sheet && of.owner == part))
                others += solution_.energies.strain(static_cast<Eigen::Index>(row), static_cast<Eigen::Index>(at));
        add(std::move(check),
            others > 0.1
                ? fmt::format("other parts have {:.0f} % of the energy: they hold it, or move with it", 100.0 * others)
                : std::string());
    }

    /// One straight run of one section, alone, held at its ends or free: nothing else to be known.
    void straightBeam()
    {
        if (frame_.parts() > 0 || frame_.members.empty() || !structure_.springs.empty() ||
            !structure_.pointMasses.empty())
            return;
        const auto& first = frame_.members.front();
        const Eigen::Vector3d way = frame_.direction(first);
        for (std::size_t at = 0; at < frame_.members.size(); ++at) {
            const auto& own = frame_.members[at];
            const auto& properties = structure_.members[at];
            if (own.section->text != first.section->text || own.section->shape == SectionShape::given ||
                std::abs(frame_.direction(own).dot(way)) < 1.0 - 1e-9 || properties.rod ||
                !properties.releaseSentence.empty() ||
                properties.material->name != structure_.members[0].material->name || !properties.offset[0].isZero() ||
                !properties.offset[1].isZero())
                return;
        }
        std::map<double, int> along; // points by where they are
        for (const auto& own : frame_.members)
            for (const int point : {own.from, own.to})
                along[std::round(1e6 * way.dot(frame_.points[static_cast<std::size_t>(point)].place))] = point;
        if (along.size() != frame_.members.size() + 1) return;
        const std::array<int, 2> ends{along.begin()->second, along.rbegin()->second};
        for (const auto& attachment : structure_.attachments)
            if (attachment.effect == Attachment::Effect::stiffness) return;
        if (!structure_.contacts.empty()) return;
        for (const auto& hold : structure_.holds)
            if (hold.point() != ends[0] && hold.point() != ends[1]) return;
        Uniform own = uniformOf(0);
        own.length = (along.rbegin()->first - along.begin()->first) * 1e-6;
        for (std::size_t at = 0; at < frame_.members.size(); ++at)
            if (std::abs(uniformOf(static_cast<int>(at)).massPerLength / own.massPerLength - 1.0) > 1e-6) return;
        for (std::size_t at = 0; at < solution_.modes.size(); ++at)
            beamMode(at, own, ends);
    }

    void beamMode(std::size_t at, const Uniform& own, const std::array<int, 2>& ends)
    {
        const Mode& mode = solution_.modes[at];
        const int order = orderTold(mode.motion);
        if (!(mode.lambda > 0.0) || order == 0 || mode.motion.find("bending") == std::string::npos) return;
        int liveliest = 0;
        double most = 0.0, turns = 0.0;
        for (std::size_t node = 0; node < solution_.mesh.nodes.size(); ++node) {
            const Vector6 moves = solution_.motion(static_cast<int>(node), at);
            turns = std::max(turns, moves.tail<3>().norm());
            if (moves.head<3>().norm() <= most) continue;
            most = moves.head<3>().norm();
            liveliest = static_cast<int>(node);
        }
        const Eigen::Vector3d moves = solution_.motion(liveliest, at).head<3>() / most;
        const double one = std::abs(moves.dot(own.axes.col(1)));
        if (one > 0.1 && one < 0.99 && std::abs(own.bending[0] / own.bending[1] - 1.0) > 0.02) return;
        std::array<BeamEnd, 2> held{};
        for (std::size_t end = 0; end < 2; ++end) {
            const Vector6 there = solution_.motion(ends[end], at);
            const double gives = there.head<3>().norm() / most, turn = there.tail<3>().norm() / std::max(turns, 1e-300);
            if (gives > 1e-6 && gives < 0.5) return; // on something elastic
            held[end] = gives > 0.5 ? BeamEnd::free : turn > 1e-6 ? BeamEnd::pinned : BeamEnd::clamped;
        }
        HandComparison check;
        check.mode = mode.number;
        check.low = check.high = beamFrequency(beamRoot(held[0], held[1], order), own.length,
                                               own.bending[one > 0.5 ? 0 : 1], own.massPerLength);
        check.of = fmt::format("a uniform beam of {}, {}", text(own.length, QuantityKind::length),
                               endsInWords(held[0], held[1]));
        check.by = "(beta / L)2 / 2 pi sqrt(EI / m) (Blevins 1979, table 8-1), without shear";
        const double slender = own.length / std::max(own.radius, 1e-12) / order;
        add(std::move(check),
            slender < 25.0
                ? fmt::format("it is stocky (L / r {:.0f} to a wave): shear and rotary inertia lower it", slender)
                : std::string());
    }

    const Solution& solution_;
    const Structure& structure_;
    const Frame& frame_;
    const DisplayUnits& units_;
    Progress& progress_;
    HandReading found_;
};

} // namespace

HandReading byHand(const Solution& solution, const DisplayUnits& units, Progress& progress)
{
    return HandReader(solution, units, progress).read();
}

} // namespace undisona
