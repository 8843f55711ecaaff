#include "core/edit/end_edit.h"
#include "core/base/ids.h"
#include "core/connector/card.h"
#include <algorithm>

namespace burin {
namespace {

std::string connectorOf(const Run& run, End end, const Catalogue& catalogue) {
    const std::size_t at = connectorAt(run, end, catalogue);
    return at < run.connections.size() ? run.connections[at].connectionId : std::string();
}
void setConnector(Run& run, End end, const Catalogue& catalogue, const std::string& id) {
    const std::size_t at = connectorAt(run, end, catalogue);
    if (at < run.connections.size()) {
        run.connections[at].connectionId = id;
        return;
    }
    RunConnection row;
    row.id = newId();
    row.end = end;
    row.connectionId = id;
    for (const auto& other : run.connections)
        row.order = std::max(row.order, other.order + 1);
    run.connections.push_back(std::move(row));
}

} // namespace

Edit adoptedConnector(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                      const std::string& connectionId) {
    Edit out;
    if (const Run* run = job.run(runId);
        run != nullptr && connectorOf(*run, end, catalogue) != connectionId) {
        Run after = *run;
        setConnector(after, end, catalogue, connectionId);
        out = Edit{"connector of " + run->label, put(std::optional(*run), std::optional(after))};
    }
    return out;
}

Edit adoptedAlike(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                  const std::string& connectionId) {
    Edit out{"connector of all such ends", {}};
    const Run* like = job.run(runId);
    const Connection* now = catalogue.connection(connectionId);
    if (like == nullptr || now == nullptr || !now->fit)
        return out;
    for (const auto& run : job.runs) {
        const std::string was = connectorOf(run, end, catalogue);
        const Connection* before = catalogue.connection(was);
        if (run.cableId != like->cableId || was == connectionId ||
            (before != nullptr && before->fit->series != now->fit->series))
            continue;
        Run after = run;
        setConnector(after, end, catalogue, connectionId);
        out.changes.push_back(put(std::optional(run), std::optional(after)));
    }
    return out;
}

} // namespace burin
