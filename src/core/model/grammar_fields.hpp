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

inline Field placeField(std::string key, std::string label, std::string fallback)
{
    return textField(std::move(key), FieldType::place, std::move(label), std::move(fallback));
}

inline Field directionField(std::string key, std::string label, std::string fallback)
{
    return optionalField(vectorField(std::move(key), std::move(label), QuantityKind::number, std::move(fallback)));
}

/// A column of lengths, named as it is shown.
inline Field lengthColumn(std::string key)
{
    return quantityField(key, key, QuantityKind::length, "0 m");
}

/// The radius of an outline's corner, and the height of the arc that runs from it to the next: columns that a row may
/// leave out.
inline Field roundColumn()
{
    return optionalField(atLeast(lengthColumn("round"), 0.0));
}
inline Field bowColumn()
{
    return optionalField(lengthColumn("bow"));
}

/// The part of the whole turn that something covers.
inline Field coveredTurn(std::string fallback)
{
    Field field = positiveField(
        quantityField("angle", "the part of the turn that it covers", QuantityKind::angle, std::move(fallback)));
    field.most = 6.283185307179587;
    return field;
}

inline Field tableField(std::string label, std::vector<Field> columns)
{
    Field field{"rows", FieldType::table, std::move(label), {}};
    field.columns = std::move(columns);
    return field;
}

} // namespace undisona
