#pragma once
#include "core/catalogue/catalogue.h"
#include "core/site/jacket.h"

namespace burin {

/// Reads what is printed on a jacket, pasted or typed: "… 23 AWG 4PR U/UTP CAT 6 CMR … 0412 FT".
/// Every part is optional; words that tell nothing are given back. Refused: a text that tells
/// neither kind, gauge, screen, rating nor mark.
Outcome<JacketPrint> readJacketPrint(std::string_view text, const Catalogue& catalogue);

} // namespace burin
