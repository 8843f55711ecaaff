#include "core/bus/bus.h"
#include "core/line/fourier.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

constexpr double pi = std::numbers::pi;
constexpr double unitLoadOhm = 12000;
constexpr double mostUnitLoads = 32;
constexpr double leastDriverV = 1.5;

Outcome<bool> check(const Bus& bus) {
    if (bus.nodes.size() < 2)
        return refuse("bus", "it has fewer than two devices", "Give the controller and a reader");
    if (bus.driver >= bus.nodes.size())
        return refuse("bus", "its driver is none of its devices", "Name one that is there");
    if (!(bus.driverV > 0) || !(bus.sourceOhm > 0) || !(bus.riseNs > 0) || !(bus.bitRateKbit > 0))
        return refuse("bus", "volts, source resistance, edge or bit rate is not above 0",
                      "Give the driver's figures");
    int inside = 0;
    for (std::size_t i = 0; i < bus.nodes.size(); ++i) {
        const auto& node = bus.nodes[i];
        if (!(node.lengthM >= 0) || !(node.stubM >= 0))
            return refuse(node.name, "a cable of it is shorter than 0 m",
                          "Give lengths of 0 m or more");
        if ((i > 0 && !(node.line.impedanceOhm > 0)) ||
            (node.stubM > 0 && !(node.stubLine.impedanceOhm > 0)))
            return refuse(node.name, "a cable of it has an impedance not above 0 Ω",
                          "Choose a cable, or give its impedance");
        if (!(node.unitLoads >= 0) || !(node.picofarad >= 0) ||
            (node.terminatorOhm && !(*node.terminatorOhm > 0)))
            return refuse(node.name, "a load below 0 or a terminator not above 0 Ω",
                          "Leave the terminator out where there is none");
        inside += node.terminatorOhm && i > 0 && i + 1 < bus.nodes.size() ? 1 : 0;
        if (inside > 1)
            return refuse(node.name, "it is the second terminator between the ends of the bus",
                          "Keep terminators at the two extreme ends alone");
    }
    return true;
}

struct Section {
    Complex cosh, sinh, impedance;
};
Section sectionOf(const Line& line, double lengthM, Complex s) {
    const LineConstants k = line.atComplex(s);
    return {std::cosh(k.gammaPerM * lengthM), std::sinh(k.gammaPerM * lengthM), k.impedanceOhm};
}
/// What is seen into a section whose far end is closed by `farY`.
Complex seenInto(const Section& section, Complex farY) {
    return (section.sinh / section.impedance + farY * section.cosh) /
           (section.cosh + farY * section.impedance * section.sinh);
}

/// Volts at every device for one volt behind the driver's resistance, at one complex frequency.
void transfer(const Bus& bus, Complex s, std::vector<Complex>& out) {
    const std::size_t n = bus.nodes.size();
    std::vector<Complex> own(n);      // admittance of stub, device and terminator at the chain
    std::vector<Complex> stubGain(n); // device volts over chain volts
    std::vector<Section> chain(n);    // from i−1 to i
    for (std::size_t i = 0; i < n; ++i) {
        const auto& node = bus.nodes[i];
        const Complex load = node.unitLoads / unitLoadOhm + s * node.picofarad * 1e-12;
        own[i] = load;
        stubGain[i] = 1;
        if (node.stubM > 0) {
            const Section stub = sectionOf(node.stubLine, node.stubM, s);
            own[i] = seenInto(stub, load);
            stubGain[i] = 1.0 / (stub.cosh + load * stub.impedance * stub.sinh);
        }
        if (node.terminatorOhm)
            own[i] += 1 / *node.terminatorOhm;
        if (i > 0)
            chain[i] = sectionOf(node.line, node.lengthM, s);
    }
    std::vector<Complex> left(n);
    std::vector<Complex> right(n);
    for (std::size_t i = 1; i < n; ++i)
        left[i] = seenInto(chain[i], left[i - 1] + own[i - 1]);
    for (std::size_t i = n - 1; i-- > 0;)
        right[i] = seenInto(chain[i + 1], right[i + 1] + own[i + 1]);
    const std::size_t d = bus.driver;
    std::vector<Complex> volt(n);
    // The driver sits at its device, that is at the end of its own stub, where there is one.
    const BusNode& driver = bus.nodes[d];
    const Complex load = driver.unitLoads / unitLoadOhm + s * driver.picofarad * 1e-12;
    Complex chainY = left[d] + right[d];
    if (driver.terminatorOhm)
        chainY += 1 / *driver.terminatorOhm;
    if (driver.stubM > 0) {
        const Section stub = sectionOf(driver.stubLine, driver.stubM, s);
        out[d] = 1.0 / (1.0 + bus.sourceOhm * (load + seenInto(stub, chainY)));
        volt[d] = out[d] / (stub.cosh + chainY * stub.impedance * stub.sinh);
    } else {
        out[d] = volt[d] = 1.0 / (1.0 + bus.sourceOhm * (load + chainY));
    }
    const auto onwards = [&](std::size_t from, std::size_t to, const Section& section,
                             Complex beyond) {
        volt[to] = volt[from] / (section.cosh + beyond * section.impedance * section.sinh);
    };
    for (std::size_t i = d + 1; i < n; ++i)
        onwards(i - 1, i, chain[i], own[i] + right[i]);
    for (std::size_t i = d; i-- > 0;)
        onwards(i + 1, i, chain[i + 1], own[i] + left[i]);
    for (std::size_t i = 0; i < n; ++i)
        if (i != d)
            out[i] = volt[i] * stubGain[i];
}

