#pragma once
#include <cctype>
#include <string>
#include <string_view>

namespace burin {

/// Without the blanks around it.
inline std::string_view trimmed(std::string_view text) {
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    while (!text.empty() && text.back() == ' ')
        text.remove_suffix(1);
    return text;
}

/// The beginning of a text from outside, to so many bytes and no letter cut in two.
inline std::string beginningOf(std::string_view text, std::size_t bytes) {
    if (text.size() <= bytes)
        return std::string(text);
    while (bytes > 0 && (static_cast<unsigned char>(text[bytes]) & 0xC0U) == 0x80U)
        --bytes;
    return std::string(text.substr(0, bytes));
}

/// In small letters, those of ASCII.
inline std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

} // namespace burin
