#pragma once
#include <chrono>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace burin {

/// A day of the calendar, "2026-11-26"; nothing where it is none.
std::optional<std::chrono::sys_days> calendarDay(std::string_view text);
/// The same day as it is written.
std::string dayText(std::chrono::sys_days day);
/// Milliseconds since 1970 UTC of an ISO 8601 moment, `2026-11-25T22:35:27.123+01:00`: date, T or a
/// blank, hours and minutes, then as may be seconds, fractions, and Z or an offset. One without an
/// offset is taken as UTC. Nothing: it is no such moment, or no day of the calendar.
std::optional<std::int64_t> utcMs(std::string_view text);
/// The same moment as `2026-11-25T21:35:27.123Z`.
std::string utcText(std::int64_t ms);

} // namespace burin
