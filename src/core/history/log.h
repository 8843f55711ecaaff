#pragma once
#include "core/edit/edit.h"
#include <cstdint>

namespace burin {

/// One step of a job's log. Steps of two copies of a job are told apart, put in order and joined by
/// what stands here, and never by the two computers' clocks.
struct LogRow {
    std::string id;                   ///< 32 hexadecimal digits, of this step alone
    std::vector<std::string> parents; ///< the step before; none: the first; two: copies were joined
    std::string replica;              ///< 16 digits: which opening of which copy made it
    std::int64_t lamport = 0;         ///< later than every step known when it was made
    std::string at;                   ///< UTC, "2026-11-26T07:15:00.000Z"
    std::string who, title;
    std::string undoes;         ///< id of the step it takes back, or of the one that took back
    int format = formatVersion; ///< of its changes
    std::string mergedBy;       ///< the joining that brought it from the other copy; empty: none
    /// Of a joining: what it changed in this copy. A step without changes only marks a beginning.
    Changes changes;
    bool operator==(const LogRow&) const = default;

    [[nodiscard]] bool joins() const { return parents.size() == 2; }
};

/// What decides whether a step can be taken back: all that has to be known of a log for that.
struct LogHead {
    std::string id, undoes, title;
    bool ours = true;     ///< not brought by a joining
    bool changes = false; ///< it changed something
};
/// What can be taken back, and done again, with the next to be taken last. Indices into the log.
struct Steps {
    std::vector<std::size_t> undo, redo;
    /// Takes the next row of the log: `log[at]`.
    void take(const std::vector<LogHead>& log, std::size_t at);
};
Steps stepsOf(const std::vector<LogHead>& log);

/// A fresh id of a step: 32 hexadecimal digits, random.
std::string newStepId();

/// What is known of a log while its job is open, and what makes the next step.
struct OpenLog {
    std::vector<LogHead> heads;
    Steps steps;
    std::int64_t lamport = 0; ///< the latest of all
    std::string last;         ///< id of the last step of this copy; empty: none yet
    std::string latestAt;     ///< the latest time that any step has, in UTC
    std::string replica;      ///< of this opening

    void take(const LogRow& row);
    /// How many minutes the latest step lies after what a clock says, in UTC; 0 under five.
    [[nodiscard]] int minutesAheadOf(const std::string& now) const;
    /// The next step, without changes yet. `at` in UTC.
    [[nodiscard]] LogRow next(std::string id, std::string at, std::string who,
                              std::string title) const;
    /// The next step, which takes that one back; of one that took back itself, does it again.
    [[nodiscard]] LogRow takingBack(const LogRow& step, std::string id, std::string at,
                                    std::string who) const;
    /// The next step, which joins another copy to this one; `brought` are its steps.
    [[nodiscard]] LogRow joining(const OpenLog& theirs, Changes changes,
                                 std::vector<LogRow>& brought, std::string id, std::string at,
                                 std::string who, std::string title) const;
};

/// The changes of a row as it is kept: a JSON array.
std::string changesText(const Changes& changes);
/// Refused with the path of what is at fault.
Outcome<Changes> readChanges(const std::string& text, const std::string& where);

/// Everything of a row that a seal covers but its changes; `mergedBy` belongs to the copy.
std::string headText(const LogRow& row);

} // namespace burin
