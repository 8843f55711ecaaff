#include "core/edit/standing.h"
#include "core/base/lookup.h"
#include "core/edit/clashes.h"
#include <algorithm>
#include <map>
#include <set>
#include <unordered_map>
#include <unordered_set>

namespace burin {
namespace {

/// Whether the job has rows of one kind: looked up one by one while few are asked for, else in a
/// set.
class Ids {
public:
    Ids(const Job& job, Kind kind, std::size_t expected) : job_(job), kind_(kind) {
        if (expected > 4)
            everyRow(job, [&](const auto& row, const std::string&) {
                if (kindOfRow(row) == kind)
                    known_.insert(row.id);
            });
    }
    [[nodiscard]] bool has(const std::string& id) const {
        if (!known_.empty())
            return known_.contains(id);
        bool found = false;
        everyRow(job_, [&](const auto& row, const std::string&) {
            found = found || (kindOfRow(row) == kind_ && row.id == id);
        });
        return found;
    }

private:
    const Job& job_;
    Kind kind_;
    std::unordered_set<std::string_view> known_;
};

bool drawn(const std::vector<PlanPoint>& points, std::size_t least) {
    return points.size() >= least;
}
template <typename T> std::size_t leastPoints(const T& row) {
    if constexpr (std::is_same_v<T, Pathway>)
        return row.kind == PathwayKind::Shaft ? 1 : 2;
    else if constexpr (std::is_same_v<T, MainsRoute>)
        return 1;
    else
        return row.kind == SurfaceKind::Wall ? 2 : 0;
}

class Checker {
public:
    Checker(const Job& job, const Touched& touched) : job_(job), touched_(touched) {}

    Outcome<bool> check(Clashes clashes) {
        everyList<JobLists>([&]<typename L>(L) {
            const auto& touched = touched_.of<L>();
            const IdFinder<typename L::Type> rows(job_.*L::list, touched.size());
            for (const auto& seen : touched)
                if (good_)
                    compare<L>(seen.before ? &*seen.before : nullptr,
                               seen.stays ? rows.find(seen.id) : nullptr);
        });
        if (good_)
            checkGone();
        if (good_ && clashes == Clashes::Refused)
            checkLabels();
        if (good_ && clashes == Clashes::Refused)
            checkFeeds();
        if (good_ && clashes == Clashes::Refused)
            checkPorts();
        if (good_ && clashes == Clashes::Refused)
            checkMarks();
        return good_;
    }

private:
    template <typename W> void fail(W where, Sentence what, Sentence cure) {
        if (good_)
            good_ = refuse(std::move(where), std::move(what), std::move(cure));
    }
    const Ids& ids(Kind kind, std::size_t expected) {
        auto it = ids_.find(kind);
        if (it == ids_.end())
            it = ids_.emplace(kind, Ids(job_, kind, expected)).first;
        return it->second;
    }

