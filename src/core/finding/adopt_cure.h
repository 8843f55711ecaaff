#pragma once
#include "core/edit/edit.h"

namespace burin {

struct Cure;
struct JobFindings;

/// One of a run's cures done, to the job as it is kept: what the plan lays is no part of an edit.
/// Nothing where the distribution or bus is no more what `findings` are of.
Edit adopted(const Job& kept, const JobFindings& findings, const std::string& runId,
             const Cure& cure);

} // namespace burin
