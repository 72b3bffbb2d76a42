#include "core/statement/assemblies.hpp"

#include "core/model/assembly_file.hpp"
#include "core/model/model_key.hpp"
#include "core/shapes/kept_answers.hpp"
#include "core/shapes/placed_faces.hpp"

#include <fmt/format.h>

#include <filesystem>

namespace undisona {

namespace {

std::string shortName(const std::string& path)
{
    return std::filesystem::path(path).filename().string();
}

/// "pier.json, which takes float.json, which takes pier.json".
std::string chainOf(std::vector<std::string> above, const std::string& last)
{
    above.push_back(last);
    std::string chain;
    for (const auto& path : above)
        chain += (chain.empty() ? "" : ", which takes ") + shortName(path);
    return chain;
}

/// Built once for all of its copies and all models that take it, until one of its files changes.
std::shared_ptr<const StructureAndFindings> structureOf(const Model& model, const std::vector<std::string>& above)
{
    static KeptAnswers<std::shared_ptr<const StructureAndFindings>> known(16);
    const std::uint64_t said = keyOf(model, {Touch::shape, Touch::mesh, Touch::stiffness, Touch::mass, Touch::damping});
    const std::vector<double> key{double(said >> 32U), double(said & 0xFFFFFFFFU)};
    if (const auto found = known.find(key)) return *found;
    auto built = std::make_shared<const StructureAndFindings>(buildStructure(model, above));
    if (!hasError(built->findings)) known.keep(key, built);
    return built;
}

/// A sub-assembly's structure, taken over as it stands in the whole.
class Placing {
public:
    Placing(const Structure& own, const PlacedFrame& placed, Structure& whole, Findings& findings)
        : own_(own), placed_(placed), whole_(whole), findings_(findings), faces_(placedFaces(whole.frame, placed))
    {
    }

    void takeOver()
    {
        for (const Hold& hold : own_.holds)
            take(hold);
        const auto before = static_cast<long>(whole_.holds.size());
        for (const Hold& hold : own_.atRestAlone.holds)
            take(hold);
        auto& atRest = whole_.atRestAlone.holds;
        atRest.insert(atRest.end(), whole_.holds.begin() + before, whole_.holds.end());
        whole_.holds.erase(whole_.holds.begin() + before, whole_.holds.end());
        for (Contact contact : own_.contacts) {
            if (contact.point >= 0) contact.point = point(contact.point);
            if (contact.over) contact.over->second = each(contact.over->first, {contact.over->second}).front();
            if (contact.other >= 0) contact.other = point(contact.other);
            contact.pushes = placed_.turn * contact.pushes;
            contact.sentence = placed_.sentence;
            whole_.contacts.push_back(std::move(contact));
        }
        for (const Tie& tie : own_.ties)
            take(tie);
        for (const MeanMotion& mean : own_.means)
            whole_.means.push_back({point(mean.point), all(mean.of), placed_.sentence});
        for (SurfaceJoint joint : own_.surfaceJoints) {
            joint.one = all(joint.one);
            joint.other = all(joint.other);
            joint.edges = each(Target::edge, joint.edges);
            for (auto& line : joint.members) {
                line.member += placed_.firstMember;
                if (!placed_.isMirrored()) continue; // the member runs the other way there
                std::reverse(line.passes.begin(), line.passes.end());
                for (double& share : line.passes)
                    share = 1.0 - share;
            }
            joint.sentence = placed_.sentence;
            whole_.surfaceJoints.push_back(std::move(joint));
        }
        for (const int carried : own_.carried)
            whole_.carried.insert(point(carried));
        for (const Spring& spring : own_.springs)
            take(spring);
        for (const PointMass& mass : own_.pointMasses)
            take(mass);
        const auto attach = [&](const std::vector<Attachment>& all, std::vector<Attachment>& to) {
            for (Attachment attached : all) {
                attached.tensor = placed_.turn * attached.tensor * placed_.turn.transpose();
                putDown(attached, attached.over, to);
            }
        };
        attach(own_.attachments, whole_.attachments);
        attach(own_.atRestAlone.attachments, whole_.atRestAlone.attachments);
        for (const auto& [first, second] : own_.apart)
            whole_.apart.push_back({part(first), part(second)});
        for (LocalSize local : own_.localSizes) {
            for (auto& place : local.places)
                place = placed_.turn * place + placed_.shift;
            local.edges = each(Target::edge, local.edges);
            local.faces = each(Target::face, local.faces);
            local.members = each(Target::member, local.members);
            local.sheets = each(Target::sheet, local.sheets);
            local.solids = each(Target::solid, local.solids);
            local.sentence = placed_.sentence;
            whole_.localSizes.push_back(std::move(local));
        }
        for (Weighed weighed : own_.weighed) {
            if (weighed.what.empty()) { // all there is of it
                for (std::size_t at = 0; at < own_.frame.parts() + own_.frame.members.size(); ++at)
                    weighed.what.push_back(whatever(at));
            }
            weighed.what = all(weighed.what);
            weighed.called = weighed.called == "everything" ? placed_.name : placed_.name + ": " + weighed.called;
            weighed.sentence = placed_.sentence;
            whole_.weighed.push_back(std::move(weighed));
        }
    }

private:
    int point(int at) const { return placed_.firstPoint + at; }
    int part(int at) const
    {
        const int sheets = static_cast<int>(own_.frame.sheets.size());
        return at < sheets ? placed_.firstSheet + at : whole_.frame.partOfSolid(placed_.firstSolid + at - sheets);
    }
    /// Members, sheets and solids in one count.
    std::pair<Target, int> whatever(std::size_t at) const
    {
        const std::size_t members = own_.frame.members.size(), sheets = own_.frame.sheets.size();
        if (at < members) return {Target::member, static_cast<int>(at)};
        if (at < members + sheets) return {Target::sheet, static_cast<int>(at - members)};
        return {Target::solid, static_cast<int>(at - members - sheets)};
    }

