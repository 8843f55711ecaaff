#pragma once
#include "core/base/sentence.h"
#include "core/plan/plan.h"

namespace burin {

/// Whether a jacket may lie where `need` is asked for. Plenum serves wherever riser does, riser
/// wherever general does; water-blocked serves outdoors; neither of those two may lie for long
/// inside a building, and none of the indoor ones outside.
bool serves(Jacket jacket, Jacket need);

/// What the air of a pathway asks of the jacket.
Jacket jacketFor(PathwayKind kind);

/// The one jacket that serves all of `needs`; Unknown where none does (indoors and outdoors).
Jacket jacketForAll(const std::vector<Jacket>& needs);

/// What a jacket's print says. What it does not say stays empty.
struct JacketPrint {
    std::string kind;      ///< "cat6", "series 6", "rg-213 class"; empty: not told
    std::string screen;    ///< "U/UTP"
    std::string rating;    ///< as printed: "CMR"
    std::string fireClass; ///< reaction to fire, EN 13501-6: "B2ca-s1a,d1,a1"
    bool lowSmoke = false; ///< low smoke, no halogens
    Jacket jacket = Jacket::Unknown;
    std::optional<double> awg;
    std::optional<bool> stranded;
    bool copperClad = false; ///< conductors of copper-clad aluminium
    std::optional<int> pairs;
    std::optional<double> impedanceOhm;
    std::optional<double> markM; ///< footage or metre mark, in m
    bool markInFeet = false;
    std::vector<Sentence> warnings;    ///< what such a cable brings with it
    std::vector<std::string> left;     ///< words that were not understood
    std::vector<std::string> cableIds; ///< of the catalogue, that fit
};

} // namespace burin