/// Step responses to a ramp of `riseS` from 0 to 1 over `windowS`, one a device.
std::vector<std::vector<double>> stepResponses(const Bus& bus, double windowS, std::size_t size) {
    const std::size_t n = bus.nodes.size();
    const double riseS = bus.riseNs * 1e-9;
    // What folds back from later windows is damped to a ten-thousandth. Twice the window is
    // computed and the later half, where the damping is undone at a price, thrown away.
    const double period = 2 * windowS;
    const double sigma = std::log(1e8) / period;
    std::vector<std::vector<Complex>> spectra(n, std::vector<Complex>(size + 1));
    std::vector<Complex> gains(n);
    for (std::size_t k = 0; k <= size; ++k) {
        const Complex s{sigma, 2 * pi * static_cast<double>(k) / period};
        transfer(bus, s, gains);
        const Complex ramp = (1.0 - std::exp(-s * riseS)) / (s * s * riseS);
        // Lanczos' factor keeps the cut spectrum from ringing.
        const double x = pi * static_cast<double>(k) / static_cast<double>(size);
        const double smooth = k == 0 ? 1 : k == size ? 0 : std::sin(x) / x;
        for (std::size_t i = 0; i < n; ++i)
            spectra[i][k] = gains[i] * ramp * smooth;
    }
    std::vector<std::vector<double>> out(n);
    for (std::size_t i = 0; i < n; ++i) {
        spectra[i][0] = spectra[i][0].real();
        out[i] = inverseFourierReal(std::move(spectra[i]));
        for (std::size_t t = 0; t < 2 * size; ++t) {
            const double time = period * static_cast<double>(t) / static_cast<double>(2 * size);
            out[i][t] *= std::exp(sigma * time) / period;
        }
        out[i].resize(size);
    }
    return out;
}

double delayNs(const Line& line, double lengthM) {
    return lengthM / line.velocityMPerS * 1e9;
}

void noteEnds(const Bus& bus, BusFinding& out) {
    for (std::size_t i = 0; i < bus.nodes.size(); ++i) {
        const auto& node = bus.nodes[i];
        const bool end = i == 0 || i + 1 == bus.nodes.size();
        const Line& line = i == 0 ? bus.nodes[1].line : node.line;
        if (end && !node.terminatorOhm)
            out.notes.push_back(node.name + " ends the bus without a terminator: put " +
                                formatFixed(line.impedanceOhm, 0) +
                                " Ω across it, or call a short, slow bus without margin");
        if (end && node.terminatorOhm &&
            std::abs(*node.terminatorOhm / line.impedanceOhm - 1) > 0.15)
            out.notes.push_back(node.name + " ends in " + formatFixed(*node.terminatorOhm, 0) +
                                " Ω on a cable of " + formatFixed(line.impedanceOhm, 0) +
                                " Ω: match it");
        if (!end && node.terminatorOhm)
            out.notes.push_back(node.name +
                                " has a terminator in the middle of the bus: take it out");
        if (i > 0 && line.impedanceOhm < 110)
            out.notes.push_back("the cable to " + node.name + " is of " +
                                formatFixed(line.impedanceOhm, 0) +
                                " Ω: 120 Ω is wanted; it works short and quiet");
        if (node.solidInScrews)
            out.notes.push_back(node.name +
                                ": solid conductors do not belong in screw terminals; use stranded "
                                "cable or ferruled tails");
        if (node.stubM > 0 && delayNs(node.stubLine, node.stubM) > bus.riseNs / 10)
            out.notes.push_back(
                node.name + " hangs on a stub of " + formatFixed(node.stubM, 1) + " m, one way " +
                formatFixed(delayNs(node.stubLine, node.stubM), 1) + " ns of an edge of " +
                formatFixed(bus.riseNs, 0) +
                " ns: loop the chain through the device (another school: no stub over 0.3 m)");
    }
    double loads = 0;
    for (const auto& node : bus.nodes)
        loads += node.unitLoads;
    if (loads > mostUnitLoads)
        out.notes.push_back(formatFixed(loads, 0) +
                            " unit loads on one driver; the standard allows 32: split the bus");
}

