#include "core/finding/adopt_cure.h"
#include "core/base/lookup.h"
#include "core/edit/system_edit.h"
#include "core/finding/alternatives.h"
#include "core/finding/job_findings.h"
#include "core/units/render.h"

namespace burin {
namespace {

Edit adoptedBySystem(const Job& kept, const JobFindings& findings, const Cure& cure) {
    const Distribution* distribution = byId(kept.distributions, cure.systemId);
    const auto* levels = findings.distribution(cure.systemId);
    if (distribution != nullptr && levels != nullptr && levels->proposal &&
        levels->proposal->possible && levels->fits(*distribution))
        return adoption(kept, *distribution, *levels->proposal, levels->tree);
    const BusChain* bus = byId(kept.buses, cure.systemId);
    const auto* wave = findings.bus(cure.systemId);
    if (bus != nullptr && cure.bus && wave != nullptr && wave->fits(*bus))
        return {"adopt " + render(cure.title, UnitSystem::Metric) + " on " + bus->name,
                {put(std::optional(*bus), cure.bus)}};
    return {};
}

} // namespace

Edit adopted(const Job& kept, const JobFindings& findings, const std::string& runId,
             const Cure& cure) {
    if (cure.of == CureOf::System)
        return adoptedBySystem(kept, findings, cure);
    Edit edit{"adopt " + render(cure.title, UnitSystem::Metric), {}};
    if (const Run* run = kept.run(runId)) {
        edit.title += " of " + run->label;
        if (const Run then = cured(*run, cure); !(then == *run))
            edit.changes.push_back(put(std::optional(*run), std::optional(then)));
    }
    const Place* place = cure.place ? byId(kept.places, cure.place->id) : nullptr;
    if (place != nullptr) {
        Place then = *place;
        then.floorId = cure.place->floorId;
        then.at = cure.place->at;
        edit.changes.push_back(put(std::optional(*place), std::optional(then)));
    }
    return edit;
}

} // namespace burin
