#pragma once
#include "core/link/link.h"
#include <span>
#include <string>
#include <vector>

namespace burin {

/// What a balanced link as built may be expected to measure, the worst its parts allow. Vectors are
/// over the frequencies asked for, dB; those of crosstalk are empty where the catalogue has no
/// figure for the link's lowest category, and `noCrosstalk` says so.
struct BalancedPrediction {
    std::vector<double> lossDb, returnLossDb;
    std::vector<double> nextDb, psNextDb, acrNDb, psAcrNDb, acrFDb, psAcrFDb;
    Sentence noCrosstalk;
    double delayUs = 0;           ///< at the highest frequency asked for
    double loopOhm = 0;           ///< connections not counted
    std::optional<double> skewNs; ///< at most; none: no figure in the catalogue
};

/// NEXT of the cable's length from that of 100 m, NEXT(100) − 10·log((1 − 10^(−0.2·IL))/(1 −
/// 10^(−0.2·IL100))), in voltage sum with the connections of the near end; ACR-F − 10·log(ℓ/100) in
/// voltage sum with all connections; ACR-N is NEXT less the loss. Return loss is the cable's own.
/// Delay by the line's phase and 2.5 ns a connection. Skew is the most the cable's and the
/// connections' own limits let two pairs differ, which is no forecast of a good cable's.
/// `frequencyMhz` rising, above 0; `nearConnections` of the link's connections lie at the end
/// looked into. Source: ISO/IEC 11801-1; reference page section 5.
BalancedPrediction predictBalanced(const LinkParts& link, int nearConnections,
                                   const Catalogue& catalogue,
                                   std::span<const double> frequencyMhz);

/// Return loss of balanced cable itself, 100 m: 20 + 5·log f to 10 MHz, 25 to 20, 25 − 7·log(f/20).
double cableReturnLossDb(double frequencyMhz);
/// −20·log(10^(−a/20) + n·10^(−b/20)).
double voltageSumDb(double a, double n, double b);

} // namespace burin
