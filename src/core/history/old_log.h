#pragma once
#include "core/history/log.h"

namespace burin {

/// A line of the log as versions 1 to 5 of the format kept it: whole rows, and a state that
/// changed in place.
struct OldLine {
    std::string at, who, title;
    std::string state;    ///< done, undone, dropped, or begun
    std::string editJson; ///< {"title", "changes": [{"kind", "before", "after"}]}
};

/// The same log as steps, oldest first: what was taken back stands as the step and the one that
/// takes it back, so that it can still be done again. Ids come of what stands in a line and before
/// it, and of nothing else: copies made before the upgrade still know each other's steps. A line
/// that cannot be read keeps its place and its title, and has no changes. A log without lines has
/// one step, its beginning.
std::vector<LogRow> stepsOfOld(const std::vector<OldLine>& lines, const std::string& jobName);

/// The id of a job that has none yet, the same in all copies of it.
std::string jobIdOfOld(const std::vector<OldLine>& lines, const std::string& name);

} // namespace burin
