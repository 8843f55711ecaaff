#pragma once
#include "core/base/fault.h"
#include "core/line/line.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// Impedance of the cable a bus is made for: TIA-485-A.
inline constexpr double busOhm = 120;

/// One device of a bus, with the cable that comes from the one before it.
struct BusNode {
    std::string name;
    Line line; ///< from the node before; unused at the first
    double lengthM = 0;
    Line stubLine; ///< from the chain to the device
    double stubM = 0;
    double unitLoads = 1;                ///< of 12 kΩ each
    double picofarad = 0;                ///< of the device's input
    std::optional<double> terminatorOhm; ///< across the chain at this node
    bool solidInScrews = false;          ///< solid conductors under screw terminals
};

/// A two-wire bus in the order it is wired, with who drives it. Differential volts.
struct Bus {
    std::vector<BusNode> nodes;
    std::size_t driver = 0;
    double driverV = 3; ///< open-circuit swing to each side
    double sourceOhm = 40;
    double riseNs = 20; ///< edge, from end to end
    double bitRateKbit = 9.6;
    double thresholdV = 0.2; ///< receivers decide at ± this
};

struct BusWave {
    std::vector<double> volt; ///< at the device, against Bus times
};
struct BusPoint {
    std::string name;
    double atM = 0;
    double finalV = 0;     ///< settled, after the edge from − to +
    double overshootV = 0; ///< above the settled value
    double ringBackV = 0;  ///< lowest it falls to again once past the threshold
    double settleNs = 0;   ///< to stay within a tenth of the settled value
    bool good = true;
    std::vector<Sentence> reasons; ///< what is wrong
};
struct BusFinding {
    std::vector<double> timeNs;
    std::vector<BusWave> waves;   ///< one a node
    std::vector<BusPoint> points; ///< one a node
    std::vector<Sentence> notes;  ///< of the bus as a whole, with their cures
    bool good = true;
};

/// Waveform at every device after one edge of the driver from −V to +V, by the line model: the
/// chain seen from the driver to both sides at complex frequencies, inverse Laplace transform by
/// Fourier series (Crump 1976). Judged: at the driver at least the 1.5 V it must give into 54 Ω; at
/// every receiver its threshold and as much again for noise; no ring-back through the threshold;
/// settled within half a bit.
/// Notes: ends without or with the wrong terminator, terminators inside, over 32 unit loads, stubs
/// whose one-way delay is over a tenth of the edge, 100 Ω cable, solid wire under screws. Refused,
/// by name: fewer than two nodes, a driver that is none, lengths below 0, impedances not above 0,
/// two or more terminators between the ends. Source: TIA-485-A; reference page section 7.
Outcome<BusFinding> findBus(const Bus& bus);

} // namespace burin
