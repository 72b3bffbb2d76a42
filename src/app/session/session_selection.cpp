// Which mode is in view, what is lit and what a click means.
#include "app/session/session.hpp"
#include "app/session/settings.hpp"
#include "core/model/meant_targets.hpp"
#include "core/picks/pick.hpp"
#include "core/statement/drafted.hpp"

namespace undisona {

const Mode* Session::mode() const
{
    const auto& solution = shown().solution;
    if (!solution || shownMode_ < 1 || shownMode_ > static_cast<int>(solution->modes.size())) return nullptr;
    return &solution->modes[static_cast<std::size_t>(shownMode_ - 1)];
}

void Session::toggleValuePlace(const ValuePlace& place)
{
    const auto kept = std::find_if(valuePlaces_.begin(), valuePlaces_.end(), [&](const ValuePlace& one) {
        return (one.place - place.place).norm() < 1e-9 * (1.0 + place.place.norm());
    });
    if (kept != valuePlaces_.end())
        valuePlaces_.erase(kept);
    else
        valuePlaces_.push_back(place);
    valuesOf_ = {};
    emit valuesMoved();
}

void Session::dropValuePlace(std::size_t which)
{
    if (which < valuePlaces_.size()) toggleValuePlace(ValuePlace(valuePlaces_[which]));
}

std::pair<std::shared_ptr<const Solution>, int> Session::inView() const
{
    if (restShown_) return {restShown_->shapes, restShown_->number};
    return {shown().solution, shownMode_};
}

const std::vector<Session::ModeValue>& Session::modeValues() const
{
    const auto [solution, number] = inView();
    const auto stresses = stressesOf(solution);
    const std::tuple wanted{solution, number, valuePlaces_.size(), stresses};
    if (valuesOf_ == wanted) return modeValues_;
    valuesOf_ = wanted;
    modeValues_.clear();
    if (!solution || number < 1 || valuePlaces_.empty()) return modeValues_;
    const auto mode = static_cast<std::size_t>(number - 1);
    const auto& nodes = solution->mesh.nodes;
    std::vector<double> nearest(valuePlaces_.size(), 1e300);
    modeValues_.resize(valuePlaces_.size());
    double most = 1e-300;
    for (std::size_t node = 0; node < nodes.size(); ++node) {
        most = std::max(most, solution->motion(static_cast<int>(node), mode).head<3>().norm());
        for (std::size_t at = 0; at < valuePlaces_.size(); ++at)
            if (const double distance = (nodes[node].place - valuePlaces_[at].place).norm(); distance < nearest[at]) {
                nearest[at] = distance;
                modeValues_[at].node = static_cast<int>(node);
            }
    }
    const Eigen::VectorXd stress =
        stresses ? equivalentAtNodes(solution->mesh, *stresses, static_cast<Eigen::Index>(mode)) : Eigen::VectorXd();
    for (auto& value : modeValues_) {
        value.moves = solution->motion(value.node, mode);
        value.share = value.moves / most;
        if (stress.size() > 0) value.stress = stress[value.node];
    }
    return modeValues_;
}

void Session::showMode(std::size_t stave, int number)
{
    stave = std::min(stave, staves_.size() - 1);
    const auto& solution = staves_[stave].solution;
    number = solution ? std::clamp(number, 1, static_cast<int>(solution->modes.size())) : 0;
    if (stave == shownStave_ && number == shownMode_) return showModeAgain();
    if (std::exchange(restShown_, std::nullopt)) emit restMoved();
    shownStave_ = stave;
    shownMode_ = number;
    emit selectionChanged();
}

void Session::stepMode(int by)
{
    const auto& solution = shown().solution;
    const int count = solution ? static_cast<int>(solution->modes.size()) : 0;
    for (int to = shownMode_ + by; to >= 1 && to <= count; to += by > 0 ? 1 : -1)
        if (!isFolded(shownStave_, solution->modes[static_cast<std::size_t>(to - 1)])) return showMode(shownStave_, to);
}

bool Session::isFolded(std::size_t stave, const Mode& mode) const
{
    return foldsLocal_ && mode.local && !(stave == shownStave_ && mode.number == shownMode_) &&
           !staves_[stave].clashes.meets(mode);
}

int Session::foldedIn(std::size_t stave) const
{
    const auto& solution = staves_[stave].solution;
    if (!solution) return 0;
    return static_cast<int>(std::count_if(solution->modes.begin(), solution->modes.end(),
                                          [&](const Mode& mode) { return isFolded(stave, mode); }));
}

void Session::foldLocalModes(bool fold)
{
    if (fold == foldsLocal_) return;
    foldsLocal_ = fold;
    settings().setValue("score/foldsLocal", fold);
    emit stavesChanged();
}

void Session::nameMode(const QString& name)
{
    const Mode* of = mode();
    if (!of) return;
    const std::string own = of->name, words = name.trimmed().toStdString() == own ? "" : name.trimmed().toStdString();
    if (of->calledBy(shown().modeNames) == (words.empty() ? own : words)) return;
    const QString what = words.empty() ? tr("call mode %1 by its motion").arg(of->number)
                                       : tr("call mode %1 %2").arg(of->number).arg(QString::fromStdString(words));
    Document next = document();
    const auto take = std::find_if(next.takes.begin(), next.takes.end(),
                                   [&](const Take& one) { return QString::fromStdString(one.id) == shown().id; });
    Model& named = take != next.takes.end() ? take->model : next.model;
    named = withModeName(named, own, words);
    change(what, std::move(next));
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
    return pairedWithNext(stave).pairs;
}

const std::vector<MixedMode>& Session::mixedWithNext(std::size_t stave) const
{
    return pairedWithNext(stave).mixed;
}

const Session::Paired& Session::pairedWithNext(std::size_t stave) const
{
    static const Paired none;
    if (stave + 1 >= staves_.size() || !staves_[stave].solution || !staves_[stave + 1].solution) return none;
    const std::pair key{staves_[stave].solution.get(), staves_[stave + 1].solution.get()};
    auto found = pairs_.find(key);
    if (found == pairs_.end()) {
        if (pairs_.size() > 100) pairs_.clear();
        const Solution &own = *key.first, &next = *key.second;
        Paired paired{pairModes(own, next), {}};
        if (!own.ritz && !next.ritz) paired.mixed = mixedModes(own, next, modalAssurance(own, next));
        found = pairs_.emplace(key, std::move(paired)).first;
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

void Session::lightOwner(OwnerKind of, int owner, const std::string& sentence)
{
    Spotlight spotlight;
    spotlight.sentences.push_back(sentence);
    if (of == OwnerKind::member) spotlight.members.push_back(owner);
    if (of == OwnerKind::sheet) spotlight.parts.push_back(owner);
    if (of == OwnerKind::solid && shown().solution)
        spotlight.parts.push_back(shown().solution->structure->frame.partOfSolid(owner));
    if (of == OwnerKind::point) spotlight.points.push_back(owner);
    light(spotlight);
}

void Session::light(const Spotlight& spotlight)
{
    if (spotlight == spotlight_) return;
    spotlight_ = spotlight;
    emit spotlightChanged();
}

void Session::setDraft(const std::optional<Sentence>& sentence)
{
    if (!sentence && !draft_) return;
    draft_.reset();
    const Group group = sentence ? sentence->kind->group : Group::shape;
    if (group == Group::joints || group == Group::supports || group == Group::addedMass) {
        Findings findings;
        Structure structure = drafted(*structure_, *sentence, findings);
        if (!hasError(findings)) draft_ = Draft{*sentence, std::move(structure), {}};
    }
    light(draft_ ? spotlightOf(draft_->sentence) : spotlightOf(selected_));
    emit draftChanged();
}

void Session::tellOfDraft(const QString& words)
{
    if (!draft_ || draft_->words == words) return;
    draft_->words = words;
    emit draftTold();
}

Spotlight Session::spotlightOf(const std::string& id) const
{
    const auto sentence = model().sentence(id);
    return sentence ? spotlightOf(*sentence) : Spotlight{};
}

Spotlight Session::spotlightOf(const Sentence& said) const
{
    Spotlight spotlight;
    const Sentence* sentence = &said;
    const std::string& id = said.id;
    spotlight.sentences.push_back(id);
    for (std::size_t at = 0; at < structure_->frame.members.size(); ++at)
        if (structure_->frame.members[at].sentence == id) spotlight.members.push_back(static_cast<int>(at));
    for (int part = 0; part < static_cast<int>(structure_->frame.parts()); ++part)
        if (structure_->frame.partSentence(part) == id) spotlight.parts.push_back(part);
    for (std::size_t at = 0; at < structure_->frame.points.size(); ++at)
        if (structure_->frame.points[at].sentence == id && sentence->kind->key.starts_with("point"))
            spotlight.points.push_back(static_cast<int>(at));
    // What makes something is about that alone; what changes something is about what it names.
    const Field* made = sentence->kind->field("name");
    if (sentence->kind->group == Group::shape && made && made->type == FieldType::name) return spotlight;
    for (const auto& field : sentence->kind->fields) {
        if (!sentence->has(field.key)) continue;
        if (field.type != FieldType::where) continue;
        const Picked picked =
            undisona::pick(structure_->frame, sentence->text(field.key), meantTargets(*sentence, field));
        const auto add = [](std::vector<int>& list, const std::vector<int>& more) {
            list.insert(list.end(), more.begin(), more.end());
        };
        add(spotlight.points, picked.points);
        add(spotlight.edges, picked.edges);
        add(spotlight.faces, picked.faces);
        add(spotlight.members, picked.members);
        add(spotlight.parts, picked.sheets);
        for (const int solid : picked.solids)
            spotlight.parts.push_back(structure_->frame.partOfSolid(solid));
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
