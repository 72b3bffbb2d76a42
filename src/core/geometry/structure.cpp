#include "core/geometry/structure.hpp"

#include "core/geometry/frame_builder.hpp"
#include "core/geometry/joined_faces.hpp"
#include "core/geometry/left_out.hpp"
#include "core/geometry/pick.hpp"
#include "core/geometry/read_ask.hpp"
#include "core/geometry/sentence_reader.hpp"
#include "core/model/unread.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Reads sentences against the frame and gathers what they mean.
class Resolver : SentenceReader {
public:
    Resolver(Structure& structure, Findings& findings)
        : SentenceReader(structure.frame, findings), structure_(structure)
    {
    }

    void materials(const Model& model)
    {
        std::map<std::string, std::shared_ptr<const Material>> own;
        for (const auto& sentence : model.activeIn(Group::material)) {
            if (sentence->kind->key == "own-material") {
                const Material material{sentence->text("name"),
                                        sentence->number("modulus"),
                                        sentence->number("poisson"),
                                        sentence->number("density"),
                                        sentence->has("damping") ? sentence->number("damping") : 0.0,
                                        "stated in the model",
                                        {}};
                own[material.name] = std::make_shared<const Material>(material);
            }
            if (sentence->kind->key == "orthotropic") {
                sentence_ = sentence.get();
                own[sentence->text("name")] = std::make_shared<const Material>(withGrain(*sentence));
            }
            if (sentence->kind->key == "material-mass") structure_.materialMassFactor = sentence->number("factor");
        }
        for (const auto& sentence : model.activeIn(Group::material)) {
            if (sentence->kind->key != "material") continue;
            sentence_ = sentence.get();
            const std::string name = sentence->text("material");
            std::shared_ptr<const Material> material;
            if (const auto found = own.find(name); found != own.end())
                material = found->second;
            else if (auto library = libraryMaterial(name))
                material = std::make_shared<const Material>(*library);
            if (!material) {
                complain(fmt::format("there is no material \"{}\"", name),
                         "Choose one from the library, or add a material of your own with that name.");
                continue;
            }
            const Picked picked = parts("what");
            for (const int member : picked.indices)
                structure_.members[static_cast<std::size_t>(member)].material = material;
            for (const int sheet : picked.sheets)
                structure_.sheets[static_cast<std::size_t>(sheet)].material = material;
            for (const int solid : picked.solids)
                structure_.solids[static_cast<std::size_t>(solid)].material = material;
        }
        for (const auto& sentence : model.activeIn(Group::material)) {
            if (sentence->kind->key != "grain") continue;
            sentence_ = sentence.get();
            const Eigen::Vector3d along = asVector(sentence->vector("along"));
            if (!(along.norm() > 0.0))
                complain("the grain's direction is 0, 0, 0", "Give a direction such as 1, 0, 0.");
            const Picked picked = parts("sheets");
            if (picked.sheets.empty() && picked.solids.empty() && !picked.indices.empty())
                complain(
                    fmt::format("\"{}\" means members, but sheet or solids are needed here", sentence->text("sheets")),
                    "Members take the figures along the grain as they are.");
            for (const int sheet : picked.sheets)
                structure_.sheets[static_cast<std::size_t>(sheet)].grain = along;
            for (const int solid : picked.solids)
                structure_.solids[static_cast<std::size_t>(solid)].grain = along;
        }
        for (std::size_t at = 0; at < structure_.sheets.size(); ++at)
            if (!structure_.sheets[at].material) {
                findings_.push_back(
                    errorAt(structure_.frame.sheets[at].sentence,
                            fmt::format("{} has no material", structure_.frame.sheets[at].name),
                            "Add a sentence to the group Material, such as \"everything is structural steel\"."));
                break;
            }
        for (std::size_t at = 0; at < structure_.solids.size(); ++at) {
            const auto& material = structure_.solids[at].material;
            if (!material || !material->grain) continue;
            // Lekhnitskii 1963: the energy of a body alike in every direction across its grain is positive.
            const Grain& grain = *material->grain;
            const double least = 1.0 - grain.poissonAcross -
                                 2.0 * material->poisson * material->poisson * grain.across / material->modulus;
            if (least > 0.0 && grain.poissonAcross < 1.0) continue;
            findings_.push_back(errorAt(
                structure_.frame.solids[at].sentence,
                fmt::format("{}: no solid has the figures of {}", structure_.frame.solids[at].name, material->name),
                "The two Poisson ratios are too large for its moduli."));
        }
        for (std::size_t at = 0; at < structure_.solids.size(); ++at)
            if (!structure_.solids[at].material && !structure_.frame.solids[at].spent) {
                findings_.push_back(
                    errorAt(structure_.frame.solids[at].sentence,
                            fmt::format("{} has no material", structure_.frame.solids[at].name),
                            "Add a sentence to the group Material, such as \"everything is structural steel\"."));
                break;
            }
        std::size_t without = 0;
        std::string first;
        for (std::size_t at = 0; at < structure_.members.size(); ++at)
            if (!structure_.members[at].material && without++ == 0) first = structure_.frame.members[at].name;
        if (without > 0)
            findings_.push_back(
                errorAt({},
                        without == 1 ? fmt::format("the member {} has no material", first)
                                     : fmt::format("{} members have no material, {} among them", without, first),
                        "Add a sentence to the group Material, such as \"everything is structural steel\"."));
    }

