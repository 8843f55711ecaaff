#pragma once
#include "core/connector/end_shape.h"
#include "core/job/job.h"

namespace burin {

/// One end of a run, as it is to be made.
struct EndFinding {
    const RunConnection* row = nullptr; ///< of the run; nullptr: nobody chose a connector
    CardFinding card;                   ///< without connection: nothing in the catalogue fits
    bool outdoors = false;
};
/// The connector on the cable at that end: the first of its connections that grips a cable; where
/// nobody chose one, what is usual on such a cable. `run` outlives the finding.
EndFinding findEnd(const Run& run, End end, const Catalogue& catalogue);

} // namespace burin
