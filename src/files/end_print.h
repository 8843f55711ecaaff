#pragma once
#include "core/connector/card.h"
#include "core/units/units.h"
#include "files/sheets.h"

namespace burin {

/// How an end is made, on paper: the end drawn as long as it is, with a rule of 100 mm beside it to
/// prove that the printer kept it so; lengths, steps to tick, what proves it, cautions. The bytes
/// of a PDF; the faces must be loaded. `card` has one.
std::string cardPdf(const CardFinding& card, const std::string& jobName, UnitSystem units,
                    PaperSize paper);

} // namespace burin
