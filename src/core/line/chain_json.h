#pragma once
#include "core/describe/json_reader.h"
#include "core/line/chain.h"
#include <string_view>

namespace burin {

/// A chain as JSON: `{"referenceOhm":50,"parts":[…]}`, each part with a `kind`:
/// line (`cable`, optional `temperatureC`, or `impedanceOhm`, `velocity`, `lossDbPer100m` at 100
/// MHz; `lengthM`), stub (as line, with `end` open, short or ohms), series and shunt (`ohm`,
/// `nanohenry`, `picofarad`), connection (`connection`), splitter (`ways`), pad (`lossDb`),
/// amplifier (`gainDb`). Refused with the part and key at fault; what cannot be is refused by
/// checkChain.
Outcome<Chain> readChain(std::string_view json, const std::string& where,
                         const Catalogue& catalogue);

/// The line a part describes, `lengthM` aside. Throws FaultThrown.
Line readLine(JsonObject& part, const Catalogue& catalogue);
/// A mated connection in a line of `impedanceOhm`: its loss and, where it does not match, its
/// length.
std::vector<ChainPart> connectionParts(const Connection& connection, double impedanceOhm);

} // namespace burin
