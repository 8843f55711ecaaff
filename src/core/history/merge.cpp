#include "core/history/merge.h"
#include "core/base/lookup.h"
#include "core/history/joined_rows.h"
#include "core/job/row_at.h"
#include <algorithm>
#include <unordered_set>

namespace burin {
namespace {

class Joining : private JoinedRows {
public:
    using JoinedRows::JoinedRows;

    Outcome<Changes> changes() {
        if (auto told = everyDifferenceIsTold(); !told)
            return refuse(told.error());
        for (auto& [key, row] : rows_)
            if (key.first != Kind::Conflict)
                row.stays = forward_ ? row.states.theirs.has_value() : !goes(key, row);
        if (forward_) {
            for (const auto& conflict : theirs_.job.conflicts)
                conflicts_[conflict.id] = conflict;
        } else {
            bringBack();
            decideConflicts();
        }
        Changes out;
        emit(out);
        return out;
    }

private:
    [[nodiscard]] Outcome<bool> everyDifferenceIsTold() const {
        for (const auto& [key, row] : rows_) {
            if (key.first == Kind::Conflict)
                continue;
            bool told = !row.oneSided() || !row.touches.comings.empty();
            if (row.states.mine && row.states.theirs)
                for (const auto& field : differingFields(row))
                    told = told && row.touches.fields.contains(field);
            if (!told)
                return refuse(
                    rowAt(row.states.mine ? mine_.job : theirs_.job, key.first, key.second).called,
                    {"merge.copies-differ-neither",
                     "the copies differ in it, and neither logbook tells why"},
                    {"cure.damaged-restore-copy",
                     "One of them is damaged: restore it from a copy"});
        }
        return true;
    }
    static std::set<std::string> differingFields(const JoinedRow& row) {
        std::set<std::string> out;
        const auto look = [&](const RowValues& a, const RowValues& b) {
            for (const auto& [field, value] : a)
                if (const auto it = b.find(field); it == b.end() || it->second != value)
                    out.insert(field);
        };
        look(row.states.mine->values, row.states.theirs->values);
        look(row.states.theirs->values, row.states.mine->values);
        return out;
    }

    /// Whether somebody who knew that it went has said that it stays.
    [[nodiscard]] bool isKept(const RowKey& key, const std::vector<const Coming*>& gone) const {
        const RowTouches said =
            index_.of({Kind::Conflict, conflictId(key.first, key.second, {})}, ancestry_);
        return std::any_of(said.comings.begin(), said.comings.end(), [&](const Coming& answer) {
            return !answer.there && std::all_of(gone.begin(), gone.end(), [&](const Coming* c) {
                return ancestry_.before(c->step, answer.step);
            });
        });
    }
    [[nodiscard]] bool goes(const RowKey& key, const JoinedRow& row) const {
        return !row.gone.empty() && !claimOn(key, row) && !isKept(key, row.gone);
    }

