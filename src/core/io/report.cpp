#include "core/io/report.hpp"

#include "core/assess/mass_book.hpp"
#include "core/assess/pairing.hpp"
#include "core/base/number_text.hpp"
#include "core/io/export.hpp"
#include "core/io/hand_table.hpp"
#include "core/io/rest_table.hpp"
#include "core/io/stress_table.hpp"
#include "core/io/tolerance_table.hpp"
#include "core/model/differences.hpp"
#include "core/model/takes.hpp"
#include "core/statement/touching.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

struct PartWords {
    ReportPart part;
    std::string_view key;
    const char* words;
};
constexpr std::array<PartWords, 11> partWords{{{ReportPart::verdict, "verdict", "the verdict"},
                                               {ReportPart::model, "model", "the model in its own words"},
                                               {ReportPart::mass, "mass", "where every kilogram comes from"},
                                               {ReportPart::rest, "rest", "at rest under its loads"},
                                               {ReportPart::modes, "modes", "the modes and the mass that takes part"},
                                               {ReportPart::shapes, "shapes", "pictures of modes"},
                                               {ReportPart::clashes, "clashes", "excitations against modes"},
                                               {ReportPart::tolerances, "tolerances", "what is not known exactly"},
                                               {ReportPart::takes, "takes", "takes and states beside it"},
                                               {ReportPart::proof, "proof", "how the modes were found"},
                                               {ReportPart::findings, "findings", "what is odd or assumed"}}};

const PartWords& rowOf(ReportPart part)
{
    return partWords[static_cast<std::size_t>(part)];
}

class ReportWriter {
    using Kind = ReportBlock::Kind;

public:
    ReportWriter(const ReportSource& source, const ReportOrder& order)
        : from_(source), order_(order), solution_(source.solution), units_(source.document.units)
    {
    }

    Report write()
    {
        report_.title = from_.document.name;
        report_.subtitle = from_.take.empty()
                               ? "natural frequencies, mode shapes, and what shakes them"
                               : fmt::format("{}: natural frequencies, mode shapes, and what shakes them", from_.take);
        const std::pair<ReportPart, void (ReportWriter::*)()> all[] = {
            {ReportPart::verdict, &ReportWriter::verdict},  {ReportPart::model, &ReportWriter::model},
            {ReportPart::mass, &ReportWriter::mass},        {ReportPart::rest, &ReportWriter::rest},
            {ReportPart::modes, &ReportWriter::modes},      {ReportPart::shapes, &ReportWriter::shapes},
            {ReportPart::clashes, &ReportWriter::clashes},  {ReportPart::tolerances, &ReportWriter::tolerances},
            {ReportPart::takes, &ReportWriter::takes},      {ReportPart::proof, &ReportWriter::proof},
            {ReportPart::findings, &ReportWriter::findings}};
        for (const auto& [part, writes] : all)
            if (!order_.without.contains(part)) (this->*writes)();
        return std::move(report_);
    }

private:
    void heading(const std::string& words) { report_.blocks.push_back({Kind::heading, words}); }
    void text(const std::string& words)
    {
        if (!words.empty()) report_.blocks.push_back({Kind::text, words});
    }
    void lines(std::vector<std::string> words)
    {
        if (!words.empty()) report_.blocks.push_back({.kind = Kind::lines, .text = {}, .lines = std::move(words)});
    }
    void table(std::vector<std::string> heads, std::vector<std::vector<std::string>> rows)
    {
        if (!rows.empty())
            report_.blocks.push_back(
                {.kind = Kind::table, .text = {}, .heads = std::move(heads), .rows = std::move(rows)});
    }
    const Mode& mode(int number) const { return solution_.modes[static_cast<std::size_t>(number - 1)]; }
    std::string nameOf(const Mode& one) const { return one.calledBy(solution_.structure->modeNames); }
    static std::string share(double of) { return of < 0.0005 ? "·" : fmt::format("{:.1f}", 100.0 * of); }
    std::string mass(double kg) const { return units_.text(kg, QuantityKind::mass, 5); }

