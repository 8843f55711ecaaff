#pragma once
#include "core/line/line.h"
#include <cmath>
#include <numbers>

namespace burin::formula {

/// What of a line does not change with frequency.
struct LineTerms {
    double flat, still, skin, inductance, capacitance, lossPower, sinDelta, cosDelta;
};

inline LineTerms termsOf(const Line& line) {
    const double flat = 2 * line.impedanceOhm * line.k0NpPerM;
    const double delta =
        std::atan(2 * line.k2NpPerM * line.velocityMPerS / (2e6 * std::numbers::pi));
    return {flat,
            line.loopResistanceOhmPerM > flat ? line.loopResistanceOhmPerM - flat : 0,
            2 * line.impedanceOhm * line.k1NpPerM,
            line.impedanceOhm / line.velocityMPerS,
            1 / (line.impedanceOhm * line.velocityMPerS),
            -2 * delta / std::numbers::pi,
            std::sin(delta),
            std::cos(delta)};
}

/// The formulas of Line, in plain numbers so that a loop over frequencies can take several at once.
/// γ = gr + j·gi, Z0 = zr + j·zi.
inline void constants(const LineTerms& t, double f, double& gr, double& gi, double& zr,
                      double& zi) {
    const double omega = 2e6 * std::numbers::pi * f;
    // √(still² + j·2·skin²·f), both parts of it positive.
    const double x = t.still * t.still;
    const double y = 2 * t.skin * t.skin * f;
    const double size = std::sqrt(x * x + y * y);
    const double r = t.flat + std::sqrt((size + x) / 2);
    const double xs = std::sqrt((size - x > 0 ? size - x : 0) / 2) + omega * t.inductance;
    // jωC·(jω/ω0)^(−2δ/π) has the angle π/2 − δ; ω0 is at 100 MHz.
    const double shunt = omega * t.capacitance * std::exp(t.lossPower * std::log(f / 100));
    const double g = shunt * t.sinDelta;
    const double b = shunt * t.cosDelta;
    // γ = √(ZY), whose square lies left of the imaginary axis, and Z0 = Z/γ.
    const double re = r * g - xs * b;
    const double im = r * b + xs * g;
    const double both = std::sqrt(re * re + im * im);
    gi = std::sqrt((both - re) / 2);
    // Where the loss is small the difference both + re has lost its digits; im/(2·gi) has not.
    gr = im / (2 * gi);
    const double norm = gr * gr + gi * gi;
    zr = (r * gr + xs * gi) / norm;
    zi = (xs * gr - r * gi) / norm;
}

} // namespace burin::formula