    void joints(const Model& model)
    {
        for (const auto& sentence : model.activeIn(Group::joints)) {
            sentence_ = sentence.get();
            const std::string& kind = sentence->kind->key;
            if (kind == "release") release();
            if (kind == "rigid") tie();
            if (kind == "offset") offset();
            if (kind == "spring") spring();
            if (kind == "apart") apart();
            if (kind == "rods")
                for (const int member : members("members"))
                    structure_.members[static_cast<std::size_t>(member)].rod = true;
            if (kind == "membranes")
                for (const int sheet : sheets("sheets"))
                    structure_.sheets[static_cast<std::size_t>(sheet)].membrane = true;
        }
        for (const auto& sentence : model.activeIn(Group::joints)) {
            if (sentence->kind->key != "rods") continue;
            sentence_ = sentence.get();
            for (const int member : members("members"))
                checkRod(member);
        }
    }

    void supports(const Model& model)
    {
        for (const auto& sentence : model.activeIn(Group::supports)) {
            sentence_ = sentence.get();
            if (structure_.leftOut.contains(sentence_->id)) continue;
            if (sentence->kind->key == "bed") {
                for (const int member : members("members"))
                    structure_.beds.push_back({member, bedding(), sentence->id});
                continue;
            }
            if (sentence->kind->key == "bed-under") {
                for (const int sheet : sheets("sheets"))
                    structure_.areaBeds.push_back({sheet, bedding(), sentence->id});
                continue;
            }
            if (sentence->kind->key == "bed-faces") {
                for (const int face : faces("faces"))
                    structure_.faceBeds.push_back({face, bedding(), sentence->id});
                continue;
            }
            if (sentence->kind->key == "bed-along-edges") {
                for (const int edge : edges("edges"))
                    structure_.edgeBeds.push_back({edge, bedding(), sentence->id});
                continue;
            }
            hold(sentence->kind->key == "hold");
        }
    }

