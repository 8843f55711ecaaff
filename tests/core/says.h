#pragma once
#include <string>

namespace burin {

inline bool says(const std::string& text, const char* words) {
    return text.find(words) != std::string::npos;
}

} // namespace burin
