#pragma once
#include "core/model/grammar.hpp"

#include <map>
#include <memory>
#include <string>

namespace undisona {

/// One statement about the structure. A plain value; `values` holds only what has been said.
struct Sentence {
    std::string id;
    const SentenceKind* kind = nullptr; ///< never null in a Model
    bool on = true;
    std::map<std::string, Value, std::less<>> values;

    bool operator==(const Sentence&) const = default;

    bool has(std::string_view key) const;
    const Value& value(std::string_view key) const; ///< monostate if it was not said

    // The value of a field, or its fallback when it was not said.
    double number(std::string_view key) const; ///< SI
    long count(std::string_view key) const;
    std::string text(std::string_view key) const;
    Directions directions(std::string_view key) const;
    Orders orders(std::string_view key) const;
    std::array<double, 3> vector(std::string_view key) const; ///< SI
    const Table& table(std::string_view key) const;

    /// A copy with one value changed; monostate takes an optional value away.
    Sentence with(std::string_view key, Value value) const;
    Sentence switched(bool nowOn) const;
};

/// A new sentence of the kind with its fallbacks said.
Sentence newSentence(const SentenceKind&, std::string id);

/// The sentence in words: "85 kg on Mast.9.1, centre 0, 0, 240 mm from it: antenna gearbox".
std::string wordsOf(const Sentence&);

/// One piece of a sentence as it is shown: plain words, or a live word with the key of its field.
struct ShownPiece {
    std::string words;
    std::string field; ///< empty for plain words
    bool operator==(const ShownPiece&) const = default;
};
std::vector<ShownPiece> shownPieces(const Sentence&);

} // namespace undisona
