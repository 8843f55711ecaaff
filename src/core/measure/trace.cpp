#include "core/measure/trace.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>
#include <numbers>

namespace burin {
namespace {

double lossDb(std::complex<double> s) {
    // 300 dB stands for nothing at all, so that a perfect zero still plots and compares.
    return std::min(300.0, -20 * std::log10(std::max(std::abs(s), 1e-15)));
}

struct Word {
    std::string_view word;
    Parameter parameter;
};
// Longest first: "ps next" before "next".
constexpr std::array<Word, 23> words{{
    {"insertion loss", Parameter::InsertionLoss},
    {"attenuation", Parameter::InsertionLoss},
    {"return loss", Parameter::ReturnLoss},
    {"loop resistance", Parameter::LoopResistance},
    {"delay skew", Parameter::Skew},
    {"propagation delay", Parameter::Delay},
    {"ps acr n", Parameter::PsAcrN},
    {"ps acr f", Parameter::PsAcrF},
    {"psacrn", Parameter::PsAcrN},
    {"psacrf", Parameter::PsAcrF},
    {"ps next", Parameter::PsNext},
    {"psnext", Parameter::PsNext},
    {"acr n", Parameter::AcrN},
    {"acr f", Parameter::AcrF},
    {"acrn", Parameter::AcrN},
    {"acrf", Parameter::AcrF},
    {"elfext", Parameter::AcrF},
    {"next", Parameter::Next},
    {"delay", Parameter::Delay},
    {"skew", Parameter::Skew},
    {"loss", Parameter::InsertionLoss},
    {"il", Parameter::InsertionLoss},
    {"rl", Parameter::ReturnLoss},
}};
constexpr std::array<std::string_view, 4> pinPairs{"1-2", "3-6", "4-5", "7-8"};

void addTrace(std::vector<Trace>& out, Parameter parameter, const std::string& pair, bool farEnd,
              const NetworkSweep& sweep, int to, int from) {
    Trace trace{parameter, pair, farEnd, sweep.frequencyMhz, {}, "dB"};
    trace.value.reserve(sweep.frequencyMhz.size());
    for (std::size_t k = 0; k < sweep.frequencyMhz.size(); ++k)
        trace.value.push_back(lossDb(sweep.at(k, to, from)));
    out.push_back(std::move(trace));
}

void addTwoPort(Traces& out, const NetworkSweep& sweep, const std::string& pair) {
    addTrace(out.traces, Parameter::InsertionLoss, pair, false, sweep, 1, 0);
    addTrace(out.traces, Parameter::ReturnLoss, pair, false, sweep, 0, 0);
    addTrace(out.traces, Parameter::ReturnLoss, pair, true, sweep, 1, 1);
    std::vector<std::complex<double>> through;
    for (std::size_t k = 0; k < sweep.frequencyMhz.size(); ++k)
        through.push_back(sweep.at(k, 1, 0));
    auto delay = phaseDelayUs(sweep.frequencyMhz, through);
    if (delay.empty())
        out.notes.push_back(
            sentence({"trace.no-delay", "delay not read: the sweep's steps are wider than {0}"},
                     asMegahertz(0.8)));
    else
        out.traces.push_back(
            {Parameter::Delay, pair, false, sweep.frequencyMhz, std::move(delay), "µs"});
}

Outcome<Traces> ofSweep(const NetworkSweep& raw, const Measurement& m, CableKind kind,
                        double impedanceOhm) {
    Traces out;
    if (raw.referenceReactanceOhm != 0)
        return refuse(
            m.fileName,
            {"measured.reference-impedance-complex", "its reference impedance is complex"},
            {"cure.export-against-real", "Export it against a real one, such as R 50"});
    NetworkSweep sweep = raw;
    if (raw.ports == 4) {
        if (kind == CableKind::Coax)
            return refuse(
                m.fileName, {"measured.four-ports-run", "it has four ports, and the run is a coax"},
                {"cure.bring-port-two", "Bring in a one-port or two-port sweep for a coax"});
        const bool guessed = looksSideBySide(raw);
        const bool sideBySide = m.portOrder ? *m.portOrder == PortOrder::SideBySide : guessed;
        auto pair = differential(raw, sideBySide);
        if (!pair)
            return refuse(pair.error());
        sweep = std::move(*pair);
        const std::string ports =
            sideBySide ? "1, 3 (near) and 2, 4 (far)" : "1, 2 (near) and 3, 4 (far)";
        out.notes.push_back(
            m.portOrder ? sentence({"trace.ports", "differential mode of ports {0}"}, asTerm(ports))
                        : sentence({"trace.ports-told", "differential mode of ports {0}, told from "
                                                        "the strongest way through"},
                                   asTerm(ports)));
    } else if (raw.ports > 2) {
        return refuse(m.fileName, sentence({"sweep.ports", "it has {0} ports"}, asCount(raw.ports)),
                      {"cure.run-measured-two", "A run is measured with one, two or four ports"});
    }
    if (std::any_of(sweep.referenceOhm.begin(), sweep.referenceOhm.end(),
                    [&](double ohm) { return ohm != impedanceOhm; })) {
        out.notes.push_back(
            sentence({"trace.reference", "brought from {0} to {1}, the link's impedance"},
                     asOhm(sweep.referenceOhm.front()), asOhm(impedanceOhm)));
        sweep = renormalised(sweep, impedanceOhm);
    }
    const std::string pair = kind == CableKind::Coax ? "" : m.pair.empty() ? "1-2" : m.pair;
    if (kind == CableKind::Balanced && m.pair.empty())
        out.notes.push_back(sentence({"trace.no-pair", "no pair was named: taken as pair 1-2"}));
    if (sweep.ports == 1)
        addTrace(out.traces, Parameter::ReturnLoss, pair, false, sweep, 0, 0);
    else
        addTwoPort(out, sweep, pair);
    return out;
}

std::vector<std::string> split(const std::string& text, char at) {
    std::vector<std::string> out;
    std::size_t begin = 0;
    while (begin <= text.size() && !text.empty()) {
        const auto end = std::min(text.find(at, begin), text.size());
        out.push_back(text.substr(begin, end - begin));
        begin = end + 1;
    }
    return out;
}

Outcome<Traces> ofTable(const MeasuredTable& table, const Measurement& m, CableKind kind) {
    Traces out;
    const auto given = split(m.columns, ';');
    for (std::size_t c = 0; c < table.columns.size(); ++c) {
        const auto& column = table.columns[c];
        auto meaning =
            columnMeaning(c < given.size() && !given[c].empty() ? given[c] : column.header);
        if (!meaning) {
            out.notes.push_back(sentence({"trace.unknown-column", "column “{0}” left out: its name "
                                                                  "says no known parameter"},
                                         column.header));
            continue;
        }
        if (meaning->pair.empty() && kind == CableKind::Balanced)
            meaning->pair = m.pair;
        Trace trace{meaning->parameter, meaning->pair, meaning->farEnd,
                    table.frequencyMhz, column.values, "dB"};
        if (meaning->parameter == Parameter::Delay) {
            trace.unit = "µs";
            if (column.unit == "ns")
                for (double& v : trace.value)
                    v /= 1000;
        } else if (meaning->parameter == Parameter::Skew) {
            trace.unit = "ns";
        } else if (meaning->parameter == Parameter::LoopResistance) {
            trace.unit = "Ω";
        } else if (std::all_of(trace.value.begin(), trace.value.end(),
                               [](double v) { return v <= 0; })) {
            out.notes.push_back(sentence(
                {"trace.gains", "column “{0}” holds gains (all below 0 dB): read as losses"},
                column.header));
            for (double& v : trace.value)
                v = -v;
        }
        out.traces.push_back(std::move(trace));
    }
    if (out.traces.empty())
        return refuse(
            m.fileName,
            {"measured.none-columns-named", "none of its columns is named by a parameter"},
            {"cure.name-like-il", "Name them like “IL 1-2”, “NEXT 1-2/3-6”, “RL 4-5”"});
    return out;
}

const Trace* find(const std::vector<Trace>& traces, Parameter parameter, std::string_view pair,
                  bool farEnd) {
    for (const auto& trace : traces)
        if (trace.parameter == parameter && trace.pair == pair && trace.farEnd == farEnd)
            return &trace;
    return nullptr;
}

/// The power sum of a pair's three combinations, where all of them are there.
std::optional<Trace> powerSum(const std::vector<Trace>& traces, Parameter from, Parameter to,
                              std::string_view pair, bool farEnd) {
    if (find(traces, to, pair, farEnd) != nullptr)
        return std::nullopt;
    std::vector<const Trace*> parts;
    for (const auto& trace : traces)
        if (trace.parameter == from && trace.farEnd == farEnd && trace.pair.size() == 7 &&
            trace.pair.find(pair) != std::string::npos)
            parts.push_back(&trace);
    if (parts.size() != 3)
        return std::nullopt;
    Trace sum{to, std::string(pair), farEnd, parts[0]->frequencyMhz, {}, "dB"};
    for (std::size_t k = 0; k < sum.frequencyMhz.size(); ++k) {
        double power = 0;
        for (const auto* part : parts)
            power += std::pow(10, -part->value[k] / 10);
        sum.value.push_back(-10 * std::log10(power));
    }
    return sum;
}

/// PS NEXT and PS ACR-F where all three combinations of a pair are there, and ACR-N = NEXT − IL.
void addDerived(std::vector<Trace>& traces) {
    std::vector<Trace> added;
    for (const bool farEnd : {false, true})
        for (const auto pair : pinPairs)
            for (const auto& [from, to] : {std::pair(Parameter::Next, Parameter::PsNext),
                                           std::pair(Parameter::AcrF, Parameter::PsAcrF)})
                if (auto sum = powerSum(traces, from, to, pair, farEnd))
                    added.push_back(std::move(*sum));
    for (const auto& next : traces) {
        if (next.parameter != Parameter::Next || next.pair.size() != 7)
            continue;
        // Against the loss of the disturbed pair, the worse of the two.
        const Trace* a = find(traces, Parameter::InsertionLoss, next.pair.substr(0, 3), false);
        const Trace* b = find(traces, Parameter::InsertionLoss, next.pair.substr(4, 3), false);
        if (a == nullptr || b == nullptr || a->value.size() != next.value.size() ||
            b->value.size() != next.value.size() ||
            find(traces, Parameter::AcrN, next.pair, next.farEnd) != nullptr)
            continue;
        Trace acr{Parameter::AcrN, next.pair, next.farEnd, next.frequencyMhz, {}, "dB"};
        for (std::size_t k = 0; k < next.value.size(); ++k)
            acr.value.push_back(next.value[k] - std::max(a->value[k], b->value[k]));
        added.push_back(std::move(acr));
    }
    std::move(added.begin(), added.end(), std::back_inserter(traces));
}

} // namespace

std::optional<ColumnMeaning> columnMeaning(std::string_view header) {
    std::string text;
    for (const char c : header)
        text +=
            c == '_' || (c == '-' && (text.empty() ||
                                      std::isdigit(static_cast<unsigned char>(text.back())) == 0))
                ? ' '
                : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto bounded = [&](std::size_t at, std::size_t size) {
        const auto letter = [&](std::size_t i) {
            return i < text.size() && std::isalpha(static_cast<unsigned char>(text[i])) != 0;
        };
        return (at == 0 || !letter(at - 1)) && !letter(at + size);
    };
    for (const auto& word : words) {
        const auto at = text.find(word.word);
        if (at == std::string::npos || !bounded(at, word.word.size()))
            continue;
        ColumnMeaning out;
        out.parameter = word.parameter;
        out.farEnd = text.find("far", at) != std::string::npos ||
                     text.find("remote", at) != std::string::npos;
        const std::string rest = text.substr(at + word.word.size());
        std::vector<std::string> found;
        for (std::size_t i = 0; i + 1 < rest.size(); ++i) {
            for (const auto pair : pinPairs) {
                const bool dashed = rest.compare(i, 3, pair) == 0;
                const bool bare = rest[i] == pair[0] && rest[i + 1] == pair[2];
                if (!dashed && !bare)
                    continue;
                found.emplace_back(pair);
                i += dashed ? 2 : 1;
                break;
            }
        }
        if (found.size() > 2)
            return std::nullopt;
        for (const auto& pair : found)
            out.pair += (out.pair.empty() ? "" : "/") + pair;
        return out;
    }
    return std::nullopt;
}

std::string columnWords(const ColumnMeaning& meaning) {
    return std::string(parameterName(meaning.parameter)) +
           (meaning.pair.empty() ? "" : " " + meaning.pair) + (meaning.farEnd ? " far" : "");
}

std::vector<double> phaseDelayUs(const std::vector<double>& f,
                                 const std::vector<std::complex<double>>& through) {
    if (f.size() < 3)
        return {};
    for (std::size_t k = 1; k < f.size(); ++k)
        if (f[k] - f[k - 1] > 0.8 + 1e-9)
            return {};
    constexpr double turn = 2 * std::numbers::pi;
    std::vector<double> phase(f.size());
    phase[0] = std::arg(through[0]);
    for (std::size_t k = 1; k < f.size(); ++k) {
        // Cables only ever delay: the step is taken between 0 and one turn back.
        double step = std::arg(through[k]) - std::arg(through[k - 1]);
        step -= turn * std::ceil(step / turn - 0.25);
        phase[k] = phase[k - 1] + step;
    }
    // Whole turns before the first point: what makes the line run through zero at 0 MHz.
    const std::size_t last = std::min<std::size_t>(f.size() - 1, 20);
    const double slope = (phase[last] - phase[0]) / (f[last] - f[0]);
    const double turns = std::round((phase[0] - slope * f[0]) / turn);
    std::vector<double> out(f.size());
    for (std::size_t k = 0; k < f.size(); ++k)
        out[k] = -(phase[k] - turns * turn) / (turn * f[k]);
    return out;
}

Outcome<Traces> tracesOf(const MeasuredFile& file, const Measurement& measurement, CableKind kind,
                         double impedanceOhm) {
    auto out = file.sweep ? ofSweep(*file.sweep, measurement, kind, impedanceOhm)
                          : ofTable(*file.table, measurement, kind);
    if (!out)
        return out;
    addDerived(out->traces);
    out->notes.insert(out->notes.begin(), file.notes.begin(), file.notes.end());
    return out;
}

} // namespace burin
