#include "core/line/chain.h"
#include "core/line/sweep_kernel.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

using std::numbers::pi;
constexpr double gigahertz = 1000;
constexpr double topOfPad = 2150;

// The library's product looks for infinities first; nothing here has any.
inline Complex times(Complex x, Complex y) {
    return {x.real() * y.real() - x.imag() * y.imag(), x.real() * y.imag() + x.imag() * y.real()};
}
inline Complex inverse(Complex x) {
    const double norm = x.real() * x.real() + x.imag() * x.imag();
    return {x.real() / norm, -x.imag() / norm};
}

struct Hyperbolic {
    Complex cosh, sinh;
};
/// cosh and sinh of γℓ by one exponential.
inline Hyperbolic hyperbolicOf(Complex gammaPerM, double lengthM) {
    const double grow = std::exp(gammaPerM.real() * lengthM);
    const double fade = 1 / grow;
    const double angle = gammaPerM.imag() * lengthM;
    const double c = std::cos(angle);
    const double s = std::sin(angle);
    const double up = 0.5 * (grow + fade);
    const double down = 0.5 * (grow - fade);
    return {{up * c, down * s}, {down * c, up * s}};
}

Complex stubOhm(const StubPart& stub, double f) {
    const LineConstants k = stub.line.at(f);
    const auto [ch, sh] = hyperbolicOf(k.gammaPerM, stub.lengthM);
    if (std::isinf(stub.endOhm))
        return times(times(k.impedanceOhm, ch), inverse(sh));
    const Complex top = stub.endOhm * ch + times(k.impedanceOhm, sh);
    const Complex bottom = times(k.impedanceOhm, ch) + stub.endOhm * sh;
    return times(k.impedanceOhm, times(top, inverse(bottom)));
}

Abcd padAbcd(double impedanceOhm, double lossDb) {
    const double grow = std::pow(10, lossDb / 20);
    const double ch = 0.5 * (grow + 1 / grow);
    const double sh = 0.5 * (grow - 1 / grow);
    return {ch, impedanceOhm * sh, sh / impedanceOhm, ch};
}

/// Matched both ways: S21 forward, S12 backward, no reflection.
Abcd amplifierAbcd(const AmplifierPart& part) {
    const double forward = std::pow(10, part.gainDb / 20);
    const double backward = std::pow(10, -part.isolationDb / 20);
    const double z = part.impedanceOhm;
    const double loop = forward * backward;
    return {(1 + loop) / (2 * forward), z * (1 - loop) / (2 * forward),
            (1 - loop) / (2 * forward * z), (1 + loop) / (2 * forward)};
}

/// M times the matrix of a line, which is symmetric and needs no matrix of its own.
inline Abcd thenLine(const Abcd& m, const LineConstants& k, Complex admittance, double lengthM) {
    const auto [ch, sh] = hyperbolicOf(k.gammaPerM, lengthM);
    const Complex b = times(k.impedanceOhm, sh);
    const Complex c = times(admittance, sh);
    return {times(m.a, ch) + times(m.b, c), times(m.a, b) + times(m.b, ch),
            times(m.c, ch) + times(m.d, c), times(m.c, b) + times(m.d, ch)};
}

std::string partName(std::size_t index) {
    return "part " + std::to_string(index + 1);
}

Outcome<bool> checkLine(const Line& line, double lengthM, const std::string& name) {
    if (!(lengthM >= 0) || !std::isfinite(lengthM))
        return refuse(name, sentence({"chain.length", "its length is {0}"}, asMetres(lengthM, 3)),
                      {"cure.give-length-m", "Give a length of 0 m or more"});
    if (!(line.impedanceOhm > 0) || !std::isfinite(line.impedanceOhm))
        return refuse(
            name,
            sentence({"chain.impedance", "its impedance is {0}"}, asOhm(line.impedanceOhm, 1)),
            {"cure.give-impedance-above", "Give an impedance above 0 Ω"});
    if (!(line.velocityMPerS > 0) || line.velocityMPerS > lightSpeedMPerS)
        return refuse(name,
                      sentence({"chain.velocity-light", "its velocity is {0} of light's"},
                               asNumber(line.velocityMPerS / lightSpeedMPerS, 3)),
                      {"cure.give-share-above", "Give a share above 0 and up to 1"});
    if (!(line.k0NpPerM >= 0 && line.k1NpPerM >= 0 && line.k2NpPerM >= 0))
        return refuse(name, {"chain.loss-below-db", "its loss is below 0 dB"},
                      {"cure.give-loss-db", "Give a loss of 0 dB or more"});
    return true;
}