    std::vector<int> becomes(Target target, int at) const
    {
        switch (target) {
        case Target::point:
            return {point(at)};
        case Target::member:
            return {placed_.firstMember + at};
        case Target::sheet:
            return {placed_.firstSheet + at};
        case Target::solid:
            return {placed_.firstSolid + at};
        case Target::edge:
            return found(faces_.edges[static_cast<std::size_t>(at)]);
        case Target::face:
            return found(faces_.faces[static_cast<std::size_t>(at)]);
        }
        return {};
    }
    std::vector<int> found(const std::vector<int>& some) const
    {
        if (some.empty() && !lost_) {
            lost_ = true;
            findings_.push_back(
                errorAt(placed_.sentence,
                        fmt::format("an edge or a face of which the file of {} says something is not there any more",
                                    placed_.name),
                        "What this model cuts or joins has taken all of it: say it here, or cut elsewhere."));
        }
        return some;
    }
    /// Once for each of what it is said of.
    template <class Said>
    void putDown(Said said, Target on, std::vector<Said>& list) const
    {
        said.sentence = placed_.sentence;
        for (const int at : becomes(on, said.at)) {
            list.push_back(said);
            list.back().at = at;
        }
    }
    std::vector<int> each(Target target, const std::vector<int>& list) const
    {
        std::vector<int> found;
        for (const int at : list)
            for (const int one : becomes(target, at))
                found.push_back(one);
        return found;
    }
    std::vector<std::pair<Target, int>> all(const std::vector<std::pair<Target, int>>& list) const
    {
        std::vector<std::pair<Target, int>> found;
        for (const auto& [target, at] : list)
            for (const int one : becomes(target, at))
                found.emplace_back(target, one);
        return found;
    }

