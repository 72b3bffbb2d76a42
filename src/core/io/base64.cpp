#include "core/io/base64.hpp"

#include <string_view>

namespace undisona {

std::string base64(const std::string& bytes)
{
    constexpr std::string_view letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string out;
    for (std::size_t at = 0; at < bytes.size(); at += 3) {
        unsigned three = 0;
        for (std::size_t byte = 0; byte < 3; ++byte)
            three = three << 8 | (at + byte < bytes.size() ? static_cast<unsigned char>(bytes[at + byte]) : 0u);
        for (std::size_t letter = 0; letter < 4; ++letter)
            out += at + letter > bytes.size() ? '=' : letters[three >> (18 - 6 * letter) & 63u];
    }
    return out;
}

std::string inHtml(const std::string& text)
{
    std::string out;
    for (const char letter : text)
        switch (letter) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += letter;
        }
    return out;
}

} // namespace undisona
