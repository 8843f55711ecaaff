#include "core/edit/pull_edit.h"
#include "core/base/ids.h"
#include "core/pull/stock.h"
#include "core/units/render.h"
#include <algorithm>

namespace burin {
namespace {

constexpr Wording runWord{"pull.run", "run {0}"};
constexpr Wording isPulled{"pull.is-pulled", "it is pulled already"};
constexpr Wording takeMarks{"pull.take-marks", "Take its marks away first if that is wrong"};

/// The row of a pull, made where there is none.
const Pull* rowOf(const Job& job, const PullOf& pull) {
    return pull.id.empty() ? nullptr : byId(job.pulls, pull.id);
}
/// Keeps a pull together: its row, and every run of it in it. Runs change after their row is there.
struct KeptPull {
    Pull row;
    std::optional<Pull> before;
    std::vector<std::pair<Run, Run>> runs; ///< before and after
};
KeptPull keep(const Job& job, const PullOf& pull) {
    KeptPull out;
    if (const Pull* row = rowOf(job, pull)) {
        out.row = *row;
        out.before = *row;
    } else {
        out.row.id = newId();
    }
    for (const auto& id : pull.runIds)
        if (const Run* run = job.run(id)) {
            Run after = *run;
            after.pullId = out.row.id;
            out.runs.emplace_back(*run, std::move(after));
        }
    return out;
}
Edit editOf(std::string title, const KeptPull& kept) {
    Edit out{std::move(title), {}};
    if (!kept.before || !(*kept.before == kept.row))
        out.changes.push_back(put(kept.before, std::optional(kept.row)));
    for (const auto& [before, after] : kept.runs)
        if (!(before == after))
            out.changes.push_back(put(std::optional(before), std::optional(after)));
    return out;
}
tl::unexpected<Fault> alreadyPulled(const Run& run) {
    return refuse(sentence(runWord, asText(run.label)), sentence(isPulled), sentence(takeMarks));
}
const Run* pulledOne(const Job& job, const PullOf& pull) {
    for (const auto& id : pull.runIds)
        if (const Run* run = job.run(id); run != nullptr && run->piece.isPulled())
            return run;
    return nullptr;
}

} // namespace

Edit markedEdit(const Job& job, const PullOf& pull, const std::string& runId,
                const TypedMarks& marks) {
    KeptPull kept = keep(job, pull);
    std::string label;
    for (std::size_t i = 0; i < pull.runIds.size() && i < pull.boxIds.size(); ++i)
        for (auto& [before, after] : kept.runs)
            if (before.id == pull.runIds[i] && after.piece.boxId.empty())
                after.piece.boxId = pull.boxIds[i];
    for (auto& [before, after] : kept.runs)
        if (before.id == runId) {
            label = before.label;
            after.piece.boxId = marks.boxId;
            after.piece.startMark = marks.start;
            after.piece.endMark = marks.end;
            after.piece.pulledOn = after.piece.isPulled() ? marks.on : std::string();
        }
    return editOf("marks of " + label, kept);
}

Outcome<Edit> movedToPull(const Job& job, const std::string& runId, const PullOf& to) {
    const Run* run = job.run(runId);
    if (run == nullptr)
        return Edit{};
    if (run->piece.isPulled())
        return alreadyPulled(*run);
    PullOf with = to;
    with.runIds.push_back(runId);
    return editOf("pull of " + run->label, keep(job, with));
}

Outcome<Edit> joinedPulls(const Job& job, const PullOf& a, const PullOf& b) {
    for (const PullOf* pull : {&a, &b})
        if (const Run* run = pulledOne(job, *pull))
            return alreadyPulled(*run);
    PullOf both = a;
    both.runIds.insert(both.runIds.end(), b.runIds.begin(), b.runIds.end());
    both.boxIds.clear(); // which of them would do is planned anew
    return editOf("join two pulls", keep(job, both));
}

Edit orderedPulls(const Job& job, const std::vector<PullOf>& inOrder) {
    Edit out{"order of pulls", {}};
    int order = -static_cast<int>(inOrder.size());
    for (const auto& pull : inOrder) {
        KeptPull kept = keep(job, pull);
        kept.row.order = order++;
        out.changes.push_back(editOf({}, kept).changes);
    }
    return out;
}

Edit changedPull(const Job& job, const PullOf& pull, const std::string& title,
                 const std::function<void(Pull&)>& change) {
    KeptPull kept = keep(job, pull);
    change(kept.row);
    return editOf(title, kept);
}

Edit releasedPull(const Job& job, const PullOf& pull) {
    Edit out{"plan the pull anew", {}};
    for (const auto& id : pull.runIds)
        if (const Run* run = job.run(id); run != nullptr && !run->pullId.empty()) {
            if (hasMarks(*run))
                continue; // somebody stands at it
            Run after = *run;
            after.pullId.clear();
            after.piece = {};
            out.changes.push_back(put(std::optional(*run), std::optional(after)));
        }
    return out;
}

} // namespace burin
