#include "core/edit/end_edit.h"
#include "core/base/ids.h"
#include "core/base/lookup.h"
#include "core/connector/card.h"
#include <algorithm>

namespace burin {
namespace {

/// Its id; empty: there is none.
std::string idOf(const Connection* connection) {
    return connection == nullptr ? std::string() : connection->id;
}
void setConnector(Run& run, End end, const Catalogue& catalogue, const std::string& id) {
    const std::size_t at = connectorAt(run, end, catalogue);
    if (at < run.connections.size()) {
        run.connections[at].connectionId = id;
        return;
    }
    run.connections.push_back({end, id});
}

} // namespace

Edit adoptedConnector(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                      const std::string& connectionId) {
    Edit out;
    if (const Run* run = job.run(runId);
        run != nullptr && idOf(chosenConnector(*run, end, catalogue)) != connectionId) {
        Run after = *run;
        setConnector(after, end, catalogue, connectionId);
        out = Edit{"connector of " + run->label, put(std::optional(*run), std::optional(after))};
    }
    return out;
}

Edit adoptedAlike(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                  const std::string& connectionId, Alike where) {
    Edit out{"connector of all such ends", {}};
    const Run* like = job.run(runId);
    const Connection* now = catalogue.connection(connectionId);
    if (like == nullptr || now == nullptr || !now->fit)
        return out;
    for (const auto& run : job.runs) {
        const Connection* before = chosenConnector(run, end, catalogue);
        if (run.cableId != like->cableId || before == now ||
            (where == Alike::InRoom && run.roomId != like->roomId) ||
            (before != nullptr && before->fit->series != now->fit->series))
            continue;
        Run after = run;
        setConnector(after, end, catalogue, connectionId);
        out.changes.push_back(put(std::optional(run), std::optional(after)));
    }
    return out;
}

const Termination* lastWith(const Job& job, std::string_view connectionId) {
    const Termination* out = nullptr;
    for (const auto& row : job.terminations)
        if (row.connectionId == connectionId)
            out = &row;
    return out;
}

LastMade lastMade(const Job& job, const EndAt& at) {
    LastMade out;
    for (const auto& row : job.terminations)
        if (row.runId == at.runId && row.end == at.end)
            out.row = &row;
    return out;
}

namespace {

/// A row for an end of that run, as it is made or spoiled now.
Termination rowFor(const Job& job, const Catalogue& catalogue, const Run& run, End end,
                   const MadeWith& with, int entry) {
    Termination out;
    out.id = newId();
    out.runId = run.id;
    out.end = end;
    out.connectionId = idOf(connectorFor(run, end, catalogue));
    out.madeOn = with.on;
    out.madeBy = with.by;
    out.stripToolId = with.stripToolId;
    out.closeToolId = with.closeToolId;
    out.entry = entry;
    out.tests = nextEntry(job.measurements) - 1;
    return out;
}
std::string titleOf(const Job& job, const std::vector<EndAt>& ends, const char* what) {
    if (ends.size() != 1)
        return std::to_string(ends.size()) + " ends " + what;
    const Run* run = job.run(ends.front().runId);
    return std::string(endWords[ends.front().end]) + " end of " +
           (run == nullptr ? ends.front().runId : run->label) + " " + what;
}

} // namespace

Edit madeEnds(const Job& job, const Catalogue& catalogue, const std::vector<EndAt>& ends,
              const MadeWith& with) {
    Edit out{titleOf(job, ends, "made"), {}};
    int entry = nextEntry(job.terminations);
    for (const auto& at : ends) {
        const Run* run = job.run(at.runId);
        if (run == nullptr)
            continue;
        if (const LastMade last = lastMade(job, at); last.standing()) {
            Termination cutOff = *last.row;
            cutOff.spoiled = true;
            out.changes.push_back(put(std::optional(*last.row), std::optional(cutOff)));
        }
        out.changes.push_back(
            put<Termination>(std::nullopt, rowFor(job, catalogue, *run, at.end, with, entry++)));
    }
    return out;
}

Edit spoiledEnd(const Job& job, const Catalogue& catalogue, const EndAt& at, const MadeWith& with) {
    Edit out{titleOf(job, {at}, "spoiled"), {}};
    const Run* run = job.run(at.runId);
    if (run == nullptr)
        return out;
    const LastMade last = lastMade(job, at);
    Termination row = last.standing()
                          ? *last.row
                          : rowFor(job, catalogue, *run, at.end, with, nextEntry(job.terminations));
    row.spoiled = true;
    out.changes =
        put(last.standing() ? std::optional(*last.row) : std::nullopt, std::optional(row));
    return out;
}

Edit unmadeEnds(const Job& job, const std::vector<EndAt>& ends) {
    Edit out{titleOf(job, ends, "not made"), {}};
    for (const auto& at : ends)
        if (const LastMade last = lastMade(job, at); last.row != nullptr)
            out.changes.push_back(put(std::optional(*last.row), std::optional<Termination>()));
    return out;
}

Edit checkedEnd(const Job& job, const EndAt& at, const std::string& proofId,
                const std::optional<EndCheck>& found) {
    Edit out{titleOf(job, {at}, "checked"), {}};
    const LastMade last = lastMade(job, at);
    if (!last.standing())
        return out;
    Termination row = *last.row;
    std::erase_if(row.checks, [&](const EndCheck& one) { return one.proofId == proofId; });
    if (found) {
        row.checks.push_back(*found);
        row.checks.back().proofId = proofId;
    }
    // Whoever checks in another order says the same.
    std::sort(row.checks.begin(), row.checks.end(),
              [](const EndCheck& a, const EndCheck& b) { return a.proofId < b.proofId; });
    out.changes = put(std::optional(*last.row), std::optional(row));
    return out;
}

Edit photographedEnds(const Job& job, const std::vector<EndAt>& ends,
                      const Photograph& photograph) {
    Edit out{titleOf(job, ends, "photographed"), {}};
    out.changes = put<Photograph>(std::nullopt, photograph);
    for (const auto& at : ends)
        if (const LastMade last = lastMade(job, at); last.standing()) {
            Termination row = *last.row;
            row.photographId = photograph.id;
            out.changes.push_back(put(std::optional(*last.row), std::optional(row)));
        }
    return out;
}

Edit keptCard(const Job& job, const EndCard& card) {
    const UserCard* before = byId(job.cards, card.id);
    return {"card of " + card.name, put(before == nullptr ? std::nullopt : std::optional(*before),
                                        std::optional(UserCard{card.id, toText(card)}))};
}

} // namespace burin