    void verdict()
    {
        heading("Verdict");
        const auto clash = [](const ClashPair& pair) { return pair.verdict == Verdict::clash && !pair.weak; };
        const auto& pairs = from_.clashes.pairs;
        const auto count = std::count_if(pairs.begin(), pairs.end(), clash);
        if (solution_.ritz)
            text("Ritz vectors, not modes: no verdict.");
        else if (from_.excitations.empty())
            text("Nothing is said of what shakes the structure.");
        else if (count == 0)
            text("Nothing that shakes meets a mode that it drives, margins kept.");
        else
            text(count == 1 ? std::string("A mode meets an excitation that drives it:")
                            : fmt::format("{} times a mode meets an excitation that drives it:", count));
        std::vector<std::string> all;
        for (const auto& pair : pairs)
            if (clash(pair)) all.push_back(orderWords(pair) + ": " + pair.why);
        lines(std::move(all));
        text(certificateOf(solution_).words);
        text(fmt::format("Total mass {}.", massWords(solution_.mass, units_)));
    }

    std::string orderWords(const ClashPair& pair) const
    {
        const Excitation& excitation = from_.excitations[pair.excitation];
        return excitation.turns || pair.order != 1.0
                   ? fmt::format("{}, order {}", excitation.name, shortest(pair.order))
                   : excitation.name;
    }

    void model()
    {
        heading("The model in its own words");
        text(fmt::format("Lengths, masses and forces are shown in {}; sentences stand as they were typed.",
                         units_.name()));
        for (std::size_t group = 0; group < groupCount; ++group) {
            std::vector<std::string> said;
            for (const auto& sentence : from_.model.group(static_cast<Group>(group)))
                said.push_back(sentence->on ? wordsOf(*sentence) : "(off) " + wordsOf(*sentence));
            if (said.empty()) continue;
            report_.blocks.push_back(
                {.kind = Kind::lines, .text = std::string(groupTitles[group]), .lines = std::move(said)});
        }
        std::vector<std::string> joined;
        const Frame& frame = solution_.structure->frame;
        for (const auto& pair : touchingParts(*solution_.structure))
            if (pair.joined && frame.partSentence(pair.first) != frame.partSentence(pair.second))
                joined.push_back(fmt::format("{} and {}", frame.partName(pair.first), frame.partName(pair.second)));
        constexpr std::size_t most = 40;
        const std::size_t more = joined.size() > most ? joined.size() - most : 0;
        joined.resize(joined.size() - more);
        if (more > 0) joined.push_back(fmt::format("and {} more", more));
        if (!joined.empty())
            report_.blocks.push_back(
                {.kind = Kind::lines, .text = "Joined where they touch, as assumed", .lines = std::move(joined)});
        text(fmt::format("{} unknowns; {} elements of members, {} of sheet, {} of solids; {} mass.",
                         solution_.system->size(), solution_.mesh.elements.size(), solution_.mesh.shells.size(),
                         solution_.mesh.solids.size(),
                         solution_.structure->discretised.lumped ? "lumped" : "consistent"));
    }

    void mass()
    {
        heading("Mass");
        const MassBook book = massBook(*solution_.structure, from_.model, solution_.mass);
        std::vector<std::vector<std::string>> rows;
        for (const auto& row : book.rows) {
            const bool weighed = row.kind == MassBook::Row::Kind::weighed;
            rows.push_back({row.source.empty() ? row.what : row.what + ", by " + row.source, mass(row.mass),
                            weighed ? "·" : share(row.mass / book.total()),
                            weighed ? fmt::format("{} on the scale, {:+.1f} %", mass(*row.said),
                                                  100.0 * (row.mass / *row.said - 1.0))
                                    : placeIn(row.centre)});
        }
        rows.push_back({fmt::format("in all, {} of material and {} added", mass(book.material), mass(book.added)),
                        mass(book.total()), "100", placeIn(book.centre)});
        table({"where from", ">mass", ">%", "centre, " + units_.unit(QuantityKind::length)}, std::move(rows));
    }

    std::string placeIn(const Eigen::Vector3d& place) const
    {
        const auto along = [&](int axis) {
            const double value = units_.value(place[axis], QuantityKind::length);
            return rounded(std::abs(value) < 1e-9 ? 0.0 : value, 4);
        };
        return along(0) + ", " + along(1) + ", " + along(2);
    }

