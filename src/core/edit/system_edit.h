#pragma once
#include "core/coax/tree.h"
#include "core/edit/edit.h"

namespace burin {

/// "splitter 4", "tap 14", "amplifier 20 slope 6", "multiswitch 8", "pad 6", "equaliser 9",
/// "dc-block", "surge-arrester", with "return 0" behind an
/// amplifier that lets the way back through and "ended 2" for ports with a terminator: what a part
/// is, as typed. Refused with what was not understood.
Outcome<TreeUnit> parseTreeUnit(const std::string& text);
std::string treeUnitText(const TreeUnit& unit);

/// Every function below gives the system as it would be; the job changes by an edit alone.

/// A distribution with one outlet, fed by that run.
Distribution newDistribution(const Run& run);
/// The run as an outlet of the distribution behind `from` (empty: the head), moved there when it is
/// in it already.
Distribution hungOn(Distribution distribution, const Run& run, const std::string& from,
                    bool fromTap);
/// A part put where `partId` hung, which now hangs on it: at the near end of the cable that leads
/// to it, which goes on from there, or at its far end, where the cable leads to the new part.
Distribution withPartAhead(Distribution distribution, const std::string& partId,
                           const TreeUnit& unit, bool nearEnd = true);
/// Taken out; what hung on it hangs where it hung, and none where nothing is left. Refused where
/// more hang on it than can.
Outcome<std::optional<Distribution>> withoutPart(Distribution distribution,
                                                 const std::string& partId);
/// The run taken out: an outlet goes with it, another part stays and touches what came before. None
/// when nothing is left.
std::optional<Distribution> withoutRun(Distribution distribution, std::string_view runId);
/// What a proposal asks for, of the distribution and of its runs. The names of `tree` are those of
/// the proposal, in the order of the parts.
Edit adoption(const Job& job, const Distribution& distribution, const TreeProposal& proposal,
              const Tree& tree);

/// A bus of a controller and the device that run comes to.
BusChain newBus(const Job& job, const Run& run);
/// The run's device put behind the device `after` (an index), moved there when it is in the bus.
BusChain goingOn(BusChain bus, const Job& job, const Run& run, std::size_t after);
/// The run's device taken out; none when the controller alone is left.
std::optional<BusChain> withoutRun(BusChain bus, std::string_view runId);

} // namespace burin
