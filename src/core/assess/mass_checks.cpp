#include "core/assess/mass_checks.hpp"

#include "core/base/number_text.hpp"
#include "core/units/unit.hpp"

#include <fmt/format.h>

#include <cmath>
#include <map>
#include <set>

namespace undisona {

namespace {

/// Whether a number has no more than so many digits that are not zero.
bool isRound(double number, int digits)
{
    const double scale = std::pow(10.0, digits - 1 - std::floor(std::log10(number)));
    return std::abs(std::round(number * scale) / (number * scale) - 1.0) < 1e-9;
}

/// The round figure that is a number of kilograms where someone gave it in newtons: 981 stands for 100.
std::optional<double> weighedInstead(double number)
{
    constexpr double off = 2e-4; // as far as four digits tell
    if (!(number > 0.0) || !std::isfinite(number) || isRound(number, 2)) return std::nullopt;
    for (const double g : {9.81, standardGravity}) {
        const double mass = number / g;
        const double scale = std::pow(10.0, 1.0 - std::floor(std::log10(mass)));
        const double round = std::round(mass * scale) / scale;
        if (std::abs(mass / round - 1.0) < off) return round;
    }
    return std::nullopt;
}

void weightsTypedAsMasses(const Model& model, Findings& findings)
{
    for (const auto& sentence : model.activeIn(Group::addedMass)) {
        const auto* mass = std::get_if<Quantity>(&sentence->value("mass"));
        if (!mass) continue;
        const auto split = readNumberAndUnit(mass->text, NumberStyle::file);
        const auto* parts = std::get_if<NumberAndUnit>(&split);
        if (!parts) continue;
        const auto round = weighedInstead(parts->value);
        if (!round) continue;
        const std::string better = fmt::format("{} {}", shortest(*round), parts->unit);
        findings.push_back(
            warningAt(sentence->id,
                      fmt::format("{} is 9.81 times {}: is a weight given as a mass?", mass->text, shortest(*round)),
                      "Write the mass, or say it as a weight in newtons."));
        findings.back().cures = {{"Take it as " + better, {{{}, sentence->id, {}, {{"mass", better}}}}}};
    }
}

/// All that it says, whatever it is called.
std::string saidBy(const Sentence& sentence)
{
    std::string said = sentence.kind->key;
    for (const auto& field : sentence.kind->fields)
        if (field.key != "label") said += '\n' + textOf(sentence.value(field.key));
    return said;
}

void massesSaidTwice(const Model& model, Findings& findings)
{
    std::map<std::string, SentencePtr> first;
    for (const auto& sentence : model.activeIn(Group::addedMass)) {
        const auto [other, isNew] = first.emplace(saidBy(*sentence), sentence);
        if (isNew) continue;
        const auto nameOf = [](const Sentence& named) {
            return named.has("label") ? "\"" + named.text("label") + "\"" : std::string("another sentence");
        };
        findings.push_back(warningAt(sentence->id,
                                     fmt::format("says the same as {}: the mass counts twice", nameOf(*other->second)),
                                     "Switch one of the two off, unless there are two such things."));
    }
}

void massesOnHeldPoints(const Structure& structure, Findings& findings)
{
    std::set<int> held;
    for (const auto& hold : structure.holds)
        if (hold.rigid[0] && hold.rigid[1] && hold.rigid[2]) held.insert(hold.point());
    for (const auto& mass : structure.pointMasses) {
        if (mass.mass <= 0.0 || !mass.centre.isZero() || !mass.inertia.isZero() || !held.contains(mass.point)) continue;
        findings.push_back(
            noteAt(mass.sentence,
                   fmt::format("{:.4g} kg stand on {}, which is held: they do not move in any mode", mass.mass,
                               structure.frame.points[static_cast<std::size_t>(mass.point)].name),
                   "Right where the support carries them; else put them where they are."));
    }
}

/// Densities that no material has, as of a unit a thousand times off.
void densitiesOffTheLibrary(const Model& model, Findings& findings)
{
    constexpr double lightest = 10.0, heaviest = 25000.0; // foam and tungsten, kg/m3
    for (const auto& sentence : model.activeIn(Group::material)) {
        const auto* density = std::get_if<Quantity>(&sentence->value("density"));
        if (!density || (density->si >= lightest && density->si <= heaviest)) continue;
        if (density->si == 0.0) {
            findings.push_back(noteAt(sentence->id, "has no density: its parts have no mass of their own",
                                      "Right where their mass is said elsewhere."));
            continue;
        }
        const bool light = density->si < lightest;
        findings.push_back(warningAt(
            sentence->id, fmt::format("{} is {} than any material", density->text, light ? "lighter" : "heavier"),
            "Is the unit a thousand times off? Steel has 7850 kg/m3."));
        for (const double factor : {1e3, 1e-3, 1e6, 1e-6, 1e12, 1e-12})
            if (const double meant = factor * density->si; meant >= lightest && meant <= heaviest) {
                const std::string text = shortest(std::round(meant * 1e3) / 1e3) + " kg/m3";
                findings.back().cures = {{"Make it " + text, {{{}, sentence->id, {}, {{"density", text}}}}}};
                break;
            }
    }
}

/// Most of all there is in one spot.
void mostInOneSpot(const Structure& structure, const MassSummary& summary, Findings& findings)
{
    constexpr double most = 0.75;
    for (const auto& mass : structure.pointMasses)
        if (mass.mass > most * summary.mass && structure.frame.members.size() + structure.frame.parts() > 0)
            findings.push_back(noteAt(mass.sentence,
                                      fmt::format("{:.0f} % of all mass stand on {}", 100.0 * mass.mass / summary.mass,
                                                  structure.frame.points[static_cast<std::size_t>(mass.point)].name),
                                      "Spread it, if the thing is as large as the structure."));
}

} // namespace

void checkMasses(const Structure& structure, const MassSummary& summary, const Model& model, Findings& findings)
{
    densitiesOffTheLibrary(model, findings);
    mostInOneSpot(structure, summary, findings);
    weightsTypedAsMasses(model, findings);
    massesSaidTwice(model, findings);
    massesOnHeldPoints(structure, findings);
}

} // namespace undisona
