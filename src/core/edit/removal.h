#pragma once
#include "core/edit/edit.h"
#include <set>

namespace burin {

/// The changes that take a row away with the rows it owns, and with what refers to it as each
/// field's description says: cleared, or gone too. A run goes as `removalOf` says. Refused where
/// something stays that cannot be without it: the runs of a room.
Outcome<Changes> removing(const Job& job, Kind kind, const std::string& id);
/// Of several rows at once. Rows of `handled` kinds stay as they are: whoever asks sees to what
/// they refer to.
Outcome<Changes> removing(const Job& job, const std::set<RowKey>& rows,
                          const std::set<Kind>& handled);

/// The changes that take runs away with their tests, and out of the distributions and buses they
/// feed: an outlet or a bus device goes with its run, another part stays and touches what came
/// before it. Of several runs at once, in time linear in the job.
Changes removalOf(const Job& job, const std::vector<std::string>& runIds);
Changes removalOf(const Job& job, std::string_view runId);

} // namespace burin
