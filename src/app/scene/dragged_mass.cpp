#include "app/scene/dragged_mass.hpp"

#include "core/model/free_names.hpp"

namespace undisona {

DraggedMass::DraggedMass(std::shared_ptr<const Solution> solution, const PointMass& mass)
    : solution_(std::move(solution)), mass_(mass), quick_(*solution_, mass_), node_(mass.point)
{
}

namespace {

const PointMass* massOn(const Session& session, int point)
{
    const Stave& live = session.live();
    if (!live.solution || live.stale || session.shownStave() != 0 || live.solution->ritz) return nullptr;
    const auto& masses = live.solution->structure->pointMasses;
    for (auto mass = masses.rbegin(); mass != masses.rend(); ++mass) {
        if (mass->point != point) continue;
        const auto said = session.model().sentence(mass->sentence);
        const auto all = std::count_if(masses.begin(), masses.end(),
                                       [&](const PointMass& other) { return other.sentence == mass->sentence; });
        if (said && said->kind->key == "mass" && all == 1) return &*mass;
    }
    return nullptr;
}

} // namespace

std::unique_ptr<DraggedMass> DraggedMass::at(const Session& session, int point)
{
    const PointMass* mass = massOn(session, point);
    return mass ? std::unique_ptr<DraggedMass>(new DraggedMass(session.live().solution, *mass)) : nullptr;
}

bool DraggedMass::isAt(const Session& session, int point)
{
    return massOn(session, point) != nullptr;
}

QuickModes DraggedMass::carriedTo(int node)
{
    node_ = node;
    return quick_.at(node);
}

std::string DraggedMass::placeName() const
{
    const auto& points = solution_->structure->frame.points;
    const auto at = static_cast<std::size_t>(node_);
    return at < points.size() ? points[at].name : placeText(solution_->mesh.nodes[at].place);
}

Model DraggedMass::putDown(const Model& model) const
{
    const auto said = model.sentence(mass_.sentence);
    if (!said || node_ == mass_.point) return model;
    std::string name = placeName();
    Model next = model;
    if (static_cast<std::size_t>(node_) >= solution_->structure->frame.points.size()) {
        FreeNames free(model);
        Sentence point = newSentence(*kindNamed("point"), free.id());
        const auto place = readVector(name, QuantityKind::length, NumberStyle::file);
        name = free.like(said->has("label") ? said->text("label") : "moved");
        point = point.with("name", name).with("at", std::get<Vector>(place));
        next = next.inserted(std::move(point));
    }
    return next.replaced(said->with("points", name));
}

} // namespace undisona