    void modes()
    {
        heading(solution_.ritz ? "Ritz vectors" : "Modes");
        const auto& taking = solution_.participation;
        std::vector<std::vector<std::string>> rows;
        for (const Mode& one : solution_.modes) {
            const auto row = static_cast<Eigen::Index>(one.number - 1);
            std::vector<std::string> cells{std::to_string(one.number), rounded(one.frequency, 5),
                                           one.lambda > 0.0 ? meshErrorText(one) : "·",
                                           nameOf(one) + (one.local ? " (local)" : "")};
            for (int direction = 0; direction < 6; ++direction)
                cells.push_back(share(taking.ofTotal(row, direction)));
            rows.push_back(std::move(cells));
        }
        const auto last = static_cast<Eigen::Index>(solution_.modes.size()) - 1;
        if (last >= 0)
            for (const bool movable : {false, true}) {
                std::vector<std::string> sums{"", "", "", movable ? "sum of what can move" : "sum of the total"};
                for (int direction = 0; direction < 6; ++direction)
                    sums.push_back(
                        share(movable ? taking.sumOfMovable(last, direction) : taking.sumOfTotal(last, direction)));
                rows.push_back(std::move(sums));
            }
        table({">mode", ">Hz", ">mesh error", "shape", ">X %", ">Y %", ">Z %", ">rx %", ">ry %", ">rz %"},
              std::move(rows));
        text(fmt::format("Effective mass, per cent of the total along and about the axes through {} {}.",
                         placeIn(taking.reference), units_.unit(QuantityKind::length)));
        std::vector<std::string> none;
        for (const Mode& one : solution_.modes)
            if (!one.noMass.empty() && !one.local)
                none.push_back(fmt::format("mode {} carries no mass: {}", one.number, one.noMass));
        lines(std::move(none));
        handChecks();
    }

    void handChecks()
    {
        std::vector<std::string> all;
        for (std::size_t at = 0; at < solution_.handChecks.size(); ++at) {
            const HandEstimate& hand = solution_.handChecks[at];
            if (!(hand.frequency > 0.0)) continue;
            const HandCheck& check = solution_.structure->handChecks[at];
            all.push_back(fmt::format(
                "by hand at {}, {} {}: {} and {} give {} Hz; mode {} ({} Hz) moves most there",
                solution_.structure->frame.points[static_cast<std::size_t>(check.point)].name,
                check.moment ? "about" : "along", "xyz"[check.direction],
                units_.text(hand.stiffness, check.moment ? QuantityKind::turningStiffness : QuantityKind::stiffness),
                units_.text(hand.mass, check.moment ? QuantityKind::inertia : QuantityKind::mass),
                rounded(hand.frequency, 5), hand.nearestMode, rounded(mode(hand.nearestMode).frequency, 5)));
        }
        lines(std::move(all));
        if (!from_.byHand || from_.byHand->checks.empty()) return;
        std::vector<std::vector<std::string>> rows;
        for (const auto& check : from_.byHand->checks)
            rows.push_back({std::to_string(check.mode), rounded(check.computed, 5), handHertz(check),
                            (check.flagged ? "look: " : "") + handVerdict(check), check.of + "; " + check.by});
        text("Estimates by hand beside it:");
        table({">mode", ">Hz", ">by hand", "difference", "from"}, std::move(rows));
    }

    void shapes()
    {
        const std::vector<int> wanted =
            order_.modes.empty() ? modesWorthAPicture(solution_, from_.clashes) : order_.modes;
        if (wanted.empty()) return;
        heading("Mode shapes");
        for (const int number : wanted) {
            const Mode& one = mode(number);
            std::string words = fmt::format("Mode {}, {} Hz: {}", number, rounded(one.frequency, 5), nameOf(one));
            for (int axis = 0; axis < 3; ++axis)
                if (const double of = solution_.participation.ofTotal(number - 1, axis); of >= 0.01)
                    words += fmt::format(", {:.0f} % of {}", 100.0 * of, "XYZ"[axis]);
            if (!one.noMass.empty()) words += ". It carries no mass: " + one.noMass;
            report_.blocks.push_back({.kind = Kind::picture, .text = words, .picture = fmt::format("mode-{}", number)});
        }
    }

    void clashes()
    {
        if (solution_.ritz || from_.excitations.empty()) return;
        heading("Excitations against modes");
        report_.blocks.push_back({.kind = Kind::picture,
                                  .text = "Every mode against every excitation; heights are shares of mass",
                                  .picture = "score"});
        std::vector<std::vector<std::string>> rows;
        for (const auto& pair : from_.clashes.pairs)
            rows.push_back({wordOf(pair.verdict), orderWords(pair),
                            pair.low == pair.high
                                ? rounded(pair.low, 4)
                                : fmt::format("{} to {}", rounded(pair.low, 4), rounded(pair.high, 4)),
                            std::to_string(pair.mode), rounded(pair.frequency, 5),
                            fmt::format("{:+.1f} %", 100.0 * pair.separation), pair.why});
        table({"verdict", "excitation", ">Hz", ">mode", ">Hz", ">apart", "why"}, std::move(rows));
        std::vector<std::string> windows;
        for (const auto& window : from_.clashes.windows)
            for (const auto& [low, high] : window.freeRpm)
                windows.push_back(fmt::format("{} is clear from {} to {} rpm",
                                              from_.excitations[window.excitation].name, rounded(low, 4),
                                              rounded(high, 4)));
        lines(std::move(windows));
    }

