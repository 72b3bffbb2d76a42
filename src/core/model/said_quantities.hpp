#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"

namespace undisona {

/// One number that a sentence says: a quantity, a component of a vector or a place, a size of a section in words, a
/// cell of a table. What may be changed by a little, and said anew.
struct SaidQuantity {
    std::string sentence; ///< id
    std::string row;      ///< first cell of the row of its table; empty: one of its own words
    std::string field;    ///< key of the field, or of the column
    int part = -1;        ///< which component of a vector, or size of a section; -1: the whole word
    QuantityKind kind = QuantityKind::number;
    double value = 0.0; ///< SI
    std::string text;   ///< as typed: "4 mm" of "tube 60.3x4 mm"
    std::string name;   ///< for people: "Mast: the legs, wall"
};

/// Those of the sentences that are on, in working order, that equations depend on: with what shape, material, joints,
/// supports and masses say, and loads where modes are about a state. A row of a table is told by its first cell; rows
/// that share theirs are left out.
std::vector<SaidQuantity> saidQuantities(const Model&);

/// The quantity with another value (SI), in the unit in which it was typed, with its tolerance where that is to either
/// side.
Statement saidAnew(const SaidQuantity&, const Model&, double value);
/// As it would be typed, without a tolerance: "5 mm".
std::string textAnew(const SaidQuantity&, double value);

} // namespace undisona
