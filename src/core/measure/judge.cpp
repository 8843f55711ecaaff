#include "core/measure/judge.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace burin {
namespace {

constexpr std::array<std::string_view, 5> stateNames{
    "untested", "pass", "marginal, on the good side", "marginal, on the bad side", "fail"};
constexpr std::array<std::string_view, 5> stateKeys{"untested", "pass", "marginal-good",
                                                    "marginal-bad", "fail"};

/// Measured insertion loss of a pair, interpolated; a NEXT combination takes the lower of its two.
class MeasuredLoss {
public:
    MeasuredLoss(const std::vector<Trace>& traces, const std::string& pair) {
        const auto of = [&](const std::string& name) -> const Trace* {
            for (const auto& trace : traces)
                if (trace.parameter == Parameter::InsertionLoss && trace.pair == name)
                    return &trace;
            return nullptr;
        };
        const bool two = pair.size() == 7; // "1-2/3-6"
        a_ = of(two ? pair.substr(0, 3) : pair);
        b_ = two ? of(pair.substr(4, 3)) : nullptr;
    }
    [[nodiscard]] std::optional<double> at(double f) const {
        const auto a = of(a_, f);
        const auto b = of(b_, f);
        return a && b ? std::optional(std::min(*a, *b)) : a ? a : b;
    }

private:
    static std::optional<double> of(const Trace* trace, double f) {
        if (trace == nullptr)
            return std::nullopt;
        const auto& x = trace->frequencyMhz;
        const auto it = std::lower_bound(x.begin(), x.end(), f);
        if (it == x.end())
            return trace->value.back();
        const auto i = static_cast<std::size_t>(it - x.begin());
        if (i == 0 || *it == f)
            return trace->value[i];
        const double t = (f - x[i - 1]) / (x[i] - x[i - 1]);
        return trace->value[i - 1] + t * (trace->value[i] - trace->value[i - 1]);
    }
    const Trace* a_ = nullptr;
    const Trace* b_ = nullptr;
};

double informationBelowDb(Parameter parameter, ForInformation rule) {
    switch (parameter) {
    case Parameter::ReturnLoss:
        return rule == ForInformation::Nothing ? 0 : 3.0;
    case Parameter::Next:
    case Parameter::PsNext:
    case Parameter::AcrN:
    case Parameter::PsAcrN:
        return rule == ForInformation::ReturnLossAndNext ? 4.0 : 0;
    default:
        return 0;
    }
}

State stateOf(double margin, double accuracy) {
    if (margin >= accuracy)
        return State::Pass;
    if (margin >= 0)
        return State::MarginalGood;
    return margin > -accuracy ? State::MarginalBad : State::Fail;
}

Limit constantLine(Parameter parameter, double fromMhz, double toMhz, double value,
                   const std::string& source) {
    Limit out;
    out.parameter = parameter;
    out.unit = "dB";
    out.source = source;
    out.segments.push_back({fromMhz, toMhz, ConstantForm{value}});
    return out;
}

/// A line over the frequencies of a trace; the traces of a file share theirs.
class LineOver {
public:
    explicit LineOver(const Limit& limit) : limit_(limit) {}
    /// NaN where the line has none.
    const std::vector<double>& values(const std::vector<double>& frequencyMhz) {
        if (frequencyMhz == frequencyMhz_)
            return values_;
        frequencyMhz_ = frequencyMhz;
        values_.clear();
        for (const double f : frequencyMhz)
            values_.push_back(limit_.at(f).value_or(std::numeric_limits<double>::quiet_NaN()));
        return values_;
    }

private:
    const Limit& limit_;
    std::vector<double> frequencyMhz_, values_;
};

void judgeTrace(const Trace& trace, const JudgeLine& line, LineOver& over,
                const std::vector<Trace>& traces, const Accuracy& accuracy, ForInformation rule,
                ParameterResult& out) {
    const auto& limits = over.values(trace.frequencyMhz);
    const double topMhz = line.limit.toMhz();
    const double below = informationBelowDb(trace.parameter, rule);
    const MeasuredLoss loss(traces, trace.pair);
    for (std::size_t k = 0; k < trace.frequencyMhz.size(); ++k) {
        const double f = trace.frequencyMhz[k];
        const double limit = limits[k];
        if (std::isnan(limit))
            continue;
        if (below > 0)
            if (const auto il = loss.at(f); il && *il < below) {
                ++out.informative;
                out.informativeBelowDb = below;
                continue;
            }
        const double value = trace.value[k];
        const double margin = line.upper ? limit - value : value - limit;
        const double band = accuracyOf(accuracy, trace.parameter, value, f, topMhz) *
                            (trace.unit == "µs" ? 0.001 : 1);
        if (out.points == 0 || margin < out.marginWorst) {
            out.marginWorst = margin;
            out.atMhz = f;
            out.pair = trace.pair + (trace.farEnd ? " far" : "");
            out.measured = value;
            out.limit = limit;
            out.accuracy = band;
        }
        out.state = worse(out.state, stateOf(margin, band));
        ++out.points;
    }
}

} // namespace