    /// Turned, and right-handed again where it is a mirror image: its last axis is turned round then.
    Eigen::Matrix3d axes(const Eigen::Matrix3d& stated) const
    {
        Eigen::Matrix3d turned = placed_.turn * stated;
        if (placed_.isMirrored()) turned.col(2) = -turned.col(2);
        return turned;
    }
    /// Directions of the whole that stand for those of the sub-assembly; a finding where they lie askew.
    template <std::size_t Count>
    std::array<bool, Count> directions(const std::array<bool, Count>& stated, const char* what)
    {
        std::array<bool, Count> turned{};
        const bool even = std::all_of(stated.begin(), stated.end(), [&](bool one) { return one == stated[0]; });
        if (even) return stated;
        for (std::size_t from = 0; from < Count; ++from)
            for (int to = 0; to < 3; ++to) {
                const double size = std::abs(placed_.turn(to, static_cast<int>(from % 3)));
                if (size > 1e-9 && size < 1.0 - 1e-9) {
                    findings_.push_back(errorAt(placed_.sentence,
                                                fmt::format("{}: {} in some directions alone, which do not lie along "
                                                            "x, y, z as it is turned here",
                                                            placed_.name, what),
                                                "Turn it by right angles, or say this in the model that places it."));
                    return stated;
                }
                if (size > 0.5) turned[from / 3 * 3 + static_cast<std::size_t>(to)] = stated[from];
            }
        return turned;
    }

    void take(Hold hold)
    {
        hold.axes = axes(hold.axes);
        if (hold.about) {
            hold.about->along = placed_.turn * hold.about->along;
            hold.about->through = placed_.turn * hold.about->through + placed_.shift;
        }
        putDown(hold, hold.on, whole_.holds);
    }
    void take(Tie tie)
    {
        tie.leader = point(tie.leader);
        tie.directions = directions(tie.directions, "something follows a point");
        putDown(tie, tie.on, whole_.ties);
    }
    void take(Spring spring)
    {
        spring.from = point(spring.from);
        spring.to = point(spring.to);
        spring.axes = axes(spring.axes);
        if (placed_.isMirrored()) { // along z, and about x and y, the axes' image runs against its own
            Eigen::Matrix<double, 6, 1> sign;
            sign << 1.0, 1.0, -1.0, -1.0, -1.0, 1.0;
            spring.stiffness = (sign.asDiagonal() * spring.stiffness * sign.asDiagonal()).eval();
        }
        spring.sentence = placed_.sentence;
        whole_.springs.push_back(spring);
    }
    void take(PointMass mass)
    {
        mass.point = point(mass.point);
        mass.centre = placed_.turn * mass.centre;
        mass.inertia = placed_.turn * mass.inertia * placed_.turn.transpose();
        mass.acts = directions(mass.acts, "a mass acts");
        mass.sentence = placed_.sentence;
        whole_.pointMasses.push_back(mass);
    }