    void rest()
    {
        if (!from_.rest || from_.rest->states.empty()) return;
        heading("At rest under its loads");
        const std::string force = units_.unit(QuantityKind::force), moment = units_.unit(QuantityKind::moment);
        for (const auto& state : from_.rest->states) {
            const bool about =
                solution_.structure->aboutState >= 0 &&
                solution_.structure->staticStates[std::size_t(solution_.structure->aboutState)].name == state.name;
            text(fmt::format("State {}{}", state.name, about ? ", which the modes below are about" : ""));
            std::vector<std::string> words;
            for (const auto& line : splitAt(restWords(state, units_), "\n"))
                if (!line.empty()) words.push_back(line);
            if (state.bucklesKnown > 0.0) words.push_back("buckles: " + bucklingWords(state));
            for (const auto& contact : state.contacts)
                words.push_back(fmt::format(
                    "{} {}{}", contactName(contact),
                    contact.bears ? "bears with " + units_.text(contact.force, QuantityKind::force, 4)
                                  : "is open by " + amplitudeText(contact.gap, QuantityKind::length, units_),
                    contactRemark(contact)));
            lines(std::move(words));
            std::vector<std::vector<std::string>> rows;
            double most = 0.0, turns = 0.0;
            for (const auto& load : state.carried) {
                most = std::max(most, load.force.norm());
                turns = std::max(turns, load.moment.norm());
            }
            for (const auto& load : state.carried) {
                auto& row = rows.emplace_back(std::vector<std::string>{carrierName(from_.model, load)});
                for (int axis = 0; axis < 3; ++axis)
                    row.push_back(std::abs(load.force[axis]) < 1e-6 * most
                                      ? "·"
                                      : rounded(units_.value(load.force[axis], QuantityKind::force), 4));
                for (int axis = 0; axis < 3; ++axis)
                    row.push_back(std::abs(load.moment[axis]) <= 1e-6 * turns
                                      ? "·"
                                      : rounded(units_.value(load.moment[axis], QuantityKind::moment), 4));
            }
            table({"carried by", ">X, " + force, ">Y", ">Z", ">about x, " + moment, ">y", ">z"}, std::move(rows));
            constexpr std::size_t mostParts = 8;
            rows.clear();
            for (const auto& part : state.parts)
                if (rows.size() < mostParts && part.known)
                    rows.push_back({part.name, rounded(units_.value(part.most.equivalent, QuantityKind::stress), 4),
                                    undisona::placeIn(units_, part.place)});
            table({"part, the most stressed first", ">equivalent, " + units_.unit(QuantityKind::stress), "at"},
                  std::move(rows));
        }
    }

    void tolerances()
    {
        if (!from_.tolerances || from_.tolerances->modes.empty()) return;
        heading("What is not known exactly");
        std::vector<std::string> words;
        for (const auto& word : from_.tolerances->words)
            words.push_back(word.said.name + ", " + word.said.text);
        lines(std::move(words));
        const auto range = [](double low, double high) {
            return std::isnan(low) || std::isnan(high) ? std::string("·") : rounded(low, 4) + " to " + rounded(high, 4);
        };
        std::vector<std::vector<std::string>> rows;
        for (const auto& one : from_.tolerances->modes)
            rows.push_back(
                {std::to_string(one.mode), rounded(one.hertz, 5), range(one.usualLow, one.usualHigh),
                 std::isnan(one.solvedLow) ? range(one.low, one.high) : range(one.solvedLow, one.solvedHigh)});
        table({">mode", ">Hz", ">nine of ten", ">at its worst"}, std::move(rows));
        std::vector<std::string> chances;
        for (const auto& chance : from_.tolerances->clashes)
            chances.push_back(chanceWords(chance));
        lines(std::move(chances));
    }

