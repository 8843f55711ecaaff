#include "core/bus/bus.h"
#include "core/line/fourier.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

using std::numbers::pi;
constexpr double unitLoadOhm = 12000;
constexpr double mostUnitLoads = 32;
constexpr double leastDriverV = 1.5; // TIA-485-A: into 54 Ω, at the driver
constexpr double receiverMargin = 2; // of a receiver's threshold: as much again for noise

Outcome<bool> check(const Bus& bus) {
    if (bus.nodes.size() < 2)
        return refuse("bus", {"bus.fewer-two-devices", "it has fewer than two devices"},
                      {"cure.give-controller-reader", "Give the controller and a reader"});
    if (bus.driver >= bus.nodes.size())
        return refuse("bus", {"bus.driver-none-devices", "its driver is none of its devices"},
                      {"cure.name", "Name one that is there"});
    if (!(bus.driverV > 0) || !(bus.sourceOhm > 0) || !(bus.riseNs > 0) || !(bus.bitRateKbit > 0))
        return refuse("bus",
                      {"bus.volts-source-resistance",
                       "volts, source resistance, edge or bit rate is not above 0"},
                      {"cure.give-driver-figures", "Give the driver's figures"});
    int inside = 0;
    for (std::size_t i = 0; i < bus.nodes.size(); ++i) {
        const auto& node = bus.nodes[i];
        if (!(node.lengthM >= 0) || !(node.stubM >= 0))
            return refuse(node.name, {"bus.cable-shorter-m", "a cable of it is shorter than 0 m"},
                          {"cure.give-lengths-m", "Give lengths of 0 m or more"});
        if ((i > 0 && !(node.line.impedanceOhm > 0)) ||
            (node.stubM > 0 && !(node.stubLine.impedanceOhm > 0)))
            return refuse(
                node.name,
                {"bus.cable-impedance-not", "a cable of it has an impedance not above 0 Ω"},
                {"cure.choose-cable-give", "Choose a cable, or give its impedance"});
        if (!(node.unitLoads >= 0) || !(node.picofarad >= 0) ||
            (node.terminatorOhm && !(*node.terminatorOhm > 0)))
            return refuse(
                node.name,
                {"bus.load-below-terminator", "a load below 0 or a terminator not above 0 Ω"},
                {"cure.leave-terminator-out", "Leave the terminator out where there is none"});
        inside += node.terminatorOhm && i > 0 && i + 1 < bus.nodes.size() ? 1 : 0;
        if (inside > 1)
            return refuse(
                node.name,
                {"bus.second-terminator-between",
                 "it is the second terminator between the ends of the bus"},
                {"cure.keep-terminators-two", "Keep terminators at the two extreme ends alone"});
    }
    return true;
}

struct Section {
    Complex cosh, sinh, impedance, admittance;
};
/// What is seen into a section whose far end is closed by an admittance, and the volts there over
/// those at the near end.
struct Seen {
    Complex admittance, gain;
};
Seen seenInto(const Section& section, Complex farY) {
    const Complex gain = 1.0 / (section.cosh + farY * section.impedance * section.sinh);
    return {(section.sinh * section.admittance + farY * section.cosh) * gain, gain};
}

/// The cables of a bus, each once: most are the same from end to end.
class Lines {
public:
    explicit Lines(const Bus& bus) {
        for (const auto& node : bus.nodes) {
            chain_.push_back(place(node.line));
            stub_.push_back(place(node.stubLine));
        }
        constants_.resize(known_.size());
    }
    /// Turns to another complex frequency.
    void at(Complex s) {
        for (std::size_t i = 0; i < known_.size(); ++i) {
            const LineConstants k = known_[i].atComplex(s);
            constants_[i] = {k.gammaPerM, k.impedanceOhm, 1.0 / k.impedanceOhm};
        }
    }
    [[nodiscard]] Section chain(std::size_t node, double lengthM) const {
        return section(constants_[chain_[node]], lengthM);
    }
    [[nodiscard]] Section stub(std::size_t node, double lengthM) const {
        return section(constants_[stub_[node]], lengthM);
    }

private:
    struct Constants {
        Complex gamma, impedance, admittance;
    };
    std::size_t place(const Line& line) {
        const auto it = std::find(known_.begin(), known_.end(), line);
        if (it != known_.end())
            return static_cast<std::size_t>(it - known_.begin());
        known_.push_back(line);
        return known_.size() - 1;
    }
    static Section section(const Constants& k, double lengthM) {
        const Complex on = std::exp(k.gamma * lengthM);
        const Complex back = 1.0 / on;
        return {0.5 * (on + back), 0.5 * (on - back), k.impedance, k.admittance};
    }
    std::vector<Line> known_;
    std::vector<std::size_t> chain_, stub_;
    std::vector<Constants> constants_;
};

Complex loadOf(const BusNode& node, Complex s) {
    return node.unitLoads / unitLoadOhm + s * node.picofarad * 1e-12;
}

