#include "app/scene/drawn_outline.hpp"

#include "app/scene/drawn_members.hpp"
#include "core/model/free_names.hpp"
#include "core/shapes/frame.hpp"

namespace undisona {

Sentence drawnOutline(OutlineKind kind, const WorkPlane& plane, const std::vector<Eigen::Vector3d>& corners,
                      const Model& model)
{
    const bool solid = kind == OutlineKind::solid;
    Sentence sentence = newSentence(*kindNamed(solid ? "extrusion" : "plate-through"), model.freeId());
    sentence = sentence.with("name", FreeNames(model).like(sentence.text("name")));
    std::vector<Row> rows;
    // A solid's profile has axes of its own: x, y and z follow each other round, so that they stay right-handed.
    const int x = (plane.normal + 1) % 3, y = (plane.normal + 2) % 3;
    const Quantity none = drawnLength(0.0);
    for (const auto& corner : corners)
        rows.push_back(solid ? Row{drawnLength(corner[x]), drawnLength(corner[y]), none, none}
                             : Row{drawnLength(corner[0]), drawnLength(corner[1]), drawnLength(corner[2]), none, none});
    sentence = sentence.with("rows", Table{std::make_shared<const std::vector<Row>>(std::move(rows))});
    if (!solid) return sentence;
    const auto direction = [](int axis) {
        Vector vector{{0.0, 0.0, 0.0}, axis == 0 ? "1, 0, 0" : axis == 1 ? "0, 1, 0" : "0, 0, 1"};
        vector.si[static_cast<std::size_t>(axis)] = 1.0;
        return vector;
    };
    Eigen::Vector3d at = Eigen::Vector3d::Zero();
    at[plane.normal] = plane.level;
    return sentence.with("at", placeText(at)).with("along", direction(plane.normal)).with("towards", direction(x));
}

} // namespace undisona
