#pragma once
#include <string>
#include <vector>

namespace burin {

/// A part of a manual page. Its text is shown as it stands, line by line.
struct ManPart {
    std::string title; ///< "OPTIONS"; of a part within one, begins with a blank: " card"
    std::string text;
};
/// A page of section 1 in the form that man(1) reads: `name` and in one line what it does first.
std::string manPage(const std::string& name, const std::string& does, const std::string& version,
                    const std::vector<ManPart>& parts);

} // namespace burin
