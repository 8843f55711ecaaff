#pragma once
#include "core/line/sweep.h"
#include <string_view>

namespace burin {

/// Reads Touchstone 1.x: Hz, kHz, MHz, GHz; MA, DB, RI; S-parameters; any real reference; comments
/// and odd line breaks; two-port column order (11 21 12 22); a noise block is skipped with a note.
/// `ports` 0 takes the count from `name`'s ending .sNp. 2.x and other parameters are refused, as
/// is everything else that is not such a file, with line and column.
Outcome<MeasuredFile> readTouchstone(std::string_view text, const std::string& name, int ports = 0);

/// What is wrong with a CSV that whoever knows its unit can cure.
inline constexpr Wording unitUnknown{"measured.unit-unknown",
                                     "the unit of frequency is not given in “{0}”"};

/// Reads CSV: a row of headers, the first column frequency. Separated by ; tab or comma; decimal
/// comma where the separator is not one. The unit of frequency stands in the header, e.g.
/// "Frequency (MHz)", or is given as `frequencyUnit` ("Hz", "kHz", "MHz", "GHz").
Outcome<MeasuredFile> readCsv(std::string_view text, const std::string& name,
                              std::string_view frequencyUnit = {});

/// By the name's ending, .sNp or anything else as CSV.
Outcome<MeasuredFile> readMeasuredFile(std::string_view bytes, const std::string& name,
                                       std::string_view frequencyUnit = {});

/// Touchstone 1.1 text, MHz, real and imaginary parts, 9 digits. One reference for all ports.
std::string writeTouchstone(const NetworkSweep& sweep, std::string_view comment);

} // namespace burin
