#include "core/shapes/shape_key.hpp"

namespace undisona {

namespace {

class Key {
public:
    std::vector<double> numbers;

    void add(double value) { numbers.push_back(value); }
    template <class Derived>
    void add(const Eigen::MatrixBase<Derived>& values)
    {
        for (Eigen::Index at = 0; at < values.size(); ++at)
            numbers.push_back(values(at % values.rows(), at / values.rows()));
    }
    void add(const Outline& outline)
    {
        add(double(outline.corners.size()));
        for (const auto& corner : outline.corners) {
            add(corner.at);
            add(corner.bow);
        }
        add(outline.centre);
        add(outline.radius);
    }
    void add(const PlacedMesh& mesh)
    {
        add(Eigen::Vector2d(mesh.stamp, mesh.scale));
        add(mesh.turn);
        add(mesh.shift);
    }
    void add(const SolidShape& shape)
    {
        add(double(shape.what.index()));
        if (const auto* form = std::get_if<SolidForm>(&shape.what)) {
            add(form->origin);
            add(form->axes);
            add(form->profile);
            add(double(form->holes.size()));
            for (const auto& hole : form->holes)
                add(hole);
            add(form->turned ? 1.0 : 0.0);
            add(form->extent);
        } else if (const auto* pair = std::get_if<SolidShape::Pair>(&shape.what)) {
            add(double(pair->operation));
            add(*pair->first);
            add(*pair->second);
        } else if (const auto* kept = std::get_if<KeptShape>(&shape.what)) {
            add(Eigen::Vector2d(kept->stamp, kept->scale));
        } else if (const auto* mesh = std::get_if<PlacedMesh>(&shape.what)) {
            add(*mesh);
        } else {
            const auto& moved = std::get<SolidShape::Moved>(shape.what);
            add(moved.turn);
            add(moved.shift);
            add(*moved.shape);
        }
    }
};

} // namespace

std::vector<double> shapeKey(const SolidShape& shape)
{
    Key key;
    key.add(shape);
    return key.numbers;
}

std::vector<double> shapeKey(const Frame& frame)
{
    Key key;
    key.add(double(frame.points.size()));
    for (const auto& point : frame.points)
        key.add(point.place);
    key.add(double(frame.members.size()));
    for (const auto& member : frame.members) {
        key.add(double(member.from));
        key.add(double(member.to));
    }
    for (const auto& sheet : frame.sheets) {
        key.add(double(sheet.flat.size()));
        for (const auto& panel : sheet.flat) {
            key.add(panel.origin);
            key.add(panel.axes);
            key.add(panel.outline);
            key.add(double(panel.holes.size()));
            for (const auto& hole : panel.holes)
                key.add(hole);
        }
        key.add(double(sheet.turned.size()));
        for (const auto& panel : sheet.turned) {
            key.add(panel.origin);
            key.add(panel.axes);
            key.add(panel.angle);
            key.add(panel.arc ? 1.0 : 0.0);
            if (panel.arc) {
                key.add(panel.arc->centre);
                key.add(Eigen::Vector3d(panel.arc->radius, panel.arc->first, panel.arc->last));
            } else {
                key.add(panel.from);
                key.add(panel.to);
            }
        }
        key.add(double(sheet.crowns.size()));
        for (const auto& panel : sheet.crowns) {
            key.add(panel.centre);
            key.add(panel.axes);
            key.add(panel.radius);
            key.add(panel.half);
        }
    }
    for (const auto& sheet : frame.sheets)
        for (const auto& faces : sheet.kept) {
            key.add(Eigen::Vector2d(faces.kept.stamp, faces.kept.scale));
            key.add(faces.turn);
            key.add(faces.shift);
        }
    for (const auto& sheet : frame.sheets) {
        key.add(sheet.mesh ? 1.0 : 0.0);
        if (sheet.mesh) key.add(*sheet.mesh);
    }
    for (const auto& solid : frame.solids) {
        key.add(solid.spent ? 1.0 : 0.0);
        if (!solid.spent) key.add(*solid.shape);
    }
    return key.numbers;
}

} // namespace undisona