void judgePoint(const Bus& bus, const std::vector<double>& timeNs, const std::vector<double>& volt,
                BusPoint& point) {
    const double band = 0.1 * point.finalV;
    bool past = false;
    double highest = bus.thresholdV;
    point.ringBackV = point.finalV;
    for (std::size_t t = 0; t < volt.size(); ++t) {
        point.overshootV = std::max(point.overshootV, volt[t] - point.finalV);
        past = past || volt[t] > bus.thresholdV;
        // The edge itself is no ring-back: only what falls again is.
        highest = std::max(highest, volt[t]);
        if (past && volt[t] < highest - 0.001 * point.finalV)
            point.ringBackV = std::min(point.ringBackV, volt[t]);
        if (std::abs(volt[t] - point.finalV) > band)
            point.settleNs = timeNs[t];
    }
    const auto blame = [&](std::string reason, std::string cure) {
        point.good = false;
        point.reasons.push_back(std::move(reason));
        point.cures.push_back(std::move(cure));
    };
    if (point.finalV < bus.thresholdV)
        blame("settles at " + formatFixed(point.finalV, 2) + " V, under the receivers' " +
                  formatFixed(bus.thresholdV, 2) + " V",
              "take terminators out of the middle, or use fewer loads or thicker cable");
    else if (point.finalV < leastDriverV)
        blame("settles at " + formatFixed(point.finalV, 2) + " V, under 1.5 V",
              "take surplus terminators out, or use fewer loads or thicker cable");
    if (past && point.ringBackV < bus.thresholdV)
        blame("rings back to " + formatFixed(point.ringBackV, 2) +
                  " V after the edge: a receiver may see it twice",
              "terminate both ends, shorten the stubs, or choose a slower edge");
    const double bitNs = 1e6 / bus.bitRateKbit;
    if (point.settleNs > bitNs / 2)
        blame("settles after " + formatFixed(point.settleNs, 0) + " ns of a bit of " +
                  formatFixed(bitNs, 0) + " ns",
              "terminate both ends, or lower the bit rate");
}

} // namespace

Outcome<BusFinding> findBus(const Bus& bus) {
    if (auto good = check(bus); !good)
        return refuse(good.error());
    BusFinding out;
    double wayNs = 0;
    for (std::size_t i = 0; i < bus.nodes.size(); ++i)
        wayNs += (i > 0 ? delayNs(bus.nodes[i].line, bus.nodes[i].lengthM) : 0) +
                 (bus.nodes[i].stubM > 0 ? delayNs(bus.nodes[i].stubLine, bus.nodes[i].stubM) : 0);
    // Long enough for echoes to die or a bit to pass, fine enough for the edge.
    const double windowNs = std::min(std::max({40 * wayNs, 20 * bus.riseNs, 200.0}),
                                     std::max(2e6 / bus.bitRateKbit, 10 * wayNs));
    std::size_t size = 1024;
    while (size < 32768 && windowNs / static_cast<double>(size) > bus.riseNs / 24)
        size *= 2;
    const auto steps = stepResponses(bus, windowNs * 1e-9, size);
    std::vector<Complex> still(bus.nodes.size());
    transfer(bus, Complex{1, 0}, still);
    for (std::size_t t = 0; t < size; ++t)
        out.timeNs.push_back(windowNs * static_cast<double>(t) / static_cast<double>(size));
    double at = 0;
    for (std::size_t i = 0; i < bus.nodes.size(); ++i) {
        at += i > 0 ? bus.nodes[i].lengthM : 0;
        BusPoint point;
        point.name = bus.nodes[i].name;
        point.atM = at;
        point.finalV = bus.driverV * still[i].real();
        BusWave wave;
        for (const double u : steps[i])
            wave.volt.push_back(-point.finalV + 2 * bus.driverV * u);
        judgePoint(bus, out.timeNs, wave.volt, point);
        out.good = out.good && point.good;
        out.waves.push_back(std::move(wave));
        out.points.push_back(std::move(point));
    }
    noteEnds(bus, out);
    return out;
}

} // namespace burin
