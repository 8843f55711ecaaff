#pragma once
#include "core/units/render.h"
#include <ostream>
#include <string>
#include <vector>

namespace burin {

/// A sentence, a list of them or a working as an English reader has it, in metres.
template <typename Said> std::string english(const Said& said) {
    return render(said, UnitSystem::Metric);
}
inline std::string english(const std::vector<Sentence>& said) {
    return render(said, UnitSystem::Metric, "; ");
}

inline bool operator==(const Sentence& said, const char* words) {
    return english(said) == words;
}
inline std::ostream& operator<<(std::ostream& out, const Sentence& said) {
    return out << english(said);
}

inline bool says(const std::string& text, const char* words) {
    return text.find(words) != std::string::npos;
}
template <typename Said> bool says(const Said& said, const char* words) {
    return says(english(said), words);
}

} // namespace burin
