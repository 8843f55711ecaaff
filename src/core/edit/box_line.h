#pragma once
#include "core/catalogue/catalogue.h"
#include "core/edit/edit.h"

namespace burin {

/// A box or reel from a typed line, its name first, then in any order its cable by id, its colour,
/// what it holds, its marks and the mark at its free end: "A1 cat6-utp blue 305 m, 2 ft marks up,
/// 0412", "reel R1 coax-s6 152 m 1 m marks down 0980". Behind the word "print" stands what its
/// jacket says, which gives cable and mark where the line does not ("A2 print … CAT 6 U/UTP CMR
/// 0412 FT"). Without a length it holds what a new box does; without marks they are 2 ft apart and
/// rise. Refused with the column: no name or cable, a name that a box has, no mark at the free end,
/// a word that is not understood.
Outcome<Box> readBox(std::string_view text, const Job& job, const Catalogue& catalogue);
/// A box typed over: what the line does not say is as it was. With the word "gone" nothing more
/// comes from it.
Outcome<Edit> retypedBox(std::string_view text, const std::string& boxId, const Job& job,
                         const Catalogue& catalogue);
/// The line `readBox` reads back.
std::string boxText(const Box& box);

} // namespace burin