std::string_view stateName(State state) {
    return stateNames[static_cast<std::size_t>(state)];
}
std::string_view stateKey(State state) {
    return stateKeys[static_cast<std::size_t>(state)];
}
ForInformation forInformation(LimitSet set, bool balanced) {
    return !balanced              ? ForInformation::Nothing
           : set == LimitSet::Iso ? ForInformation::ReturnLossAndNext
                                  : ForInformation::ReturnLoss;
}
State worse(State a, State b) {
    return static_cast<State>(std::max(static_cast<int>(a), static_cast<int>(b)));
}

std::vector<JudgeLine> classLines(const Catalogue& catalogue, LimitSet set,
                                  const std::string& className, LinkKind link, double topMhz) {
    std::vector<JudgeLine> out;
    const Sentence name = limitTitle(set, className, link);
    for (const auto parameter : {Parameter::InsertionLoss, Parameter::ReturnLoss, Parameter::Next,
                                 Parameter::PsNext, Parameter::AcrF, Parameter::PsAcrF,
                                 Parameter::Delay, Parameter::Skew, Parameter::LoopResistance}) {
        const Limit* limit = catalogue.limit(set, className, link, parameter);
        if (limit == nullptr)
            continue;
        JudgeLine line{*limit, limitIsUpper(parameter), name};
        auto& segments = line.limit.segments;
        segments.erase(std::remove_if(segments.begin(), segments.end(),
                                      [&](const auto& s) { return s.fromMhz >= topMhz; }),
                       segments.end());
        if (segments.empty())
            continue;
        segments.back().toMhz = std::min(segments.back().toMhz, topMhz);
        out.push_back(std::move(line));
    }
    return out;
}

std::vector<JudgeLine> serviceLines(const Service& service, std::optional<double> headLevel,
                                    std::optional<double> lossBudgetDb,
                                    std::optional<double> bandFromMhz,
                                    std::optional<double> bandToMhz) {
    std::vector<JudgeLine> out;
    const auto add = [&](Parameter parameter, double from, double to, double value, bool upper) {
        out.push_back({constantLine(parameter, from, to, value, service.source), upper,
                       alone(asTerm(service.name))});
    };
    for (const auto& rule : service.lossRules) {
        // A rule at one frequency still meets sweeps that step over it: half a per cent aside.
        const double slack = rule.fromMhz == rule.toMhz ? 0.005 : 0;
        add(Parameter::InsertionLoss, rule.fromMhz * (1 - slack), rule.toMhz * (1 + slack),
            rule.maxDb, true);
    }
    for (const auto& rule : service.returnLossRules)
        add(Parameter::ReturnLoss, rule.fromMhz, rule.toMhz, rule.minDb, false);
    if (service.levelWindow && headLevel) {
        const auto& w = *service.levelWindow;
        const double slack = w.fromMhz == w.toMhz ? 0.005 : 0;
        add(Parameter::InsertionLoss, w.fromMhz * (1 - slack), w.toMhz * (1 + slack),
            *headLevel - w.min, true);
        if (*headLevel > w.max)
            add(Parameter::InsertionLoss, w.fromMhz * (1 - slack), w.toMhz * (1 + slack),
                *headLevel - w.max, false);
    }
    if (!bandToMhz)
        return out;
    const double bandFrom = bandFromMhz.value_or(*bandToMhz * 0.995);
    if (service.lossBudget && lossBudgetDb)
        add(Parameter::InsertionLoss, bandFrom, *bandToMhz, *lossBudgetDb, true);
    if (service.mostSwr > 1)
        add(Parameter::ReturnLoss, bandFrom, *bandToMhz,
            -20 * std::log10((service.mostSwr - 1) / (service.mostSwr + 1)), false);
    return out;
}

