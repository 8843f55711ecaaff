#pragma once
#include "core/finding/run_finding.h"
#include "core/finding/site_finding.h"
#include <functional>

namespace burin {

/// What would make a run hold that the plan lays and that does not: another way, a place of the
/// same kind to begin at, its head end moved along its way. Each is put in place in the job as kept
/// (`kept`), the whole plan is made anew and every run and system that it reaches is computed: what
/// costs another run its verdict, or brings something onto the plan that wants doing, is no cure.
/// Long on a large plan: `stop` ends it, with nothing. `laid` is `kept` as laid with `site`.
std::vector<Cure> wayCures(const Job& kept, const Job& laid, const std::string& runId,
                           const Catalogue& catalogue, const SitePlan& site,
                           const std::function<bool()>& stop = {});

} // namespace burin
