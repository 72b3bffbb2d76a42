// Which mode is in view, what is lit and what a click means.
#include "app/session/session.hpp"
#include "core/geometry/pick.hpp"

namespace undisona {

const Mode* Session::mode() const
{
    const auto& solution = shown().solution;
    if (!solution || shownMode_ < 1 || shownMode_ > static_cast<int>(solution->modes.size())) return nullptr;
    return &solution->modes[static_cast<std::size_t>(shownMode_ - 1)];
}

void Session::showMode(std::size_t stave, int number)
{
    stave = std::min(stave, staves_.size() - 1);
    const auto& solution = staves_[stave].solution;
    number = solution ? std::clamp(number, 1, static_cast<int>(solution->modes.size())) : 0;
    if (stave == shownStave_ && number == shownMode_) return;
    shownStave_ = stave;
    shownMode_ = number;
    emit selectionChanged();
}

void Session::stepMode(int by)
{
    showMode(shownStave_, shownMode_ + by);
}

void Session::stepStave(int by)
{
    const auto next = static_cast<std::ptrdiff_t>(shownStave_) + by;
    if (next < 0 || next >= static_cast<std::ptrdiff_t>(staves_.size())) return;
    const auto to = static_cast<std::size_t>(next);
    int number = shownMode_; // the partner of the same shape, if the two are neighbours in the Score
    const auto& pairs = pairsWithNext(std::min(shownStave_, to));
    for (const auto& pair : pairs) {
        if (by > 0 && pair.first == shownMode_ && pair.second > 0) number = pair.second;
        if (by < 0 && pair.second == shownMode_) number = pair.first;
    }
    showMode(to, std::max(1, number));
}

const std::vector<ModePair>& Session::pairsWithNext(std::size_t stave) const
{
    static const std::vector<ModePair> none;
    if (stave + 1 >= staves_.size() || !staves_[stave].solution || !staves_[stave + 1].solution) return none;
    const std::pair key{staves_[stave].solution.get(), staves_[stave + 1].solution.get()};
    auto found = pairs_.find(key);
    if (found == pairs_.end()) {
        if (pairs_.size() > 100) pairs_.clear();
        found = pairs_.emplace(key, pairModes(*key.first, *key.second)).first;
    }
    return found->second;
}

void Session::selectSentence(const std::string& id)
{
    if (id == selected_) return;
    selected_ = id;
    emit sentenceSelected();
    light(spotlightOf(id));
}

void Session::light(const Spotlight& spotlight)
{
    if (spotlight == spotlight_) return;
    spotlight_ = spotlight;
    emit spotlightChanged();
}

Spotlight Session::spotlightOf(const std::string& id) const
{
    Spotlight spotlight;
    const auto sentence = model().sentence(id);
    if (!sentence) return spotlight;
    spotlight.sentences.push_back(id);
    for (std::size_t at = 0; at < structure_->frame.members.size(); ++at)
        if (structure_->frame.members[at].sentence == id) spotlight.members.push_back(static_cast<int>(at));
    for (int part = 0; part < static_cast<int>(structure_->frame.parts()); ++part)
        if (structure_->frame.partSentence(part) == id) spotlight.parts.push_back(part);
    for (std::size_t at = 0; at < structure_->frame.points.size(); ++at)
        if (structure_->frame.points[at].sentence == id && sentence->kind->key.starts_with("point"))
            spotlight.points.push_back(static_cast<int>(at));
    if (sentence->kind->group == Group::shape && !sentence->kind->key.starts_with("hole") &&
        !sentence->kind->key.starts_with("opening") && sentence->kind->key != "solid-cut" &&
        sentence->kind->key != "solid-union" && sentence->kind->key != "solid-common" &&
        sentence->kind->key != "taper" && sentence->kind->key != "moved" && sentence->kind->key != "turned")
        return spotlight;
    for (const auto& field : sentence->kind->fields) {
        if (!sentence->has(field.key)) continue;
        if (field.type == FieldType::points) {
            const Picked picked = pickPoints(structure_->frame, sentence->text(field.key));
            spotlight.points.insert(spotlight.points.end(), picked.indices.begin(), picked.indices.end());
            spotlight.edges.insert(spotlight.edges.end(), picked.edges.begin(), picked.edges.end());
            spotlight.faces.insert(spotlight.faces.end(), picked.faces.begin(), picked.faces.end());
        }
        if (field.type == FieldType::members) {
            const Picked picked = pickMembers(structure_->frame, sentence->text(field.key));
            spotlight.members.insert(spotlight.members.end(), picked.indices.begin(), picked.indices.end());
            spotlight.parts.insert(spotlight.parts.end(), picked.sheets.begin(), picked.sheets.end());
            for (const int solid : picked.solids)
                spotlight.parts.push_back(structure_->frame.partOfSolid(solid));
        }
    }
    return spotlight;
}

void Session::setPicking(Picking picking)
{
    if (picking == picking_) return;
    picking_ = picking;
    emit pickingChanged();
}

} // namespace undisona
