#include "core/finding/end_finding.h"
#include "core/finding/run_finding.h"

namespace burin {

EndFinding findEnd(const Run& run, End end, const Catalogue& catalogue) {
    EndFinding out;
    const Cable* cable = catalogue.cable(run.cableId);
    if (cable == nullptr)
        return out;
    if (const std::size_t at = connectorAt(run, end, catalogue); at < run.connections.size()) {
        out.row = &run.connections[at];
        out.outdoors = out.row->outdoors;
    }
    const Connection* connection = connectorFor(run, end, catalogue);
    if (connection == nullptr)
        out.card.cable = cable;
    else
        out.card = findCard(*connection, *cable, catalogue,
                            topMhzOf(run, *cable, catalogue.service(run.serviceId)), out.outdoors);
    return out;
}

} // namespace burin