    template <typename L>
    void compare(const typename L::Type* before, const typename L::Type* after) {
        const std::size_t all = touched_.of<L>().size();
        references(L::kind, before, after, after == nullptr ? "" : nameOf(*after), all);
        if (before != nullptr && after == nullptr)
            gone_[L::kind].insert(before->id);
        everyChildList<typename L::Type>([&]<typename C>(C) {
            static const std::vector<typename C::Type> none;
            const auto& was = before == nullptr ? none : before->*C::list;
            const auto& is = after == nullptr ? none : after->*C::list;
            for (const auto& row : is)
                references(C::kind, byId(was, row.id), &row, nameOf(*after), all);
            for (const auto& row : was)
                if (byId(is, row.id) == nullptr)
                    gone_[C::kind].insert(row.id);
        });
        if (after == nullptr)
            return;
        if constexpr (L::kind == Kind::Run)
            if (after->label.empty())
                fail(nameOf(*after), {"job.run-no-name", "a run has no name"},
                     {"cure.give-label-sl", "Give it a label such as SL-D03"});
        if constexpr (L::kind == Kind::Pathway || L::kind == Kind::Mains ||
                      L::kind == Kind::Surface)
            if (const std::size_t least = leastPoints(*after); !drawn(after->points, least))
                fail(nameOf(*after), {"edit.no-way-drawn", "it has no way that can be drawn"},
                     sentence({"cure.draw-least-points", "Draw at least {0} points on the plan"},
                              asCount(least)));
    }
    void references(Kind kind, const void* before, const void* after, const std::string& where,
                    std::size_t expected) {
        if (after == nullptr)
            return;
        for (const auto& field : tableOf(kind).fields) {
            if (field.refers.empty() || !good_)
                continue;
            const std::string& id = field.text(after);
            if ((before != nullptr && field.text(before) == id) || (id.empty() && field.mayLack))
                continue;
            if (!ids(*kindWords.find(field.refers), expected).has(id))
                fail(where,
                     sentence({"edit.not-job", "its {0} is not in the job"}, asTerm(field.refers)),
                     {"cure.take-away-stands",
                      "Take away what stands on it in the same step, or give it another"});
        }
    }
    /// What went, and is still referred to.
    void checkGone() {
        if (gone_.empty())
            return;
        const auto look = [&](Kind kind, const void* row, const std::string& where) {
            for (const auto& field : tableOf(kind).fields) {
                if (field.refers.empty() || !good_)
                    continue;
                const auto it = gone_.find(*kindWords.find(field.refers));
                if (it != gone_.end() && it->second.contains(field.text(row)))
                    fail(where,
                         sentence({"edit.not-job", "its {0} is not in the job"},
                                  asTerm(field.refers)),
                         {"cure.take-away-stands",
                          "Take away what stands on it in the same step, or give it another"});
            }
        };
        everyRow(job_, [&](const auto& row, const std::string&) {
            look(kindOfRow(row), &row, nameOf(row));
        });
    }
    /// A label that a touched run has newly got is no other's.
    void checkLabels() {
        std::unordered_set<std::string_view> fresh;
        using Runs = Listed<Kind::Run, &Job::runs>;
        const IdFinder<Run> runs(job_.runs, touched_.of<Runs>().size());
        for (const auto& seen : touched_.of<Runs>())
            if (const Run* run = runs.find(seen.id);
                run != nullptr && (!seen.before || seen.before->label != run->label))
                fresh.insert(run->label);
        if (fresh.empty())
            return;
        std::unordered_set<std::string_view> seen;
        for (const auto& run : job_.runs)
            if (fresh.contains(run.label) && !seen.insert(run.label).second)
                fail("run " + run.label,
                     {"edit.run-name-already", "there is a run of this name already"},
                     {"cure.give-each-run", "Give each run a label of its own"});
    }
    /// Runs that touched systems newly have.
    template <typename L, typename Row>
    void newlyFed(std::vector<Row> L::Type::*rows, std::unordered_set<std::string>& out) const {
        for (const auto& seen : touched_.of<L>()) {
            const auto* after = seen.stays ? byId(job_.*L::list, seen.id) : nullptr;
            if (after == nullptr)
                continue;
            std::unordered_map<std::string, int> count;
            for (const auto& row : after->*rows)
                ++count[row.runId];
            if (seen.before)
                for (const auto& row : (*seen.before).*rows)
                    --count[row.runId];
            for (const auto& [runId, more] : count)
                if (more > 0 && !runId.empty())
                    out.insert(runId);
        }
    }
    /// A run that a touched system newly has is in no other place.
    void checkFeeds() {
        std::unordered_set<std::string> fresh;
        newlyFed<Listed<Kind::Distribution, &Job::distributions>>(&Distribution::parts, fresh);
        newlyFed<Listed<Kind::Bus, &Job::buses>>(&BusChain::devices, fresh);
        if (fresh.empty())
            return;
        for (const auto& clash : feedClashes(job_))
            if (fresh.contains(clash.runId))
                good_ = refuse(clash.fault);
    }
    /// An end that a touched run newly has is on no other's port.
    void checkPorts() {
        using Runs = Listed<Kind::Run, &Job::runs>;
        const IdFinder<Run> runs(job_.runs, touched_.of<Runs>().size());
        std::set<std::string_view> fresh;
        for (const auto& seen : touched_.of<Runs>()) {
            const Run* run = runs.find(seen.id);
            if (run != nullptr &&
                (!seen.before || seen.before->near != run->near || seen.before->far != run->far))
                fresh.insert(run->id);
        }
        if (fresh.empty())
            return;
        for (const auto& clash : portClashes(job_))
            if (fresh.contains(clash.runId) || fresh.contains(clash.otherId))
                good_ = refuse(clash.fault);
    }

    /// What a touched run, or one from a touched box, newly came out of its box by can be.
    void checkMarks() {
        using Runs = Listed<Kind::Run, &Job::runs>;
        using Boxes = Listed<Kind::Box, &Job::boxes>;
        const IdFinder<Run> runs(job_.runs, touched_.of<Runs>().size());
        std::set<std::string_view> fresh;
        for (const auto& seen : touched_.of<Runs>())
            if (const Run* run = runs.find(seen.id);
                run != nullptr && (!seen.before || seen.before->piece != run->piece))
                fresh.insert(run->id);
        for (const auto& seen : touched_.of<Boxes>())
            for (const auto& run : job_.runs)
                if (seen.stays && run.piece.boxId == seen.id)
                    fresh.insert(run.id);
        if (fresh.empty())
            return;
        for (const auto& clash : markClashes(job_))
            if (fresh.contains(clash.runId) || fresh.contains(clash.otherId))
                good_ = refuse(clash.fault);
    }

    const Job& job_;
    const Touched& touched_;
    Outcome<bool> good_ = true;
    std::map<Kind, Ids> ids_;
    std::map<Kind, std::unordered_set<std::string>> gone_;
};

} // namespace

Outcome<bool> checkTouched(const Job& job, const Touched& touched, Clashes clashes) {
    return Checker(job, touched).check(clashes);
}

void sortRows(Job& job, const Touched& touched) {
    everyList<JobLists>([&]<typename L>(L) {
        if (!touched.of<L>().empty())
            sortList(job, L::kind);
    });
}

} // namespace burin