    void masses(const Model& model)
    {
        for (const auto& sentence : model.activeIn(Group::addedMass)) {
            sentence_ = sentence.get();
            if (structure_.leftOut.contains(sentence_->id)) continue;
            const std::string& kind = sentence->kind->key;
            if (kind == "mass") pointMass();
            if (kind == "mass-along")
                for (const int member : members("members"))
                    structure_.lineMasses.push_back(
                        {member, sentence->number("mass"), translations("only"), sentence->id});
            if (kind == "mass-shared") {
                const auto picked = members("members");
                double total = 0.0;
                for (const int member : picked)
                    total += lengthOf(member);
                for (const int member : picked)
                    structure_.lineMasses.push_back(
                        {member, sentence->number("mass") / total, translations("only"), sentence->id});
            }
            if (kind == "mass-over")
                for (const int sheet : sheets("sheets"))
                    structure_.areaMasses.push_back(
                        {sheet, sentence->number("mass"), translations("only"), sentence->id});
            if (kind == "mass-edges")
                for (const int edge : edges("edges"))
                    structure_.edgeMasses.push_back(
                        {edge, sentence->number("mass"), translations("only"), sentence->id});
            if (kind == "mass-faces") {
                const auto picked = faces("faces");
                double total = 0.0;
                for (const int face : picked)
                    total += structure_.frame.faces->faces[static_cast<std::size_t>(face)].area;
                for (const int face : picked)
                    structure_.faceMasses.push_back(
                        {face, sentence->number("mass") / total, translations("only"), sentence->id});
            }
            if (kind == "mass-spread") {
                const auto picked = sheets("sheets");
                double total = 0.0;
                for (const int sheet : picked)
                    total += areaOf(sheet);
                for (const int sheet : picked)
                    structure_.areaMasses.push_back(
                        {sheet, sentence->number("mass") / total, translations("only"), sentence->id});
            }
            if (kind == "coating")
                for (const int member : members("members")) {
                    const double perimeter =
                        structure_.frame.members[static_cast<std::size_t>(member)].section->perimeter;
                    structure_.lineMasses.push_back(
                        {member,
                         sentence->number("thickness") * sentence->number("density") * perimeter,
                         {true, true, true},
                         sentence->id});
                }
        }
    }

    void excitations(const Model& model)
    {
        for (const auto& sentence : model.activeIn(Group::excitation)) {
            sentence_ = sentence.get();
            Excitation excitation;
            excitation.name = sentence->text("name");
            excitation.sentence = sentence->id;
            excitation.margin = sentence->number("margin");
            const std::string& kind = sentence->kind->key;
            excitation.turns = kind == "running-speed" || kind == "speed-range";
            if (kind == "running-speed")
                excitation.low = excitation.high = sentence->number("speed");
            else if (kind == "fixed-frequency")
                excitation.low = excitation.high = sentence->number("frequency");
            else {
                excitation.low = sentence->number("low");
                excitation.high = sentence->number("high");
            }
            if (excitation.high < excitation.low) {
                complain(fmt::format("{} ends below where it begins", excitation.name), "Swap the two.");
                continue;
            }
            if (excitation.turns) excitation.orders = sentence->orders("orders").values;
            const std::string entry = sentence->has("entry") ? sentence->text("entry") : "in a way unknown";
            if (entry == "through the base") excitation.entry = Entry::base;
            if (entry == "as a force") excitation.entry = Entry::force;
            if (entry == "as a moment") excitation.entry = Entry::moment;
            excitation.along = translations("along");
            if (excitation.entry == Entry::force || excitation.entry == Entry::moment) {
                if (!sentence->has("points")) {
                    complain(fmt::format("{} enters at points that are not named", excitation.name),
                             "Name the points, or leave the way in unknown.");
                    continue;
                }
                excitation.points = points("points");
            }
            structure_.excitations.push_back(std::move(excitation));
        }
    }

