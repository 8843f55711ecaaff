#include "core/finding/alternatives.h"
#include "core/bus/bus.h"
#include "core/coax/tree.h"
#include "core/connector/fit.h"
#include "core/finding/trial.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
Run withConnectionsFor(Run run, const Catalogue& catalogue, const Cable& cable) {
    if (cable.kind == CableKind::Coax) {
        const Service* service = catalogue.service(run.serviceId);
        const double top = topMhzOf(run, cable, service);
        for (auto& c : run.connections) {
            const auto* now = catalogue.connection(c.connectionId);
            if (now != nullptr && fits(findFit({&cable, now, top, c.outdoors})))
                continue;
            const auto choices = connectorChoices(cable, top, c.outdoors, catalogue);
            if (!choices.empty() && choices.front().fits)
                c.connectionId = choices.front().connection->id;
        }
        return run;
    }
    const Connection* own = usualConnection(catalogue, cable);
    for (auto& c : run.connections) {
        const auto* now = catalogue.connection(c.connectionId);
        const bool bare = now != nullptr && cable.screen != Screen::None && !now->screened &&
                          now->category != Category::None;
        if (own != nullptr && (now == nullptr || now->category < own->category || bare))
            c.connectionId = own->id;
    }
    return run;
}

Run withCordsFor(Run run, const Cable& cable, const Catalogue& catalogue) {
    if (cable.kind == CableKind::Coax)
        return run;
    for (auto& c : run.cords) {
        const auto* now = catalogue.cable(c.cableId);
        const bool bare =
            now != nullptr && cable.screen != Screen::None && now->screen == Screen::None;
        if (now == nullptr || now->category < cable.category || bare)
            c.cableId = cable.id;
    }
    return run;
}

Run rebuilt(const Run& run, const Catalogue& catalogue, const Cable& cable) {
    Run out = withCordsFor(withConnectionsFor(run, catalogue, cable), cable, catalogue);
    out.cableId = cable.id;
    return out;
}

namespace {

/// The level at the run's head in the unit of another service; none where it is of another kind.
std::optional<double> headLevelFor(const Run& run, const Service* own, const Service& other) {
    if (!run.headLevel || !other.levelWindow || own == nullptr || !own->levelWindow)
        return run.headLevel;
    const std::string& from = own->levelWindow->unit;
    const std::string& to = other.levelWindow->unit;
    if (from == to)
        return run.headLevel;
    if (from == "dBµV" && to == "dBmV")
        return *run.headLevel - 60;
    if (from == "dBmV" && to == "dBµV")
        return *run.headLevel + 60;
    return std::nullopt;
}

} // namespace

void setReaches(RunFinding& out, const JobInfo& info, const Run& run, const Catalogue& catalogue,
                const Cable& cable) {
    for (const auto& service : catalogue.services) {
        if (std::find(service.kinds.begin(), service.kinds.end(), cable.kind) ==
            service.kinds.end())
            continue;
        ServiceReach entry{service.id, service.name, {}, service.id == run.serviceId};
        if (entry.wanted) {
            entry.reach = out.reach;
        } else {
            ReachQuestion question = questionOf(run, info, catalogue, service, nullptr);
            question.headLevel = headLevelFor(run, catalogue.service(run.serviceId), service);
            entry.reach = findReach(question, catalogue);
        }
        if (entry.reach.reachM || entry.wanted)
            out.reaches.push_back(std::move(entry));
    }
}

Cure cureBy(CureOf of, const Job& job, const Run& other, const Run& run,
            const Catalogue& catalogue) {
    Cure out;
    out.of = of;
    const Trial trial = tryRun(job, other, catalogue);
    out.holds = trial.holds;
    out.reason = trial.reason;
    out.reach = trial.reach;
    if (trial.reach.reachM)
        out.spareM = *trial.reach.reachM - run.lengthM();
    if (other.cords != run.cords)
        out.cords = other.cords;
    if (other.connections != run.connections)
        out.connections = other.connections;
    return out;
}

