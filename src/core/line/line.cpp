#include "core/line/line.h"
#include "core/line/line_formula.h"
#include "core/link/link.h"
#include <cmath>
#include <numbers>

namespace burin {
namespace {

using std::numbers::pi;
constexpr double referenceOmega = 2 * pi * 100e6;

} // namespace

LineConstants Line::at(double frequencyMhz) const {
    double gr = 0;
    double gi = 0;
    double zr = 0;
    double zi = 0;
    formula::constants(formula::termsOf(*this), frequencyMhz, gr, gi, zr, zi);
    return {{gr, gi}, {zr, zi}};
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