    /// Where sheet is meshed more finely; and how finely all of it.
    void sizes(const Model& model)
    {
        for (const auto& sentence : model.activeIn(Group::ask)) {
            sentence_ = sentence.get();
            if (sentence->kind->key == "sheet-mesh") {
                const std::string word = sentence->text("fineness");
                structure_.ask.sheetSizes = word == "coarse" ? 1.6 : word == "fine" ? 2.0 / 3.0 : 1.0;
            }
            if (sentence->kind->key == "solid-elements") solidElements();
            if (sentence->kind->key != "size-at") continue;
            const Picked picked = pointsAndEdges("where");
            LocalSize local{sentence->number("size"), picked.edges, {}, sentence->id, picked.faces};
            for (const int face : picked.faces)
                for (const auto& loop : structure_.frame.faces->faces[static_cast<std::size_t>(face)].loops)
                    for (const auto& use : loop)
                        local.edges.push_back(use.edge);
            std::sort(local.edges.begin(), local.edges.end());
            local.edges.erase(std::unique(local.edges.begin(), local.edges.end()), local.edges.end());
            for (const int point : picked.indices)
                local.places.push_back(structure_.frame.points[static_cast<std::size_t>(point)].place);
            structure_.localSizes.push_back(std::move(local));
        }
    }

private:
    /// Stiffness per length or per area along the directions named.
    std::array<double, 3> bedding() const
    {
        const Mask3 along = translations("directions");
        const double stiffness = sentence_->number("stiffness");
        return {along[0] * stiffness, along[1] * stiffness, along[2] * stiffness};
    }

    std::vector<int> edges(std::string_view key)
    {
        const Picked picked = pointsAndEdges(key);
        if (picked.edges.empty() && picked.size() > 0)
            complain(fmt::format("\"{}\" means {}, but edges of sheet are needed here", sentence_->text(key),
                                 picked.faces.empty() ? "points" : "faces"),
                     "Name edges, such as \"edges of Plate\" or \"edges at x = 0 m\".");
        return picked.edges;
    }

    std::vector<int> faces(std::string_view key)
    {
        const Picked picked = pointsAndEdges(key);
        if (picked.faces.empty() && picked.size() > 0)
            complain(fmt::format("\"{}\" means no faces of solids, which are needed here", sentence_->text(key)),
                     "Name faces, such as \"faces at z = 0 m of Block\".");
        return picked.faces;
    }

    void solidElements()
    {
        const Picked picked = parts("what");
        if (picked.solids.empty() && picked.size() > 0)
            complain(fmt::format("\"{}\" means no solid", sentence_->text("what")),
                     "Name a box, a cylinder or another solid.");
        const std::string word = sentence_->text("elements");
        for (const int solid : picked.solids) {
            auto& own = structure_.solids[static_cast<std::size_t>(solid)];
            own.elements = word == "tetrahedra"       ? BodyElements::tetrahedra
                           : word == "20-node bricks" ? BodyElements::bricks20
                           : word == "8-node bricks"  ? BodyElements::bricks8
                                                      : BodyElements::byShape;
            own.through = sentence_->has("through") ? sentence_->count("through") : 0;
            own.elementsSentence = sentence_->id;
        }
    }

    Material withGrain(const Sentence& said)
    {
        Material material{said.text("name"),
                          said.number("modulus"),
                          said.number("poisson"),
                          said.number("density"),
                          said.has("damping") ? said.number("damping") : 0.0,
                          "stated in the model",
                          Grain{said.number("across"), said.number("shear"), said.number("shear"), 0.3}};
        if (said.has("rolling")) material.grain->rolling = said.number("rolling");
        if (said.has("poisson-across")) material.grain->poissonAcross = said.number("poisson-across");
        // Lekhnitskii, Theory of Elasticity of an Anisotropic Body, 1963: the plane's energy is positive.
        if (material.poisson * material.poisson >= material.modulus / material.grain->across) {
            complain(fmt::format("no material has these figures: the Poisson ratio must lie below {:.3g}, the root of "
                                 "the two moduli's ratio",
                                 std::sqrt(material.modulus / material.grain->across)),
                     "It is the strain across the grain for one along it.");
            material.poisson = 0.0;
        }
        return material;
    }

    void apart()
    {
        const auto named = [&](const char* key) {
            const Picked picked = parts(key);
            std::vector<int> found = picked.sheets;
            for (const int solid : picked.solids)
                found.push_back(structure_.frame.partOfSolid(solid));
            if (found.empty() && !picked.indices.empty())
                complain(fmt::format("\"{}\" means members, which meet others at points alone", sentence_->text(key)),
                         "Name sheet or solids; a member gets points of its own.");
            return found;
        };
        const auto one = named("what"), other = named("other");
        for (const int first : one)
            for (const int second : other) {
                if (first == second)
                    return complain(fmt::format("{} is named on both sides", structure_.frame.partName(first)),
                                    "Name two parts that touch.");
                structure_.apart.push_back({first, second});
            }
    }

