#include "core/patterns/break_up.hpp"

#include "core/base/number_text.hpp"
#include "core/model/assembly_file.hpp"
#include "core/model/meant_targets.hpp"
#include "core/picks/pick.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

Quantity metres(double value)
{
    return quantityIn(std::abs(value) < 1e-12 ? 0.0 : value, QuantityKind::length, "m");
}

} // namespace

std::optional<Model> brokenUp(const Model& model, const Frame& frame, const std::string& id)
{
    const auto pattern = model.sentence(id);
    if (!pattern || pattern->kind->group != Group::shape) return std::nullopt;
    const std::string& kind = pattern->kind->key;
    if (kind == "point" || kind == "points" || kind == "members" || placesAssembly(*pattern)) return std::nullopt;
    const std::string name = pattern->text("name");

    std::vector<Row> points;
    for (const auto& point : frame.points)
        if (point.sentence == id)
            points.push_back({point.name, metres(point.place.x()), metres(point.place.y()), metres(point.place.z())});
    // One table of members for each section and orientation.
    struct Batch {
        std::string section;
        Eigen::Vector3d zAxis; ///< nothing where it tells nothing
        long elements;
        double flexibility;
        std::vector<Row> rows;
        bool operator==(const FrameMember& member) const
        {
            return section == member.section->text && elements == member.elements &&
                   flexibility == member.flexibility && (zAxis - axisOf(member)).norm() < 1e-9;
        }
        static Eigen::Vector3d axisOf(const FrameMember& member)
        {
            const SectionShape shape = member.section->shape;
            const bool round = shape == SectionShape::round || shape == SectionShape::tube;
            return round ? Eigen::Vector3d::Zero() : member.zAxis;
        }
    };
    std::vector<Batch> batches;
    for (const auto& member : frame.members) {
        if (member.sentence != id) continue;
        auto batch = std::find_if(batches.begin(), batches.end(), [&](const Batch& other) { return other == member; });
        if (batch == batches.end())
            batch = batches.insert(
                batches.end(), {member.section->text, Batch::axisOf(member), member.elements, member.flexibility, {}});
        batch->rows.push_back({member.name, frame.points[static_cast<std::size_t>(member.from)].name,
                               frame.points[static_cast<std::size_t>(member.to)].name});
    }

    Model changed = model;
    for (const auto& sentence : model.sentences()) // roles are gone once the pattern is: name what they meant
        for (const auto& field : sentence->kind->fields) {
            if (field.type != FieldType::where || !sentence->has(field.key) || sentence->id == id) continue;
            const std::string text = sentence->text(field.key);
            if (text.find(name) == std::string::npos) continue;
            const auto picked = pick(frame, text, meantTargets(*sentence, field));
            std::string names;
            const auto addName = [&](const std::string& one) {
                names += (names.empty() ? "" : ", ") + quotedName(one);
            };
            for (const int at : picked.points)
                addName(frame.points[static_cast<std::size_t>(at)].name);
            for (const int at : picked.members)
                addName(frame.members[static_cast<std::size_t>(at)].name);
            if (!names.empty()) changed = changed.replaced(sentence->with(field.key, names));
        }
    std::size_t index = changed.find(id)->index;
    changed = changed.removed(id);
    const auto rowsOf = [](std::vector<Row> rows) {
        return Table{std::make_shared<const std::vector<Row>>(std::move(rows))};
    };
    if (!points.empty())
        changed = changed.inserted(
            newSentence(*kindNamed("points"), changed.freeId()).with("rows", rowsOf(std::move(points))), index++);
    int number = 0;
    for (auto& batch : batches) {
        Sentence members = newSentence(*kindNamed("members"), changed.freeId());
        members = members.with("name", batches.size() == 1 ? name : fmt::format("{} {}", name, ++number))
                      .with("rows", rowsOf(std::move(batch.rows)))
                      .with("section", batch.section);
        if (!batch.zAxis.isZero()) {
            const Eigen::Vector3d& z = batch.zAxis;
            members = members.with(
                "towards", Vector{{z.x(), z.y(), z.z()},
                                  fmt::format("{}, {}, {}", shortest(z.x()), shortest(z.y()), shortest(z.z()))});
        }
        if (batch.elements > 0) members = members.with("elements", batch.elements);
        if (batch.flexibility != 1.0)
            members = members.with("flexibility", quantityIn(batch.flexibility, QuantityKind::number, ""));
        changed = changed.inserted(std::move(members), index++);
    }
    return changed;
}

} // namespace undisona
