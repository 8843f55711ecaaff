#include "core/job/run_length.h"

namespace burin {

LengthFrom lengthFrom(const Run& run) {
    return run.piece.isPulled() ? LengthFrom::Marks
           : run.followsPlan    ? LengthFrom::Plan
                                : LengthFrom::Typed;
}

bool isLaidByPlan(const Run& run) {
    return run.followsPlan;
}

Run typedOver(const Run& kept, const Run* laid) {
    Run out = kept;
    if (laid != nullptr && isLaidByPlan(kept)) {
        out.stretches = laid->stretches;
        out.followsPlan = false;
    }
    return out;
}

} // namespace burin
