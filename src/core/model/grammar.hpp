#pragma once
#include "core/model/target.hpp"
#include "core/model/value.hpp"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// The groups of the Ledger, in working order.
enum class Group { shape, material, joints, supports, addedMass, loads, excitation, ask };
inline constexpr std::size_t groupCount = 8;
inline constexpr std::array<std::string_view, groupCount> groupKeys{"shape",      "material", "joints",     "supports",
                                                                    "added-mass", "loads",    "excitation", "ask"};
inline constexpr std::array<std::string_view, groupCount> groupTitles{
    "Shape", "Material", "Joints", "Supports", "Added mass", "Loads", "Excitation", "Ask"};

enum class FieldType {
    quantity,     ///< number with unit -> Quantity
    count,        ///< whole number -> long
    choice,       ///< one of `choices` -> string
    name,         ///< the name this sentence gives to what it makes -> string
    label,        ///< free words -> string
    where,        ///< a pick of any of the field's targets -> string (see picks/pick.hpp)
    place,        ///< one point by name, or coordinates "0, 0, 3 m" -> string
    section,      ///< a section text or the name of a section sentence -> string
    material,     ///< a library material or the name of an own one -> string
    directions,   ///< any of x y z rx ry rz -> Directions
    translations, ///< any of x y z -> Directions
    orders,       ///< multiples of a speed -> Orders
    vector,       ///< three quantities -> Vector
    table,        ///< rows -> Table
    file,         ///< the path of a file -> string; beside the document in its file, whole in memory
};

/// A live word of a sentence.
struct Field {
    std::string key; ///< in the file
    FieldType type;
    std::string label;    ///< in plain words, for hints and errors
    std::string fallback; ///< text of the value a new sentence starts with; for an optional field, none
    QuantityKind kind = QuantityKind::number;
    bool optional = false;
    std::optional<double> least, most; ///< in SI, inclusive; `positive` excludes zero
    bool positive = false;
    std::vector<std::string> choices;
    std::vector<QuantityKind> otherKinds{}; ///< that a quantity may be of as well, told by its unit
    Targets targets{};                      ///< what a pick may name
    /// Of a table. The last ones may be optional: what a row leaves out is their fallback.
    std::vector<Field> columns;
};

/// What a sentence has a part in: what is there, its elements, what stands in the equations, what is asked of them, and
/// what is read of the answer alone.
enum class Touch { shape, mesh, stiffness, mass, damping, load, ask, reading };

/// A kind of sentence: how it reads, what may be said in it.
///
/// The phrase holds words and {fields}; a part in [brackets] shows only when its fields are set, such as
/// "{mass} on {points}[, centre {centre} from it]".
struct SentenceKind {
    std::string key;
    Group group;
    std::string title; ///< "a tapering lattice mast"
    std::string phrase;
    std::vector<Field> fields;
    std::string help;             ///< one or two sentences for the chooser
    std::vector<Touch> touches{}; ///< where nothing stands here, as the sentences of its group usually do

    bool has(Touch) const;
    /// Whether modes that were found remain those of the model when such a sentence changes.
    bool leavesModes() const;
    const Field* field(std::string_view fieldKey) const;
    /// Keys of the optional fields, in phrase order.
    std::vector<std::string> optionalFields() const;
};

/// Every kind of sentence there is, in the order in which a person would look for them.
const std::vector<SentenceKind>& sentenceKinds();
const SentenceKind* kindNamed(std::string_view key);

/// A piece of a phrase: words, or a field; `part` is -1 outside brackets, else the bracket's number.
struct PhrasePiece {
    std::string words;
    std::string field;
    int part = -1;
};
std::vector<PhrasePiece> piecesOf(const SentenceKind&);

/// Reads a text as the field's value, with its limits checked.
std::variant<Value, QuantityProblem> readValue(const Field&, std::string_view text, NumberStyle style);

/// How many cells a row of a table has at least.
std::size_t cellsNeeded(const Field& table);
/// What stands in a cell that a row leaves out.
Cell usualCell(const Field& column);

// Tables of kinds, one per theme.
void addShapeKinds(std::vector<SentenceKind>&);
void addSheetKinds(std::vector<SentenceKind>&);
void addSolidKinds(std::vector<SentenceKind>&);
void addAssemblyKinds(std::vector<SentenceKind>&);
void addMaterialKinds(std::vector<SentenceKind>&);
void addJointKinds(std::vector<SentenceKind>&);
void addSupportKinds(std::vector<SentenceKind>&);
void addMassKinds(std::vector<SentenceKind>&);
void addLoadKinds(std::vector<SentenceKind>&);
void addExcitationKinds(std::vector<SentenceKind>&);
void addAskKinds(std::vector<SentenceKind>&);

// Shorthand for those tables.
Field quantityField(std::string key, std::string label, QuantityKind kind, std::string fallback);
Field countField(std::string key, std::string label, std::string fallback, double least, double most);
Field choiceField(std::string key, std::string label, std::vector<std::string> choices);
Field textField(std::string key, FieldType type, std::string label, std::string fallback);
Field whereField(std::string key, Targets, std::string label, std::string fallback);
Field vectorField(std::string key, std::string label, QuantityKind kind, std::string fallback);
Field optionalField(Field field);
Field atLeast(Field field, double least);
Field positiveField(Field field);

} // namespace undisona
