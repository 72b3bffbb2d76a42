#include "core/assess/model_checks.hpp"

#include "core/assess/forgotten_supports.hpp"
#include "core/assess/joint_checks.hpp"
#include "core/assess/mass_checks.hpp"
#include "core/assess/points_beside.hpp"
#include "core/base/alike_findings.hpp"
#include "core/base/number_text.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/mid_face.hpp"
#include "core/units/tolerance.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

std::vector<int> membersAt(const Structure& structure)
{
    std::vector<int> meeting(structure.frame.points.size(), 0);
    for (const auto& member : structure.frame.members) {
        ++meeting[static_cast<std::size_t>(member.from)];
        ++meeting[static_cast<std::size_t>(member.to)];
    }
    return meeting;
}

/// By point, how many members, masses and springs meet there.
std::vector<int> usesAt(const Structure& structure)
{
    auto used = membersAt(structure);
    const auto mark = [&](int point) { ++used[static_cast<std::size_t>(point)]; };
    for (const auto& mass : structure.pointMasses)
        mark(mass.point);
    for (const auto& spring : structure.springs) {
        mark(spring.from);
        mark(spring.to);
    }
    return used;
}

/// The same with what ties and means join, and points on parts.
std::vector<int> joinedAt(const Structure& structure)
{
    auto used = usesAt(structure);
    const auto mark = [&](int point) { ++used[static_cast<std::size_t>(point)]; };
    for (const auto& tie : structure.ties)
        for (const int point : tie.points())
            mark(point);
    for (const auto& mean : structure.means)
        mark(mean.point);
    if (structure.frame.faces)
        for (std::size_t at = 0; at < used.size(); ++at)
            used[at] += structure.frame.faces->vertexOfPoint[at] >= 0;
    return used;
}

void unusedPoints(const Structure& structure, Findings& findings)
{
    auto used = joinedAt(structure);
    for (const auto& contact : structure.contacts)
        for (const int point : {contact.point, contact.other})
            if (point >= 0) ++used[static_cast<std::size_t>(point)];
    std::vector<std::string> names;
    std::string sentence;
    for (std::size_t at = 0; at < used.size(); ++at) {
        if (used[at] > 0) continue;
        if (names.empty()) sentence = structure.frame.points[at].sentence;
        names.push_back(structure.frame.points[at].name);
    }
    if (names.empty()) return;
    const bool one = names.size() == 1;
    findings.push_back(noteAt(sentence,
                              fmt::format("nothing is joined to the {} {}", one ? "point" : "points", someOf(names)),
                              one ? "It takes no part; join a member to it or take it away."
                                  : "They take no part; join members to them or take them away."));
}

/// Ends of ropes, struts and stops that nothing else is joined to, and nothing holds.
void hangOnNothing(const Structure& structure, Findings& findings)
{
    if (std::none_of(structure.contacts.begin(), structure.contacts.end(),
                     [](const Contact& contact) { return contact.other >= 0; }))
        return;
    auto used = joinedAt(structure);
    for (const auto* holds : {&structure.holds, &structure.atRestAlone.holds})
        for (const auto& hold : *holds)
            if (hold.point() >= 0) ++used[static_cast<std::size_t>(hold.point())];
    for (const auto& contact : structure.contacts)
        if (contact.other < 0 && contact.point >= 0) ++used[static_cast<std::size_t>(contact.point)];
    for (const auto& contact : structure.contacts)
        for (const int point : {contact.point, contact.other})
            if (contact.other >= 0 && used[static_cast<std::size_t>(point)] == 0)
                findings.push_back(warningAt(
                    contact.sentence,
                    fmt::format("{} is joined to nothing else and held by nothing, so that nothing passes there",
                                structure.frame.points[static_cast<std::size_t>(point)].name),
                    "Hold it, or name a point of what is meant."));
}

/// Members between the same two points, whose stiffness and mass count twice.
void membersTwice(const Structure& structure, Findings& findings)
{
    std::map<std::pair<int, int>, std::vector<const FrameMember*>> between;
    for (std::size_t at = 0; at < structure.frame.members.size(); ++at) {
        const FrameMember& member = structure.frame.members[at];
        if (structure.members[at].offset[0].isZero() && structure.members[at].offset[1].isZero())
            between[std::minmax(member.from, member.to)].push_back(&member);
    }
    for (const auto& [ends, members] : between) {
        if (members.size() == 1) continue;
        std::vector<std::string> names;
        for (const FrameMember* member : members)
            names.push_back(member->name);
        findings.push_back(
            warningAt(members.back()->sentence,
                      fmt::format("{} run between the same points, {} and {}: stiffness and mass count {} times",
                                  someOf(names), structure.frame.points[static_cast<std::size_t>(ends.first)].name,
                                  structure.frame.points[static_cast<std::size_t>(ends.second)].name, members.size()),
                      "Keep one of them, unless there are as many."));
    }
}

