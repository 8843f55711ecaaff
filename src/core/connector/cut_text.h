#pragma once
#include "core/base/fault.h"
#include "core/catalogue/end_card.h"
#include "core/units/units.h"

namespace burin {

/// A small length as typed, in mm: "6.4", "6.4 mm", "1/4 in". A bare figure is in mm, in imperial
/// units in inches. 0 … 1000 mm; else refused.
Outcome<double> parseMillimetres(std::string_view text, UnitSystem bare = UnitSystem::Metric);

/// A length of a card as typed: one figure, "30–50", "30-50 mm", "1/16-1/8 in", "at most 13 mm",
/// "at least 8"; empty: the part's sheet says.
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
