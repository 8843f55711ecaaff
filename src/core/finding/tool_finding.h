#pragma once
#include "core/base/sentence.h"
#include "core/job/job.h"
#include <map>

namespace burin {

/// Whether something is due that has to be done once in a while.
enum class Due { NotKnown, Good, Soon, Over };
inline constexpr auto dueWords = wordsOf<Due>("not-known", "good", "soon", "over");

/// What is known of a tool on a day.
struct ToolFinding {
    std::string toolId;
    Due blades = Due::NotKnown, gauge = Due::NotKnown;
    std::string bladesOn, gaugedOn; ///< the last time, not later than the day; empty: none
    int ends = 0;                   ///< cut with those blades, spoiled ones too
    std::string bladesDueOn, gaugeDueOn;
    int made = 0, spoiled = 0;  ///< with it, in all
    std::vector<Sentence> said; ///< what is due or not known
};

/// How worn the blades were that made an end.
struct BladeWear {
    std::string toolId;
    int ends = 0; ///< cut with them up to and with that one
    int days = 0; ///< since they went in
    bool over = false;
};

/// What the job's tools made, counted once.
class ToolUse {
public:
    /// `job` stays as it is meanwhile.
    explicit ToolUse(const Job& job);
    /// As on that day ("2026-11-26"), in the job's order.
    [[nodiscard]] std::vector<ToolFinding> on(const std::string& day) const;
    /// Of a termination, the worse of its tools. nullptr: no tool with blades was named, or nobody
    /// said since when they are in. Blades that went in that day are taken to have been in.
    [[nodiscard]] const BladeWear* wearOf(const std::string& terminationId) const;

private:
    const Job& job_;
    std::map<std::string_view, std::vector<const Termination*>> with_; ///< by tool, as made
    std::map<std::string_view, BladeWear> wear_;                       ///< by termination
};

} // namespace burin
