#pragma once
#include "core/model/json_tree.hpp"

#include <optional>
#include <set>

namespace undisona {

/// Sentences of format version 1 said as they are now: a bed, a spread mass, a coating and a hold had a kind or a word
/// of their own for each thing that they can stand on, and a hold on the name of members meant their points.
class FormerSentences {
public:
    /// Of the model in the node, whose Shape sentences give names to members.
    explicit FormerSentences(const JsonNode& model);

    /// Nothing where the sentence reads as it stands.
    std::optional<JsonNode> now(const JsonNode& sentence) const;

private:
    std::string ofPoints(const std::string& pick) const;
    std::string pointsMeantBy(const std::string& term) const;
    std::string ofOneSort(const std::string& pick, const std::string& nouns) const;

    std::set<std::string> membersNames_; ///< of the sentences that make members
    std::set<std::string> mixedNames_;   ///< of those that make members and sheet
};

} // namespace undisona
