#include "core/statement/structure.hpp"

#include "core/model/assembly_file.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/statement/assemblies.hpp"
#include "core/statement/expanded.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/statement/made_points.hpp"
#include "core/statement/read_groups.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// To the directions in which mass acts; elements have them from how the structure is discretised.
void limitAddedMass(Structure& structure)
{
    const Mask3& acts = structure.discretised.acts;
    const Eigen::Vector3d acting(acts[0], acts[1], acts[2]);
    for (auto& mass : structure.pointMasses)
        for (std::size_t axis = 0; axis < 3; ++axis)
            mass.acts[axis] = mass.acts[axis] && acts[axis];
    for (auto& attachment : structure.attachments)
        if (attachment.effect == Attachment::Effect::mass)
            attachment.tensor = Eigen::Matrix3d(acting.asDiagonal() * attachment.tensor * acting.asDiagonal());
}

/// Points in one place that nothing joins. Those on the same place of a sheet or a body move with it both.
void pointsApart(Structure& structure, Findings& findings)
{
    if (structure.frame.together.empty()) return;
    std::set<std::pair<int, int>> joined;
    std::map<int, int> lastAt; // by vertex, the point that is its node
    const auto vertexOf = [&](int point) {
        return structure.frame.faces && !structure.carried.contains(point)
                   ? structure.frame.faces->vertexOfPoint[static_cast<std::size_t>(point)]
                   : -1;
    };
    for (int point = 0; point < static_cast<int>(structure.frame.points.size()); ++point)
        if (const int vertex = vertexOf(point); vertex >= 0) lastAt[vertex] = point;
    for (const auto& spring : structure.springs)
        joined.insert(std::minmax(spring.from, spring.to));
    for (const auto& tie : structure.ties)
        if (tie.on == Target::point) joined.insert(std::minmax(tie.leader, tie.at));
    for (const auto& mean : structure.means)
        for (const auto& [target, at] : mean.of)
            if (target == Target::point) joined.insert(std::minmax(mean.point, at));
    for (const auto& [first, second] : structure.frame.together) {
        if (joined.contains({first, second})) continue;
        if (const int vertex = vertexOf(first); vertex >= 0 && vertex == vertexOf(second)) {
            if (lastAt[vertex] == second)
                structure.ties.push_back(
                    {.leader = second,
                     .on = Target::point,
                     .at = first,
                     .sentence = structure.frame.points[static_cast<std::size_t>(first)].sentence});
            continue;
        }
        const auto &one = structure.frame.points[static_cast<std::size_t>(first)],
                   &other = structure.frame.points[static_cast<std::size_t>(second)];
        findings.push_back(warningAt(
            other.sentence,
            fmt::format("the points {} and {} are at the same place but are two points", one.name, other.name),
            "They move apart unless tied. Use one of them for both, or tie them rigidly."));
        findings.back().cures = {
            {fmt::format("Tie {} to {}", other.name, one.name),
             {{"rigid", {}, {}, {{"points", quotedName(other.name)}, {"to", quotedName(one.name)}}}}}};
    }
}

} // namespace

namespace {

/// What is said of parts of a sub-assembly that is not there itself: it tells nothing more.
void dropWhatFollows(const Model& model, const Assemblies& assemblies, Findings& findings)
{
    for (const auto& sentence : model.activeIn(Group::shape)) {
        if (!placesAssembly(*sentence) || assemblies.contains(sentence->id)) continue;
        const std::string lead = "\"" + sentence->text("name") + ".";
        std::erase_if(findings, [&](const Finding& finding) {
            return finding.sentence != sentence->id && finding.what.starts_with("there is no ") &&
                   finding.what.find(lead) != std::string::npos;
        });
    }
}

} // namespace

StructureAndFindings buildStructure(const Model& stated)
{
    return buildStructure(stated, {});
}

StructureAndFindings buildStructure(const Model& stated, const std::vector<std::string>& above)
{
    StructureAndFindings built;
    auto [model, leftOut, findings] = expanded(stated);
    built.findings = std::move(findings);
    Structure& structure = built.structure;
    structure.leftOut = std::move(leftOut);
    const Assemblies assemblies = readAssemblies(model, above, built.findings);
    structure.frame = buildFrame(model, framesOf(assemblies), built.findings);
    structure.members.resize(structure.frame.members.size());
    structure.sheets.resize(structure.frame.sheets.size());
    structure.solids.resize(structure.frame.solids.size());
    if (structure.frame.empty() && !hasError(built.findings))
        built.findings.push_back(
            errorAt({}, "there is nothing to solve yet", "Begin with a sentence in the group Shape."));
    makePoints(model, structure, built.findings);
    takeOverMaterials(assemblies, structure);
    readMaterials(model, structure, built.findings);
    takeOverJointsAndLoads(assemblies, structure, built.findings);
    for (const auto read : {readJoints, readSupports, readMasses})
        read(model, structure, built.findings);
    pointsApart(structure, built.findings);
    readLoads(model, structure, built.findings);
    readExcitations(model, structure, built.findings);
    readAsk(model, structure, built.findings);
    readSizes(model, structure, built.findings);
    limitAddedMass(structure);
    dropWhatFollows(model, assemblies, built.findings);
    return built;
}

AtRest::AtRest(const Structure& structure) : whole_(structure)
{
    const auto isHeld = [](const auto& own) { return own.alsoAtRest; };
    const auto& alone = structure.atRestAlone;
    const auto shifts = [](const Load& load) { return load.kind == Load::Kind::shift; };
    if (std::none_of(structure.loads.begin(), structure.loads.end(), shifts) && alone.holds.empty() &&
        alone.attachments.empty() && std::all_of(structure.holds.begin(), structure.holds.end(), isHeld) &&
        std::all_of(structure.attachments.begin(), structure.attachments.end(), isHeld))
        return;
    own_ = structure;
    const auto take = [&](auto& held, const auto& more) {
        std::erase_if(held, [&](const auto& own) { return !isHeld(own); });
        held.insert(held.end(), more.begin(), more.end());
    };
    take(own_->holds, alone.holds);
    take(own_->attachments, alone.attachments);
    own_->atRestAlone = {};
    std::set<int> shifted;
    for (const auto& load : structure.loads)
        if (shifts(load)) shifted.insert(load.at);
    for (auto& hold : own_->holds)
        for (std::size_t way = 0; way < 3; ++way) {
            if (!hold.rigid[way] || !shifted.contains(hold.point())) continue;
            hold.rigid[way] = false;
            own_->contacts.push_back({.point = hold.at,
                                      .pushes = hold.axes.col(static_cast<Eigen::Index>(way)),
                                      .sentence = hold.sentence,
                                      .stated = true,
                                      .shifts = true,
                                      .name = structure.frame.points[static_cast<std::size_t>(hold.at)].name});
        }
}

} // namespace undisona