/// A mass that leans on one place of sheet: a couple at a point turns it the more the finer the mesh is.
void massesOnOnePlaceOfSheet(const Structure& structure, Findings& findings)
{
    if (!structure.frame.faces) return;
    auto joined = membersAt(structure);
    for (const auto& tie : structure.ties)
        for (const int point : tie.points())
            ++joined[static_cast<std::size_t>(point)];
    for (const auto& mean : structure.means)
        ++joined[static_cast<std::size_t>(mean.point)];
    std::vector<char> onSheet(structure.frame.faces->vertices.size(), 0);
    for (const auto& face : structure.frame.faces->faces)
        if (face.sheet >= 0)
            for (const int vertex : face.innerVertices)
                onSheet[static_cast<std::size_t>(vertex)] = 1;
    for (const auto& edge : structure.frame.faces->edges)
        if (edge.sheets > 0)
            onSheet[static_cast<std::size_t>(edge.first)] = onSheet[static_cast<std::size_t>(edge.last)] = 1;
    for (const auto& mass : structure.pointMasses) {
        const auto point = static_cast<std::size_t>(mass.point);
        const int vertex = structure.frame.faces->vertexOfPoint[point];
        if (vertex < 0 || !onSheet[static_cast<std::size_t>(vertex)] || joined[point] > 0) continue;
        if (mass.centre.isZero() && mass.inertia.isZero()) continue;
        findings.push_back(
            warningAt(mass.sentence,
                      fmt::format("the mass at {} leans on a single place of sheet, which gives way the more the finer "
                                  "the mesh is",
                                  structure.frame.points[point].name),
                      "Put it on a point of its own at its centre and tie its feet rigidly to that."));
    }
}

/// A mass with an offset or rotary inertia on a point of a solid, which takes forces and no moments.
void massesOnOnePlaceOfSolids(const Structure& structure, Findings& findings)
{
    if (!structure.frame.faces) return;
    std::vector<std::string> partOf(structure.frame.faces->vertices.size());
    for (const auto& face : structure.frame.faces->faces)
        for (const int solid : face.solids)
            for (const auto& loop : face.loops)
                for (const auto& use : loop)
                    for (const int vertex : {structure.frame.faces->edges[static_cast<std::size_t>(use.edge)].first,
                                             structure.frame.faces->edges[static_cast<std::size_t>(use.edge)].last})
                        partOf[static_cast<std::size_t>(vertex)] =
                            structure.frame.solids[static_cast<std::size_t>(solid)].name;
    auto joined = membersAt(structure);
    for (const auto& tie : structure.ties)
        for (const int point : tie.points())
            ++joined[static_cast<std::size_t>(point)];
    for (const auto& mean : structure.means)
        ++joined[static_cast<std::size_t>(mean.point)];
    for (const auto& mass : structure.pointMasses) {
        const auto point = static_cast<std::size_t>(mass.point);
        const int vertex = structure.frame.faces->vertexOfPoint[point];
        if (vertex < 0 || joined[point] > 0 || partOf[static_cast<std::size_t>(vertex)].empty()) continue;
        if (mass.centre.isZero() && mass.inertia.isZero()) continue;
        findings.push_back(
            warningAt(mass.sentence,
                      fmt::format("a point of {} takes forces and no moments: of the mass at {}, offset and rotary "
                                  "inertia do nothing there",
                                  partOf[static_cast<std::size_t>(vertex)], structure.frame.points[point].name),
                      "Put it on a point of its own at its centre and tie its feet rigidly to that."));
    }
}

/// Of thin-shell theory an error of about 0.18 (t/R)^2 is left: one per cent at a radius of so many thicknesses.
constexpr double leastRadius = 4.5;

/// The smallest radius that a curved face has by its edges, m; a very large one where it is flat.
double radiusOf(const JoinedFaces& faces, const JoinedFace& face)
{
    double radius = 1e300;
    if (face.plane) return radius;
    for (const auto& loop : face.loops)
        for (const auto& use : loop)
            if (const auto& edge = faces.edges[static_cast<std::size_t>(use.edge)]; edge.turn > 0.3)
                radius = std::min(radius, edge.length / edge.turn);
    return radius;
}

/// Sheet that is bent so sharply that it is none any more.
void sheetsBentSharply(const Structure& structure, Findings& findings)
{
    if (!structure.frame.faces) return;
    std::set<int> said;
    for (const auto& face : structure.frame.faces->faces) {
        if (face.sheet < 0 || said.contains(face.sheet)) continue;
        const Sheet& sheet = structure.frame.sheets[static_cast<std::size_t>(face.sheet)];
        const double radius = radiusOf(*structure.frame.faces, face), thickness = sheet.leastThickness();
        if (!(radius < leastRadius * thickness)) continue;
        said.insert(face.sheet);
        findings.push_back(
            warningAt(sheet.sentence,
                      fmt::format("{} is bent by a radius of {:.2g} thicknesses: as thin sheet its "
                                  "frequencies are off by about {:.1g} %",
                                  sheet.name, radius / thickness, 18.0 * std::pow(thickness / radius, 2)),
                      "Draw it as a solid where that is too much."));
    }
}

