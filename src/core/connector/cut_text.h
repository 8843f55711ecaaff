#pragma once
#include "core/base/fault.h"
#include "core/catalogue/end_card.h"
#include "core/units/units.h"

namespace burin {

/// A length of a card as typed: one figure, "30–50", "30-50 mm", "1/16-1/8 in", "at most 13 mm",
/// "at least 8"; empty: the part's sheet says. Figures without a unit are in mm, in imperial units
/// in inches; over 1000 mm they are refused.
struct MillimetreRange {
    std::optional<double> leastMm, mostMm;
    bool operator==(const MillimetreRange&) const = default;
};
Outcome<MillimetreRange> parseMillimetreRange(std::string_view text,
                                              UnitSystem bare = UnitSystem::Metric);
/// The text it reads back, in the system's unit; empty where the sheet says.
std::string rangeAsTyped(const MillimetreRange& range, UnitSystem system);

/// The card as one of the user's own, for that connection: of the same id for the same card, so
/// that it takes the place of what was typed before.
EndCard ownCard(const EndCard& card, const std::string& connectionId);

} // namespace burin
