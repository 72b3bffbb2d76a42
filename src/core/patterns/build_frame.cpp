#include "core/patterns/frame_builder.hpp"

#include "core/base/same_place.hpp"
#include "core/model/section_text.hpp"
#include "core/picks/sentence_reader.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/kernel_stop.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

std::array<long, 3> cellOf(const Eigen::Vector3d& place)
{
    const auto cell = [](double value) {
        return static_cast<long>(std::floor(std::clamp(value, -1e9, 1e9) / (8.0 * samePlace)));
    };
    return {cell(place.x()), cell(place.y()), cell(place.z())};
}

/// The bend of a tube, say, whose profile has no end.
bool isClosedArc(const TurnedPanel& panel)
{
    return panel.arc && panel.arc->last - panel.arc->first > 2.0 * std::numbers::pi - 1e-9;
}

void addPointSentence(FrameBuilder& builder, const Sentence& sentence)
{
    Eigen::Vector3d place = asVector(sentence.vector("at"));
    if (sentence.has("from")) {
        const auto base = builder.where("from");
        if (!base) return;
        if (base->points.size() != 1)
            return builder.complain(fmt::format("\"{}\" means {} points, but one is needed to measure from",
                                                sentence.text("from"), base->points.size()));
        place += builder.frame.points[static_cast<std::size_t>(base->points.front())].place;
    }
    builder.addPoint(sentence.text("name"), place, false);
}

void addPointTable(FrameBuilder& builder, const Sentence& sentence)
{
    for (const auto& row : *sentence.table("rows").rows)
        builder.addPoint(textOf(row[0]),
                         {std::get<Quantity>(row[1]).si, std::get<Quantity>(row[2]).si, std::get<Quantity>(row[3]).si},
                         false);
}

void addMemberTable(FrameBuilder& builder, const Sentence& sentence)
{
    const auto style = builder.style(sentence.text("section"));
    std::unordered_map<std::string, int> named;
    for (std::size_t at = 0; at < builder.frame.points.size(); ++at)
        named.emplace(builder.frame.points[at].name, static_cast<int>(at));
    for (const auto& row : *sentence.table("rows").rows) {
        const std::string name = textOf(row[0]);
        int ends[2] = {-1, -1};
        for (std::size_t end = 0; end < 2; ++end) {
            const std::string pointName = textOf(row[end + 1]);
            if (const auto found = named.find(pointName); found != named.end())
                ends[end] = found->second;
            else
                builder.complain(fmt::format("member {} runs to \"{}\", but there is no such point", name, pointName),
                                 "Add the point above this sentence, or mend the name.");
        }
        if (ends[0] >= 0 && ends[1] >= 0) builder.addMember(name, ends[0], ends[1], style);
    }
}

} // namespace

FrameBuilder::FrameBuilder(const Model& model, const AssemblyFrames& assemblies)
    : model_(model), assemblies_(assemblies)
{
    for (const auto& sentence : model_.activeIn(Group::material)) {
        if (sentence->kind->key == "given-section") {
            Section section = givenSection(sentence->number("area"), sentence->number("iy"), sentence->number("iz"),
                                           sentence->number("torsion"));
            if (sentence->has("shear-y")) section.shearAreas[0] = sentence->number("shear-y");
            if (sentence->has("shear-z")) section.shearAreas[1] = sentence->number("shear-z");
            if (sentence->has("perimeter")) section.perimeter = sentence->number("perimeter");
            section.text = sentence->text("name");
            sections_[section.text] = std::make_shared<const Section>(section);
        } else if (sentence->kind->key == "section") {
            auto read = readSection(sentence->text("section"), NumberStyle::file);
            if (const auto* problem = std::get_if<QuantityProblem>(&read))
                findings.push_back(errorAt(sentence->id, problem->what));
            else
                sections_[sentence->text("name")] = std::make_shared<const Section>(std::get<Section>(read));
        }
    }
}

void FrameBuilder::begin(const Sentence& sentence)
{
    sentence_ = &sentence;
    groupName_ = sentence.kind->field("name") && !sentence.kind->key.starts_with("point") ? sentence.text("name") : "";
    if (!groupName_.empty() && frame.groups.contains(groupName_))
        complain(fmt::format("the name \"{}\" is already that of another sentence", groupName_),
                 "Give one of the two another name.");
    if (!groupName_.empty()) frame.groups[groupName_];
}

void FrameBuilder::complain(std::string what, std::string remedy)
{
    findings.push_back(errorAt(sentence_->id, std::move(what), std::move(remedy)));
}

