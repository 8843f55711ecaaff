#pragma once
#include "core/edit/edit.h"

namespace burin {

/// A tool from a typed line, its kind and name first, then parted by commas in any order what is
/// known of it: "stripper S1, blades 2026-09-02, 90 days, 300 ends", "compression C1, gauge
/// 2026-03-01, 365 days", "gone". Days count for what was named before them; without them it is as
/// in a new row (job/ends.h). Refused with the column: no kind, no name or one that a tool has, a
/// day that is none, a part that is not understood.
Outcome<HandTool> readTool(std::string_view text, const Job& job);
/// A tool typed over: what the line does not say is as it was. A day takes the place of the last
/// that was known. Without the word "gone" it is there.
Outcome<Edit> retypedTool(std::string_view text, const std::string& toolId, const Job& job);
/// The line `readTool` reads back: with the last of its days alone.
std::string toolText(const HandTool& tool);

/// New blades went in on that day.
Edit newBlades(const Job& job, const std::string& toolId, const std::string& day);
/// It was held against its gauge that day, and good.
Edit gaugeChecked(const Job& job, const std::string& toolId, const std::string& day);

} // namespace burin
