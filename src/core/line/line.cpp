#include "core/line/line.h"
#include "core/link/link.h"
#include <cmath>
#include <numbers>

namespace burin {
namespace {

constexpr double pi = std::numbers::pi;
constexpr double referenceOmega = 2 * pi * 100e6;

/// √(x + jy) with a non-negative real part, y ≥ 0: cheaper than the library's, which guards more.
Complex rootOf(double x, double y) {
    const double size = std::sqrt(x * x + y * y);
    const double real = std::sqrt(std::max(0.0, (size + x) / 2));
    const double imag = std::sqrt(std::max(0.0, (size - x) / 2));
    return {real, imag};
}

} // namespace

LineConstants Line::at(double f) const {
    const double omega = 2e6 * pi * f;
    const double inductance = impedanceOhm / velocityMPerS;
    const double capacitance = 1 / (impedanceOhm * velocityMPerS);
    // Series branch.
    const double flat = 2 * impedanceOhm * k0NpPerM;
    const double still = std::max(loopResistanceOhmPerM - flat, 0.0);
    const double skin = 2 * impedanceOhm * k1NpPerM * std::sqrt(f);
    const Complex resistance = rootOf(still * still, 2 * skin * skin);
    const double r = flat + resistance.real();
    const double x = resistance.imag() + omega * inductance;
    // Shunt branch: jωC·(jω/ω0)^(−2δ/π) has the angle π/2 − δ.
    const double delta = std::atan(2 * k2NpPerM * velocityMPerS / (2e6 * pi));
    double size = omega * capacitance;
    double g = 0;
    double b = size;
    if (delta > 0) {
        size *= std::exp(-2 * delta / pi * std::log(omega / referenceOmega));
        g = size * std::sin(delta);
        b = size * std::cos(delta);
    }
    // γ = √(ZY) and Z0 = √(Z/Y) = Z/γ, one root for both. Re(ZY) is below 0, its angle within π.
    const Complex gamma = rootOf(r * g - x * b, r * b + x * g);
    const double norm = gamma.real() * gamma.real() + gamma.imag() * gamma.imag();
    const Complex impedance{(r * gamma.real() + x * gamma.imag()) / norm,
                            (x * gamma.real() - r * gamma.imag()) / norm};
    return {gamma, impedance};
}

LineConstants Line::atComplex(Complex s) const {
    // jf of the formulas is s/2π.
    const Complex jf = s / (2e6 * pi);
    const double flat = 2 * impedanceOhm * k0NpPerM;
    const double still = std::max(loopResistanceOhmPerM - flat, 0.0);
    const double skin = 2 * impedanceOhm * k1NpPerM;
    const Complex series =
        flat + std::sqrt(still * still + 2.0 * skin * skin * jf) + s * impedanceOhm / velocityMPerS;
    const double delta = std::atan(2 * k2NpPerM * velocityMPerS / (2e6 * pi));
    Complex shunt = s / (impedanceOhm * velocityMPerS);
    if (delta > 0)
        shunt *= std::pow(s / referenceOmega, -2 * delta / pi);
    return {std::sqrt(series) * std::sqrt(shunt), std::sqrt(series) / std::sqrt(shunt)};
}

Line lineOf(const Cable& cable, const TemperatureRule& rule, double temperatureC,
            double lossFactor) {
    Line out;
    out.impedanceOhm = cable.impedanceOhm.value;
    out.velocityMPerS = cable.nvp.value * lightSpeedMPerS;
    double conductor = lossFactor;
    double dielectric = lossFactor;
    if (cable.kind == CableKind::Coax) {
        conductor *= std::sqrt(std::max(0.0, 1 + rule.copperPerDegree.value * (temperatureC - 20)));
    } else {
        const double warm = warmthFactor(rule, cable.screen, temperatureC);
        conductor *= warm;
        dielectric *= warm;
    }
    const double nepers = 1 / (100 * decibelsPerNeper);
    out.k0NpPerM = cable.attenuation.k0Db.value * nepers * conductor;
    out.k1NpPerM = cable.attenuation.k1Db.value * nepers * conductor;
    out.k2NpPerM = cable.attenuation.k2Db.value * nepers * dielectric;
    out.loopResistanceOhmPerM = loopOhmPerM(cable, rule, temperatureC);
    return out;
}

Line plainLine(double impedanceOhm, double velocityShare, double lossDbPer100mAt100Mhz) {
    Line out;
    out.impedanceOhm = impedanceOhm;
    out.velocityMPerS = velocityShare * lightSpeedMPerS;
    out.k1NpPerM = lossDbPer100mAt100Mhz / (100 * decibelsPerNeper) / 10;
    return out;
}

} // namespace burin
