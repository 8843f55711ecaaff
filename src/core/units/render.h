#pragma once
#include "core/base/fault.h"
#include "core/base/working.h"
#include "core/units/units.h"
#include <functional>

namespace burin {

/// How what is said is written for whoever reads it: in which units, in which language.
struct Rendering {
    // NOLINTNEXTLINE(google-explicit-constructor): units alone are enough, in English
    Rendering(UnitSystem system = UnitSystem::Metric) : units(system) {}

    UnitSystem units;
    char point = '.'; ///< of decimals
    /// A wording in that language, by its key ("term" of a single word) and its English; empty
    /// where it has none, and the English is shown. Not set: English.
    std::function<std::string(std::string_view key, std::string_view english)> translate;
};

/// A figure as it is written: "61.5 m" or "201.8 ft", "11 °C", "19.8 dB", "95 N", "5 %", "4".
std::string render(const Quantity& quantity, const Rendering& as);
/// A sentence as it reads. What a wording names and the sentence does not have reads "…".
std::string render(const Sentence& sentence, const Rendering& as);
/// A working as plain text, fit to be copied.
std::string render(const Working& working, const Rendering& as);
/// Sentences one after the other, `between` them.
std::string render(const std::vector<Sentence>& sentences, const Rendering& as,
                   std::string_view between);

/// A fault in one line: `where:line:column: what. cure`.
std::string render(const Fault& fault, const Rendering& as);

} // namespace burin
