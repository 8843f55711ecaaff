#include "core/job/run_length.h"

namespace burin {

LengthFrom lengthFrom(const Run& run) {
    return run.followsPlan ? LengthFrom::Plan : LengthFrom::Typed;
}

Run typedOver(const Run& kept, const Run* laid) {
    Run out = kept;
    if (laid != nullptr && lengthFrom(kept) == LengthFrom::Plan) {
        out.stretches = laid->stretches;
        out.followsPlan = false;
    }
    return out;
}

} // namespace burin
