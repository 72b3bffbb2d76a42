#pragma once
#include "core/model/grammar.hpp"

namespace undisona {

// Fields that the sentences of the group Shape have in common.

inline Field nameOf(std::string what, std::string fallback)
{
    return textField("name", FieldType::name, "the name of " + std::move(what), std::move(fallback));
}

inline Field lengthField(std::string key, std::string label, std::string fallback)
{
    return positiveField(quantityField(std::move(key), std::move(label), QuantityKind::length, std::move(fallback)));
}

inline Field tableField(std::string label, std::vector<Field> columns)
{
    Field field{"rows", FieldType::table, std::move(label), {}};
    field.columns = std::move(columns);
    return field;
}

} // namespace undisona
