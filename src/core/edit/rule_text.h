#pragma once
#include "core/catalogue/catalogue.h"
#include "core/edit/edit.h"

namespace burin {

/// Rules of a job that are lists, typed in one line, parted by commas or semicolons; empty: none.

/// Colours of jackets by kind of run, "data blue, television black". Refused: no such kind.
Outcome<Edit> jacketColours(std::string_view text, const Job& job, const Catalogue& catalogue);
std::string coloursText(const Job& job, const Catalogue& catalogue);
/// What a metre costs of the cables that cost other than the rest, by id or name, in the job's
/// currency: "cat6-utp 0.55, coax-s6 0.48". Refused: no such cable, one twice, no price.
Outcome<Edit> cablePrices(std::string_view text, const Job& job, const Catalogue& catalogue);
std::string pricesText(const Job& job);

} // namespace burin
