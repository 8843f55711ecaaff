#pragma once
#include "core/link/link.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// A transmitter, a line and an aerial at one frequency.
struct FeedlineQuestion {
    LinkParts link;
    double frequencyMhz = 0;
    double powerW = 0;    ///< into the line
    double loadRatio = 1; ///< standing-wave ratio of the aerial, at the aerial
    double impedanceOhm = 50;
    std::optional<double> withstandV; ///< direct volts an insulation test held
};
struct FeedlineFinding {
    double matchedLossDb = 0; ///< with a perfect aerial
    double lossDb = 0;        ///< with the standing wave on the line
    double powerAtAerialW = 0;
    double radioRatio = 1; ///< standing-wave ratio the radio sees, bettered by the line's loss
    double peakV = 0;      ///< highest anywhere on the line
    /// Peak power the insulation test vouches for: the volts halved for safety first, and as they
    /// are.
    std::optional<double> vouchedHalvedW, vouchedFullW;
};
/// Loss on a mismatched line 10·log((a² − |Γ|²)/(a(1 − |Γ|²))), a = 10^(ML/10); the ratio at the
/// radio from |Γ|/a; peak volts √(2·P·Z0·SWR) of the power passing at the worse end; vouched power
/// V²/(2·Z0)/SWR. Refused: a frequency or power not above 0, a ratio under 1.
/// Source: reference page section 4 and 9; ITU handbook formulas for lines with standing waves.
Outcome<FeedlineFinding> findFeedline(const FeedlineQuestion& question, const Catalogue& catalogue);

/// What another cable, or one so much shorter, is worth.
struct FeedlineChange {
    std::string what;
    std::string cableId; ///< empty: the same, shorter
    double savedDb = 0;
    double powerAtAerialW = 0;
    double morePowerShare = 0; ///< 0.26 is 26 % more at the aerial
};
/// Every cable of the impedance that loses less, then a run shorter by a tenth, best first.
std::vector<FeedlineChange> feedlineChanges(const FeedlineQuestion& question,
                                            const Catalogue& catalogue);

/// Net power passing and standing-wave ratio at a place of the line.
struct FeedlinePoint {
    double atM = 0, powerW = 0, ratio = 1;
};
/// `points` places, two or more, from radio to aerial, of a line that was found so; the loss of
/// cords and connections is spread along it.
std::vector<FeedlinePoint> alongFeedline(const FeedlineQuestion& question,
                                         const FeedlineFinding& finding, int points);

} // namespace burin
