#pragma once
#include "core/model/sentence.hpp"

#include <cstdint>
#include <functional>
#include <optional>

namespace undisona {

using SentencePtr = std::shared_ptr<const Sentence>;

/// Where a sentence stands.
struct SentencePlace {
    Group group;
    std::size_t index;
};

/// What the user states: sentences in groups. A plain value; copies share the sentences that are the same.
class Model {
public:
    Model() = default;
    explicit Model(std::vector<Sentence>); ///< each group in their order

    const std::vector<SentencePtr>& group(Group) const;
    /// Every sentence in working order.
    std::vector<SentencePtr> sentences() const;
    /// The sentences that are on, in working order.
    std::vector<SentencePtr> active() const;
    std::vector<SentencePtr> activeIn(Group) const;

    std::optional<SentencePlace> find(std::string_view id) const;
    SentencePtr sentence(std::string_view id) const; ///< null if there is none
    std::string freeId() const;                      ///< an id that no sentence has yet

    /// Inserts before `index`, or at the end; the sentence's kind names its group.
    Model inserted(Sentence, std::size_t index = SIZE_MAX) const;
    Model removed(std::string_view id) const;
    Model replaced(Sentence) const; ///< the sentence with the same id
    Model moved(std::string_view id, std::size_t toIndex) const;

    bool operator==(const Model&) const;

    /// With every path of a file changed by a function; sentences that have none are shared.
    Model withPaths(const std::function<std::string(const std::string&)>& changed) const;

private:
    std::array<std::vector<SentencePtr>, groupCount> groups_;
};

/// 64-bit fingerprint of everything that a computed mode depends on: all active sentences but those that leave modes as
/// they are (SentenceKind::leavesModes), and without labels. Results are kept under this key.
std::uint64_t solveKey(const Model&);

/// The live model and everything kept beside it; what a file holds.
struct Take {
    std::string id;
    std::string name;
    std::string from; ///< id of the take that it was made from, which stands before it; empty: of none
    std::string kept; ///< when, UTC: "2031-05-04T13:20:11Z"; empty where nobody knows
    std::string note; ///< what is to be remembered of it
    Model model;
    bool operator==(const Take&) const = default;
};

struct Document {
    std::string name = "untitled";
    std::string units = "m kg N";
    Model model;
    std::string from;        ///< id of the take that the live model was made from; empty: of none
    std::vector<Take> takes; ///< oldest first
    bool operator==(const Document&) const = default;
};

} // namespace undisona
