#include "core/finding/feedline_finding.h"
#include "core/units/units.h"

namespace burin {

std::optional<FeedlineQuestion> feedlineOf(const Run& run, const Catalogue& catalogue) {
    const Service* service = catalogue.service(run.serviceId);
    const Cable* cable = catalogue.cable(run.cableId);
    if (service == nullptr || !service->lossBudget || cable == nullptr || !run.bandToMhz ||
        !run.powerW)
        return std::nullopt;
    FeedlineQuestion q;
    q.link = linkOf(run, catalogue, LinkKind::Channel, nullptr);
    q.frequencyMhz = *run.bandToMhz;
    q.powerW = *run.powerW;
    q.loadRatio = run.loadRatio.value_or(1);
    q.impedanceOhm = cable->impedanceOhm.value;
    return q;
}

Working feedlineWorking(const FeedlineQuestion& q, const FeedlineFinding& f,
                        const Catalogue& catalogue) {
    Working w;
    w.title = "Power at the aerial";
    w.formula = "L = 10·log((a² − |Γ|²)/(a·(1 − |Γ|²))), a = 10^(ML/10), |Γ| = (SWR − 1)/(SWR + 1)";
    const LossParts parts = linkLoss(q.link, catalogue, q.frequencyMhz);
    w.inputs = {{"power into the line", formatFixed(q.powerW, 1) + " W", "the run"},
                {"frequency", formatMhz(q.frequencyMhz), "top of the run's band"},
                {"SWR at the aerial", formatFixed(q.loadRatio, 2), "the run"},
                {"cable", q.link.cable->name, q.link.cable->attenuation.k1Db.source},
                {"cable, with warmth", formatFixed(parts.cableDb + parts.warmthDb, 2) + " dB",
                 "attenuation × length"},
                {"connections", formatFixed(parts.connectionsDb, 2) + " dB", "the catalogue"}};
    w.steps = {"matched loss ML = " + formatFixed(f.matchedLossDb, 2) + " dB",
               "with the standing wave L = " + formatFixed(f.lossDb, 2) + " dB",
               "SWR at the radio = (1 + |Γ|/a)/(1 − |Γ|/a) = " + formatFixed(f.radioRatio, 2),
               "peak volts √(2·P·Z0·SWR) = " + formatFixed(f.peakV, 1) + " V"};
    w.result = formatFixed(f.powerAtAerialW, 2) + " W at the aerial";
    return w;
}

} // namespace burin
