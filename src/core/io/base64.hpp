#pragma once
#include <string>

namespace undisona {

/// Bytes as letters (RFC 4648).
std::string base64(const std::string& bytes);

/// Text as it stands in HTML.
std::string inHtml(const std::string& text);

} // namespace undisona
