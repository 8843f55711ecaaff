#pragma once
#include <string>
#include <string_view>

namespace burin {

/// A text as a field of a comma-separated line: quoted where it must be (RFC 4180). One that a
/// spreadsheet would take for a formula gets an apostrophe before it.
inline std::string csvField(std::string text) {
    if (!text.empty() && std::string_view("=+-@").find(text.front()) != std::string_view::npos)
        text.insert(0, "'");
    if (text.find_first_of(",\"\n\r") == std::string::npos)
        return text;
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace burin