    const Structure& own_;
    const PlacedFrame& placed_;
    Structure& whole_;
    Findings& findings_;
    const PlacedFaces faces_;
    mutable bool lost_ = false; ///< said once
};

/// Every place where one stands.
template <class Do>
void eachPlaced(const Assemblies& assemblies, const Structure& whole, const Do& act)
{
    for (const PlacedFrame& placed : whole.frame.placed)
        if (const auto own = assemblies.find(placed.sentence); own != assemblies.end()) act(*own->second, placed);
}

} // namespace

Assemblies readAssemblies(const Model& model, const std::vector<std::string>& above, Findings& findings)
{
    constexpr std::size_t said = 3; // of what is the matter in one file
    Assemblies assemblies;
    for (const auto& sentence : model.activeIn(Group::shape)) {
        if (!placesAssembly(*sentence)) continue;
        const std::string path = sentence->text("file");
        if (std::find(above.begin(), above.end(), path) != above.end()) {
            findings.push_back(errorAt(sentence->id, "a file takes itself: " + chainOf(above, path),
                                       "Take one of them out of the loop."));
            continue;
        }
        const auto file = assemblyFile(path);
        std::vector<std::string> chain = above;
        chain.push_back(path);
        std::shared_ptr<const StructureAndFindings> built;
        if (file->findings.empty()) built = structureOf(file->model, chain);
        std::size_t errors = 0;
        for (Finding finding : built ? built->findings : file->findings) {
            if (finding.severity != Severity::error || ++errors > said) continue;
            const auto within = file->model.sentence(finding.sentence);
            if (finding.place.empty()) // which is the file and its line
                finding.what =
                    shortName(path) + (within ? ", " + wordsOf(*within) : std::string()) + ": " + finding.what;
            finding.sentence = sentence->id;
            finding.cures.clear();
            findings.push_back(std::move(finding));
        }
        if (errors > said)
            findings.push_back(errorAt(sentence->id,
                                       fmt::format("{}: {} more things are wrong", shortName(path), errors - said),
                                       "Open it and mend them there."));
        if (errors == 0) assemblies[sentence->id] = std::shared_ptr<const Structure>(built, &built->structure);
    }
    return assemblies;
}

AssemblyFrames framesOf(const Assemblies& assemblies)
{
    AssemblyFrames frames;
    for (const auto& [sentence, structure] : assemblies)
        frames[sentence] = std::shared_ptr<const Frame>(structure, &structure->frame);
    return frames;
}

void takeOverMaterials(const Assemblies& assemblies, Structure& whole)
{
    eachPlaced(assemblies, whole, [&](const Structure& own, const PlacedFrame& placed) {
        for (std::size_t at = 0; at < own.members.size(); ++at) {
            MemberProperties& member = whole.members[static_cast<std::size_t>(placed.firstMember) + at];
            member = own.members[at];
            if (!member.releaseSentence.empty()) member.releaseSentence = placed.sentence;
            for (auto& offset : member.offset)
                offset = (placed.turn * offset).eval();
            if (placed.isMirrored()) { // its ends have changed places
                std::swap(member.offset[0], member.offset[1]);
                std::rotate(member.released.begin(), member.released.begin() + 6, member.released.end());
                std::rotate(member.releaseSpring.begin(), member.releaseSpring.begin() + 6, member.releaseSpring.end());
            }
        }
        for (std::size_t at = 0; at < own.sheets.size(); ++at) {
            SheetProperties& sheet = whole.sheets[static_cast<std::size_t>(placed.firstSheet) + at];
            sheet = own.sheets[at];
            // Without a grain its direction is x of its own file.
            const bool turned =
                sheet.material && (sheet.material->grain || sheet.material->layers) && !placed.turn.isIdentity(1e-12);
            if (sheet.grain.isZero() && turned) sheet.grain = Eigen::Vector3d::UnitX();
            sheet.grain = placed.turn * sheet.grain;
        }
        for (std::size_t at = 0; at < own.solids.size(); ++at) {
            SolidProperties& solid = whole.solids[static_cast<std::size_t>(placed.firstSolid) + at];
            solid = own.solids[at];
            solid.grain = placed.turn * solid.grain;
            if (!solid.elementsSentence.empty()) solid.elementsSentence = placed.sentence;
        }
    });
}

void takeOverJointsAndLoads(const Assemblies& assemblies, Structure& whole, Findings& findings)
{
    eachPlaced(assemblies, whole, [&](const Structure& own, const PlacedFrame& placed) {
        const auto layered = std::find_if(own.sheets.begin(), own.sheets.end(), [](const SheetProperties& sheet) {
            return sheet.material && sheet.material->layers;
        });
        if (placed.isMirrored() && layered != own.sheets.end())
            findings.push_back(errorAt(
                placed.sentence, fmt::format("{} has sheet of layers, whose angles are not mirrored here", placed.name),
                "Turn it in place of mirroring it, or write its mirror image as a file of its own."));
        Placing(own, placed, whole, findings).takeOver();
    });
}

} // namespace undisona
