#pragma once
#include "core/base/finding.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace undisona {

struct JsonMember;

/// A JSON value that knows the line it stands on. Members keep their order.
struct JsonNode {
    enum class Kind { null, boolean, number, text, list, object };

    Kind kind = Kind::null;
    int line = 0;
    bool boolean = false;
    double number = 0.0;
    std::string text; ///< of a text; of a number, its digits as written
    std::vector<JsonNode> items;
    std::vector<JsonMember> members;

    const JsonNode* member(std::string_view key) const;
    std::string kindWords() const; ///< "a text", "a list", ...
};

struct JsonMember {
    std::string key;
    JsonNode value;
};

/// Reads JSON (RFC 8259) in UTF-8. Refuses duplicate keys, more than 64 levels and anything after the end;
/// the finding's place is "file, line N".
Result<JsonNode> readJson(std::string_view text, const std::string& file);

} // namespace undisona
