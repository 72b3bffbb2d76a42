#include "core/base/number_text.hpp"
#include "core/elements/laminate.hpp"
#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

class MaterialReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        // Whatever order they stand in: what there is, what parts are made of, which way that runs.
        readEach(*this, model, Group::material,
                 {{"own-material", &MaterialReader::ownMaterial},
                  {"orthotropic", &MaterialReader::orthotropic},
                  {"material-mass", &MaterialReader::massFactor}});
        readEach(*this, model, Group::material,
                 {{"strength", &MaterialReader::strength}, {"softening", &MaterialReader::softening}});
        readEach(*this, model, Group::material, {{"layers", &MaterialReader::stack}});
        readEach(*this, model, Group::material, {{"material", &MaterialReader::madeOf}});
        readEach(*this, model, Group::material, {{"grain", &MaterialReader::grain}});
        checkAllHaveOne();
        checkStacks();
    }

private:
    double expansion() const { return sentence_->has("expansion") ? sentence_->number("expansion") : 0.0; }

    void ownMaterial()
    {
        const Sentence& said = *sentence_;
        structure_.ownMaterials[said.text("name")] =
            std::make_shared<const Material>(Material{said.text("name"),
                                                      said.number("modulus"),
                                                      said.number("poisson"),
                                                      said.number("density"),
                                                      said.has("damping") ? said.number("damping") : 0.0,
                                                      "stated in the model",
                                                      {},
                                                      expansion()});
    }

    void orthotropic()
    {
        structure_.ownMaterials[sentence_->text("name")] = std::make_shared<const Material>(withGrain(*sentence_));
    }

    /// Of the material that a sentence names, in place of what it was.
    template <class Say>
    void sayMore(const Say& say)
    {
        const auto material = materialNamed(sentence_->text("material"));
        if (!material) return;
        Material more = *material;
        say(more);
        structure_.ownMaterials[material->name] = std::make_shared<const Material>(std::move(more));
    }

    void strength()
    {
        sayMore([&](Material& material) { material.strength = sentence_->number("strength"); });
    }

    void softening()
    {
        const double warmer = sentence_->number("by"), share = sentence_->number("share");
        if (warmer == 0.0)
            return complain("the figures of a material are those of no warmer one", "Say how much warmer it is.");
        sayMore([&](Material& material) {
            const auto isSame = [&](const auto& known) { return known.first == warmer; };
            std::erase_if(material.keeps, isSame); // the last that is said holds
            material.keeps.emplace_back(warmer, share);
        });
    }

    void stack()
    {
        std::vector<Ply> plies;
        for (const auto& row : *sentence_->table("rows").rows) {
            const auto material = materialNamed(textOf(row[0]));
            if (!material) return;
            if (material->layers)
                return complain(fmt::format("\"{}\" is a stack of layers itself", material->name),
                                "Name the materials of its layers, a line each.");
            plies.push_back({*material, std::get<Quantity>(row[1]).si, std::get<Quantity>(row[2]).si});
        }
        if (plies.empty()) return complain("the stack has no layers", "Add them, the lowest first.");
        if (sentence_->has("mirrored")) {
            const bool again = sentence_->text("mirrored") == "and again in reverse";
            for (std::size_t at = plies.size() - (again ? 0 : 1); at-- > 0;)
                plies.push_back(plies[at]);
        }
        const std::string name = sentence_->text("name");
        structure_.ownMaterials[name] = std::make_shared<const Material>(layeredMaterial(name, std::move(plies)));
    }

    /// A stack is for sheet, and the sheet as thick as its layers.
    void checkStacks()
    {
        const auto isStack = [](const auto& properties) { return properties.material && properties.material->layers; };
        const auto refuse = [&](const std::string& part, const std::string& sentence, const Material& material) {
            findings_.push_back(errorAt(
                sentence, fmt::format("{} cannot be made of {}: layers lie in sheet alone", part, material.name),
                "Draw it as sheet, or name a material that is one throughout."));
        };
        for (std::size_t at = 0; at < structure_.members.size(); ++at)
            if (isStack(structure_.members[at])) {
                const FrameMember& member = structure_.frame.members[at];
                refuse(member.name, member.sentence, *structure_.members[at].material);
                break; // one for all of a run
            }
        for (std::size_t at = 0; at < structure_.solids.size(); ++at)
            if (isStack(structure_.solids[at]))
                refuse(structure_.frame.solids[at].name, structure_.frame.solids[at].sentence,
                       *structure_.solids[at].material);
        for (std::size_t at = 0; at < structure_.sheets.size(); ++at) {
            if (!isStack(structure_.sheets[at])) continue;
            const Sheet& sheet = structure_.frame.sheets[at];
            double layers = 0.0;
            for (const Ply& ply : *structure_.sheets[at].material->layers)
                layers += ply.thickness;
            if (std::abs(layers - sheet.thickness) < 1e-3 * layers) continue;
            Finding finding =
                errorAt(sheet.sentence,
                        fmt::format("{} is {:.4g} mm thick, but the layers of {} are {:.4g} mm", sheet.name,
                                    1e3 * sheet.thickness, structure_.sheets[at].material->name, 1e3 * layers),
                        "Mend one of the two.");
            finding.cures.push_back(
                {fmt::format("Make it {:.4g} mm thick", 1e3 * layers),
                 {{{}, sheet.sentence, {}, {{"thickness", fmt::format("{:.6g} mm", 1e3 * layers)}}}}});
            findings_.push_back(std::move(finding));
        }
    }

    /// The last that is said of a part holds.
    void massFactor()
    {
        const double factor = sentence_->number("factor");
        const bool all = !sentence_->has("what");
        const auto count = [factor](auto& properties) { properties.massFactor = factor; };
        if (all) {
            for (auto& member : structure_.members)
                count(member);
            for (auto& sheet : structure_.sheets)
                count(sheet);
            for (auto& solid : structure_.solids)
                count(solid);
            return;
        }
        const Picked picked = where("what");
        for (const int member : picked.members)
            count(structure_.members[static_cast<std::size_t>(member)]);
        for (const int sheet : picked.sheets)
            count(structure_.sheets[static_cast<std::size_t>(sheet)]);
        for (const int solid : picked.solids)
            count(structure_.solids[static_cast<std::size_t>(solid)]);
    }

    void madeOf()
    {
        const auto material = materialNamed(sentence_->text("material"));
        if (!material) return;
        const Picked picked = where("what");
        // "Everything" is what this model says itself; parts of other files are what those say unless they are named.
        const bool everything = trimmed(sentence_->text("what")) == "everything";
        const auto make = [&](MadeOf& part, bool ofAnother) {
            if (!everything || !ofAnother) part.material = material;
        };
        const Frame& frame = structure_.frame;
        for (const int member : picked.members)
            make(structure_.members[static_cast<std::size_t>(member)],
                 frame.isPlaced(member, &PlacedFrame::firstMember, &Frame::members));
        for (const int sheet : picked.sheets)
            make(structure_.sheets[static_cast<std::size_t>(sheet)],
                 frame.isPlaced(sheet, &PlacedFrame::firstSheet, &Frame::sheets));
        for (const int solid : picked.solids)
            make(structure_.solids[static_cast<std::size_t>(solid)],
                 frame.isPlaced(solid, &PlacedFrame::firstSolid, &Frame::solids));
    }

    void grain()
    {
        const Eigen::Vector3d along = asVector(sentence_->vector("along"));
        if (!(along.norm() > 0.0)) complain("the grain's direction is 0, 0, 0", "Give a direction such as 1, 0, 0.");
        const Picked picked = where("sheets");
        for (const int sheet : picked.sheets)
            structure_.sheets[static_cast<std::size_t>(sheet)].grain = along;
        for (const int solid : picked.solids)
            structure_.solids[static_cast<std::size_t>(solid)].grain = along;
    }

    void checkAllHaveOne()
    {
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

    Material withGrain(const Sentence& said)
    {
        Material material{said.text("name"),
                          said.number("modulus"),
                          said.number("poisson"),
                          said.number("density"),
                          said.has("damping") ? said.number("damping") : 0.0,
                          "stated in the model",
                          Grain{said.number("across"), said.number("shear"), said.number("shear"), 0.3}};
        material.expansion = expansion();
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
};

} // namespace

void readMaterials(const Model& model, Structure& structure, Findings& findings)
{
    MaterialReader(structure, findings).read(model);
}

} // namespace undisona
