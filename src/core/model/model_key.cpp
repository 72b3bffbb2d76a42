#include "core/model/model_key.hpp"

#include "core/model/assembly_file.hpp"

#include <algorithm>
#include <filesystem>
#include <fstream>

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

/// How a file that a model names is told from what it was: by where it lies and when it was written, or by what it is
/// called and what is in it.
enum class FilesBy { time, content };

void mixFile(std::uint64_t& hash, const std::string& path, FilesBy by)
{
    if (by == FilesBy::time) {
        std::error_code none;
        mix(hash, std::to_string(std::filesystem::last_write_time(path, none).time_since_epoch().count()));
        return;
    }
    std::error_code none;
    if (!std::filesystem::is_regular_file(path, none)) return; // never a pipe
    std::ifstream file(path, std::ios::binary);
    for (std::string piece(1 << 16, '\0'); file;) {
        file.read(piece.data(), static_cast<std::streamsize>(piece.size()));
        mix(hash, std::string_view(piece).substr(0, static_cast<std::size_t>(file.gcount())));
    }
}

/// `above`: the files through which it was come to, so that a loop of files ends.
std::uint64_t keyOf(const Model& model, const std::vector<Touch>& asked, FilesBy by, std::vector<std::string>& above)
{
    std::uint64_t hash = 14695981039346656037ULL;
    const auto asks = model.activeIn(Group::ask);
    std::vector<Touch> needs = asked;
    const bool aboutState =
        std::any_of(asks.begin(), asks.end(), [](const SentencePtr& one) { return one->kind->key == "about-state"; });
    if (aboutState && std::find(asked.begin(), asked.end(), Touch::ask) != asked.end())
        needs.push_back(Touch::load); // which makes the structure stiffer then
    const bool labelsCount =
        std::any_of(asks.begin(), asks.end(), [](const SentencePtr& one) { return one->kind->key == "leave-out"; });
    for (const auto& sentence : model.active()) {
        if (std::none_of(needs.begin(), needs.end(), [&](Touch what) { return sentence->kind->has(what); })) continue;
        mix(hash, sentence->kind->key);
        mix(hash, sentence->id);
        for (const auto& [key, value] : sentence->values) {
            if (key == "label" && !labelsCount) continue;
            const Field* field = sentence->kind->field(key);
            const bool isFile = field && field->type == FieldType::file;
            mix(hash, key);
            mix(hash, isFile && by == FilesBy::content ? std::filesystem::path(textOf(value)).filename().string()
                                                       : textOf(value));
            if (isFile) {
                const std::string& path = textOf(value);
                if (!placesAssembly(*sentence)) {
                    mixFile(hash, path, by);
                    continue;
                }
                if (std::find(above.begin(), above.end(), path) != above.end()) continue;
                above.push_back(path);
                mix(hash, std::to_string(keyOf(assemblyFile(path)->model, needs, by, above)));
                above.pop_back();
                continue;
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
    return keyOf(model, needs, FilesBy::time, above);
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

std::uint64_t lastingKey(const Model& model)
{
    std::vector<std::string> above;
    return keyOf(model, modesNeed(), FilesBy::content, above);
}

} // namespace undisona
