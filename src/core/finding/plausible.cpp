#include "core/finding/plausible.h"
#include "core/measure/judge.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

double median(std::vector<double> values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

struct Estimate {
    double lengthM = 0, plusMinusM = 0;
};

/// What one trace says of the length of the fixed cable; none where it says nothing.
std::optional<Estimate> estimateOf(const Trace& trace, const LinkParts& link,
                                   const Catalogue& catalogue, const Accuracy& accuracy) {
    const double plannedM = link.fixedLengthM();
    const auto& f = trace.frequencyMhz;
    std::vector<double> lengths;
    std::vector<double> doubts;
    for (std::size_t k = f.size() / 2; k < f.size(); ++k) {
        if (f[k] < 0.1 || f[k] > link.cable->topMhz.value)
            continue;
        const LossParts parts = linkLoss(link, catalogue, f[k]);
        const double perM = (parts.cableDb + parts.warmthDb) / plannedM;
        const double band = accuracyOf(accuracy, Parameter::InsertionLoss, trace.value[k], f[k],
                                       link.cable->topMhz.value);
        if (!(perM > 0))
            continue;
        lengths.push_back((trace.value[k] - parts.cordsDb - parts.connectionsDb) / perM);
        doubts.push_back(band / perM);
    }
    if (lengths.empty())
        return std::nullopt;
    return Estimate{std::max(0.0, median(lengths)), median(doubts)};
}

} // namespace

Sentence OtherRun::said() const {
    return sentence({"other-run.looks-like", "looks like {0} of {1}; this run is {2}"},
                    asMetres(looksLikeM), asTerm(cable), asMetres(plannedM));
}

std::optional<OtherRun> looksLikeOther(const std::vector<Trace>& traces, const LinkParts& link,
                                       const Catalogue& catalogue, const Accuracy& accuracy) {
    const double plannedM = link.fixedLengthM();
    if (!(plannedM > 0))
        return std::nullopt;
    std::vector<Estimate> pairs;
    for (const auto& trace : traces)
        if (trace.parameter == Parameter::InsertionLoss && !trace.farEnd)
            if (const auto estimate = estimateOf(trace, link, catalogue, accuracy))
                pairs.push_back(*estimate);
    if (pairs.empty())
        return std::nullopt;
    const auto middle = pairs.begin() + static_cast<std::ptrdiff_t>(pairs.size() / 2);
    std::nth_element(pairs.begin(), middle, pairs.end(),
                     [](const Estimate& a, const Estimate& b) { return a.lengthM < b.lengthM; });
    const double may = std::max(mayDifferM, mayDifferShare * plannedM) + middle->plusMinusM;
    if (std::abs(middle->lengthM - plannedM) <= may)
        return std::nullopt;
    return OtherRun{middle->lengthM, plannedM, link.cable->name};
}

} // namespace burin
