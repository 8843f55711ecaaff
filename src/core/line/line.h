#pragma once
#include "core/catalogue/catalogue.h"
#include <complex>

namespace burin {

using Complex = std::complex<double>;

/// Speed of light in vacuum, m/s (SI).
inline constexpr double lightSpeedMPerS = 299792458.0;
/// Decibels of one neper.
inline constexpr double decibelsPerNeper = 8.685889638065036;

/// What a uniform line answers for at one frequency; everything else about it is derived.
struct LineConstants {
    Complex gammaPerM;    ///< propagation constant: Np/m and rad/m
    Complex impedanceOhm; ///< characteristic impedance
};

/// A uniform line as its catalogue terms make it: causal series and shunt elements per metre.
///
/// Series: R + jX = 2Z∞k0' + √(max(Rdc − 2Z∞k0', 0)² + 2j(2Z∞k1'√f)²), the skin term with its own
/// internal reactance; L = Z∞/v. Shunt: Y = jωC·(jω/ω0)^(−2δ/π), a constant loss angle with
/// tan δ = 2k2'fv/ω; C = 1/(Z∞v) at ω0 = 2π·100 MHz. k3 of balanced cable belongs to limit tables
/// and is not used. Agrees with the attenuation polynomial within 5 % at 5 MHz (Cat 7A and 8, for
/// want of k3, 5.5 %) and 1.5 % from 50 MHz up. Source: reference page, section 4; Pozar, Microwave
/// Engineering, 2.1 (RLGC line); Johnson and Graham, High-Speed Signal Propagation, 3.4 (skin and
/// dielectric terms).
struct Line {
    double impedanceOhm = 50;         ///< Z∞, its high-frequency value
    double velocityMPerS = 2e8;       ///< v
    double k0NpPerM = 0;              ///< flat loss
    double k1NpPerM = 0;              ///< × √(f/MHz)
    double k2NpPerM = 0;              ///< × f/MHz
    double loopResistanceOhmPerM = 0; ///< at direct current, both conductors
    bool operator==(const Line&) const = default;

    /// `frequencyMhz` > 0.
    [[nodiscard]] LineConstants at(double frequencyMhz) const;
    /// The same functions at a complex frequency s in 1/s, real part above 0: for transients.
    [[nodiscard]] LineConstants atComplex(Complex s) const;
};

/// The line of a catalogue cable at `temperatureC`. Coax: conductor terms × √(1 + 0.00393·ΔT);
/// balanced: the whole loss by its temperature rule. Direct-current resistance by copper's 0.393 %
/// a degree. `lossFactor` serves stranded cords (1.2 or 1.5).
Line lineOf(const Cable& cable, const TemperatureRule& rule, double temperatureC = 20,
            double lossFactor = 1);
/// A line given by hand: impedance above 0, velocity as a share of c0 in 0 … 1, loss at 100 MHz of
/// skin kind, dB per 100 m, 0 for an ideal line.
Line plainLine(double impedanceOhm, double velocityShare, double lossDbPer100mAt100Mhz);

} // namespace burin
