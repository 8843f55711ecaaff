#pragma once
#include "core/finding/site_finding.h"

/// Parts of planSite; screens and commands want core/finding/site_finding.h.
namespace burin {

/// Everything found along the routes of `plan`, the worst first.
std::vector<SiteFinding> siteFindings(const Job& job, const Catalogue& catalogue,
                                      const SitePlan& plan);
/// What is found of a run as a whole: its jacket, and whether it has a way at all.
void addRunMatters(const Job& job, const SitePlan& plan, std::vector<SiteFinding>& out);

} // namespace burin
