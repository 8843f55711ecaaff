#include "core/finding/run_loss.h"
#include "core/finding/site_finding.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

class Steps {
public:
    Steps(const Run& run, const Catalogue& catalogue, double f)
        : run_(run), catalogue_(catalogue), f_(f), cable_(catalogue.cable(run.cableId)) {
        cords(End::Near);
        connections(End::Near);
        if (cable_ != nullptr)
            cable();
        connections(End::Far);
        cords(End::Far);
    }
    std::vector<LossStep> taken;

private:
    void cords(End end) {
        for (const auto& cord : run_.cords)
            if (const Cable* c = catalogue_.cable(cord.cableId); c != nullptr && cord.end == end) {
                const LinkCord part{c, cord.lengthM, cord.awg26};
                LossStep step{LossOf::Cords, asTerm(c->name), cord.lengthM};
                step.lossDb = cordLossDb(part, catalogue_.cord, f_);
                step.factor = cordFactor(part, catalogue_.cord);
                taken.push_back(std::move(step));
            }
    }
    void connection(const RunConnection& use) {
        if (const Connection* c = catalogue_.connection(use.connectionId)) {
            LossStep step{LossOf::Connections, asTerm(c->name)};
            step.lossDb = connectionLossDb(*c, f_);
            taken.push_back(std::move(step));
        }
    }
    void connections(End end) {
        for (const auto& use : run_.connections)
            if (use.end == end)
                connection(use);
    }
    void cable() {
        std::vector<const RunConnection*> couplers;
        for (const auto& use : run_.connections)
            if (use.end == End::Inline)
                couplers.push_back(&use);
        std::stable_sort(couplers.begin(), couplers.end(),
                         [](const auto* a, const auto* b) { return a->atM < b->atM; });
        auto next = couplers.begin();
        double at = 0;
        for (const auto& stretch : run_.stretches) {
            const double to = at + stretch.lengthM;
            double from = at;
            for (; next != couplers.end() && (*next)->atM < to; ++next) {
                lay(stretch, (*next)->atM - from);
                connection(**next);
                from = (*next)->atM;
            }
            lay(stretch, to - from);
            at = to;
        }
        for (; next != couplers.end(); ++next)
            connection(**next);
    }
    void lay(const RunStretch& stretch, double lengthM) {
        if (!(lengthM > 0))
            return;
        LossStep step{LossOf::Cable, stretchName(run_, stretch), lengthM, stretch.temperatureC};
        step.temperatureC = stretchTemperatureC(run_, stretch, *cable_, catalogue_);
        step.lossDb = lengthM / 100 *
                      attenuationDbPer100m(*cable_, catalogue_.temperature, f_, step.temperatureC);
        step.warmthDb = step.lossDb - lengthM / 100 * attenuationDbPer100m(*cable_, f_);
        taken.push_back(std::move(step));
    }

    const Run& run_;
    const Catalogue& catalogue_;
    double f_;
    const Cable* cable_;
};

Sentence said(const LossStep& step) {
    const auto db = asDecibel(step.lossDb, 2);
    const auto length = asMetres(step.lengthM);
    switch (step.of) {
    case LossOf::Cable:
        return std::abs(step.temperatureC - step.aroundC) > 0.5
                   ? sentence({"loss.warmed",
                               "{0}: {1} at {2} ({3} around it, warmed by its bundle) = {4}"},
                              step.name, length, asCelsius(step.temperatureC),
                              asCelsius(step.aroundC), db)
                   : sentence({"loss.stretch", "{0}: {1} at {2} = {3}"}, step.name, length,
                              asCelsius(step.temperatureC), db);
    case LossOf::Cords:
        return step.factor > 1
                   ? sentence({"loss.stranded-cord", "cord {0} {1}, stranded × {2} = {3}"},
                              step.name, length, asNumber(step.factor, 1), db)
                   : sentence({"loss.cord", "cord {0} {1} = {2}"}, step.name, length, db);
    case LossOf::Connections:
    case LossOf::Warmth:
        break;
    }
    return sentence({"loss.connection", "{0} = {1}"}, step.name, db);
}

} // namespace

std::vector<LossStep> lossSteps(const Run& run, const Catalogue& catalogue, double f) {
    return std::move(Steps(run, catalogue, f).taken);
}

RunningLoss runningLoss(const std::vector<LossStep>& steps) {
    RunningLoss out{{0}, {0}};
    for (const auto& step : steps) {
        out.atM.push_back(out.atM.back() + step.lengthM);
        out.lossDb.push_back(out.lossDb.back() + step.lossDb);
    }
    return out;
}

Working lossWorking(const Run& run, const Catalogue& catalogue, double f) {
    Working out;
    out.title = sentence({"loss.title", "Predicted loss of {0} at {1}"}, run.label, asMegahertz(f));
    const Cable* known = catalogue.cable(run.cableId);
    if (known == nullptr) {
        out.result = sentence({"loss.no-cable", "no cable is chosen"});
        return out;
    }
    const Cable& cable = *known;
    const auto& k = cable.attenuation;
    const bool balanced = cable.kind == CableKind::Balanced;
    out.formula =
        balanced ? sentence({"loss.formula-balanced",
                             "loss = Σ α(f)·kT·length/100 + Σ cords + Σ connections, "
                             "α = k1·√f + k2·f + k3/√f"})
                 : sentence({"loss.formula-coax", "loss = Σ α(f, T)·length/100 + Σ connections, "
                                                  "α = (k0 + k1·√f)·√(1 + {0}·(T − 20)) + k2·f"},
                            asNumber(0.00393, 5));
    const auto figure = [&](std::string_view name, const Figure& value, int places) {
        out.inputs.push_back(
            {symbol(name), alone(asNumber(value.value, places)), cited(value.source)});
    };
    if (!balanced)
        figure("k0", k.k0Db, 4);
    figure("k1", k.k1Db, 4);
    figure("k2", k.k2Db, 5);
    if (balanced)
        figure("k3", k.k3Db, 3);
    double totalDb = 0;
    for (const auto& step : lossSteps(run, catalogue, f)) {
        out.steps.push_back(said(step));
        totalDb += step.lossDb;
    }
    if (f > cable.topMhz.value * (1 + 1e-9))
        out.steps.push_back(
            sentence({"loss.extrapolated", "beyond the cable's band of {0}: an extrapolation"},
                     asMegahertz(cable.topMhz.value)));
    out.result = alone(asDecibel(totalDb, 2));
    return out;
}

} // namespace burin