    double areaOf(int sheet) const
    {
        double area = 0.0;
        if (structure_.frame.faces)
            for (const auto& face : structure_.frame.faces->faces)
                if (face.sheet == sheet) area += face.area;
        return area;
    }

    double lengthOf(int member) const
    {
        const auto& shape = structure_.frame.members[static_cast<std::size_t>(member)];
        const auto& offset = structure_.members[static_cast<std::size_t>(member)].offset;
        return (structure_.frame.points[static_cast<std::size_t>(shape.to)].place + offset[1] -
                structure_.frame.points[static_cast<std::size_t>(shape.from)].place - offset[0])
            .norm();
    }

    /// The frame stated by "its x towards ..., its y near ..."; global axes if neither is said.
    Eigen::Matrix3d axes()
    {
        if (!sentence_->has("x-towards") && !sentence_->has("y-near")) return Eigen::Matrix3d::Identity();
        Eigen::Vector3d x =
            sentence_->has("x-towards") ? asVector(sentence_->vector("x-towards")) : Eigen::Vector3d::UnitX();
        Eigen::Vector3d near = sentence_->has("y-near") ? asVector(sentence_->vector("y-near"))
                               : std::abs(x.normalized().z()) > 0.9999
                                   ? Eigen::Vector3d(Eigen::Vector3d::UnitY())
                                   : Eigen::Vector3d(Eigen::Vector3d::UnitZ().cross(x));
        const Eigen::Vector3d z = x.cross(near);
        if (!(z.norm() > 1e-9 * (1e-300 + x.norm() * near.norm()))) {
            complain("the two directions of the axes are the same or zero", "Give two directions across each other.");
            return Eigen::Matrix3d::Identity();
        }
        Eigen::Matrix3d columns;
        columns.col(0) = x.normalized();
        columns.col(2) = z.normalized();
        columns.col(1) = columns.col(2).cross(columns.col(0));
        return columns;
    }

    std::array<double, 6> sixStiffnesses() const
    {
        std::array<double, 6> stiffness{};
        for (std::size_t direction = 0; direction < 6; ++direction) {
            const std::string key = "k" + std::string(directionNames[direction]);
            if (sentence_->has(key)) stiffness[direction] = sentence_->number(key);
        }
        return stiffness;
    }

    void hold(bool mayBeRigid)
    {
        Hold hold{0, axes(), {}, sixStiffnesses(), sentence_->id};
        for (std::size_t direction = 0; direction < 6; ++direction)
            hold.rigid[direction] = mayBeRigid &&
                                    sentence_->directions("directions").has(static_cast<int>(direction)) &&
                                    hold.elastic[direction] == 0.0;
        if (!mayBeRigid && hold.elastic == std::array<double, 6>{})
            return complain("the springs to ground have no stiffness yet", "Add one, such as \"1 kN/mm along z\".");
        const Picked picked = pointsAndEdges("points");
        if (picked.edges.size() + picked.faces.size() > 0 && hold.elastic != std::array<double, 6>{})
            return complain("springs to ground stand on points, not on edges or faces",
                            "Name points, or leave the springs out.");
        for (const int point : picked.indices) {
            hold.point = point;
            structure_.holds.push_back(hold);
        }
        hold.point = -1;
        for (const int edge : picked.edges) {
            hold.edge = edge;
            structure_.holds.push_back(hold);
        }
        hold.edge = -1;
        for (const int face : picked.faces) {
            hold.face = face;
            structure_.holds.push_back(hold);
        }
    }

