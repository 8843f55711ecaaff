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
    w.title = sentence({"feedline.title", "Power at the aerial"});
    w.formula =
        symbol("L = 10·log((a² − |Γ|²)/(a·(1 − |Γ|²))), a = 10^(ML/10), |Γ| = (SWR − 1)/(SWR + 1)");
    const LossParts parts = linkLoss(q.link, catalogue, q.frequencyMhz);
    const auto run = sentence({"source.run", "the run"});
    w.inputs = {
        {sentence({"input.power", "power into the line"}), alone(asUnit(q.powerW, 1, "W")), run},
        {sentence({"input.frequency", "frequency"}), alone(asMegahertz(q.frequencyMhz)),
         sentence({"feedline.top", "top of the run's band"})},
        {sentence({"input.swr", "SWR at the aerial"}), alone(asNumber(q.loadRatio, 2)), run},
        {sentence({"input.cable", "cable"}), alone(asTerm(q.link.cable->name)),
         cited(q.link.cable->attenuation.k1Db.source)},
        {sentence({"input.warm-cable", "cable, with warmth"}),
         alone(asDecibel(parts.cableDb + parts.warmthDb, 2)),
         sentence({"feedline.product", "attenuation × length"})},
        {sentence({"input.connections", "connections"}), alone(asDecibel(parts.connectionsDb, 2)),
         sentence({"source.catalogue", "the catalogue"})}};
    w.steps = {
        sentence({"feedline.matched", "matched loss ML = {0}"}, asDecibel(f.matchedLossDb, 2)),
        sentence({"feedline.loss", "with the standing wave L = {0}"}, asDecibel(f.lossDb, 2)),
        sentence({"feedline.radio", "SWR at the radio = (1 + |Γ|/a)/(1 − |Γ|/a) = {0}"},
                 asNumber(f.radioRatio, 2)),
        sentence({"feedline.volts", "peak volts √(2·P·Z0·SWR) = {0}"}, asVolt(f.peakV))};
    w.result = sentence({"feedline.result", "{0} at the aerial"}, asUnit(f.powerAtAerialW, 2, "W"));
    return w;
}

} // namespace burin
