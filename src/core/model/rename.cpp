#include "core/model/rename.hpp"

namespace undisona {

namespace {

bool isName(FieldType type)
{
    return type == FieldType::where || type == FieldType::place || type == FieldType::section ||
           type == FieldType::material;
}

/// Replaces whole names: what stands before and after must not be part of a longer name.
std::string withName(std::string text, const std::string& from, const std::string& to)
{
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at)) {
        const bool begins = at == 0 || text[at - 1] == ' ' || text[at - 1] == ',' || text[at - 1] == '"';
        const std::size_t end = at + from.size();
        const bool ends =
            end == text.size() || text[end] == ' ' || text[end] == ',' || text[end] == '"' || text[end] == '.';
        if (begins && ends) {
            text.replace(at, from.size(), to);
            at += to.size();
        } else {
            ++at;
        }
    }
    return text;
}

} // namespace

Model renamed(const Model& model, const std::string& from, const std::string& to)
{
    Model changed = model;
    if (from.empty() || from == to) return changed;
    for (const auto& sentence : model.sentences())
        for (const auto& field : sentence->kind->fields) {
            if (!isName(field.type) || !sentence->has(field.key)) continue;
            const std::string before = sentence->text(field.key), after = withName(before, from, to);
            if (after != before) changed = changed.replaced(changed.sentence(sentence->id)->with(field.key, after));
        }
    return changed;
}

} // namespace undisona
