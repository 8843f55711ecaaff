#include "core/edit/removal.h"
#include "core/edit/system_edit.h"
#include "core/job/ports.h"
#include <algorithm>

namespace burin {
namespace {

class Remover {
public:
    Remover(const Job& job, std::set<RowKey> going, const std::set<Kind>& handled)
        : job_(job), going_(std::move(going)), handled_(handled) {}

    Outcome<Changes> remove() {
        // Until nothing more has to go.
        for (std::size_t before = 0; before != going_.size();) {
            before = going_.size();
            everyRow(job_, [&](const auto& row, const std::string& owner) {
                look(kindOfRow(row), &row, row.id, owner);
            });
        }
        if (refused_)
            return refuse(*refused_);
        // References first, then what is owned, then the rest.
        Changes clear;
        Changes owned;
        Changes rest;
        everyRow(job_, [&](const auto& row, const std::string& owner) {
            const Kind kind = kindOfRow(row);
            if (going_.contains({kind, row.id})) {
                (owner.empty() ? rest : owned)
                    .push_back(detail::rowChange(Op::Remove, kind, &row, owner));
                return;
            }
            if constexpr (std::is_same_v<std::decay_t<decltype(row)>, Run>)
                keepNames(row, clear);
            clearReferences(kind, &row, row.id, clear);
        });
        return Changes{clear, owned, rest};
    }

private:
    /// The fields of a row that refer to one that goes.
    template <typename See> void referring(Kind kind, const void* row, See see) const {
        if (!handled_.contains(kind))
            for (const auto& field : tableOf(kind).fields)
                if (!field.refers.empty() &&
                    going_.contains({*kindWords.find(field.refers), field.text(row)}))
                    see(field);
    }
    void look(Kind kind, const void* row, const std::string& id, const std::string& owner) {
        const Table& table = tableOf(kind);
        bool goes = going_.contains({kind, id}) ||
                    (!owner.empty() && going_.contains({*table.owner, owner}));
        referring(kind, row, [&](const Field& field) {
            goes = goes || field.gone == Gone::Remove;
            if (!goes && field.gone == Gone::Refuse && !refused_)
                refused_ =
                    Fault{sentence({"where.said", "{0} {1}"}, asTerm(table.name()), id),
                          0,
                          0,
                          sentence({"edit.needs-would-go", "it needs the {0} that would go"},
                                   asTerm(field.refers)),
                          {"cure.give-another-take", "Give it another, or take it away first"}};
        });
        if (goes)
            going_.emplace(kind, id);
    }
    /// An end whose place goes is called by its text from then on.
    void keepNames(const Run& run, Changes& out) const {
        if (handled_.contains(Kind::Run))
            return;
        Run after = run;
        for (RunEnd* end : {&after.near, &after.far})
            if (going_.contains({Kind::Place, end->placeId})) {
                end->text = endName(job_, *end);
                end->port = 0;
            }
        if (!(after == run))
            out.push_back(put(std::optional(run), std::optional(after)));
    }
    void clearReferences(Kind kind, const void* row, const std::string& id, Changes& out) const {
        referring(kind, row, [&](const Field& field) {
            Change change;
            change.kind = kind;
            change.id = id;
            change.field = field.name;
            change.before = field.text(row);
            change.after = field.leftOut ? Json() : Json("");
            out.push_back(std::move(change));
        });
    }

    const Job& job_;
    std::set<RowKey> going_;
    const std::set<Kind>& handled_;
    std::optional<Fault> refused_;
};

/// Takes the runs out of a system, where it has one of them.
template <typename System, typename Row>
void leave(const System& system, const std::vector<Row> System::*rows,
           const std::set<RowKey>& going, Changes& out) {
    auto left = std::optional(system);
    for (const auto& row : system.*rows)
        if (left && going.contains({Kind::Run, row.runId}))
            left = withoutRun(*left, row.runId);
    if (!left || !(*left == system))
        out.push_back(put(std::optional(system), left));
}

} // namespace

Outcome<Changes> removing(const Job& job, const std::set<RowKey>& rows,
                          const std::set<Kind>& handled) {
    return Remover(job, rows, handled).remove();
}

Outcome<Changes> removing(const Job& job, Kind kind, const std::string& id) {
    if (kind == Kind::Run)
        return removalOf(job, id);
    return removing(job, std::set<RowKey>{{kind, id}}, {});
}

Changes removalOf(const Job& job, const std::vector<std::string>& runIds) {
    std::set<RowKey> going;
    for (const auto& id : runIds)
        going.emplace(Kind::Run, id);
    Changes out;
    for (const auto& d : job.distributions)
        leave(d, &Distribution::parts, going, out);
    for (const auto& b : job.buses)
        leave(b, &BusChain::devices, going, out);
    // No field refers to a run in a way that could refuse.
    out.push_back(removing(job, going, {Kind::Part, Kind::Device}).value_or(Changes{}));
    return out;
}

Changes removalOf(const Job& job, std::string_view runId) {
    return removalOf(job, std::vector<std::string>{std::string(runId)});
}

} // namespace burin