    /// Rows that both copies have alike and that referred to `key` at some time.
    void addReferring(const RowKey& key, std::set<RowKey>& out) const {
        for (const auto& [other, field] : index_.referring(key))
            if (alike_.contains(other) && !rows_.contains(other))
                out.insert(other);
    }
    /// What stays needs what it refers to, its owner, and what went along with it.
    void bringBack() {
        std::vector<RowKey> fresh;
        std::set<RowKey> holders; // alike in both, and referring to what would go
        for (const auto& [key, row] : rows_)
            if (row.stays)
                fresh.push_back(key);
            else
                addReferring(key, holders);
        addAlike(holders);
        fresh.insert(fresh.end(), holders.begin(), holders.end());
        const auto bring = [&](const RowKey& key) {
            const auto it = rows_.find(key);
            if (it == rows_.end() || it->second.stays)
                return;
            it->second.stays = true;
            fresh.push_back(key);
        };
        while (!fresh.empty()) {
            const RowKey key = fresh.back();
            fresh.pop_back();
            JoinedRow& row = rows_.at(key);
            const Table& table = tableOf(key.first);
            if (!row.gone.empty()) {
                for (const auto* gone : row.gone)
                    bringCompany(key, gone->step, bring);
                // References to it that both copies cleared may be there again.
                std::set<RowKey> others;
                addReferring(key, others);
                addAlike(others);
                fresh.insert(fresh.end(), others.begin(), others.end());
            }
            if (table.owner)
                bring({*table.owner, row.ownerId()});
            for (const auto& field : table.fields) {
                if (field.refers.empty())
                    continue;
                const auto bringIt = [&](const Json& value) {
                    if (value.is_string() && !value.get<std::string>().empty())
                        bring({*kindWords.find(field.refers), value.get<std::string>()});
                };
                bringIt(finalValue(row, field.name));
                // What lost may still be chosen.
                if (const auto settled = settle(row, field.name))
                    for (const auto* head : settled->heads)
                        bringIt(head->after);
            }
        }
    }
    /// The latest step that made a row refer to `to`, if it stays and still does.
    [[nodiscard]] std::optional<std::size_t>
    referenceTo(const RowKey& to, const std::vector<const Coming*>& gone) const {
        std::optional<std::size_t> out;
        for (const auto& [key, field] : index_.referring(to)) {
            JoinedRow apart;
            const JoinedRow& row = rowFor(key, apart);
            const auto settled = settle(row, field);
            if (!settled || !(rows_.contains(key) ? row.stays : row.gone.empty()))
                continue;
            for (const auto* head : settled->heads)
                if (head->after == to.second && !knownTo(gone, head->step) &&
                    (!out || later(head->step, *out)))
                    out = head->step;
        }
        return out;
    }
    /// Whether each of these steps is one of those.
    static bool allWith(const std::vector<const Coming*>& these,
                        const std::vector<const Coming*>& those) {
        return std::all_of(these.begin(), these.end(), [&](const Coming* c) {
            return std::any_of(those.begin(), those.end(),
                               [&](const Coming* o) { return o->step == c->step; });
        });
    }
    /// The rows that a step took away with `key` because they are its own or refer to it.
    template <typename Bring> void bringCompany(const RowKey& key, std::size_t gone, Bring bring) {
        for (const auto& other : index_.rowsOf(gone)) {
            const auto it = rows_.find(other);
            if (it == rows_.end())
                continue;
            JoinedRow& row = it->second;
            const Table& table = tableOf(other.first);
            const auto names = [&](const Field& field, const Json& value) {
                return field.refers == kindWords[key.first] && value == key.second;
            };
            // Who took it away by itself meant it.
            if (!allWith(row.gone, rows_.at(key).gone))
                continue;
            for (const auto& coming : row.touches.comings) {
                if (coming.there || coming.step != gone)
                    continue;
                bool along =
                    table.owner && *table.owner == key.first && row.ownerId() == key.second;
                for (const auto& field : table.fields)
                    if (const auto value = coming.content.find(field.name);
                        value != coming.content.end())
                        along = along || names(field, value->second);
                if (along)
                    bring(other);
            }
        }
    }