void FrameBuilder::note(const std::string& role, std::vector<int> FrameGroup::*which, int index)
{
    const auto put = [&](FrameGroup& group) {
        auto& list = group.*which;
        if (std::find(list.rbegin(), list.rend(), index) == list.rend()) list.push_back(index);
    };
    if (groupName_.empty()) return;
    put(frame.groups[groupName_]);
    if (!role.empty()) put(frame.groups[role + " of " + groupName_]);
}

int FrameBuilder::addPoint(const std::string& name, const Eigen::Vector3d& place, bool joins, const std::string& role)
{
    if (!place.allFinite() || place.cwiseAbs().maxCoeff() > 1e7) {
        complain(fmt::format("the point {} lies more than 10 000 km away", name), "Check its unit.");
        return -1;
    }
    const auto home = cellOf(place);
    for (long dx = -1; dx <= 1; ++dx)
        for (long dy = -1; dy <= 1; ++dy)
            for (long dz = -1; dz <= 1; ++dz) {
                const auto cell = cells_.find({home[0] + dx, home[1] + dy, home[2] + dz});
                if (cell == cells_.end()) continue;
                for (const int other : cell->second) {
                    if ((frame.points[static_cast<std::size_t>(other)].place - place).norm() > samePlace) continue;
                    if (joins) {
                        note(role, &FrameGroup::points, other);
                        return other;
                    }
                    frame.together.push_back({other, static_cast<int>(frame.points.size())});
                }
            }
    if (!pointNames_.insert(name).second) {
        complain(fmt::format("there are two points called \"{}\"", name), "Give one of them another name.");
        return -1;
    }
    frame.points.push_back({name, place, sentence_->id});
    const int index = static_cast<int>(frame.points.size()) - 1;
    cells_[home].push_back(index);
    note(role, &FrameGroup::points, index);
    return index;
}

std::shared_ptr<const Section> FrameBuilder::section(const std::string& text)
{
    if (const auto known = sections_.find(text); known != sections_.end()) return known->second;
    auto read = readSection(text, NumberStyle::file);
    if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
        complain(problem->what);
        return nullptr;
    }
    return sections_[text] = std::make_shared<const Section>(std::get<Section>(read));
}

FrameBuilder::Style FrameBuilder::style(const std::string& sectionText)
{
    Style style{section(sectionText), {}, 0.0, 0, 1.0};
    if (sentence_->has("turned")) style.turned = sentence_->number("turned");
    if (sentence_->has("elements")) style.elements = sentence_->count("elements");
    if (sentence_->kind->key == "members" && sentence_->has("flexibility"))
        style.flexibility = sentence_->number("flexibility");
    if (sentence_->has("towards")) {
        const Eigen::Vector3d towards = asVector(sentence_->vector("towards"));
        if (towards.norm() > 0.0)
            style.towards = towards;
        else
            complain("the section's direction is 0, 0, 0", "Give a direction such as 0, 0, 1.");
    }
    return style;
}

void FrameBuilder::addMember(const std::string& name, int from, int to, const Style& style, const std::string& role)
{
    if (from < 0 || to < 0 || !style.section) return;
    FrameMember member{name, from, to, style.section, {}, style.elements, style.flexibility, sentence_->id};
    if (from == to || frame.length(member) < samePlace)
        return complain(fmt::format("the member {} has no length: both its ends are at {}", name,
                                    frame.points[static_cast<std::size_t>(from)].name),
                        "Move one of its points, or take the member away.");
    member.zAxis = sectionAxis(frame.direction(member), style.towards ? &*style.towards : nullptr, style.turned);
    if (member.zAxis.isZero())
        return complain(fmt::format("the section's direction runs along the member {}", name),
                        "Name a direction across it.");
    addPlaced(std::move(member), role);
}

void FrameBuilder::addPlaced(FrameMember member, const std::string& role)
{
    member.sentence = sentence_->id;
    if (!memberNames_.insert(member.name).second)
        return complain(fmt::format("there are two members called \"{}\"", member.name),
                        "Give one of them another name.");
    frame.members.push_back(std::move(member));
    const int index = static_cast<int>(frame.members.size()) - 1;
    note(role, &FrameGroup::members, index);
    note({}, &FrameGroup::points, frame.members.back().from);
    note({}, &FrameGroup::points, frame.members.back().to);
}

