#include "core/model/model_key.hpp"

#include "core/model/assembly_file.hpp"

#include <algorithm>
#include <filesystem>

namespace undisona {

namespace {

void mix(std::uint64_t& hash, std::string_view text) // FNV-1a (Fowler, Noll, Vo 1991)
{
    for (const char letter : text) {
        hash ^= static_cast<unsigned char>(letter);
        hash *= 1099511628211ULL;
    }
    hash ^= 0xFF; // so that "ab","c" differs from "a","bc"
    hash *= 1099511628211ULL;
}

/// `above`: the files through which it was come to, so that a loop of files ends.
std::uint64_t keyOf(const Model& model, const std::vector<Touch>& needs, std::vector<std::string>& above)
{
    std::uint64_t hash = 14695981039346656037ULL;
    const auto asks = model.activeIn(Group::ask);
    const bool labelsCount =
        std::any_of(asks.begin(), asks.end(), [](const SentencePtr& one) { return one->kind->key == "leave-out"; });
    for (const auto& sentence : model.active()) {
        if (std::none_of(needs.begin(), needs.end(), [&](Touch what) { return sentence->kind->has(what); })) continue;
        mix(hash, sentence->kind->key);
        mix(hash, sentence->id);
        for (const auto& [key, value] : sentence->values) {
            if (key == "label" && !labelsCount) continue;
            mix(hash, key);
            mix(hash, textOf(value));
            if (const Field* field = sentence->kind->field(key); field && field->type == FieldType::file) {
                if (placesAssembly(*sentence)) {
                    const std::string& path = textOf(value);
                    if (std::find(above.begin(), above.end(), path) != above.end()) continue;
                    above.push_back(path);
                    mix(hash, std::to_string(keyOf(assemblyFile(path)->model, needs, above)));
                    above.pop_back();
                    continue;
                }
                std::error_code none; // a file that changed is another one
                const auto changed = std::filesystem::last_write_time(textOf(value), none);
                mix(hash, std::to_string(changed.time_since_epoch().count()));
            }
            if (const auto* table = std::get_if<Table>(&value))
                for (const auto& row : *table->rows)
                    for (const auto& cell : row)
                        mix(hash, textOf(cell));
        }
    }
    return hash;
}

} // namespace

std::uint64_t keyOf(const Model& model, const std::vector<Touch>& needs)
{
    std::vector<std::string> above;
    return keyOf(model, needs, above);
}

const std::vector<Touch>& modesNeed()
{
    static const std::vector<Touch> needs{Touch::shape, Touch::mesh,    Touch::stiffness,
                                          Touch::mass,  Touch::damping, Touch::ask};
    return needs;
}

std::uint64_t solveKey(const Model& model)
{
    return keyOf(model, modesNeed());
}

} // namespace undisona