    void decideConflicts() {
        std::set<std::string> looked;
        const auto look = [&](const RowKey& key, const std::string& field) {
            const std::string id = conflictId(key.first, key.second, field);
            if (looked.insert(id).second)
                decide(id, key, field);
        };
        for (const auto& [key, row] : rows_) {
            if (key.first == Kind::Conflict || !row.stays)
                continue;
            // Of itself, its owner, and what it refers to: each may have been taken away.
            look(key, {});
            const Table& table = tableOf(key.first);
            if (table.owner)
                look({*table.owner, row.ownerId()}, {});
            for (const auto& field : table.fields)
                if (!field.refers.empty())
                    if (const auto settled = settle(row, field.name))
                        for (const auto* head : settled->heads)
                            if (head->after.is_string())
                                look(
                                    {*kindWords.find(field.refers), head->after.get<std::string>()},
                                    {});
            if (row.states.mine && row.states.theirs)
                for (const auto& field : differingFields(row))
                    look(key, field);
            else
                for (const auto& [field, touches] : row.touches.fields)
                    look(key, field);
        }
        for (const Job* job : {&mine_.job, &theirs_.job})
            for (const auto& conflict : job->conflicts)
                if (const auto kind = kindWords.find(conflict.kind))
                    look({*kind, conflict.rowId}, conflict.field);
    }
    /// Whether a conflict stands, and what it says.
    void decide(const std::string& id, const RowKey& key, const std::string& field) {
        const RowTouches kept = index_.of({Kind::Conflict, id}, ancestry_);
        std::vector<const Coming*> answers = ancestry_.heads(kept.comings);
        std::erase_if(answers, [](const Coming* c) { return c->there; });
        std::vector<std::size_t> rivals;
        std::optional<Conflict> found = derive(id, key, field, rivals);
        const bool answered = std::any_of(answers.begin(), answers.end(), [&](const Coming* a) {
            return std::all_of(rivals.begin(), rivals.end(),
                               [&](std::size_t r) { return ancestry_.before(r, a->step); });
        });
        const Conflict* mine = byId(mine_.job.conflicts, id);
        const Conflict* theirs = byId(theirs_.job.conflicts, id);
        if (!found && (mine != nullptr || theirs != nullptr) &&
            (answers.empty() || (mine != nullptr && theirs != nullptr)))
            found = mine != nullptr ? *mine : *theirs;
        else if (found && answered)
            found.reset();
        if (found)
            conflicts_[id] = std::move(*found);
    }
    std::optional<Conflict> derive(const std::string& id, const RowKey& key,
                                   const std::string& field,
                                   std::vector<std::size_t>& rivals) const {
        JoinedRow apart;
        const JoinedRow& row = rowFor(key, apart);
        if (&row != &apart && !row.stays)
            return std::nullopt;
        Conflict out{id, std::string(kindWords[key.first]), key.second, field, {}, {}};
        const auto claim = [&](const std::string& value, std::size_t at) {
            out.claims.push_back({value, step(at).who, step(at).at});
        };
        if (!field.empty()) {
            const Field* described = tableOf(key.first).field(field);
            if (described != nullptr && !described->asked)
                return std::nullopt; // the later stands, and it says nothing
            const auto settled = settle(row, field);
            if (!settled || settled->rivals.size() < 2)
                return std::nullopt;
            out.base = settled->before.dump();
            for (const auto* rival : settled->rivals)
                claim(rival->after.dump(), rival->step);
            for (const auto* head : settled->heads)
                rivals.push_back(head->step);
            return out;
        }
        if (row.gone.empty())
            return std::nullopt;
        // What went with its owner is said of the owner.
        if (const auto owner = tableOf(key.first).owner) {
            JoinedRow its;
            if (allWith(row.gone, rowFor({*owner, row.ownerId()}, its).gone))
                return std::nullopt;
        }
        auto by = claimOn(key, row);
        if (const auto used = referenceTo(key, row.gone); used && (!by || later(*used, *by)))
            by = used;
        if (!by)
            return std::nullopt;
        const auto last = *std::max_element(
            row.gone.begin(), row.gone.end(),
            [&](const Coming* a, const Coming* b) { return later(b->step, a->step); });
        claim("changed", *by);
        claim("removed", last->step);
        for (const auto* removal : row.gone)
            rivals.push_back(removal->step);
        return out;
    }