void FrameBuilder::addSheet(Sheet sheet)
{
    const std::size_t before = frame.sheets.size();
    keepSheet(sheet);
    if (frame.sheets.size() == before) return;
    int corner = 0;
    const auto point = [&](const Eigen::Vector3d& place) {
        addPoint(fmt::format("{}.{}", sheet.name, ++corner), place, true, "corners");
    };
    for (const auto& panel : sheet.flat)
        for (const auto& own : panel.outline.corners)
            point(panel.place(own.at));
    for (const auto& panel : sheet.turned)
        for (const double share : {0.0, 1.0})
            for (const double turn : {0.0, panel.angle})
                if (!panel.wholeTurn() && !isClosedArc(panel)) point(panel.place(turn, share));
}

void FrameBuilder::keepSheet(Sheet sheet)
{
    if (!sheetNames_.insert(sheet.name).second || memberNames_.contains(sheet.name))
        return complain(fmt::format("there are two parts called \"{}\"", sheet.name), "Give one of them another name.");
    frame.sheets.push_back(std::move(sheet));
    note({}, &FrameGroup::sheets, static_cast<int>(frame.sheets.size()) - 1);
}

namespace {

bool has(const std::vector<int>& list, int index)
{
    return std::find(list.begin(), list.end(), index) != list.end();
}

} // namespace

void FrameBuilder::moveParts(const Picked& parts, const Eigen::Isometry3d& motion)
{
    // Whom a point belongs to: the ends of members, and the corners of sheets by the groups that hold both.
    std::set<int> ofMoved, ofRest, ends;
    for (std::size_t at = 0; at < frame.members.size(); ++at) {
        const bool moves = has(parts.members, static_cast<int>(at));
        for (const int end : {frame.members[at].from, frame.members[at].to}) {
            (moves ? ofMoved : ofRest).insert(end);
            if (moves) ends.insert(end);
        }
    }
    const auto movesWhole = [&](const FrameGroup& group) {
        return !group.sheets.empty() && std::all_of(group.sheets.begin(), group.sheets.end(),
                                                    [&](int sheet) { return has(parts.sheets, sheet); });
    };
    for (const auto& [name, group] : frame.groups)
        for (const int point : group.points)
            if (!group.sheets.empty()) (movesWhole(group) ? ofMoved : ofRest).insert(point);
    for (auto& placed : frame.placed) { // moves as a whole, with all of its points
        std::size_t moves = 0;
        const auto count = [&](const std::vector<int>& moved, int first, std::size_t size) {
            for (const int at : moved)
                moves += at >= first && at < first + static_cast<int>(size);
        };
        count(parts.members, placed.firstMember, placed.frame->members.size());
        count(parts.sheets, placed.firstSheet, placed.frame->sheets.size());
        count(parts.solids, placed.firstSolid, placed.frame->solids.size());
        if (moves == 0) continue;
        const auto& solids = placed.frame->solids;
        const auto spent = std::count_if(solids.begin(), solids.end(), [](const Solid& one) { return one.spent; });
        if (moves + static_cast<std::size_t>(spent) < placed.frame->members.size() + placed.frame->parts())
            return complain(fmt::format("a part of {} would move and the rest of it stay", placed.name),
                            fmt::format("Move all of {}, or move the part in its own file.", placed.name));
        placed.turn = motion.linear() * placed.turn;
        placed.shift = motion * placed.shift;
        for (std::size_t at = 0; at < placed.frame->points.size(); ++at)
            ofMoved.insert(placed.firstPoint + static_cast<int>(at));
    }
    for (auto& member : parts.members)
        frame.members[static_cast<std::size_t>(member)].zAxis =
            motion.linear() * frame.members[static_cast<std::size_t>(member)].zAxis;
    for (const int sheet : parts.sheets) {
        Sheet& own = frame.sheets[static_cast<std::size_t>(sheet)];
        own = moved(std::move(own), motion.linear(), motion.translation());
    }
    for (const int solid : parts.solids) {
        Solid& own = frame.solids[static_cast<std::size_t>(solid)];
        own = moved(std::move(own), motion.linear(), motion.translation());
    }
    for (const int point : ofMoved) {
        auto& own = frame.points[static_cast<std::size_t>(point)];
        if (ofRest.contains(point)) {
            if (ends.contains(point)) {
                complain(fmt::format("the point {} belongs to what moves and to what stays", own.name),
                         "Name all that hangs on it, or put what stays on a point of its own.");
                continue;
            }
            const int copy = addPoint(own.name + "'", motion * own.place, true);
            for (auto& [name, group] : frame.groups)
                if (movesWhole(group) || (name.starts_with("corners of ") && movesWhole(frame.groups[name.substr(11)])))
                    std::replace(group.points.begin(), group.points.end(), point, copy);
            continue;
        }
        std::erase(cells_[cellOf(own.place)], point);
        own.place = motion * own.place;
        cells_[cellOf(own.place)].push_back(point);
    }
}