    void release()
    {
        const std::string ends = sentence_->text("ends");
        const Directions freed = sentence_->directions("directions");
        for (const int member : members("members")) {
            auto& properties = structure_.members[static_cast<std::size_t>(member)];
            properties.releaseSentence = sentence_->id;
            for (std::size_t end = 0; end < 2; ++end) {
                if (ends == (end == 0 ? "the second end" : "the first end")) continue;
                for (std::size_t direction = 0; direction < 6; ++direction) {
                    if (!freed.has(static_cast<int>(direction))) continue;
                    properties.released[6 * end + direction] = true;
                    const char* spring = direction < 3 ? "stiffness" : "turning";
                    if (sentence_->has(spring))
                        properties.releaseSpring[6 * end + direction] = sentence_->number(spring);
                }
            }
            for (const std::size_t through :
                 {std::size_t{0}, std::size_t{3}}) // axial and twisting run through the member
                if (properties.released[through] && properties.released[through + 6] &&
                    properties.releaseSpring[through] == 0.0 && properties.releaseSpring[through + 6] == 0.0)
                    complain(fmt::format("both ends of {} are free in {}, so that it would {} by itself",
                                         structure_.frame.members[static_cast<std::size_t>(member)].name,
                                         directionNames[through], through == 0 ? "slide" : "spin"),
                             "Free one end only.");
        }
    }

    /// A rod has nothing to be freed, and no arm to turn.
    void checkRod(int member)
    {
        const auto& properties = structure_.members[static_cast<std::size_t>(member)];
        const std::string& name = structure_.frame.members[static_cast<std::size_t>(member)].name;
        if (properties.released != std::array<bool, 12>{})
            complain(fmt::format("{} is a rod and has no end to free", name),
                     "Take it out of one of the two sentences.");
        if (!properties.offset[0].isZero() || !properties.offset[1].isZero())
            complain(fmt::format("{} is a rod and cannot run beside its points", name),
                     "Give it points of its own, tied rigidly to the others.");
    }

    void tie()
    {
        const auto leader = points("to");
        if (leader.size() > 1)
            return complain("points are tied to one point, but several are named", "Name one leading point.");
        if (leader.empty()) return;
        const auto followers = points("points");
        if (followers == leader)
            findings_.push_back(warningAt(
                sentence_->id,
                fmt::format("{} is tied to itself, which joins nothing",
                            structure_.frame.points[static_cast<std::size_t>(leader[0])].name),
                "Name the points that follow it, or take the sentence away."));
        for (const int follower : followers)
            if (follower != leader[0]) structure_.ties.push_back({leader[0], follower, sentence_->id});
    }

    void offset()
    {
        const Eigen::Vector3d first = asVector(sentence_->vector("offset"));
        const Eigen::Vector3d second = sentence_->has("far") ? asVector(sentence_->vector("far")) : first;
        const bool own = sentence_->has("axes") && sentence_->text("axes") == "member";
        for (const int index : members("members")) {
            const auto& member = structure_.frame.members[static_cast<std::size_t>(index)];
            Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
            if (own) {
                axes.col(0) = structure_.frame.direction(member);
                axes.col(2) = member.zAxis;
                axes.col(1) = axes.col(2).cross(axes.col(0));
            }
            structure_.members[static_cast<std::size_t>(index)].offset = {axes * first, axes * second};
            if (!(lengthOf(index) > 1e-5)) complain(fmt::format("the offset leaves {} without length", member.name));
        }
    }

    void spring()
    {
        const auto from = points("from"), to = points("to");
        if (from.empty() || to.empty()) return;
        if (from.size() != 1 || to.size() != 1)
            return complain("a spring runs from one point to one point", "Name one point at each end.");
        const Spring spring{from[0], to[0], axes(), sixStiffnesses(), sentence_->id};
        if (spring.from == spring.to) return complain("both ends of the spring are the same point");
        if (spring.stiffness == std::array<double, 6>{})
            return complain("the spring has no stiffness yet", "Add one, such as \"1 kN/mm along z\".");
        structure_.springs.push_back(spring);
    }

