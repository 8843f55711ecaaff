#include "core/finding/bus_cures.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {

Bus busOf(const SystemReads& job, const BusChain& chain, const Catalogue& catalogue,
          std::vector<Fault>& faults) {
    Bus out;
    out.riseNs = chain.riseNs;
    out.bitRateKbit = chain.bitRateKbit;
    for (std::size_t i = 0; i < chain.devices.size(); ++i) {
        const auto& device = chain.devices[i];
        BusNode node;
        node.name = device.name;
        node.stubM = device.stubM;
        node.unitLoads = device.unitLoads;
        node.picofarad = device.picofarad;
        node.terminatorOhm = device.terminatorOhm;
        const Run* run =
            job.run(i == 0 && chain.devices.size() > 1 ? chain.devices[1].runId : device.runId);
        const Cable* cable = run != nullptr ? catalogue.cable(run->cableId) : nullptr;
        if (cable == nullptr) {
            faults.push_back(
                {sentence({"where.bus", "bus {0}"}, chain.name),
                 0,
                 0,
                 sentence({"bus.cable-unknown", "the cable to {0} is not known"}, device.name),
                 {"cure.choose-cable-of-run", "Choose the cable of its run"}});
            return out;
        }
        node.line = node.stubLine = lineOf(*cable, catalogue.temperature);
        node.lengthM = i == 0 ? 0 : run->lengthM();
        node.solidInScrews = device.screwTerminals && !cable->stranded;
        out.nodes.push_back(std::move(node));
    }
    return out;
}

namespace {

double supplyLoopOhm(const Run& run, const BusChain& chain, const Catalogue& catalogue) {
    const Cable& cable = *catalogue.cable(run.cableId);
    // 0: no conductors of their own, so pairs of the bus cable.
    const double awg = chain.supplyAwg.value_or(cable.supplyAwg ? cable.supplyAwg->value : 0);
    double ohm = 0;
    for (const auto& s : linkOf(run, catalogue, LinkKind::Channel, nullptr).stretches) {
        const double warm = 1 + catalogue.temperature.copperPerDegree.value * (s.temperatureC - 20);
        ohm += s.lengthM * (awg > 0 ? 2 * wireOhmPerM(awg) * warm
                                    : loopOhmPerM(cable, catalogue.temperature, s.temperatureC));
    }
    return ohm / chain.supplyPairs;
}

} // namespace

Outcome<SupplyFinding> supplyOf(const SystemReads& job, const BusChain& chain,
                                const Catalogue& catalogue, std::vector<std::size_t>& loaded) {
    SupplyLine line;
    line.supplyV = chain.supplyV;
    line.toleranceShare = chain.supplyToleranceShare;
    line.loopOhmPerM = 1; // places are ohms of loop: stretches may differ in cable
    double ohm = 0;
    loaded.clear();
    for (std::size_t i = 0; i < chain.devices.size(); ++i) {
        const auto& device = chain.devices[i];
        if (i > 0)
            ohm += supplyLoopOhm(*job.run(device.runId), chain, catalogue);
        const double ampere = device.ampere + device.strikeAmpere;
        if (ampere <= 0)
            continue;
        SupplyLoad load;
        load.name = device.name;
        load.atM = ohm;
        load.ampere = ampere;
        load.leastV = device.leastV;
        load.mostV = device.mostV;
        line.loads.push_back(load);
        loaded.push_back(i);
    }
    if (line.loads.empty())
        return SupplyFinding{};
    return findSupply(line);
}

namespace {

void findVolts(const SystemReads& job, const BusChain& chain, const Catalogue& catalogue,
               BusChainFinding& out) {
    std::vector<std::size_t> loaded;
    const auto supply = supplyOf(job, chain, catalogue, loaded);
    if (!supply) {
        out.faults.push_back(supply.error());
        return;
    }
    out.delivered = supply->delivered;
    for (std::size_t k = 0; k < loaded.size(); ++k) {
        const std::size_t i = loaded[k];
        SupplyPoint point = supply->points[k];
        point.atM = out.wave.points[i].atM;
        out.supply[i] = point;
        const auto& device = chain.devices[i];
        if (!point.enough)
            out.reasons[i].push_back(sentence({"bus.few-volts", "{0} arrive, {1} are needed"},
                                              asVolt(point.volt, 2), asVolt(device.leastV, 2)));
        if (point.tooMuch)
            out.reasons[i].push_back(
                sentence({"bus.many-volts", "the supply at its highest gives it more than {0}"},
                         asVolt(*device.mostV)));
    }
}

} // namespace

bool BusChainFinding::fits(const BusChain& chain) const {
    return faults.empty() && wave.points.size() == runIds.size() &&
           std::equal(runIds.begin(), runIds.end(), chain.devices.begin(), chain.devices.end(),
                      [](const auto& runId, const auto& device) { return runId == device.runId; });
}

std::optional<std::size_t> BusChainFinding::deviceAt(std::string_view runId) const {
    const auto it = std::find(runIds.begin(), runIds.end(), runId);
    return it == runIds.end() || runId.empty() ? std::nullopt
                                               : std::optional<std::size_t>(it - runIds.begin());
}

