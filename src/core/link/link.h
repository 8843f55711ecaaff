#pragma once
#include "core/base/fault.h"
#include "core/catalogue/catalogue.h"
#include <optional>
#include <vector>

namespace burin {

/// Part of the fixed cable with one temperature around it.
struct LinkStretch {
    double lengthM = 0;
    double temperatureC = 20;
};
struct LinkCord {
    const Cable* cable = nullptr;
    double lengthM = 0;
    bool awg26 = false; ///< thin stranded cord; balanced only
};

/// What a signal passes from end to end. Pointers look into a Catalogue that must outlive it.
/// Cords are at room temperature (20 °C): the warmth of a way is that of the fixed cable.
struct LinkParts {
    const Cable* cable = nullptr;
    std::vector<LinkStretch> stretches;
    std::vector<LinkCord> cords;
    std::vector<const Connection*> connections;

    [[nodiscard]] double fixedLengthM() const;
    [[nodiscard]] double cordLengthM() const;
};

/// Where the loss goes, dB. `cableDb` is at 20 °C; `warmthDb` what the warmth adds to it (less
/// than 0 for coax below 20 °C).
struct LossParts {
    double cableDb = 0, warmthDb = 0, cordsDb = 0, connectionsDb = 0;
    [[nodiscard]] double totalDb() const { return cableDb + warmthDb + cordsDb + connectionsDb; }
};

/// dB per 100 m at 20 °C; `frequencyMhz` > 0. Extrapolates beyond cable.topMhz: the caller says so.
double attenuationDbPer100m(const Cable& cable, double frequencyMhz);
/// dB per 100 m at `temperatureC`. Balanced: × warmthFactor; coax: conductor terms × √(1 +
/// 0.00393·(T − 20)), the dielectric term as it is. Source: catalogue `temperature`.
double attenuationDbPer100m(const Cable& cable, const TemperatureRule& rule, double frequencyMhz,
                            double temperatureC);
/// Balanced cable: 1 at and below 20 °C; unscreened +0.4 % a degree to 40, +0.6 % beyond;
/// screened +0.2 % a degree.
double warmthFactor(const TemperatureRule& rule, Screen screen, double temperatureC);
/// Mean over the stretches, weighted by length; 20 °C when there are none.
double meanAttenuationDbPer100m(const LinkParts& link, const TemperatureRule& rule,
                                double frequencyMhz);

/// A stranded cord: its cable's attenuation × 1.2 (24 AWG) or × 1.5 (26 AWG); coax, and cable that
/// is stranded by itself, × 1.
double cordLossDb(const LinkCord& cord, const CordRule& rule, double frequencyMhz);
/// That factor.
double cordFactor(const LinkCord& cord, const CordRule& rule);
/// One mated connection.
double connectionLossDb(const Connection& connection, double frequencyMhz);

LossParts linkLoss(const LinkParts& link, const Catalogue& catalogue, double frequencyMhz);

/// Lowest category among cable, cords and connections; none for coax. `partName` (may be null)
/// receives what is lowest.
std::optional<Category> lowestCategory(const LinkParts& link, Sentence* part = nullptr);

/// Diameter of a wire of a gauge: 0.127·92^((36 − AWG)/39) mm.
double wireDiameterMm(double awg);
/// Solid copper wire of a gauge at 20 °C, Ω/m: ρ = 1.7241e-8 Ω·m (IEC 60028). 22 AWG is 52.96 Ω/km.
double wireOhmPerM(double awg);
/// Loop resistance of one pair, or of centre and shield, Ω/m at `temperatureC`: copper's 0.393 % a
/// degree from 20 °C.
double loopOhmPerM(const Cable& cable, const TemperatureRule& rule, double temperatureC);
/// Loop resistance of one pair (or centre and shield) over the fixed cable and cords, Ω, copper at
/// each stretch's temperature. Connections are not counted.
double loopResistanceOhm(const LinkParts& link, const TemperatureRule& rule);

/// One datasheet point.
struct DatasheetPoint {
    double frequencyMhz = 0;
    double lossDbPer100m = 0;
};
struct AttenuationFit {
    double k0Db = 0, k1Db = 0, k2Db = 0;
    double worstRelativeError = 0; ///< largest |fit − point| / point
};
/// Fits k0 + k1·√f + k2·f with no k below 0 to the points, least squares on relative error.
/// Needs two points at different frequencies, all above 0.
Outcome<AttenuationFit> fitAttenuation(const std::vector<DatasheetPoint>& points);

} // namespace burin
