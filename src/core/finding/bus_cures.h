#pragma once
#include "core/finding/system_finding.h"

/// What the files of a bus share; screens and commands want core/finding/system_finding.h.
namespace burin {

/// The bus as wired; faults name runs without a cable.
Bus busOf(const SystemReads& reads, const BusChain& chain, const Catalogue& catalogue,
          std::vector<Fault>& faults);

/// Volts at the devices that take current from the bus; `loaded` names them in the same order.
Outcome<SupplyFinding> supplyOf(const SystemReads& reads, const BusChain& chain,
                                const Catalogue& catalogue, std::vector<std::size_t>& loaded);

/// What makes a bus that is not good a good one, waveform and volts at every device, each put in
/// place and computed; up to three, cheapest first. Tried, alone and together: terminators at both
/// ends and nowhere else, no stubs, a lower bit rate, a slower edge; strikes on a supply of their
/// own, more pairs in parallel, a supply pair of 18 AWG, a second supply at a device.
/// Once `stop` is true nothing more is tried, and nothing given.
std::vector<BusCure> busCures(const Job& job, const BusChain& chain, const Catalogue& catalogue,
                              const std::function<bool()>& stop = {});
std::vector<BusCure> busCures(const SystemReads& reads, const BusChain& chain,
                              const Catalogue& catalogue, const std::function<bool()>& stop = {});

} // namespace burin
