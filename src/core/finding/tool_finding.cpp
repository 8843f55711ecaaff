#include "core/finding/tool_finding.h"
#include "core/base/moment.h"
#include <algorithm>

namespace burin {
namespace {

using std::chrono::days;

constexpr int soonDays = 7;       ///< before something is due
constexpr double soonShare = 0.9; ///< of the ends that blades last

constexpr Wording bladesOver{"tool.blades-over",
                             "{0}: change its blades, {1} {1?end|ends} and {2} {2?day|days} old"};
constexpr Wording bladesSoon{"tool.blades-soon",
                             "{0}: change its blades by {1}, or after {2} more {2?end|ends}"};
constexpr Wording bladesUnknown{"tool.blades-unknown",
                                "{0}: nobody has said since when its blades are in"};
constexpr Wording gaugeOver{"tool.gauge-over", "{0}: hold it against its gauge, due on {1}"};
constexpr Wording gaugeSoon{"tool.gauge-soon", "{0}: hold it against its gauge by {1}"};
constexpr Wording gaugeUnknown{"tool.gauge-unknown",
                               "{0}: nobody has said when it was held against its gauge"};

/// The last of the days that is not later than that one; empty: none.
std::string lastBy(const std::vector<std::string>& on, const std::string& day) {
    std::string out;
    for (const auto& one : on)
        if (one <= day && one > out)
            out = one;
    return out;
}
int daysBetween(const std::string& from, const std::string& to) {
    const auto a = calendarDay(from);
    const auto b = calendarDay(to);
    return a && b ? static_cast<int>((*b - *a).count()) : 0;
}
std::string dayAfter(const std::string& day, int count) {
    const auto from = calendarDay(day);
    return from ? dayText(*from + days(count)) : std::string();
}
Due dueAfter(int left) {
    return left < 0 ? Due::Over : left <= soonDays ? Due::Soon : Due::Good;
}

void judgeBlades(ToolFinding& out, const HandTool& tool, const std::string& day) {
    if (out.bladesOn.empty()) {
        out.said.push_back(sentence(bladesUnknown, asText(tool.name)));
        return;
    }
    const int old = daysBetween(out.bladesOn, day);
    const int endsLeft = tool.bladeEnds - out.ends;
    out.bladesDueOn = dayAfter(out.bladesOn, tool.bladeDays);
    out.blades = dueAfter(tool.bladeDays - old);
    if (endsLeft < 0)
        out.blades = Due::Over;
    else if (out.blades == Due::Good && out.ends >= soonShare * tool.bladeEnds)
        out.blades = Due::Soon;
    if (out.blades == Due::Over)
        out.said.push_back(sentence(bladesOver, asText(tool.name),
                                    asCount(static_cast<std::size_t>(out.ends)),
                                    asCount(static_cast<std::size_t>(old))));
    else if (out.blades == Due::Soon)
        out.said.push_back(sentence(bladesSoon, asText(tool.name), asDay(out.bladesDueOn),
                                    asCount(static_cast<std::size_t>(endsLeft))));
}
void judgeGauge(ToolFinding& out, const HandTool& tool, const std::string& day) {
    if (out.gaugedOn.empty()) {
        out.said.push_back(sentence(gaugeUnknown, asText(tool.name)));
        return;
    }
    out.gaugeDueOn = dayAfter(out.gaugedOn, tool.gaugeDays);
    out.gauge = dueAfter(tool.gaugeDays - daysBetween(out.gaugedOn, day));
    if (out.gauge == Due::Over || out.gauge == Due::Soon)
        out.said.push_back(sentence(out.gauge == Due::Over ? gaugeOver : gaugeSoon,
                                    asText(tool.name), asDay(out.gaugeDueOn)));
}

} // namespace

ToolUse::ToolUse(const Job& job) : job_(job) {
    for (const auto& row : job.terminations) {
        if (!row.stripToolId.empty())
            with_[row.stripToolId].push_back(&row);
        if (!row.closeToolId.empty() && row.closeToolId != row.stripToolId)
            with_[row.closeToolId].push_back(&row);
    }
    // They stand as they were entered; a day that was said afterwards leads.
    for (auto& [id, rows] : with_)
        std::stable_sort(rows.begin(), rows.end(),
                         [](const auto* a, const auto* b) { return a->madeOn < b->madeOn; });
    for (const auto& tool : job.tools) {
        const auto rows = with_.find(tool.id);
        if (!hasBlades(tool.kind) || rows == with_.end())
            continue;
        std::string blades;
        int ends = 0;
        for (const auto* row : rows->second) {
            const std::string since = lastBy(tool.bladesOn, row->madeOn);
            ends = since == blades ? ends + 1 : 1;
            blades = since;
            if (since.empty())
                continue;
            BladeWear wear{tool.id, ends, daysBetween(since, row->madeOn), false};
            wear.over = wear.days > tool.bladeDays || wear.ends > tool.bladeEnds;
            BladeWear& known = wear_[row->id];
            if (known.toolId.empty() || (wear.over && !known.over))
                known = std::move(wear);
        }
    }
}

const BladeWear* ToolUse::wearOf(const std::string& terminationId) const {
    const auto it = wear_.find(terminationId);
    return it == wear_.end() ? nullptr : &it->second;
}

std::vector<ToolFinding> ToolUse::on(const std::string& day) const {
    std::vector<ToolFinding> out;
    for (const auto& tool : job_.tools) {
        ToolFinding found;
        found.toolId = tool.id;
        found.bladesOn = lastBy(tool.bladesOn, day);
        found.gaugedOn = lastBy(tool.gaugedOn, day);
        if (const auto rows = with_.find(tool.id); rows != with_.end())
            for (const auto* row : rows->second) {
                ++(row->spoiled ? found.spoiled : found.made);
                if (!found.bladesOn.empty() && row->madeOn >= found.bladesOn && row->madeOn <= day)
                    ++found.ends;
            }
        if (!tool.gone && hasBlades(tool.kind))
            judgeBlades(found, tool, day);
        if (!tool.gone && hasGauge(tool.kind))
            judgeGauge(found, tool, day);
        out.push_back(std::move(found));
    }
    return out;
}

} // namespace burin