Outcome<bool> checkBranch(const Branch& branch, const std::string& name) {
    if (!(branch.ohm >= 0) || !(branch.nanohenry >= 0) ||
        (branch.picofarad && !(*branch.picofarad > 0)))
        return refuse(name,
                      {"chain.resistance-inductance-below",
                       "a resistance or inductance below 0, or a capacitance not above 0"},
                      {"cure.give-ohm-nanohenry",
                       "Give ohm and nanohenry of 0 or more, picofarad above 0 or leave it out"});
    return true;
}

} // namespace

Complex Branch::impedanceOhm(double f) const {
    const double omega = 2e6 * pi * f;
    double reactance = omega * nanohenry * 1e-9;
    if (picofarad)
        reactance -= 1 / (omega * *picofarad * 1e-12);
    return {ohm, reactance};
}

Outcome<PadPart> splitterPart(int ways, double impedanceOhm) {
    static constexpr std::array<std::pair<int, double>, 5> losses{
        {{2, 3.8}, {3, 6.0}, {4, 7.4}, {6, 9.5}, {8, 11.0}}};
    for (const auto& [count, db] : losses)
        if (count == ways)
            return PadPart{impedanceOhm, db, 0, 1.5};
    return refuse(
        "splitter",
        sentence({"chain.ways-not-catalogue", "{0} ways are not in the catalogue"}, asCount(ways)),
        {"cure.use-ways", "Use 2, 3, 4, 6 or 8 ways"});
}

double padLossDb(const PadPart& pad, double f) {
    return pad.lossAtDb + pad.perSqrtGhzDb * std::sqrt(f / gigahertz) +
           pad.extraAt2150Db * std::max(0.0, (f - gigahertz) / (topOfPad - gigahertz));
}

Outcome<bool> checkChain(const Chain& chain) {
    if (!(chain.referenceOhm > 0) || !std::isfinite(chain.referenceOhm))
        return refuse(
            "chain",
            sentence({"chain.reference", "its reference is {0}"}, asOhm(chain.referenceOhm, 1)),
            {"cure.give-reference-above", "Give a reference above 0 Ω"});
    for (std::size_t i = 0; i < chain.parts.size(); ++i) {
        const std::string name = partName(i);
        Outcome<bool> good = true;
        if (const auto* line = std::get_if<LinePart>(&chain.parts[i]))
            good = checkLine(line->line, line->lengthM, name + " (line)");
        else if (const auto* stub = std::get_if<StubPart>(&chain.parts[i])) {
            good = checkLine(stub->line, stub->lengthM, name + " (stub)");
            if (good && !(stub->endOhm >= 0))
                good = refuse(sentence({"where.stub", "{0} (stub)"}, name),
                              {"chain.end-below", "its end is below 0 Ω"},
                              {"cure.give-open-short", "Give open, short or ohms of 0 or more"});
        } else if (const auto* series = std::get_if<SeriesPart>(&chain.parts[i]))
            good = checkBranch(series->branch, name + " (series)");
        else if (const auto* shunt = std::get_if<ShuntPart>(&chain.parts[i])) {
            good = checkBranch(shunt->branch, name + " (shunt)");
            if (good && shunt->branch == Branch{})
                good = refuse(sentence({"where.shunt", "{0} (shunt)"}, name),
                              {"chain.dead-short-across", "it is a dead short across the line"},
                              {"cure.give-ohm-nanohenry-picofarad",
                               "Give an ohm, nanohenry or picofarad above 0"});
        } else if (const auto* pad = std::get_if<PadPart>(&chain.parts[i])) {
            if (!(pad->impedanceOhm > 0) || !(pad->lossAtDb >= 0))
                good = refuse(sentence({"where.loss", "{0} (loss)"}, name),
                              {"chain.impedance-not-above",
                               "an impedance not above 0 Ω or a loss below 0 dB"},
                              {"cure.give-impedance-above-loss",
                               "Give an impedance above 0 Ω and a loss of 0 dB or more"});
        }
        if (!good)
            return good;
    }
    return true;
}

Abcd Abcd::then(const Abcd& n) const {
    return {times(a, n.a) + times(b, n.c), times(a, n.b) + times(b, n.d),
            times(c, n.a) + times(d, n.c), times(c, n.b) + times(d, n.d)};
}

Complex Abcd::inputOhm(Complex loadOhm) const {
    if (std::isinf(loadOhm.real()))
        return a / c;
    return (a * loadOhm + b) / (c * loadOhm + d);
}

Abcd abcdOf(const ChainPart& part, double f) {
    struct Visitor {
        double f;
        Abcd operator()(const LinePart& p) const {
            const LineConstants k = p.line.at(f);
            return thenLine({}, k, inverse(k.impedanceOhm), p.lengthM);
        }
        Abcd operator()(const SeriesPart& p) const { return {1, p.branch.impedanceOhm(f), 0, 1}; }
        Abcd operator()(const ShuntPart& p) const {
            return {1, 0, inverse(p.branch.impedanceOhm(f)), 1};
        }
        Abcd operator()(const StubPart& p) const { return {1, 0, inverse(stubOhm(p, f)), 1}; }
        Abcd operator()(const PadPart& p) const { return padAbcd(p.impedanceOhm, padLossDb(p, f)); }
        Abcd operator()(const AmplifierPart& p) const { return amplifierAbcd(p); }
    };
    return std::visit(Visitor{f}, part);
}