    /// Rows that go, rows that come, and fields, from mine.
    void emit(Changes& out) const {
        Changes gone;
        Changes goneOwned;
        Changes come;
        Changes comeOwned;
        Changes set;
        for (const auto& [key, row] : rows_) {
            if (key.first == Kind::Conflict)
                continue;
            const Table& table = tableOf(key.first);
            Change change;
            change.kind = key.first;
            change.id = key.second;
            if (row.states.mine && !row.stays) {
                change.op = Op::Remove;
                change.before = rowOf(table, row.states.mine->values, row.states.mine->ownerId);
                (table.owner ? goneOwned : gone).push_back(std::move(change));
            } else if (!row.states.mine && row.stays) {
                change.op = Op::Add;
                change.after = rowOf(table, finalValues(row), row.ownerId());
                (table.owner ? comeOwned : come).push_back(std::move(change));
            } else if (row.states.mine) {
                setFields(change, row.states.mine->values, finalValues(row), set);
            }
        }
        for (const auto* part : {&goneOwned, &gone, &come, &set, &comeOwned})
            out.push_back(*part);
        emitConflicts(out);
    }
    static void setFields(const Change& like, const RowValues& before, const RowValues& after,
                          Changes& out) {
        std::set<std::string> fields;
        for (const auto* values : {&before, &after})
            for (const auto& [field, value] : *values)
                fields.insert(field);
        const auto at = [](const RowValues& values, const std::string& field) {
            const auto it = values.find(field);
            return it == values.end() ? Json() : it->second;
        };
        for (const auto& field : fields) {
            Change change = like;
            change.field = field;
            change.before = at(before, field);
            change.after = at(after, field);
            if (change.before != change.after)
                out.push_back(std::move(change));
        }
    }
    void emitConflicts(Changes& out) const {
        std::map<std::string, const Conflict*> had;
        for (const auto& conflict : mine_.job.conflicts)
            had[conflict.id] = &conflict;
        for (const auto& [id, conflict] : conflicts_) {
            const auto it = had.find(id);
            out.push_back(put(it == had.end() ? std::nullopt : std::optional(*it->second),
                              std::optional(conflict)));
            if (it != had.end())
                had.erase(it);
        }
        for (const auto& [id, conflict] : had)
            out.push_back(put(std::optional(*conflict), std::optional<Conflict>{}));
    }

    std::map<std::string, Conflict> conflicts_;
};

} // namespace

std::string conflictId(Kind kind, const std::string& rowId, const std::string& field) {
    return textId("conflict " + std::string(kindWords[kind]) + ' ' + rowId + ' ' + field)
        .substr(0, 16);
}

Changes decidedBy(const Job& job, const Changes& changes) {
    Changes out;
    if (job.conflicts.empty())
        return out;
    std::set<std::string> named;
    for (const auto& change : changes)
        if (change.kind == Kind::Conflict)
            named.insert(change.id);
    for (const auto& conflict : job.conflicts) {
        const bool decided = std::any_of(changes.begin(), changes.end(), [&](const Change& change) {
            return change.id == conflict.rowId && kindWords[change.kind] == conflict.kind &&
                   (change.op == Op::Remove ||
                    (change.op == Op::Set && change.field == conflict.field));
        });
        if (decided && !named.contains(conflict.id))
            out.push_back(put(std::optional(conflict), std::optional<Conflict>{}));
    }
    return out;
}

Outcome<Joined> join(const JobCopy& mine, const JobCopy& theirs) {
    if (mine.jobId != theirs.jobId)
        return refuse(
            "the other copy",
            {"merge.another-job-began", "it is of another job, or began a logbook of its own"},
            {"cure.choose-copy-made", "Choose a copy that was made of this very file"});
    std::unordered_set<std::string_view> known;
    std::vector<const LogRow*> steps;
    for (const auto& row : mine.log) {
        known.insert(row.id);
        steps.push_back(&row);
    }
    Joined out;
    std::size_t shared = 0;
    bool newWork = false;
    for (const auto& row : theirs.log) {
        if (known.contains(row.id)) {
            ++shared;
            continue;
        }
        out.brought.push_back(row);
        newWork = newWork || (!row.joins() && !row.changes.empty());
        steps.push_back(&row);
    }
    // Joinings alone bring nothing.
    if (!newWork) {
        out.brought.clear();
        return out;
    }
    auto ancestry = Ancestry::of(steps);
    if (!ancestry)
        return refuse(ancestry.error());
    // Where mine is an older state of theirs, theirs is what it comes to.
    const bool forward = shared == mine.log.size();
    TouchIndex index(steps, *ancestry,
                     forward ? TouchIndex::TakenBack::Left : TouchIndex::TakenBack::Dropped);
    Joining joining(mine, theirs, std::move(index), std::move(*ancestry), forward);
    auto changes = joining.changes();
    if (!changes)
        return refuse(changes.error());
    out.changes = std::move(*changes);
    return out;
}

} // namespace burin
