#include "core/model/free_names.hpp"

#include <fmt/format.h>

namespace undisona {

FreeNames::FreeNames(const Model& model)
{
    for (const auto& sentence : model.sentences()) {
        if (sentence->has("name")) names_.insert(sentence->text("name"));
        ids_.insert(sentence->id);
    }
}

std::string FreeNames::like(std::string wanted)
{
    std::erase_if(wanted, [](unsigned char c) { return c < 32 || c == '"'; });
    std::string own = wanted;
    for (int number = 2; !names_.insert(own).second; ++number)
        own = fmt::format("{} {}", wanted, number);
    return own;
}

std::string FreeNames::id()
{
    std::string id;
    for (std::size_t number = ids_.size() + 1; id.empty() || ids_.contains(id); ++number)
        id = fmt::format("s{}", number);
    ids_.insert(id);
    return id;
}

} // namespace undisona
