#pragma once
#include "core/job/job.h"
#include "core/link/link.h"
#include "core/measure/trace.h"

namespace burin {

/// A measured loss that is not this run's: of another run, or the plan is wrong.
struct OtherRun {
    double looksLikeM = 0; ///< fixed cable of the run's kind that would lose so much
    double plannedM = 0;   ///< the run's fixed cable
    std::string cable;     ///< its name
    /// "looks like 12.0 m of Cat 6A U/UTP; this run is 60.0 m"
    [[nodiscard]] Sentence said() const;
};

/// How far a run's length by its measured loss may be from its length in the job before the file is
/// asked about: a fifth of it, at least 3 m, and what the instrument's accuracy is worth in metres.
/// A fifth: twice the 10 % by which pulled lengths are asked about (reference page, section 11),
/// since cable of one category varies by as much again.
inline constexpr double mayDifferShare = 0.2, mayDifferM = 3;

/// Nothing where the loss can be this run's, or where too little of it is there to tell: fewer than
/// one pair, loss of the cable under the instrument's accuracy. The length is the median over the
/// upper half of the frequencies of each pair (there the cable's share is greatest), and of the
/// pairs the middle one, so that a single bad joint does not make another run of it.
std::optional<OtherRun> looksLikeOther(const std::vector<Trace>& traces, const LinkParts& link,
                                       const Catalogue& catalogue, const Accuracy& accuracy);

} // namespace burin
