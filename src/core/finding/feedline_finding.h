#pragma once
#include "core/coax/feedline.h"
#include "core/finding/run_finding.h"

namespace burin {

/// The question a run asks, at the top of its band, where the line loses most; none when it is no
/// feedline or its band, power or cable is not known. Without a ratio the aerial is taken as
/// matched.
std::optional<FeedlineQuestion> feedlineOf(const Run& run, const Catalogue& catalogue);
Working feedlineWorking(const FeedlineQuestion& question, const FeedlineFinding& finding,
                        const Catalogue& catalogue);

} // namespace burin
