#include "core/statement/statement_reader.hpp"

#include "core/geometry/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

std::vector<int> StatementReader::edges(std::string_view key)
{
    const Picked picked = pointsAndEdges(key);
    if (picked.edges.empty() && picked.size() > 0)
        complain(fmt::format("\"{}\" means {}, but edges of sheet are needed here", sentence_->text(key),
                             picked.faces.empty() ? "points" : "faces"),
                 "Name edges, such as \"edges of Plate\" or \"edges at x = 0 m\".");
    return picked.edges;
}

std::vector<int> StatementReader::faces(std::string_view key)
{
    const Picked picked = pointsAndEdges(key);
    if (picked.faces.empty() && picked.size() > 0)
        complain(fmt::format("\"{}\" means no faces of solids, which are needed here", sentence_->text(key)),
                 "Name faces, such as \"faces at z = 0 m of Block\".");
    return picked.faces;
}

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

double StatementReader::lengthOf(int member) const
{
    const auto& shape = structure_.frame.members[static_cast<std::size_t>(member)];
    const auto& offset = structure_.members[static_cast<std::size_t>(member)].offset;
    return (structure_.frame.points[static_cast<std::size_t>(shape.to)].place + offset[1] -
            structure_.frame.points[static_cast<std::size_t>(shape.from)].place - offset[0])
        .norm();
}

std::vector<int> StatementReader::picked(Attachment::Over over)
{
    switch (over) {
    case Attachment::Over::member:
        return members("members");
    case Attachment::Over::sheet:
        return sheets("sheets");
    case Attachment::Over::edge:
        return edges("edges");
    case Attachment::Over::face:
        return faces("faces");
    }
    return {};
}

double StatementReader::extentOf(Attachment::Over over, int at) const
{
    const auto index = static_cast<std::size_t>(at);
    switch (over) {
    case Attachment::Over::member:
        return lengthOf(at);
    case Attachment::Over::edge:
        return structure_.frame.faces->edges[index].length;
    case Attachment::Over::face:
        return structure_.frame.faces->faces[index].area;
    case Attachment::Over::sheet:
        break;
    }
    double area = 0.0;
    if (structure_.frame.faces)
        for (const auto& face : structure_.frame.faces->faces)
            if (face.sheet == at) area += face.area;
    return area;
}

void StatementReader::attach(Attachment::Effect effect, Attachment::Over over, const std::vector<int>& which,
                             double perExtent, const Mask3& along)
{
    const Eigen::Matrix3d tensor = (perExtent * Eigen::Vector3d(along[0], along[1], along[2])).asDiagonal();
    for (const int at : which)
        structure_.attachments.push_back({over, at, effect, tensor, sentence_->id});
}

} // namespace undisona