double accuracyOf(const Accuracy& a, Parameter parameter, double value, double frequencyMhz,
                  double topMhz) {
    switch (parameter) {
    case Parameter::InsertionLoss:
        return a.lossDb + a.lossShare * std::abs(value);
    case Parameter::ReturnLoss:
        return a.returnLossDb;
    case Parameter::Delay:
    case Parameter::Skew:
        return a.delayNs;
    case Parameter::LoopResistance:
    case Parameter::UnbalanceWithinPair:
    case Parameter::UnbalanceBetweenPairs:
        return a.resistanceOhm + a.resistanceShare * std::abs(value);
    default:
        break;
    }
    if (frequencyMhz <= 100 || topMhz <= 100)
        return a.crosstalkDb;
    const double t = std::min(1.0, (frequencyMhz - 100) / (topMhz - 100));
    return a.crosstalkDb + t * (a.crosstalkAtTopDb - a.crosstalkDb);
}

std::vector<ParameterResult> judge(const std::vector<Trace>& traces,
                                   const std::vector<JudgeLine>& lines, const Accuracy& accuracy,
                                   ForInformation rule) {
    std::vector<ParameterResult> out;
    for (const auto& line : lines) {
        ParameterResult result;
        result.parameter = line.limit.parameter;
        result.against = line.name;
        result.unit = line.limit.unit;
        LineOver over(line.limit);
        for (const auto& trace : traces)
            if (trace.parameter == line.limit.parameter)
                judgeTrace(trace, line, over, traces, accuracy, rule, result);
        if (result.points > 0 || result.informative > 0)
            out.push_back(std::move(result));
    }
    return out;
}

Working judgeWorking(const ParameterResult& r, const std::vector<JudgeLine>& lines) {
    Working out;
    const auto shown = [&](double value) { return asUnit(value, r.unit == "µs" ? 3 : 1, r.unit); };
    out.title =
        sentence({"judge.title", "{0} against {1}"}, asTerm(parameterName(r.parameter)), r.against);
    bool upper = limitIsUpper(r.parameter);
    for (const auto& line : lines)
        if (line.limit.parameter == r.parameter && line.name == r.against &&
            line.limit.at(r.atMhz)) {
            out.steps.push_back(sentence({"judge.limit", "limit at {0} = {1} = {2}"},
                                         asMegahertz(r.atMhz), line.limit.formulaAt(r.atMhz),
                                         shown(r.limit)));
            out.inputs.push_back({sentence({"input.limit", "limit"}), alone(shown(r.limit)),
                                  cited(line.limit.source)});
            upper = line.upper;
            break;
        }
    out.formula = upper ? sentence({"judge.upper", "margin = limit − measured"})
                        : sentence({"judge.lower", "margin = measured − limit"});
    out.inputs.push_back(
        {sentence({"input.measured", "measured"}), alone(shown(r.measured)),
         r.pair.empty() ? alone(asMegahertz(r.atMhz))
                        : sentence({"judge.pair", "pair {0}, {1}"}, r.pair, asMegahertz(r.atMhz))});
    out.inputs.push_back({sentence({"input.accuracy", "accuracy"}),
                          sentence({"judge.accuracy", "± {0}"}, shown(r.accuracy)),
                          sentence({"source.instrument", "the instrument, as the job says"})});
    if (r.informative > 0)
        out.steps.push_back(sentence({"judge.information", "{0} points are for information: the "
                                                           "insertion loss there is below {1}"},
                                     asCount(r.informative), asDecibel(r.informativeBelowDb)));
    out.result = sentence({"judge.result", "{0}: {1} (marginal means inside the accuracy)"},
                          shown(r.marginWorst), asTerm(stateName(r.state)));
    return out;
}

} // namespace burin
