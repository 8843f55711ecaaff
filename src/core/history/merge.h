#pragma once
#include "core/history/log.h"

namespace burin {

/// A copy of a job: what it holds, and how it came to it, oldest step first.
struct JobCopy {
    std::string jobId;
    Job job;
    std::vector<LogRow> log;
};

/// What joining another copy to this one does.
struct Joined {
    Changes changes;             ///< from mine to the joined job
    std::vector<LogRow> brought; ///< the steps mine has not
    [[nodiscard]] bool nothingNew() const { return brought.empty(); }
};
/// Joins two copies of one job, field by field. What one of them changed is taken; what both
/// changed alike is one change. Where they differ the later step stands, by Lamport time and id,
/// and a conflict names what each made of it. A row that one took away stays where the other
/// changed it or made something that refers to it, with what went along with it, and as long as
/// that holds or somebody has said so. What else both copies have alike is not touched. The same
/// job whichever is `mine`, and in whatever order three are joined. Refused: copies of two jobs, a
/// step that is missing, a difference that no step tells.
Outcome<Joined> join(const JobCopy& mine, const JobCopy& theirs);

/// The id of a conflict, the same in every copy; `field` empty: of the row as a whole.
std::string conflictId(Kind kind, const std::string& rowId, const std::string& field);
/// What an edit decides of a job's conflicts: those of the fields it sets, and of rows it takes
/// away, go with it.
Changes decidedBy(const Job& job, const Changes& changes);

} // namespace burin
