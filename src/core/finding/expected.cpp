#include "core/finding/expected.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

constexpr int points = 200;

std::vector<double> gridUpTo(double topMhz) {
    std::vector<double> out;
    out.reserve(points);
    for (int i = 0; i < points; ++i)
        out.push_back(std::pow(topMhz, static_cast<double>(i) / (points - 1)));
    return out;
}

Working workingOf(const Expected& out, const LinkParts& link) {
    Working w;
    w.title =
        sentence({"expected.title", "Expected of the channel, against class {0}"}, out.className);
    w.formula = sentence(
        {"expected.formula",
         "NEXT = ⊕(NEXT100 − 10·log((1 − 10^(−{0}·IL))/(1 − 10^(−{0}·IL100))); n×connection); "
         "ACR-F = ⊕(ACR-F100 − 10·log(ℓ/100); n×connection); ACR-N = NEXT − IL"},
        asNumber(0.2, 1));
    const auto run = sentence({"source.run", "the run"});
    w.inputs.push_back({sentence({"input.cable", "cable"}), alone(asTerm(link.cable->name)),
                        cited(link.cable->attenuation.k1Db.source)});
    w.inputs.push_back({sentence({"input.length", "length with cords"}),
                        alone(asMetres(link.fixedLengthM() + link.cordLengthM())), run});
    w.inputs.push_back({sentence({"input.connections", "connections"}),
                        alone(asCount(link.connections.size())), run});
    for (const auto& r : out.results)
        w.steps.push_back(sentence({"expected.step", "{0}: {1} at {2}, limit {3}, margin {4}"},
                                   asTerm(parameterName(r.parameter)),
                                   asUnit(r.expected, 1, r.unit), asMegahertz(r.atMhz),
                                   asNumber(r.limit, 1), asNumber(r.margin, 1)));
    w.result = out.noCrosstalk.empty() ? sentence({"expected.result", "an expectation, no proof"})
                                       : out.noCrosstalk;
    return w;
}

} // namespace

Expected expectedOf(const Job& job, const Run& run, const Catalogue& catalogue) {
    Expected out;
    const LinkParts link = linkOf(run, catalogue, LinkKind::Channel, nullptr);
    if (link.cable == nullptr || link.cable->kind != CableKind::Balanced)
        return out;
    const auto lowest = lowestCategory(link);
    out.className = lowest ? className(job.info.limitSet, *lowest) : std::string();
    const auto lines = classLines(catalogue, job.info.limitSet, out.className, LinkKind::Channel,
                                  link.cable->topMhz.value);
    double top = 0;
    for (const auto& line : lines)
        top = std::max(top, line.limit.toMhz());
    if (top <= 1)
        return out;
    const auto grid = gridUpTo(top);
    const BalancedPrediction p =
        predictBalanced(link, connectionsAt(run, End::Near), catalogue, grid);
    out.delayUs = p.delayUs;
    out.loopOhm = p.loopOhm;
    out.noCrosstalk = p.noCrosstalk;
    std::vector<Trace> traces;
    const auto add = [&](Parameter parameter, const std::vector<double>& values) {
        if (!values.empty())
            traces.push_back({parameter, "", false, grid, values, "dB"});
    };
    add(Parameter::InsertionLoss, p.lossDb);
    add(Parameter::ReturnLoss, p.returnLossDb);
    add(Parameter::Next, p.nextDb);
    add(Parameter::PsNext, p.psNextDb);
    add(Parameter::AcrN, p.acrNDb);
    add(Parameter::AcrF, p.acrFDb);
    add(Parameter::PsAcrF, p.psAcrFDb);
    // Not swept, and judged as it stands: the most the parts' own limits let two pairs differ.
    if (p.skewNs)
        traces.push_back({Parameter::Skew, "", false, {1}, {*p.skewNs}, "ns"});
    out.lines = lines;
    for (const auto& r : judge(traces, lines, Accuracy{}, forInformation(job.info.limitSet, true)))
        if (r.points > 0)
            out.results.push_back(
                {r.parameter, r.unit, r.marginWorst, r.atMhz, r.measured, r.limit});
    std::erase_if(traces, [](const Trace& t) { return t.frequencyMhz.size() < 2; });
    out.traces = std::move(traces);
    out.working = workingOf(out, link);
    return out;
}

const Trace* Expected::trace(Parameter parameter) const {
    const auto it = std::find_if(traces.begin(), traces.end(),
                                 [&](const Trace& t) { return t.parameter == parameter; });
    return it == traces.end() ? nullptr : &*it;
}
const ExpectedResult* Expected::result(Parameter parameter) const {
    const auto it = std::find_if(results.begin(), results.end(),
                                 [&](const ExpectedResult& r) { return r.parameter == parameter; });
    return it == results.end() ? nullptr : &*it;
}

} // namespace burin