Abcd abcdOf(const Chain& chain, double f) {
    Abcd out;
    for (const auto& part : chain.parts)
        out = out.then(abcdOf(part, f));
    return out;
}

namespace {

/// `m`, then a part that is no line: frequency by frequency.
void appendOther(const ChainPart& part, const std::vector<double>& f, MatrixSweep& m) {
    const auto at = [](const ComplexArray& x, std::size_t k) { return Complex{x.re[k], x.im[k]}; };
    const auto put = [](ComplexArray& x, std::size_t k, Complex value) {
        x.re[k] = value.real();
        x.im[k] = value.imag();
    };
    for (std::size_t k = 0; k < f.size(); ++k) {
        const Abcd now =
            Abcd{at(m.a, k), at(m.b, k), at(m.c, k), at(m.d, k)}.then(abcdOf(part, f[k]));
        put(m.a, k, now.a);
        put(m.b, k, now.b);
        put(m.c, k, now.c);
        put(m.d, k, now.d);
    }
}

} // namespace

NetworkSweep sweepOf(const Chain& chain, std::span<const double> frequencyMhz) {
    NetworkSweep out;
    out.ports = 2;
    out.referenceOhm = {chain.referenceOhm, chain.referenceOhm};
    out.frequencyMhz.assign(frequencyMhz.begin(), frequencyMhz.end());
    const std::size_t n = frequencyMhz.size();
    MatrixSweep m(n);
    MatrixSweep work(n);
    // Parts of the same cable share its constants.
    std::vector<std::pair<Line, LineSweep>> lines;
    bool reciprocal = true;
    for (const auto& part : chain.parts) {
        reciprocal = reciprocal && !std::holds_alternative<AmplifierPart>(part);
        const auto* p = std::get_if<LinePart>(&part);
        if (p == nullptr) {
            appendOther(part, out.frequencyMhz, m);
            continue;
        }
        auto it = std::find_if(lines.begin(), lines.end(),
                               [&](const auto& known) { return known.first == p->line; });
        if (it == lines.end()) {
            it = lines.insert(lines.end(), {p->line, LineSweep(n)});
            fillConstants(p->line, out.frequencyMhz, it->second);
        }
        appendLine(it->second, p->lengthM, m, work);
    }
    scattering(m, chain.referenceOhm, reciprocal, out.s);
    return out;
}

NetworkSweep reflectionOf(const Chain& chain, Complex loadOhm,
                          std::span<const double> frequencyMhz) {
    NetworkSweep out;
    out.ports = 1;
    out.referenceOhm = {chain.referenceOhm};
    out.frequencyMhz.assign(frequencyMhz.begin(), frequencyMhz.end());
    for (const double f : frequencyMhz) {
        const Complex z = abcdOf(chain, f).inputOhm(loadOhm);
        out.s.push_back((z - chain.referenceOhm) / (z + chain.referenceOhm));
    }
    return out;
}

double insertionLossDb(Complex s21) {
    return -20 * std::log10(std::abs(s21));
}
double returnLossDb(Complex s11) {
    return -20 * std::log10(std::abs(s11));
}
double standingWaveRatio(Complex reflection) {
    const double size = std::abs(reflection);
    return size < 1 ? (1 + size) / (1 - size) : std::numeric_limits<double>::infinity();
}
Complex impedanceOf(Complex reflection, double referenceOhm) {
    return referenceOhm * (1.0 + reflection) / (1.0 - reflection);
}

std::vector<double> groupDelayNs(const NetworkSweep& sweep) {
    std::vector<double> out;
    for (std::size_t k = 1; k < sweep.frequencyMhz.size(); ++k) {
        // The step's own angle, so that turns of the phase do not matter while it stays under half.
        const double angle = std::arg(sweep.at(k, 1, 0) / sweep.at(k - 1, 1, 0));
        const double stepMhz = sweep.frequencyMhz[k] - sweep.frequencyMhz[k - 1];
        out.push_back(-angle / (2e-3 * pi * stepMhz));
    }
    return out;
}

std::vector<AlongPoint> alongChain(const Chain& chain, double f) {
    std::vector<AlongPoint> out{{0, 0}};
    Abcd m;
    double at = 0;
    const double z = chain.referenceOhm;
    for (const auto& part : chain.parts) {
        m = m.then(abcdOf(part, f));
        if (const auto* line = std::get_if<LinePart>(&part))
            at += line->lengthM;
        out.push_back({at, insertionLossDb(2.0 / (m.a + m.b / z + m.c * z + m.d))});
    }
    return out;
}

} // namespace burin