namespace {

/// A run of its own that gets too much or too little from its head: what a part ahead of it would
/// do, as for a distribution of one outlet.
std::optional<Cure> levelCure(const Run& run, const Catalogue& catalogue, const Service& service,
                              const LinkParts& link) {
    if (!service.levelWindow || !run.headLevel)
        return std::nullopt;
    const auto& window = *service.levelWindow;
    if (!(window.toMhz > window.fromMhz))
        return std::nullopt;
    Tree tree;
    tree.levelDb = *run.headLevel;
    tree.fromMhz = window.fromMhz;
    tree.toMhz = window.toMhz;
    tree.least = window.min;
    tree.most = window.max;
    tree.oneReceiverACable = service.oneReceiverACable;
    tree.channels = 1;
    // Levels of other units are as far apart, but an amplifier's own figures are in dBµV.
    const double offset = window.unit == "dBmV" ? 60 : 0;
    tree.levelDb += offset;
    tree.least += offset;
    tree.most += offset;
    TreeNode outlet;
    outlet.id = run.label;
    outlet.feed = link;
    outlet.unit.part = TreePart::Outlet;
    tree.nodes = {outlet};
    auto proposal = proposeTree(tree, catalogue);
    if (!proposal || !proposal->possible || proposal->changes.empty() ||
        std::any_of(proposal->changes.begin(), proposal->changes.end(),
                    [](const auto& c) { return c.kind == TreeChange::Kind::Cable; }))
        return std::nullopt; // another cable is among the cures by itself
    Cure out;
    out.of = CureOf::Part;
    out.title = proposal->reason;
    out.reason = sentence({"cure.level", "its outlet is then in its window at every frequency"});
    out.cost = proposal->cost;
    out.holds = true;
    return out;
}

} // namespace

std::vector<Cure> curesOf(const Job& job, const Run& run, const Catalogue& catalogue) {
    std::vector<Cure> out;
    const Service* service = catalogue.service(run.serviceId);
    const Cable* now = catalogue.cable(run.cableId);
    if (service == nullptr || now == nullptr || !(run.lengthM() > 0))
        return out;
    const double length = run.lengthM();
    const bool pulled = job.isMeasured(run.id);
    for (const auto& cable : catalogue.cables) {
        if (cable.id == now->id || cable.kind != now->kind || !cable.isProposedFor(service->id) ||
            std::find(service->kinds.begin(), service->kinds.end(), cable.kind) ==
                service->kinds.end())
            continue;
        Cure cure = cureBy(CureOf::Cable, job, rebuilt(run, catalogue, cable), run, catalogue);
        if (service->bus && std::abs(cable.impedanceOhm.value / busOhm - 1) > 0.1)
            continue; // short and quiet at best
        // What cannot serve at any length is no change worth showing.
        if (cure.reach.boundBy == Bound::Impedance || cure.reach.boundBy == Bound::Unsuitable ||
            (!cure.reach.reachM && !cure.holds))
            continue;
        cure.title = alone(asTerm(cable.name));
        cure.cableId = cable.id;
        cure.cost = cableCost(catalogue.costs, *now, cable, length, pulled);
        out.push_back(std::move(cure));
    }
    if (service->cablePerDirectionM && !run.perDirection && now->screen != Screen::Pairs &&
        now->kind == CableKind::Balanced) {
        Run other = run;
        other.perDirection = true;
        Cure cure = cureBy(CureOf::Direction, job, other, run, catalogue);
        if (cure.reach.reachM) {
            cure.title = sentence({"cure.per-direction", "A cable of its own for each direction"});
            cure.perDirection = true;
            cure.cost = cableCost(catalogue.costs, *now, *now, length, true);
            out.push_back(std::move(cure));
        }
    }
    if (!tryRun(job, run, catalogue).holds) {
        if (job.distributionOf(run.id) == nullptr)
            if (auto cure = levelCure(run, catalogue, *service,
                                      linkOf(run, catalogue, LinkKind::Channel, nullptr)))
                out.push_back(std::move(*cure));
        for (auto& cure : partCures(job, run, catalogue))
            out.push_back(std::move(cure));
    }
    rank(out, catalogue.costs);
    return out;
}

void rank(std::vector<Cure>& cures, const Costs& costs) {
    std::stable_sort(cures.begin(), cures.end(), [&](const Cure& a, const Cure& b) {
        if (a.holds != b.holds)
            return a.holds;
        return a.holds ? a.cost.total(costs) < b.cost.total(costs) : a.spareM > b.spareM;
    });
}

Run cured(Run run, const Cure& cure) {
    if (!cure.cableId.empty())
        run.cableId = cure.cableId;
    run.perDirection = run.perDirection || cure.perDirection;
    if (!cure.cords.empty())
        run.cords = cure.cords;
    if (!cure.connections.empty())
        run.connections = cure.connections;
    if (cure.neighbours)
        for (auto& stretch : run.stretches)
            stretch.neighbours = std::min(stretch.neighbours, *cure.neighbours);
    if (cure.vias)
        run.vias = *cure.vias;
    if (cure.near)
        run.near = *cure.near;
    return run;
}

} // namespace burin