/// Volts at every device for one volt behind the driver's resistance, at complex frequencies.
class Transfer {
public:
    explicit Transfer(const Bus& bus)
        : bus_(bus), lines_(bus), own_(bus.nodes.size()), stubGain_(bus.nodes.size()),
          seen_(bus.nodes.size()), volt_(bus.nodes.size()) {}

    void at(Complex s, std::vector<Complex>& out) {
        lines_.at(s);
        const std::size_t n = bus_.nodes.size();
        const std::size_t d = bus_.driver;
        for (std::size_t i = 0; i < n; ++i)
            hang(i, s);
        // What is seen from each device away from the driver, from the ends inward.
        Complex chainY;
        for (std::size_t i = n - 1; i > d; --i)
            seen_[i] = seenInto(lines_.chain(i, bus_.nodes[i].lengthM),
                                own_[i] + (i + 1 < n ? seen_[i + 1].admittance : Complex{}));
        chainY += d + 1 < n ? seen_[d + 1].admittance : Complex{};
        for (std::size_t i = 0; i < d; ++i)
            seen_[i] = seenInto(lines_.chain(i + 1, bus_.nodes[i + 1].lengthM),
                                own_[i] + (i > 0 ? seen_[i - 1].admittance : Complex{}));
        chainY += d > 0 ? seen_[d - 1].admittance : Complex{};
        drive(s, chainY, out);
        for (std::size_t i = d + 1; i < n; ++i)
            volt_[i] = volt_[i - 1] * seen_[i].gain;
        for (std::size_t i = d; i-- > 0;)
            volt_[i] = volt_[i + 1] * seen_[i].gain;
        for (std::size_t i = 0; i < n; ++i)
            if (i != d)
                out[i] = volt_[i] * stubGain_[i];
    }

private:
    /// What a device, its stub and a terminator load the chain with.
    void hang(std::size_t i, Complex s) {
        const BusNode& node = bus_.nodes[i];
        own_[i] = loadOf(node, s);
        stubGain_[i] = 1;
        if (node.stubM > 0) {
            const Seen stub = seenInto(lines_.stub(i, node.stubM), own_[i]);
            own_[i] = stub.admittance;
            stubGain_[i] = stub.gain;
        }
        if (node.terminatorOhm)
            own_[i] += 1 / *node.terminatorOhm;
    }
    /// The driver sits at its device, that is at the end of its own stub, where there is one.
    void drive(Complex s, Complex chainY, std::vector<Complex>& out) {
        const BusNode& driver = bus_.nodes[bus_.driver];
        const Complex load = loadOf(driver, s);
        if (driver.terminatorOhm)
            chainY += 1 / *driver.terminatorOhm;
        Seen chain{chainY, 1};
        if (driver.stubM > 0)
            chain = seenInto(lines_.stub(bus_.driver, driver.stubM), chainY);
        out[bus_.driver] = 1.0 / (1.0 + bus_.sourceOhm * (load + chain.admittance));
        volt_[bus_.driver] = out[bus_.driver] * chain.gain;
    }

    const Bus& bus_;
    Lines lines_;
    std::vector<Complex> own_;      // admittance of stub, device and terminator at the chain
    std::vector<Complex> stubGain_; // device volts over chain volts
    std::vector<Seen> seen_;
    std::vector<Complex> volt_;
};

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
    Transfer transfer(bus);
    for (std::size_t k = 0; k <= size; ++k) {
        const Complex s{sigma, 2 * pi * static_cast<double>(k) / period};
        transfer.at(s, gains);
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
            out.notes.push_back(sentence({"bus.no-terminator",
                                          "{0} ends the bus without a terminator: put {1} "
                                          "across it, or call a short, slow bus without margin"},
                                         node.name, asOhm(line.impedanceOhm)));
        if (end && node.terminatorOhm &&
            std::abs(*node.terminatorOhm / line.impedanceOhm - 1) > 0.15)
            out.notes.push_back(
                sentence({"bus.other-terminator", "{0} ends in {1} on a cable of {2}: match it"},
                         node.name, asOhm(*node.terminatorOhm), asOhm(line.impedanceOhm)));
        if (!end && node.terminatorOhm)
            out.notes.push_back(
                sentence({"bus.terminator-inside",
                          "{0} has a terminator in the middle of the bus: take it out"},
                         node.name));
        if (i > 0 && line.impedanceOhm < 110)
            out.notes.push_back(
                sentence({"bus.other-impedance", "the cable to {0} is of {1}: {2} is "
                                                 "wanted; it works short and quiet"},
                         node.name, asOhm(line.impedanceOhm), asOhm(120)));
        if (node.solidInScrews)
            out.notes.push_back(
                sentence({"bus.solid-in-screws",
                          "{0}: solid conductors do not belong in screw terminals; use "
                          "stranded cable or ferruled tails"},
                         node.name));
        if (node.stubM > 0 && delayNs(node.stubLine, node.stubM) > bus.riseNs / 20)
            out.notes.push_back(sentence(
                {"bus.long-stub",
                 "{0} hangs on a stub of {1}, one way {2} of an edge of {3}: loop the chain "
                 "through the device (another school: no stub over {4})"},
                node.name, asMetres(node.stubM),
                asUnit(delayNs(node.stubLine, node.stubM), 1, "ns"), asUnit(bus.riseNs, 0, "ns"),
                asMetres(0.3)));
    }
    double loads = 0;
    for (const auto& node : bus.nodes)
        loads += node.unitLoads;
    if (loads > mostUnitLoads)
        out.notes.push_back(
            sentence({"bus.many-loads",
                      "{0} unit loads on one driver; the standard allows {1}: split the bus"},
                     asNumber(loads, 0), asNumber(mostUnitLoads, 0)));
}