    void pointMass()
    {
        const Sentence& said = *sentence_;
        const auto picked = points("points");
        if (picked.empty()) return;
        const std::string sharing = said.text("sharing");
        if (sharing == "on" && picked.size() > 1)
            return complain(fmt::format("one mass is on {} points", picked.size()),
                            "Say whether it is \"on each of\" them or \"shared over\" them.");
        PointMass mass{0, said.number("mass"), {}, {}, translations("only"), said.id};
        if (sharing == "shared over") mass.mass /= double(picked.size());
        if (said.has("centre")) mass.centre = asVector(said.vector("centre"));
        Eigen::Matrix3d own = Eigen::Matrix3d::Zero();
        if (said.has("body") || said.has("size")) own += bodyInertia(mass.mass);
        if (said.has("inertia")) own.diagonal() += asVector(said.vector("inertia"));
        if (said.has("products")) {
            const auto xyz = said.vector("products");
            own(0, 1) = own(1, 0) = -xyz[0];
            own(0, 2) = own(2, 0) = -xyz[1];
            own(1, 2) = own(2, 1) = -xyz[2];
        }
        const Eigen::Vector3d principal =
            Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(own, Eigen::EigenvaluesOnly).eigenvalues();
        if (principal[0] < -1e-12 * std::abs(principal[2]))
            return complain("these inertias belong to no real body: one principal inertia is negative",
                            "Check the products of inertia.");
        if (principal[2] > (principal[0] + principal[1]) * (1.0 + 1e-9))
            findings_.push_back(
                warningAt(said.id, "no real body has these inertias: the largest is more than the other two together",
                          "Check them; the program uses them as they are."));
        const Eigen::Matrix3d frame = axes();
        mass.inertia = frame * own * frame.transpose();
        for (const int point : picked) {
            mass.point = point;
            structure_.pointMasses.push_back(mass);
        }
    }

    Eigen::Matrix3d bodyInertia(double mass)
    {
        const Eigen::Vector3d size =
            sentence_->has("size") ? asVector(sentence_->vector("size")) : Eigen::Vector3d(0.3, 0.3, 0.3);
        const std::string body = sentence_->has("body") ? sentence_->text("body") : "box";
        const Eigen::Vector3d square = size.cwiseProduct(size);
        Eigen::Vector3d inertia;
        if (body == "ball")
            inertia = Eigen::Vector3d::Constant(mass * square.x() / 10.0);
        else if (body == "cylinder along z")
            inertia = mass * Eigen::Vector3d(square.x() / 16 + square.z() / 12, square.x() / 16 + square.z() / 12,
                                             square.x() / 8);
        else
            inertia = mass / 12.0 *
                      Eigen::Vector3d(square.y() + square.z(), square.x() + square.z(), square.x() + square.y());
        return inertia.asDiagonal();
    }

    Structure& structure_;
};

} // namespace

StructureAndFindings buildStructure(const Model& stated)
{
    StructureAndFindings built;
    built.findings = unreadWords(stated);
    const Model model = built.findings.empty() ? stated : withoutUnread(stated);
    Structure& structure = built.structure;
    structure.frame = buildFrame(model, built.findings);
    structure.members.resize(structure.frame.members.size());
    structure.sheets.resize(structure.frame.sheets.size());
    structure.solids.resize(structure.frame.solids.size());
    if (structure.frame.empty())
        built.findings.push_back(
            errorAt({}, "there is nothing to solve yet", "Begin with a sentence in the group Shape."));
    structure.leftOut = leftOut(model, built.findings);
    Resolver resolver(structure, built.findings);
    resolver.materials(model);
    resolver.joints(model);
    resolver.supports(model);
    resolver.masses(model);
    resolver.excitations(model);
    readAsk(model, structure, built.findings);
    resolver.sizes(model);
    return built;
}

std::vector<Excitation> readExcitations(const Model& model, const Frame& frame, Findings& findings)
{
    Structure structure;
    structure.frame = frame;
    Resolver(structure, findings).excitations(model);
    return structure.excitations;
}

} // namespace undisona
