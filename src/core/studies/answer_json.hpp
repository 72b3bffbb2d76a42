#pragma once
#include "core/base/archive.hpp"

#include <cmath>

#include <nlohmann/json.hpp>

namespace undisona {

using Json = nlohmann::ordered_json;

/// A kind of things has a word for each in JSON: a function `wordOf`, found by its argument.
template <class T>
concept Worded = requires(T value)
{
    {
        wordOf(value)
        } -> std::convertible_to<std::string_view>;
};

// Any value with fields as JSON, each member under its name: matrices by rows, what is no number as null.

template <class T>
Json jsonOf(const T&);

template <class T>
requires std::is_arithmetic_v<T> Json jsonOfOne(const T& value)
{
    if constexpr (std::is_floating_point_v<T>)
        if (!std::isfinite(value)) return nullptr;
    return value;
}
template <class T>
requires std::is_enum_v<T> Json jsonOfOne(const T& value)
{
    static_assert(Worded<T>, "a kind of things needs its words");
    return std::string(std::string_view(wordOf(value)));
}
inline Json jsonOfOne(const std::string& text)
{
    return text;
}
template <Dense T>
Json jsonOfOne(const T& matrix)
{
    Json rows = Json::array();
    for (Eigen::Index row = 0; row < matrix.rows(); ++row) {
        if (matrix.cols() == 1) {
            rows.push_back(jsonOf(matrix(row, 0)));
            continue;
        }
        rows.push_back(Json::array());
        for (Eigen::Index column = 0; column < matrix.cols(); ++column)
            rows.back().push_back(jsonOf(matrix(row, column)));
    }
    return rows;
}
template <class T>
Json jsonOfOne(const std::vector<T>& values)
{
    Json list = Json::array();
    for (const T& value : values)
        list.push_back(jsonOf(value));
    return list;
}
template <class T, std::size_t n>
Json jsonOfOne(const std::array<T, n>& values)
{
    Json list = Json::array();
    for (const T& value : values)
        list.push_back(jsonOf(value));
    return list;
}
template <class T>
Json jsonOfOne(const std::optional<T>& value)
{
    return value ? jsonOf(*value) : Json(nullptr);
}
template <class T>
Json jsonOfOne(const std::map<std::string, T>& values)
{
    Json object = Json::object();
    for (const auto& [key, value] : values)
        object[key] = jsonOf(value);
    return object;
}
template <Tied T>
Json jsonOfOne(const T& value)
{
    Json object = Json::object();
    const auto members = fields(const_cast<T&>(value));
    std::apply(
        [&](const auto&... each) {
            std::size_t at = 0;
            ((object[std::string(members.names[at++])] = jsonOf(each)), ...);
        },
        members.values);
    return object;
}

template <class T>
Json jsonOf(const T& value)
{
    return jsonOfOne(value);
}

} // namespace undisona
