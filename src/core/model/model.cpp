#include "core/model/model.hpp"

namespace undisona {

namespace {

std::size_t slot(Group group)
{
    return static_cast<std::size_t>(group);
}

} // namespace

Model::Model(std::vector<Sentence> sentences)
{
    for (auto& sentence : sentences)
        groups_[slot(sentence.kind->group)].push_back(std::make_shared<const Sentence>(std::move(sentence)));
}

const std::vector<SentencePtr>& Model::group(Group which) const
{
    return groups_[slot(which)];
}

std::vector<SentencePtr> Model::sentences() const
{
    std::vector<SentencePtr> all;
    for (const auto& one : groups_)
        all.insert(all.end(), one.begin(), one.end());
    return all;
}

std::vector<SentencePtr> Model::active() const
{
    auto all = sentences();
    std::erase_if(all, [](const SentencePtr& sentence) { return !sentence->on; });
    return all;
}

std::vector<SentencePtr> Model::activeIn(Group which) const
{
    auto all = group(which);
    std::erase_if(all, [](const SentencePtr& sentence) { return !sentence->on; });
    return all;
}

std::optional<SentencePlace> Model::find(std::string_view id) const
{
    for (std::size_t which = 0; which < groupCount; ++which)
        for (std::size_t index = 0; index < groups_[which].size(); ++index)
            if (groups_[which][index]->id == id) return SentencePlace{static_cast<Group>(which), index};
    return std::nullopt;
}

SentencePtr Model::sentence(std::string_view id) const
{
    const auto place = find(id);
    return place ? groups_[slot(place->group)][place->index] : nullptr;
}

std::string Model::freeId() const
{
    for (int number = static_cast<int>(sentences().size()) + 1;; ++number) {
        std::string id = "s" + std::to_string(number);
        if (!find(id)) return id;
    }
}

Model Model::inserted(Sentence sentence, std::size_t index) const
{
    Model changed = *this;
    auto& list = changed.groups_[slot(sentence.kind->group)];
    const auto at = list.begin() + static_cast<std::ptrdiff_t>(std::min(index, list.size()));
    list.insert(at, std::make_shared<const Sentence>(std::move(sentence)));
    return changed;
}

Model Model::removed(std::string_view id) const
{
    Model changed = *this;
    for (auto& list : changed.groups_)
        std::erase_if(list, [&](const SentencePtr& sentence) { return sentence->id == id; });
    return changed;
}

Model Model::replaced(Sentence sentence) const
{
    Model changed = *this;
    if (const auto place = find(sentence.id))
        changed.groups_[slot(place->group)][place->index] = std::make_shared<const Sentence>(std::move(sentence));
    return changed;
}

Model Model::moved(std::string_view id, std::size_t toIndex) const
{
    const auto place = find(id);
    if (!place) return *this;
    Model changed = *this;
    auto& list = changed.groups_[slot(place->group)];
    const auto sentence = list[place->index];
    list.erase(list.begin() + static_cast<std::ptrdiff_t>(place->index));
    list.insert(list.begin() + static_cast<std::ptrdiff_t>(std::min(toIndex, list.size())), sentence);
    return changed;
}

Model Model::withPaths(const std::function<std::string(const std::string&)>& changed) const
{
    Model model = *this;
    for (const auto& sentence : sentences())
        for (const auto& field : sentence->kind->fields)
            if (field.type == FieldType::file && sentence->has(field.key))
                model =
                    model.replaced(model.sentence(sentence->id)->with(field.key, changed(sentence->text(field.key))));
    return model;
}

bool Model::operator==(const Model& other) const
{
    for (std::size_t which = 0; which < groupCount; ++which) {
        const auto &mine = groups_[which], &theirs = other.groups_[which];
        if (mine.size() != theirs.size()) return false;
        for (std::size_t index = 0; index < mine.size(); ++index)
            if (mine[index] != theirs[index] && !(*mine[index] == *theirs[index])) return false;
    }
    return true;
}

} // namespace undisona