    void takes()
    {
        if (from_.beside.empty()) return;
        heading("Beside it");
        for (const auto& other : from_.beside) {
            auto differing = differences(from_.model, other.model);
            constexpr std::size_t most = 20;
            if (differing.size() > most) {
                const std::size_t more = differing.size() - most;
                differing.resize(most);
                differing.push_back(fmt::format("and {} more", more));
            }
            report_.blocks.push_back(
                {.kind = Kind::lines, .text = other.name + keptWords(other), .lines = std::move(differing)});
            if (!other.solution) {
                text("It is not solved.");
                continue;
            }
            std::vector<std::vector<std::string>> rows;
            for (const auto& pair : pairModes(solution_, *other.solution)) {
                const Mode& here = mode(pair.first);
                if (pair.second == 0) {
                    rows.push_back({std::to_string(pair.first), rounded(here.frequency, 5), "·", "·", "no partner", "·",
                                    nameOf(here)});
                    continue;
                }
                const double there = other.solution->modes[static_cast<std::size_t>(pair.second - 1)].frequency;
                rows.push_back(
                    {std::to_string(pair.first), rounded(here.frequency, 5), std::to_string(pair.second),
                     rounded(there, 5),
                     here.frequency > 0.0 ? fmt::format("{:+.1f} %", 100.0 * (there / here.frequency - 1.0)) : "·",
                     fmt::format("{:.2f}", pair.assurance), nameOf(here)});
            }
            table({">mode", ">Hz", ">there", ">Hz", ">shift", ">alike", "shape"}, std::move(rows));
            text(fmt::format("Total mass there {}.", massWords(other.solution->mass, units_)));
        }
    }

    /// ", kept on 2031-05-04, made from as built: what is noted"; the day alone, so that it reads the same everywhere.
    std::string keptWords(const ReportSource::Beside& other) const
    {
        for (const auto& row : treeOf(from_.document)) {
            if (!row.take || row.take->name != other.name || !(row.take->model == other.model)) continue;
            return (row.take->kept.empty() ? "" : ", kept on " + row.take->kept.substr(0, 10)) +
                   (row.from ? ", made from " + row.from->name : "") +
                   (row.take->note.empty() ? "" : ": " + row.take->note);
        }
        return {};
    }

    void proof()
    {
        heading("How the modes were found");
        const Certificate certificate = certificateOf(solution_);
        text(certificate.words);
        std::vector<std::vector<std::string>> rows;
        for (const auto& line : certificate.lines)
            if (line.what != "time" && line.what != "memory") rows.push_back({line.what, line.figures});
        table({"figure", "value"}, std::move(rows));
    }

    void findings()
    {
        std::vector<std::string> all;
        for (const auto& finding : from_.findings)
            all.push_back(oneLine(finding));
        heading("What is odd or assumed");
        if (all.empty()) text("Nothing is odd.");
        lines(std::move(all));
        text(fmt::format("Undisona, model {:016x}. Linear, undamped free vibration about the shape as drawn.",
                         solution_.key));
    }

    const ReportSource& from_;
    const ReportOrder& order_;
    const Solution& solution_;
    DisplayUnits units_;
    Report report_;
};

} // namespace

std::string wordsOf(ReportPart part)
{
    return rowOf(part).words;
}

std::string_view keyOf(ReportPart part)
{
    return rowOf(part).key;
}

std::vector<std::string> Report::pictures() const
{
    std::vector<std::string> keys;
    for (const auto& block : blocks)
        if (block.kind == ReportBlock::Kind::picture) keys.push_back(block.picture);
    return keys;
}

std::vector<int> modesWorthAPicture(const Solution& solution, const ClashReading& clashes, std::size_t most)
{
    std::vector<int> numbers;
    const auto take = [&](const auto& wanted) {
        for (const Mode& mode : solution.modes)
            if (numbers.size() < most && !mode.rigid && wanted(mode) &&
                std::find(numbers.begin(), numbers.end(), mode.number) == numbers.end())
                numbers.push_back(mode.number);
    };
    take([&](const Mode& mode) { return clashes.meets(mode); });
    take([](const Mode& mode) { return mode.matters[0] || mode.matters[1] || mode.matters[2]; });
    take([&](const Mode&) { return numbers.empty(); });
    std::sort(numbers.begin(), numbers.end());
    return numbers;
}

Report reportOf(const ReportSource& source, const ReportOrder& order)
{
    return ReportWriter(source, order).write();
}

} // namespace undisona
