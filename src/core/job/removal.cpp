#include "core/job/removal.h"
#include <map>
#include <set>

namespace burin {
namespace {

using Key = std::pair<Kind, std::string>;

class Remover {
public:
    explicit Remover(const Job& job) : job_(job) {}

    Outcome<Changes> remove(Kind kind, const std::string& id) {
        going_.emplace(kind, id);
        // Until nothing more has to go.
        for (std::size_t before = 0; before != going_.size();) {
            before = going_.size();
            every([&](Kind k, const void* row, const std::string& rowId, const std::string& owner) {
                look(k, row, rowId, owner);
            });
        }
        if (refused_)
            return refuse(*refused_);
        // References first, then what is owned, then the rest.
        Changes clear;
        Changes owned;
        Changes rest;
        every([&](Kind k, const void* row, const std::string& rowId, const std::string& owner) {
            if (going_.contains({k, rowId}))
                (owner.empty() ? rest : owned)
                    .push_back(detail::rowChange(Op::Remove, k, row, owner));
            else
                clearReferences(k, row, rowId, clear);
        });
        return Changes{clear, owned, rest};
    }

private:
    template <typename See> void every(See see) const {
        everyList<JobLists>([&]<typename L>(L) {
            for (const auto& row : job_.*L::list) {
                everyChildList<typename L::Type>([&]<typename C>(C) {
                    for (const auto& child : row.*C::list)
                        see(C::kind, static_cast<const void*>(&child), child.id, row.id);
                });
                see(L::kind, static_cast<const void*>(&row), row.id, std::string());
            }
        });
    }
    void look(Kind kind, const void* row, const std::string& id, const std::string& owner) {
        const Table& table = tableOf(kind);
        if (!owner.empty() && going_.contains({*table.owner, owner}))
            going_.emplace(kind, id);
        for (const auto& field : table.fields) {
            if (field.refers.empty() || going_.contains({kind, id}) ||
                !going_.contains({*kindWords.find(field.refers), field.text(row)}))
                continue;
            if (field.gone == Gone::Remove)
                going_.emplace(kind, id);
            else if (field.gone == Gone::Refuse && !refused_)
                refused_ = Fault{std::string(table.name()) + " " + id, 0, 0,
                                 "it needs the " + field.refers + " that would go",
                                 "Give it another, or take it away first"};
        }
    }
    void clearReferences(Kind kind, const void* row, const std::string& id, Changes& out) const {
        for (const auto& field : tableOf(kind).fields) {
            if (field.refers.empty() ||
                !going_.contains({*kindWords.find(field.refers), field.text(row)}))
                continue;
            Change change;
            change.kind = kind;
            change.id = id;
            change.field = field.name;
            change.before = field.text(row);
            change.after = field.leftOut ? Json() : Json("");
            out.push_back(std::move(change));
        }
    }

    const Job& job_;
    std::set<Key> going_;
    std::optional<Fault> refused_;
};

} // namespace

Outcome<Changes> removing(const Job& job, Kind kind, const std::string& id) {
    return Remover(job).remove(kind, id);
}

} // namespace burin
