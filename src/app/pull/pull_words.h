#pragma once
#include "app/frame/session.h"
#include "core/edit/pull_edit.h"

namespace burin {

/// The pull as an edit wants it.
PullOf pullOf(const PullFinding& pull, const Job& job);
/// "plant room → sail loft": where its cables begin and end.
QString fromTo(const PullFinding& pull, const Job& job);
/// "SL-D01 D03 D04": labels of its runs, what all begin with said once.
QString labelsOf(const PullFinding& pull, const Job& job);
/// "4 × 62 m", "48 and 61 m".
QString lengthsOf(const PullFinding& pull, UnitSystem units);
/// "A1, A2, 3 new boxes".
QString boxesOf(const PullFinding& pull, const PullPlan& plan);
/// "Thu 26 November".
QString dayText(const std::string& date);
/// "A1", or "new 2".
QString boxName(const PullBox& box);
/// "0412 ft".
QString markOf(int mark, const Job& job, const std::string& boxId);

} // namespace burin
