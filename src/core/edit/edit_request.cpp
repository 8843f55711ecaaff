#include "core/edit/edit_request.h"
#include "core/base/text.h"
#include "core/edit/apply.h"
#include "core/edit/removal.h"
#include "core/job/row_at.h"

namespace burin {
namespace {

/// The id that a change names its row by. Throws FaultThrown.
std::string idOf(JsonObject& in, Kind kind, const Job& job) {
    if (kind == Kind::Job)
        return in.stringOr("id", job.info.id);
    if (kind != Kind::Run || in.find("label") == nullptr)
        return in.string("id");
    const std::string label = in.string("label");
    const Run* run = job.runLabelled(label);
    if (run == nullptr)
        in.fail("label",
                sentence({"edit.no-run-job", "“{0}” is no run of the job"}, beginningOf(label, 60)),
                {"cure.name-label-example", "Name one by its label, for example SL-D03"});
    return run->id;
}

Changes setOf(JsonObject& in, Kind kind, const Job& job) {
    Change out;
    out.kind = kind;
    out.id = idOf(in, kind, job);
    out.field = in.string("field");
    if (rowAt(job, kind, out.id).row == nullptr)
        in.fail("id", sentence({"edit.no-job", "is no {0} of the job"}, asTerm(kindWords[kind])),
                {"cure.burin-cli-export", "`burin-cli export` lists them with their ids"});
    const Json now = valueAt(job, kind, out.id, out.field);
    const Json* before = in.find("before");
    out.before = before == nullptr ? now : *before;
    if (const Json* value = in.find("value"))
        out.after = *value;
    return Changes{out};
}

/// Where a row stands that does not say it: behind all of its kind.
Json nextOrder(const Job& job, Kind kind) {
    double last = -1;
    everyRow(job, [&](const auto& row, const std::string&) {
        if constexpr (requires { row.order; })
            if (kindOfRow(row) == kind)
                last = std::max(last, static_cast<double>(row.order));
    });
    return static_cast<int>(last) + 1;
}

/// A row and the rows it owns, each without those.
void addRow(const Table& table, Json row, const Job& job, Changes& out) {
    Change change;
    change.op = Op::Add;
    change.kind = table.kind;
    if (!row.contains("id"))
        row["id"] = newId();
    change.id = row["id"].is_string() ? row["id"].get<std::string>() : std::string();
    if (table.field("order") != nullptr && !row.contains("order"))
        row["order"] = nextOrder(job, table.kind);
    std::vector<std::pair<Kind, Json>> owned;
    for (const auto& field : table.fields)
        if (field.shape == Shape::Children && row.contains(field.name)) {
            int order = 0;
            for (auto& child : row[field.name]) {
                child[tableOf(*kindWords.find(field.owns)).ownerKey] = change.id;
                if (!child.contains("order"))
                    child["order"] = order;
                ++order;
                owned.emplace_back(*kindWords.find(field.owns), child);
            }
            row.erase(field.name);
        }
    change.after = std::move(row);
    out.push_back(std::move(change));
    for (auto& [kind, child] : owned)
        addRow(tableOf(kind), std::move(child), job, out);
}

Changes changesOf(JsonObject& in, const Job& job) {
    const Op op = in.word("op", opWords);
    const Kind kind = in.word("kind", kindWords);
    Changes out;
    if (op == Op::Set)
        out = setOf(in, kind, job);
    if (op == Op::Add) {
        const Json& value = in.need("value");
        if (!value.is_object())
            in.fail("value", {"edit.no-object", "is no object"},
                    {"cure.write-row-export", "Write the row as an export has it"});
        for (const auto& field : tableOf(kind).fields)
            if (field.shape == Shape::Children && value.contains(field.name))
                for (const auto& child : value[field.name])
                    if (!child.is_object())
                        in.fail("value",
                                sentence({"edit.no-objects", "has no objects in {0}"}, field.name),
                                {"cure.write-rows-export", "Write the rows as an export has them"});
        addRow(tableOf(kind), value, job, out);
    }
    if (op == Op::Remove) {
        const std::string id = idOf(in, kind, job);
        if (kind == Kind::Job || rowAt(job, kind, id).row == nullptr)
            in.fail("id",
                    sentence({"edit.no-job", "is no {0} of the job"}, asTerm(kindWords[kind])),
                    {"cure.burin-cli-export", "`burin-cli export` lists them with their ids"});
        auto gone = removing(job, kind, id);
        if (!gone)
            throw FaultThrown{gone.error()};
        out = std::move(*gone);
    }
    in.close();
    return out;
}

} // namespace

Outcome<Edit> readRequest(const Json& json, const Job& job, const std::string& where) {
    try {
        JsonObject in(json, where, "");
        Edit out{in.string("title"), {}};
        // Each change sees what those before it did.
        Job now = job;
        for (auto& changes : in.list("changes", [&](JsonObject change) {
                 Changes made = changesOf(change, now);
                 if (auto done = applyTo(now, {out.title, made}, Clashes::Left); !done) {
                     const Fault& fault = done.error();
                     change.fail("op",
                                 sentence({"edit.cannot-done", "cannot be done: {0}: {1}"},
                                          fault.where, fault.what),
                                 fault.cure);
                 }
                 return made;
             }))
            out.changes.push_back(changes);
        in.close();
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
