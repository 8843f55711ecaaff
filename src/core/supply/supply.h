#pragma once
#include "core/base/fault.h"
#include "core/plan/plan.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// Something that takes current at a place along the line. Either constant current or constant
/// power.
struct SupplyLoad {
    std::string name;
    double atM = 0; ///< from the supply
    std::optional<double> ampere;
    std::optional<double> watt;
    double leastV = 0; ///< the device's window
    std::optional<double> mostV;
};

/// A supply, a line of one loop resistance, and what hangs on it. The supply's own tolerance and a
/// device's window are two inputs: the first lowers what is sent, the second says what is enough.
struct SupplyLine {
    double supplyV = 0;
    double toleranceShare = 0; ///< the supply may be this much lower (or, for mostV, higher)
    double loopOhmPerM = 0;    ///< of one pair, warm as it is
    int pairs = 1;             ///< in parallel
    std::vector<SupplyLoad> loads;
};

struct SupplyPoint {
    std::string name;
    double atM = 0, volt = 0, ampere = 0;
    bool enough = true, tooMuch = false;
};
struct SupplyFinding {
    bool delivered = true; ///< false: no working point exists, the loads ask more than can come
    double supplyAmpere = 0;
    double lostWatt = 0;             ///< in the wire
    std::vector<SupplyPoint> points; ///< in the order of the loads given
};

/// Volts at every load with the supply at its lowest. Every stretch carries all that is downstream.
/// Constant power settles at the upper working point, V = (Vs + √(Vs² − 4RP))/2 for one load; where
/// there is none it cannot be delivered. Refused: no supply volts, a place below 0, a load with
/// neither or both of ampere and watt. Source: Ohm's law; IEEE 802.3 clause 33 for constant power.
Outcome<SupplyFinding> findSupply(const SupplyLine& line);

/// The longest line at whose end one load of `load` still has its least volts; 0 when not even at
/// the supply. Constant power cannot be delivered beyond half the supply's volts.
Outcome<double> longestSupplyM(const SupplyLine& line, const SupplyLoad& load);

/// Power over data pairs by type 1 … 4: watts sent and to be had, pairs, least source volts, loop
/// of one pair-set over 100 m. Source: IEEE 802.3 clauses 33 and 145.
struct PoweredType {
    int type = 1; ///< 1 … 4
    double sourceW = 0, deviceW = 0;
    int pairs = 2;
    double leastSourceV = 0, pairSetLoopOhm = 0;
};
Outcome<PoweredType> poweredType(int type);
/// The least a source of a powered device's class 1 … 8 gives it, and what is to be had: the type,
/// pairs and volts that class is served by. Source: IEEE 802.3 clauses 33 and 145.
Outcome<PoweredType> poweredClass(int deviceClass);
/// Loop resistance of a link for a type: two pairs in parallel there and back make one pair-set, of
/// half a pair's loop; four pairs two of them side by side.
double poweredLoopOhm(const PoweredType& type, double pairLoopOhm);

/// A satellite head at the end of a coax: 13 or 18 V less 0.1 V for each device in the way.
struct HeadSupply {
    double lowV = 0, highV = 0; ///< arriving with 13 and with 18 V sent
    bool works = false;         ///< at least 11.5 V with the lower
    bool choosesHigh = false;   ///< at least 15.0 V with the higher, so that it is told apart
    bool choosesLow = false;    ///< under 15.0 V with the lower
};
HeadSupply findHeadSupply(double loopOhm, double ampere, int devices);

/// How much warmer the middle of a bundle of `cables` is than the air around it, °C: an estimate.
/// Heat a metre of cable P' (W/m) through still air at the bundle's surface and through the bundle:
/// rise = N·P'/(π·D·h) + N·P'/(4π·k), D = 1.15·d·√N. Source: reference page section 6.
double bundleRiseC(int cables, double wattPerM, double cableDiameterMm, Surroundings around);
/// Heat of one cable that carries `ampere` there and back over `pairs` (2 or 4) of its pairs, W/m.
double cableHeatWattPerM(double ampere, int pairs, double conductorOhmPerM);

struct WarmthFinding {
    double riseC = 0, cableC = 0;
    double wattPerM = 0; ///< one cable, at its warm resistance
    bool overRating = false;
};
struct WarmthQuestion {
    int cables = 1;
    double ampere = 0;
    int pairs = 4;
    double conductorOhmPerM = 0, cableDiameterMm = 0; ///< at 20 °C
    double ambientC = 20, ratedC = 60;
    double copperPerDegree = 0.00393;
    Surroundings around = Surroundings::FreeAir;
};
/// Warmth and resistance raise each other: settled by iteration; a runaway is over the rating.
WarmthFinding findWarmth(const WarmthQuestion& question);

} // namespace burin
