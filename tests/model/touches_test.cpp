// What the grammar says that a kind of sentence has a part in, against what really changes with such a sentence.
#include "core/system/rigid_mass.hpp"
#include "core/system/assemble.hpp"
#include "tests/said_model.hpp"

#include <regex>

using namespace undisona;

namespace {

Model example(const std::string& name)
{
    const std::string path = std::string(EXAMPLES) + "/" + name + ".undisona.json";
    const auto document = readDocumentFile(path);
    EXPECT_TRUE(document) << name;
    return document->model;
}

/// What a model comes to, on a mesh that follows the shapes alone.
struct Outcome {
    std::vector<double> shape;
    std::vector<double> mesh;
    Matrix6 mass;
    std::vector<double> stiffness, unknowns;
};

std::optional<Outcome> outcomeOf(const Model& model)
{
    const auto built = buildStructure(model);
    if (hasError(built.findings)) return std::nullopt;
    const Structure& structure = built.structure;
    const FrameMesh mesh = meshOf(structure, proposeSplits(structure, 0.0), proposeSizes(structure, 0.0));
    Progress progress;
    const System system = assemble(structure, mesh, progress);
    Outcome outcome{{}, {}, massSummary(structure, mesh).aboutOrigin, system.stiffness.value, {}};
    for (const auto& point : structure.frame.points)
        outcome.shape.insert(outcome.shape.end(), point.place.data(), point.place.data() + 3);
    for (const auto& node : mesh.nodes)
        outcome.mesh.insert(outcome.mesh.end(), node.place.data(), node.place.data() + 3);
    for (const auto& unknown : system.motions.unknowns)
        for (const Eigen::Vector3d& own : {unknown.place, unknown.direction})
            outcome.unknowns.insert(outcome.unknowns.end(), own.data(), own.data() + 3);
    return outcome;
}

bool alike(const std::vector<double>& one, const std::vector<double>& other)
{
    if (one.size() != other.size()) return false;
    double most = 0.0, apart = 0.0;
    for (std::size_t at = 0; at < one.size(); ++at) {
        most = std::max(most, std::abs(one[at]));
        apart = std::max(apart, std::abs(one[at] - other[at]));
    }
    return apart <= 1e-13 * most;
}

/// Every way to change a sentence a little, and the model without it.
std::vector<std::pair<std::string, Model>> changesOf(const Model& model, const Sentence& sentence)
{
    std::vector<std::pair<std::string, Model>> list{{"without it", model.removed(sentence.id)}};
    for (const Field& field : sentence.kind->fields) {
        if (field.type != FieldType::quantity || !sentence.has(field.key)) continue;
        std::smatch parts;
        const std::string text = sentence.text(field.key);
        if (!std::regex_match(text, parts, std::regex(R"(([-+0-9.eE]+)(.*))"))) continue;
        const std::string larger = std::to_string(1.07 * std::stod(parts[1])) + parts[2].str();
        const auto read = readValue(field, larger, NumberStyle::file);
        if (const auto* value = std::get_if<Value>(&read))
            list.emplace_back(field.key + " " + larger, model.replaced(sentence.with(field.key, *value)));
    }
    return list;
}

} // namespace

TEST(Touches, NothingChangesThatAKindHasNoPartIn)
{
    int changes = 0, ofMass = 0, ofStiffness = 0, left = 0;
    for (const char* name : {"radar-mast", "hoist-gantry", "signal-lamps", "pump-skid"}) {
        const Model model = example(name);
        const auto before = outcomeOf(model);
        ASSERT_TRUE(before) << name;
        for (const auto& sentence : model.active()) {
            const SentenceKind& kind = *sentence->kind;
            for (const auto& [what, changed] : changesOf(model, *sentence)) {
                SCOPED_TRACE(std::string(name) + ", " + sentence->id + " " + kind.key + ", " + what);
                EXPECT_EQ(solveKey(changed) == solveKey(model), kind.leavesModes());
                const auto after = outcomeOf(changed);
                if (!after) continue; // nothing holds or makes the rest
                ++changes;
                const bool shape = kind.has(Touch::shape), mesh = shape || kind.has(Touch::mesh);
                const bool sameMass = after->mass.isApprox(before->mass, 1e-12),
                           sameStiffness =
                               alike(after->stiffness, before->stiffness) && alike(after->unknowns, before->unknowns);
                if (!shape) EXPECT_TRUE(alike(after->shape, before->shape));
                if (!mesh) EXPECT_TRUE(alike(after->mesh, before->mesh));
                if (!mesh && !kind.has(Touch::mass)) EXPECT_TRUE(sameMass);
                if (!mesh && !kind.has(Touch::stiffness)) EXPECT_TRUE(sameStiffness);
                // What adds mass, or holds, does so.
                if (kind.group == Group::addedMass) EXPECT_FALSE(sameMass);
                if (kind.group == Group::supports) EXPECT_FALSE(sameStiffness);
                ofMass += !sameMass;
                ofStiffness += !sameStiffness;
                left += kind.leavesModes();
            }
        }
    }
    EXPECT_GT(changes, 30);
    EXPECT_GT(ofMass, 10);
    EXPECT_GT(ofStiffness, 10);
    EXPECT_GT(left, 5);
}

TEST(Touches, EveryKindHasAPartInSomething)
{
    for (const SentenceKind& kind : sentenceKinds()) {
        EXPECT_FALSE(kind.touches.empty()) << kind.key;
        EXPECT_EQ(kind.leavesModes(), (kind.group == Group::loads && kind.key != "bears-as-said") ||
                                          kind.group == Group::excitation || kind.key == "hand-check" ||
                                          kind.key == "weighed" || kind.key == "state" || kind.key == "call-mode" ||
                                          kind.key == "strength" || kind.key == "softening")
            << kind.key;
        EXPECT_FALSE(kind.has(Touch::shape) && kind.group != Group::shape) << kind.key;
    }
}
