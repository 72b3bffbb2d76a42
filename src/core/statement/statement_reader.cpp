#include "core/statement/statement_reader.hpp"

#include "core/model/meant_targets.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

Eigen::Matrix3d StatementReader::axes()
{
    if (!sentence_->has("x-towards") && !sentence_->has("y-near")) return Eigen::Matrix3d::Identity();
    Eigen::Vector3d x =
        sentence_->has("x-towards") ? asVector(sentence_->vector("x-towards")) : Eigen::Vector3d::UnitX();
    Eigen::Vector3d near = sentence_->has("y-near")                ? asVector(sentence_->vector("y-near"))
                           : std::abs(x.normalized().z()) > 0.9999 ? Eigen::Vector3d(Eigen::Vector3d::UnitY())
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

std::array<double, 6> StatementReader::sixStiffnesses() const
{
    std::array<double, 6> stiffness{};
    for (std::size_t direction = 0; direction < 6; ++direction) {
        const std::string key = "k" + std::string(directionNames[direction]);
        if (sentence_->has(key)) stiffness[direction] = sentence_->number(key);
    }
    return stiffness;
}

std::shared_ptr<const Material> StatementReader::materialNamed(const std::string& name)
{
    if (const auto found = structure_.ownMaterials.find(name); found != structure_.ownMaterials.end())
        return found->second;
    if (auto library = libraryMaterial(name)) return std::make_shared<const Material>(*library);
    complain(fmt::format("there is no material \"{}\"", name),
             "Choose one from the library, or add a material of your own with that name.");
    return nullptr;
}

double StatementReader::lengthOf(int member) const
{
    const auto& shape = structure_.frame.members[static_cast<std::size_t>(member)];
    const auto& offset = structure_.members[static_cast<std::size_t>(member)].offset;
    return (structure_.frame.points[static_cast<std::size_t>(shape.to)].place + offset[1] -
            structure_.frame.points[static_cast<std::size_t>(shape.from)].place - offset[0])
        .norm();
}

double StatementReader::extentOf(Target target, int at) const
{
    const auto index = static_cast<std::size_t>(at);
    double sum = 0.0;
    switch (target) {
    case Target::point:
        return 0.0;
    case Target::member:
        return lengthOf(at);
    case Target::edge:
        return structure_.frame.faces->edges[index].length;
    case Target::face:
        return structure_.frame.faces->faces[index].area;
    case Target::sheet:
        if (structure_.frame.faces)
            for (const auto& face : structure_.frame.faces->faces)
                if (face.sheet == at) sum += face.area;
        return sum;
    case Target::solid:
        break;
    }
    if (structure_.frame.faces)
        for (const auto& body : structure_.frame.faces->solids)
            if (body.solid == at) sum += body.volume;
    return sum;
}

std::optional<double> StatementReader::sharedExtent(const Picked& picked)
{
    const Field& field = *sentence_->kind->field("where");
    if (meantTargets(*sentence_, field) != field.targets) return 1.0; // so much per length, area or volume
    std::set<int> dimensions;
    double extent = 0.0;
    for (const Target target : everyTarget)
        for (const int at : picked.of(target)) {
            dimensions.insert(dimensionsOf(target));
            extent += target == Target::point ? 1.0 : extentOf(target, at);
        }
    if (dimensions.size() <= 1) return extent;
    complain(fmt::format("\"{}\" means {}, over which one total is not shared evenly", sentence_->text("where"),
                         wordsOf(picked.kinds(), "and")),
             "Write a sentence for each, or so much per length, area or volume.");
    return std::nullopt;
}

void StatementReader::spread(Attachment::Effect effect, double amount, const Mask3& along)
{
    const Picked picked = where("where");
    const auto extent = sharedExtent(picked);
    if (!extent) return;
    for (const Target target : everyTarget)
        for (const int at : picked.of(target))
            if (target == Target::point)
                structure_.pointMasses.push_back(
                    {.point = at, .mass = amount / *extent, .acts = along, .sentence = sentence_->id});
            else
                attach(effect, target, at, amount / *extent, along);
}

void StatementReader::carryBy(int point, const Picked& picked, bool rigidly)
{
    MeanMotion mean{point, {}, sentence_->id};
    for (const Target target : everyTarget)
        for (const int at : picked.of(target)) {
            if (target == Target::point && at == point) continue;
            if (rigidly)
                structure_.ties.push_back({point, target, at, {true, true, true, true, true, true}, sentence_->id});
            else
                mean.of.emplace_back(target, at);
        }
    if (!mean.of.empty()) structure_.means.push_back(std::move(mean));
}

void StatementReader::attach(Attachment::Effect effect, Target over, int at, double perExtent, const Mask3& along)
{
    const Eigen::Matrix3d tensor = (perExtent * Eigen::Vector3d(along[0], along[1], along[2])).asDiagonal();
    structure_.attachments.push_back({over, at, effect, tensor, sentence_->id});
}

} // namespace undisona
