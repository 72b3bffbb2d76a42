#pragma once
#include "core/units/quantity.hpp"

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace undisona {

/// Any of the six directions: bit 0..2 translation along x y z, bit 3..5 rotation about x y z.
struct Directions {
    std::uint8_t bits = 0;

    bool has(int direction) const { return (bits >> direction) & 1; }
    int count() const;
    bool operator==(const Directions&) const = default;
};

inline constexpr std::array<std::string_view, 6> directionNames{"x", "y", "z", "rx", "ry", "rz"};

/// Multiples of a speed of turning, as typed: "1 2 6".
struct Orders {
    std::vector<double> values;
    std::string text;
    bool operator==(const Orders&) const = default;
};

/// Three quantities of one kind, as typed: "0, 0, 240 mm" (the last unit serves those without one).
struct Vector {
    std::array<double, 3> si{};
    std::string text;
    bool operator==(const Vector&) const = default;
};

/// One cell of a table: a name or a quantity.
using Cell = std::variant<std::string, Quantity>;
using Row = std::vector<Cell>;

/// Rows in typed order. Copies share the rows.
struct Table {
    std::shared_ptr<const std::vector<Row>> rows = std::make_shared<const std::vector<Row>>();
    bool operator==(const Table& other) const { return rows == other.rows || *rows == *other.rows; }
};

/// What a live word of a sentence holds. Names, choices, picks, sections and places are texts;
/// their field says how they are read.
using Value = std::variant<std::monostate, Quantity, long, std::string, Directions, Orders, Vector, Table>;

/// As typed; tables give the number of their rows.
std::string textOf(const Value&);
std::string textOf(const Cell&);
std::string textOf(Directions);

std::variant<Directions, QuantityProblem> readDirections(std::string_view text, bool rotationsToo);
std::variant<Orders, QuantityProblem> readOrders(std::string_view text);
/// "0.5, 2, 3.5 m" in SI: the last unit serves those without one.
std::variant<std::vector<double>, QuantityProblem> readQuantities(std::string_view text, QuantityKind kind,
                                                                  NumberStyle style);
std::variant<Vector, QuantityProblem> readVector(std::string_view text, QuantityKind kind, NumberStyle style);

} // namespace undisona
