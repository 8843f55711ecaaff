#include "core/finding/alternatives.h"
#include "core/connector/fit.h"
#include "core/units/units.h"
#include <algorithm>
#include <set>

namespace burin {
namespace {

const Connection* connectionFor(const Catalogue& catalogue, const Cable& cable) {
    for (const auto& connection : catalogue.connections)
        if (connection.kind == CableKind::Balanced && connection.category == cable.category)
            return &connection;
    return nullptr;
}

} // namespace

Run rebuilt(const Run& run, const Catalogue& catalogue, const Cable& cable) {
    Run out = run;
    out.cableId = cable.id;
    if (cable.kind == CableKind::Coax)
        return out;
    const Connection* own = connectionFor(catalogue, cable);
    for (auto& c : out.connections) {
        const auto* now = catalogue.connection(c.connectionId);
        if (own != nullptr && (now == nullptr || now->category < own->category))
            c.connectionId = own->id;
    }
    for (auto& c : out.cords) {
        const auto* now = catalogue.cable(c.cableId);
        if (now == nullptr || now->category < cable.category)
            c.cableId = cable.id;
    }
    return out;
}

void setReaches(RunFinding& out, const Job& job, const Run& run, const Catalogue& catalogue,
                const Cable& cable) {
    for (const auto& service : catalogue.services) {
        if (std::find(service.kinds.begin(), service.kinds.end(), cable.kind) ==
            service.kinds.end())
            continue;
        ServiceReach entry{service.id, service.name, {}, service.id == run.serviceId};
        entry.reach =
            entry.wanted
                ? out.reach
                : findReach(questionOf(run, job.info, catalogue, service, nullptr), catalogue);
        if (entry.reach.reachM || entry.wanted)
            out.reaches.push_back(std::move(entry));
    }
}

void setCures(RunFinding& out, const Job& job, const Run& run, const Catalogue& catalogue,
              const Service& service, const Cable& now) {
    for (const auto& cable : catalogue.cables) {
        if (cable.id == now.id ||
            std::find(service.kinds.begin(), service.kinds.end(), cable.kind) ==
                service.kinds.end() ||
            (cable.kind != now.kind))
            continue;
        const Run other = rebuilt(run, catalogue, cable);
        Cure cure;
        cure.title = cable.name;
        cure.cableId = cable.id;
        if (other.cords != run.cords)
            cure.cords = other.cords;
        if (other.connections != run.connections)
            cure.connections = other.connections;
        cure.reach = findReach(questionOf(other, job.info, catalogue, service, nullptr), catalogue);
        // Another impedance is no cure for any length.
        if (!cure.reach.reachM || cure.reach.boundBy == Bound::Impedance)
            continue;
        cure.holds = cure.reach.holds(out.lengthM);
        cure.spareM = *cure.reach.reachM - out.lengthM;
        cure.reason = cure.reach.reason;
        out.cures.push_back(std::move(cure));
    }
    if (service.cablePerDirectionM && !run.perDirection && now.screen != Screen::Pairs &&
        now.kind == CableKind::Balanced) {
        Run other = run;
        other.perDirection = true;
        Cure cure;
        cure.title = "A cable of its own for each direction";
        cure.perDirection = true;
        cure.reach = findReach(questionOf(other, job.info, catalogue, service, nullptr), catalogue);
        if (cure.reach.reachM) {
            cure.holds = cure.reach.holds(out.lengthM);
            cure.spareM = *cure.reach.reachM - out.lengthM;
            cure.reason = cure.reach.reason;
            out.cures.push_back(std::move(cure));
        }
    }
    const double diameterNow = now.diameterMm ? now.diameterMm->value : 0;
    const auto cost = [&](const Cure& cure) {
        // Cheapest first: among what holds the thinnest and lowest, since the job's prices are
        // not known here.
        const Cable* cable = catalogue.cable(cure.cableId);
        if (cable == nullptr) // a second cable beside the one there is
            return 2 * diameterNow + static_cast<double>(now.category);
        return (cable->diameterMm ? cable->diameterMm->value : diameterNow) +
               static_cast<double>(cable->category);
    };
    std::stable_sort(out.cures.begin(), out.cures.end(), [&](const Cure& a, const Cure& b) {
        if (a.holds != b.holds)
            return a.holds;
        return a.holds ? cost(a) < cost(b) : a.spareM > b.spareM;
    });
}

void setNotes(RunFinding& out, const Run& run, const Catalogue& catalogue, const Cable& cable,
              const Service* service) {
    const double top = topMhzOf(run, cable, service);
    std::set<std::string> said;
    for (const auto& use : run.connections) {
        const Connection* connection = catalogue.connection(use.connectionId);
        for (const auto& point : findFit({&cable, connection, top, use.outdoors})) {
            std::string text =
                connection->name + " does not fit, " + point.what + ": " + point.reason;
            if (!point.good && said.insert(text).second)
                out.notes.push_back(std::move(text));
        }
    }
    if (service != nullptr && service->sharedCableM) {
        std::string pins;
        for (const auto& pair : service->pinPairs)
            pins += (pins.empty() ? "" : " and ") + pair;
        out.notes.push_back("pins " + pins +
                            " of a plain eight-way jack, without shorting bars; any screen earthed "
                            "at one end only");
        if (run.neighbours() > 0 && cable.screen != Screen::Pairs &&
            out.channelM > *service->sharedCableM)
            out.notes.push_back(
                "it lies beside " + std::to_string(run.neighbours()) +
                " other cables: individually screened pairs keep it apart from them as well");
    }
}

} // namespace burin