std::optional<Eigen::Vector3d> FrameBuilder::place(std::string_view key)
{
    return placeIn(sentence_->text(key));
}

std::optional<Eigen::Vector3d> FrameBuilder::placeIn(const std::string& text)
{
    const auto picked = pick(frame, text, Target::point);
    if (picked.problem.empty() && picked.points.size() == 1)
        return frame.points[static_cast<std::size_t>(picked.points[0])].place;
    const auto read = readVector(text, QuantityKind::length, NumberStyle::file);
    if (const auto* vector = std::get_if<Vector>(&read)) return asVector(vector->si);
    if (picked.points.size() > 1)
        complain(fmt::format("\"{}\" means {} points, but one place is needed", text, picked.points.size()));
    else
        complain(fmt::format("\"{}\" is neither a point nor coordinates such as \"0, 0, 3 m\"", text));
    return std::nullopt;
}

std::optional<Picked> FrameBuilder::where(std::string_view key)
{
    auto picked = pick(frame, sentence_->text(key), sentence_->kind->field(key)->targets);
    if (!picked.problem.empty()) complain(picked.problem, picked.remedy);
    if (picked.size() == 0) return std::nullopt;
    return picked;
}

void FrameBuilder::addSolid(Solid solid)
{
    if (!sheetNames_.insert(solid.name).second || memberNames_.contains(solid.name))
        return complain(fmt::format("there are two parts called \"{}\"", solid.name), "Give one of them another name.");
    frame.solids.push_back(std::move(solid));
    note({}, &FrameGroup::solids, static_cast<int>(frame.solids.size()) - 1);
}

void FrameBuilder::replaceBySheet(int which, Sheet sheet)
{
    Solid& solid = frame.solids[static_cast<std::size_t>(which)];
    solid.spent = true;
    for (auto& [name, group] : frame.groups) {
        if (std::erase(group.solids, which) == 0) continue;
        group.sheets.push_back(static_cast<int>(frame.sheets.size()));
    }
    frame.sheets.push_back(std::move(sheet));
}

Frame buildFrame(const Model& model, const AssemblyFrames& assemblies, Findings& findings)
{
    FrameBuilder builder(model, assemblies);
    const std::map<std::string_view, void (*)(FrameBuilder&, const Sentence&)> makers{
        {"point", addPointSentence},
        {"points", addPointTable},
        {"members", addMemberTable},
        {"run", addRun},
        {"frame", addBayFrame},
        {"lattice-mast", addLatticeMast},
        {"ring", addRing},
        {"pipe", addPipe},
        {"arc", addArc},
        {"circle", addCircle},
        {"copies", addCopies},
        {"copies-around", addCopiesAround},
        {"mirror", addMirror},
        {"plate", addPlate},
        {"plate-through", addPlateThrough},
        {"disc", addDisc},
        {"cylinder-shell", addCylinderShell},
        {"cone-shell", addConeShell},
        {"dome", addDome},
        {"elbow", addElbow},
        {"sheet-box", addSheetBox},
        {"folded-sheet", addFoldedSheet},
        {"rib", addRib},
        {"holes", cutHoles},
        {"hole-grid", cutHoleGrid},
        {"hole-circle", cutHoleCircle},
        {"opening", cutOpening},
        {"opening-through", cutOpeningThrough},
        {"imported", addImported},
        {"mesh-part", addMeshPart},
        {"point-at-node", addNodePoint},
        {"solid-box", addSolidBox},
        {"solid-cylinder", addSolidCylinder},
        {"solid-sphere", addSolidSphere},
        {"extrusion", addExtrusion},
        {"revolution", addRevolution},
        {"solid-cut", combineSolids},
        {"solid-union", combineSolids},
        {"solid-common", combineSolids},
        {"small-left-out", leaveOutSmall},
        {"mid-face", takeMidFace},
        {"assembly", placeAssembly},
        {"assembly-row", placeAssemblyRow},
        {"assembly-around", placeAssembliesAround},
        {"moved", movePart},
        {"turned", turnPart},
        {"laid-against", layAgainst},
        {"taper", taperSheet}};
    for (const auto& sentence : model.activeIn(Group::shape)) {
        StopScope::check();
        builder.begin(*sentence);
        if (const auto maker = makers.find(sentence->kind->key); maker != makers.end())
            maker->second(builder, *sentence);
    }
    if (!builder.frame.sheets.empty() || !builder.frame.solids.empty())
        builder.frame.faces = JoinedFaces::of(builder.frame, builder.findings);
    findings.insert(findings.end(), builder.findings.begin(), builder.findings.end());
    return std::move(builder.frame);
}

} // namespace undisona
