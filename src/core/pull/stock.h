#pragma once
#include "core/job/job.h"
#include "core/pull/marks.h"
#include <map>

namespace burin {

/// A piece that was pulled from a box.
struct BoxPiece {
    std::string runId;
    MarkedPiece marks;
    double fromM = 0, toM = 0; ///< from the end as it came
};
/// What is known of a box by its marks.
struct BoxStock {
    std::string boxId;
    std::vector<BoxPiece> pieces; ///< in the order they came out
    double leftM = 0;
    int freeMark = 0;
    [[nodiscard]] std::vector<MarkedPiece> marks() const;
};
/// Stock of all boxes of a job, in its order.
std::vector<BoxStock> stockOf(const Job& job);

/// How long what was pulled for a run is by its marks; none: nothing was, or its box is not there.
std::optional<MarkedLength> pulledOf(const Job& job, const Run& run);
/// What is cut off at both ends together, m.
double cutOffM(const JobInfo& info, const Run& run);
/// What of the pulled cable stays between the two ends; none: nothing was pulled.
std::optional<double> linkByMarksM(const Job& job, const Run& run);

/// It is pulled, or being pulled: somebody read a mark of it.
bool hasMarks(const Run& run);
/// Whether a cable that is there is known to be this run's: it was numbered while it was pulled, a
/// tone has told it apart since, or it was measured.
bool isToldApart(const Job& job, const Run& run);

/// Why its length cannot be typed over: what is pulled is as long as its marks say. None: it can.
std::optional<Fault> fixedByMarks(const Run& run);

/// The marks of a run as typed, beside everything else pulled from that box. Refused as
/// `pulledLength` does.
Outcome<MarkedLength> checkMarks(const Job& job, const std::string& runId, const std::string& boxId,
                                 const MarkedPiece& piece);

} // namespace burin
