#pragma once
#include "core/base/sentence.h"

namespace burin {

/// How a figure came about: formula, inputs with units and source, and what came out. Every
/// finding carries one; screens, command line and report show the same.
struct Working {
    struct Input {
        Sentence name, value, source;
    };
    Sentence title;
    Sentence formula;
    std::vector<Input> inputs;
    std::vector<Sentence> steps;
    Sentence result;
};

/// A symbol of a formula: α(f), k1.
inline Sentence symbol(std::string_view letters) {
    return alone(asText(std::string(letters)));
}
/// Where a figure of the catalogue is from.
inline Sentence cited(std::string_view source) {
    return alone(asTerm(source));
}

} // namespace burin