BusChainFinding findBusChain(const Job& job, const BusChain& chain, const Catalogue& catalogue,
                             Propose propose) {
    return findBusChain(JobReads(job).of(chain), chain, catalogue, propose);
}

BusChainFinding findBusChain(const SystemReads& job, const BusChain& chain,
                             const Catalogue& catalogue, Propose propose) {
    BusChainFinding out;
    out.id = chain.id;
    out.name = chain.name;
    for (const auto& device : chain.devices)
        out.runIds.push_back(device.runId);
    out.bus = busOf(job, chain, catalogue, out.faults);
    if (!out.faults.empty())
        return out;
    auto wave = findBus(out.bus);
    if (!wave) {
        out.faults.push_back(wave.error());
        return out;
    }
    out.wave = std::move(*wave);
    const std::size_t n = chain.devices.size();
    out.supply.resize(n);
    out.reasons.resize(n);
    for (std::size_t i = 0; i < n; ++i)
        out.reasons[i] = out.wave.points[i].reasons;
    if (chain.supplyV > 0)
        findVolts(job, chain, catalogue, out);
    out.notes = out.wave.notes;
    out.good = out.faults.empty() && out.delivered &&
               std::all_of(out.reasons.begin(), out.reasons.end(),
                           [](const auto& reasons) { return reasons.empty(); });
    if (!out.good && out.faults.empty() && propose == Propose::Yes)
        out.cures = busCures(job, chain, catalogue);
    return out;
}

Working busWorking(const BusChainFinding& f, std::size_t device) {
    Working w;
    if (device >= f.wave.points.size())
        return w;
    const auto& point = f.wave.points[device];
    const auto& node = f.bus.nodes[device];
    w.title = sentence({"edge.title", "Edge and supply at {0}"}, point.name);
    w.formula = sentence({"edge.formula",
                          "V(s) from the chain seen to both sides of the driver, γ and Z0 of each "
                          "cable, inverse Laplace transform by Fourier series; volts = supply − Σ "
                          "I·R"});
    const auto bus = sentence({"source.bus", "the bus"});
    w.inputs = {
        {sentence({"input.driver", "driver"}),
         sentence({"edge.driver", "{0}, {1}, {2}"}, f.bus.nodes[f.bus.driver].name,
                  asVolt(f.bus.driverV), asOhm(f.bus.sourceOhm)),
         cited("TIA-485-A")},
        {sentence({"input.edge", "edge"}), alone(asUnit(f.bus.riseNs, 0, "ns")), bus},
        {sentence({"input.bit", "bit"}), alone(asUnit(1e6 / f.bus.bitRateKbit, 0, "ns")), bus},
        {sentence({"input.cable", "cable"}),
         sentence({"edge.cable", "{0} at {1}"}, asOhm(node.line.impedanceOhm), asMegahertz(100)),
         sentence({"source.run", "the run"})},
        {sentence({"input.distance", "distance"}), alone(asMetres(point.atM)),
         sentence({"source.runs", "the runs"})}};
    w.steps = {
        sentence({"edge.settles", "settles at {0}"}, asVolt(point.finalV, 2)),
        sentence({"edge.overshoots", "overshoots by {0}"}, asVolt(point.overshootV, 2)),
        sentence({"edge.falls", "falls again to {0}, threshold {1}"}, asVolt(point.ringBackV, 2),
                 asVolt(f.bus.thresholdV, 2)),
        sentence({"edge.within", "within a tenth after {0}"}, asUnit(point.settleNs, 0, "ns"))};
    if (f.supply[device])
        w.steps.push_back(
            sentence({"edge.supply", "{0} of supply at {1}, with the supply at its lowest"},
                     asVolt(f.supply[device]->volt, 2), asUnit(f.supply[device]->ampere, 3, "A")));
    w.result =
        f.reasons[device].empty() ? sentence({"edge.good", "good"}) : f.reasons[device].front();
    return w;
}

void overlay(RunFinding& run, const BusChainFinding& f) {
    const auto place = f.deviceAt(run.runId);
    if (!place)
        return;
    if (unanswered(run, f.faults))
        return;
    if (run.unfit)
        return;
    const std::size_t at = *place;
    run.outlook = f.reasons[at].empty() ? Outlook::Holds : Outlook::Fails;
    if (!f.reasons[at].empty()) {
        run.outlookReason = f.cures.empty() ? f.reasons[at].front()
                                            : sentence({"bus.cured", "{0}. Would hold with {1}"},
                                                       f.reasons[at].front(), f.cures.front().what);
        return;
    }
    const auto& point = f.wave.points[at];
    run.outlookReason =
        sentence({"bus.settles", "settles at {0} within {1} at {2}"}, asVolt(point.finalV, 2),
                 asUnit(point.settleNs, 0, "ns"), point.name);
    if (f.supply[at])
        run.outlookReason =
            joined({std::move(run.outlookReason),
                    sentence({"bus.supply", "{0} of supply"}, asVolt(f.supply[at]->volt))});
}

} // namespace burin