/// Bodies that would be as good, and much smaller, as sheet.
void solidsThatAreSheet(const Structure& structure, Findings& findings)
{
    for (std::size_t at = 0; at < structure.frame.solids.size(); ++at) {
        const Solid& solid = structure.frame.solids[at];
        if (solid.spent) continue;
        const double thickness = evenThinness(*solid.shape).thickness;
        if (!(thickness > 0.0)) continue;
        double sharp = 0.0, all = 0.0; // areas; of a bend between flat walls little is lost
        if (structure.frame.faces)
            for (const auto& face : structure.frame.faces->faces)
                if (std::find(face.solids.begin(), face.solids.end(), static_cast<int>(at)) != face.solids.end()) {
                    all += face.area;
                    if (radiusOf(*structure.frame.faces, face) < leastRadius * thickness) sharp += face.area;
                }
        if (sharp > 0.3 * all) continue;
        findings.push_back(
            noteAt(solid.sentence, fmt::format("{} is {:.3g} mm thick everywhere", solid.name, 1e3 * thickness),
                   fmt::format("\"Take {} as sheet along its mid-face\", a sentence in Shape, makes the model smaller.",
                               solid.name)));
        findings.back().cures = {{fmt::format("Take {} as sheet along its mid-face", solid.name),
                                  {{"mid-face", {}, {}, {{"solid", solid.name}}}}}};
    }
}

/// What shakes and what is asked is taken as it is said.
void tolerancesThatAreNotFollowed(const Model& model, Findings& findings)
{
    for (const Group group : {Group::excitation, Group::ask})
        for (const auto& sentence : model.activeIn(group))
            for (const auto& field : sentence->kind->fields) {
                const auto* quantity =
                    sentence->has(field.key) ? std::get_if<Quantity>(&sentence->value(field.key)) : nullptr;
                if (!quantity || splitTolerance(quantity->text).tolerance.empty()) continue;
                findings.push_back(
                    warningAt(sentence->id,
                              fmt::format("the tolerance of \"{}\" is not followed: what shakes and what "
                                          "is asked for is taken as it is said",
                                          quantity->text),
                              "Give a range from one value to another, or a margin."));
            }
}

} // namespace

Findings checkStructure(const Structure& structure, const MassSummary& mass, const Model& model)
{
    Findings findings;
    findForgottenSupports(structure, model, membersAt(structure), findings);
    unusedPoints(structure, findings);
    hangOnNothing(structure, findings);
    membersTwice(structure, findings);
    for (auto& finding : pointsBesideParts(structure, model, usesAt(structure)))
        findings.push_back(std::move(finding));
    for (auto& finding : pointsBesideMembers(structure, usesAt(structure)))
        findings.push_back(std::move(finding));
    massesOnOnePlaceOfSheet(structure, findings);
    massesOnOnePlaceOfSolids(structure, findings);
    for (auto& finding : checkJoints(structure, model))
        findings.push_back(std::move(finding));
    checkMasses(structure, mass, model, findings);
    tolerancesThatAreNotFollowed(model, findings);
    double material = 0.0, most = 0.0;
    std::string heaviest;
    for (const auto& [sentence, own] : mass.bySentence) {
        material += own.material();
        if (own.added <= most) continue;
        most = own.added;
        heaviest = sentence;
    }
    if (material > 0.0 && mass.problems.empty() && mass.mass > 10.0 * material)
        findings.push_back(warningAt(
            heaviest,
            fmt::format("with its added mass the structure weighs {:.0f} times its material ({:.4g} kg of {:.4g} kg)",
                        mass.mass / material, mass.mass - material, mass.mass),
            "Is a weight entered as a mass, or a unit a thousand times off?"));
    const bool some =
        !structure.frame.members.empty() || !structure.frame.sheets.empty() || !structure.frame.solids.empty();
    for (Finding problem : mass.problems) { // a finer mesh may do where something else is left
        if (mass.mass > 0.0) {
            problem.severity = Severity::warning;
            problem.what += ", where it is meshed coarsely; it is not counted in the mass";
        }
        findings.push_back(std::move(problem));
    }
    if (mass.mass <= 0.0 && some && mass.problems.empty())
        findings.push_back(
            errorAt({}, "the structure has no mass at all", "Let the material mass count, or add mass."));
    if (structure.ask.sentence.empty() && !structure.ask.byCaller)
        findings.push_back(
            noteAt({}, "nothing is asked, so the 12 lowest modes are found", "Add a sentence in the group Ask."));
    solidsThatAreSheet(structure, findings);
    sheetsBentSharply(structure, findings);
    return findings;
}

} // namespace undisona