void judgePoint(const Bus& bus, const std::vector<double>& timeNs, const std::vector<double>& volt,
                bool driver, BusPoint& point) {
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
    const auto blame = [&](Sentence reason) {
        point.good = false;
        point.reasons.push_back(std::move(reason));
    };
    if (point.finalV < bus.thresholdV)
        blame(sentence({"bus.under-threshold", "settles at {0}, under the receivers' {1}"},
                       asVolt(point.finalV, 2), asVolt(bus.thresholdV, 2)));
    else if (driver && point.finalV < leastDriverV)
        blame(sentence({"bus.loaded-driver",
                        "the bus loads the driver down to {0}, under the {1} it must give"},
                       asVolt(point.finalV, 2), asVolt(leastDriverV)));
    else if (point.finalV < receiverMargin * bus.thresholdV)
        blame(
            sentence({"bus.no-margin", "settles at {0}, over the receivers' {1} but with less than "
                                       "as much again for noise"},
                     asVolt(point.finalV, 2), asVolt(bus.thresholdV, 2)));
    if (past && point.ringBackV < bus.thresholdV)
        blame(
            sentence({"bus.rings", "rings back to {0} after the edge: a receiver may see it twice"},
                     asVolt(point.ringBackV, 2)));
    const double bitNs = 1e6 / bus.bitRateKbit;
    if (point.settleNs > bitNs / 2)
        blame(sentence({"bus.late", "settles after {0} of a bit of {1}"},
                       asUnit(point.settleNs, 0, "ns"), asUnit(bitNs, 0, "ns")));
}

} // namespace

namespace {

double wayNs(const Bus& bus) {
    double sum = 0;
    for (std::size_t i = 0; i < bus.nodes.size(); ++i)
        sum += (i > 0 ? delayNs(bus.nodes[i].line, bus.nodes[i].lengthM) : 0) +
               (bus.nodes[i].stubM > 0 ? delayNs(bus.nodes[i].stubLine, bus.nodes[i].stubM) : 0);
    return sum;
}

/// Waves and points over a window, fine enough for the edge.
void findWaves(const Bus& bus, const std::vector<Complex>& still, double windowNs,
               BusFinding& out) {
    std::size_t size = 1024;
    while (size < 32768 && windowNs / static_cast<double>(size) > bus.riseNs / 20)
        size *= 2;
    const auto steps = stepResponses(bus, windowNs * 1e-9, size);
    out = {};
    out.timeNs.reserve(size);
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
        wave.volt.reserve(size);
        for (const double u : steps[i])
            wave.volt.push_back(-point.finalV + 2 * bus.driverV * u);
        judgePoint(bus, out.timeNs, wave.volt, i == bus.driver, point);
        out.good = out.good && point.good;
        out.waves.push_back(std::move(wave));
        out.points.push_back(std::move(point));
    }
}

} // namespace

Outcome<BusFinding> findBus(const Bus& bus) {
    if (auto good = check(bus); !good)
        return refuse(good.error());
    std::vector<Complex> still(bus.nodes.size());
    Transfer(bus).at(Complex{1, 0}, still);
    BusFinding out;
    const double way = wayNs(bus);
    // A well ended bus is quiet after a few ways along it; the echoes of a bad one are followed
    // longer, until they die or two bits have passed.
    const double most = std::max(2e6 / bus.bitRateKbit, 10 * way);
    const auto ended = [&](const BusNode& node, const Line& line) {
        return node.terminatorOhm && std::abs(*node.terminatorOhm / line.impedanceOhm - 1) < 0.5;
    };
    const bool quiet = ended(bus.nodes.front(), bus.nodes[1].line) &&
                       ended(bus.nodes.back(), bus.nodes.back().line);
    for (const double ways : {quiet ? 8.0 : 20.0, 40.0}) {
        const double windowNs = std::min(std::max({ways * way, 20 * bus.riseNs, 200.0}), most);
        findWaves(bus, still, windowNs, out);
        if (std::all_of(out.points.begin(), out.points.end(),
                        [&](const auto& point) { return point.settleNs < 0.6 * windowNs; }))
            break;
    }
    noteEnds(bus, out);
    return out;
}

} // namespace burin
