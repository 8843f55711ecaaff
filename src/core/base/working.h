#pragma once
#include <string>
#include <vector>

namespace burin {

/// How a figure came about: formula, inputs with units and source, and what came out. Every
/// finding carries one; screens, command line and report show the same.
struct Working {
    struct Input {
        std::string name, value, source;
    };
    std::string title;
    std::string formula;
    std::vector<Input> inputs;
    std::vector<std::string> steps;
    std::string result;

    /// As plain text, fit to be copied.
    [[nodiscard]] std::string text() const;
};

} // namespace burin
