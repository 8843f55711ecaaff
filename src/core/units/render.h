#pragma once
#include "core/base/fault.h"
#include "core/base/sentence.h"
#include "core/units/units.h"

namespace burin {

/// A figure as it is written: "61.5 m" or "201.8 ft", "11 °C", "19.8 dB", "95 N", "5 %", "4".
std::string render(const Quantity& quantity, UnitSystem system);
/// A sentence as it reads. `pattern` is its wording in another language, empty the English one.
/// What a pattern names and the sentence does not have reads "…".
std::string render(const Sentence& sentence, UnitSystem system, std::string_view pattern = {});

/// A fault told in sentences; its code is the key of what is wrong.
Fault faultOf(const Sentence& where, const Sentence& what, const Sentence& cure);

} // namespace burin
