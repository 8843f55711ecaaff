#pragma once
#include "core/job/tree_unit.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// A part of a distribution and the run that feeds it.
struct DistributionPart {
    std::string id;
    std::string name;  ///< "shelf"; an outlet goes by its run's label
    std::string from;  ///< id of the part before it; empty: the head
    std::string runId; ///< cable from there; empty: they touch
    bool fromTap = false;
    TreeUnit unit;
    double order = 0; ///< those of a distribution stand in this order
    bool operator==(const DistributionPart&) const = default;
};

/// Coax from one head to its outlets. Levels are in the unit of the service's window.
struct Distribution {
    std::string id;
    std::string name;
    std::string serviceId;
    double headLevel = 0; ///< at the bottom of the band
    double slopeDb = 0;   ///< added at the top of the band
    int channels = 40;
    int headOutputs = 0;                        ///< satellite: 0 as many as are used
    double headAmpere = 0.25;                   ///< satellite: what the head takes from a receiver
    std::optional<double> headCarrierToNoiseDb; ///< none: what a source of its kind gives
    std::vector<DistributionPart> parts;
    bool operator==(const Distribution&) const = default;

    [[nodiscard]] const DistributionPart* part(std::string_view id) const;
    /// The part that run feeds.
    [[nodiscard]] const DistributionPart* fedBy(std::string_view runId) const;
};

/// One device of a bus and the run that comes to it from the one before.
struct BusDevice {
    std::string name;
    std::string runId; ///< empty at the first
    double stubM = 0;  ///< from the chain to the device, of the same cable
    double unitLoads = 1, picofarad = 0;
    std::optional<double> terminatorOhm;
    bool screwTerminals = true;
    double ampere = 0;       ///< peak of the device itself
    double strikeAmpere = 0; ///< a strike fed by the same pair
    double leastV = 0;       ///< of its supply; 0: takes none from the bus
    std::optional<double> mostV;
    std::string id{};
    double order = 0; ///< those of a bus stand in this order
    bool operator==(const BusDevice&) const = default;
};

/// A reader bus in the order it is wired; the first device drives and supplies.
struct BusChain {
    std::string id;
    std::string name;
    double riseNs = 20, bitRateKbit = 9.6;
    double supplyV = 0, supplyToleranceShare = 0; ///< 0 V: the devices have supplies of their own
    int supplyPairs = 1;                          ///< in parallel
    std::optional<double> supplyAwg; ///< conductors of their own; none: pairs of the bus cable
    std::vector<BusDevice> devices;
    bool operator==(const BusChain&) const = default;

    /// Index of the device that run comes to.
    [[nodiscard]] std::optional<std::size_t> deviceAt(std::string_view runId) const;
};

} // namespace burin
