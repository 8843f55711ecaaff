#pragma once
#include "core/catalogue/catalogue.h"
#include "core/edit/edit.h"

namespace burin {

/// A tone at the far end of a run is heard at that port of its near place, typed as `typedEnd`
/// takes it; empty: where it is said to be. The run ends there and is told apart from that day on;
/// a run that was said to be there and is not told apart gets the port that is free now, and
/// the ends that were made there with it. Refused:
/// there is no such port; the run on it is told apart by its own tone or by a measurement.
Outcome<Edit> tonedEdit(const Job& job, const Run& run, std::string_view at,
                        const std::string& day);
/// The tone told nothing: the run is not told apart any more. It keeps its port.
Edit untonedEdit(const Run& run);

/// The run to tone after that one: the next in the job's order that is pulled or has a mark, and is
/// not told apart, from the start again behind the last. nullptr: there is none.
const Run* nextToTone(const Job& job, std::string_view after);
/// How many there are.
std::size_t leftToTone(const Job& job);

} // namespace burin
