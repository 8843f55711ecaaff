#pragma once
#include "core/job/job.h"

namespace burin {

/// What says how long a run is.
enum class LengthFrom {
    Typed, ///< its stretches as they are kept
    Plan,  ///< its way on the plan, laid out anew at each edit (`laidJob`)
    Marks, ///< the marks at the two ends of what was pulled, less what is cut off
};
/// Which of them holds for this run: everything that asks for its length asks here.
LengthFrom lengthFrom(const Run& run);
/// Whether the plan gives it its stretches, though marks may say how long it is in all.
bool isLaidByPlan(const Run& run);

/// The run as it may be typed over: with the stretches it is laid with now, following the plan no
/// more; as it is where the plan does not lay it. `laid` is the same run of the laid job, or null.
Run typedOver(const Run& kept, const Run* laid);

} // namespace burin
