#include "app/scene/dragged_part.hpp"

#include "core/model/free_names.hpp"

namespace undisona {

DraggedPart::DraggedPart(std::shared_ptr<const Solution> solution, const Held& held, int point)
    : solution_(std::move(solution)), held_(held),
      quick_(held.mass ? MovedPart(*solution_, *held.mass) : MovedPart(*solution_, *held.springs)), from_(point),
      node_(point)
{
}

namespace {

/// The last of a list that is on a point, if its sentence, of that kind, puts it there alone.
template <class T, class PointOf>
const T* aloneOn(const Model& model, const std::vector<T>& all, int point, const char* kind, PointOf pointOf)
{
    for (auto one = all.rbegin(); one != all.rend(); ++one) {
        if (pointOf(*one) != point) continue;
        const auto said = model.sentence(one->sentence);
        const auto count =
            std::count_if(all.begin(), all.end(), [&](const T& other) { return other.sentence == one->sentence; });
        if (said && said->kind->key == kind && count == 1) return &*one;
    }
    return nullptr;
}

} // namespace

DraggedPart::Held DraggedPart::heldBy(const Session& session, int point)
{
    const Stave& live = session.live();
    if (!live.solution || live.stale || session.shownStave() != 0 || live.solution->ritz) return {};
    const Structure& structure = *live.solution->structure;
    Held held;
    held.mass = aloneOn(session.model(), structure.pointMasses, point, "mass",
                        [](const PointMass& mass) { return mass.point; });
    if (!held.mass)
        held.springs = aloneOn(session.model(), structure.holds, point, "ground-spring",
                               [](const Hold& hold) { return hold.about ? -1 : hold.point(); });
    return held;
}

std::unique_ptr<DraggedPart> DraggedPart::at(const Session& session, int point)
{
    const Held held = heldBy(session, point);
    return held ? std::unique_ptr<DraggedPart>(new DraggedPart(session.live().solution, held, point)) : nullptr;
}

bool DraggedPart::isAt(const Session& session, int point)
{
    return heldBy(session, point);
}

QString DraggedPart::words(const DisplayUnits& units) const
{
    return held_.mass ? QString::fromStdString(units.text(held_.mass->mass, QuantityKind::mass))
                      : QObject::tr("springs");
}

QuickModes DraggedPart::carriedTo(int node)
{
    node_ = node;
    return quick_.at(node);
}

std::string DraggedPart::placeName() const
{
    const auto& points = solution_->structure->frame.points;
    const auto at = static_cast<std::size_t>(node_);
    return at < points.size() ? points[at].name : placeText(solution_->mesh.nodes[at].place);
}

Model DraggedPart::putDown(const Model& model) const
{
    const auto said = model.sentence(held_.mass ? held_.mass->sentence : held_.springs->sentence);
    if (!said || node_ == from_) return model;
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
