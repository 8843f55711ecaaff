#include "core/base/moment.h"
#include "core/job/tables.h"
#include <algorithm>
#include <cstdint>
#include <set>
#include <unordered_set>

namespace burin {
namespace {

bool lessShown(const Room& a, const Room& b) {
    return std::tie(a.order, a.letters, a.id) < std::tie(b.order, b.letters, b.id);
}
bool lessShown(const Run& a, const Run& b) {
    return std::tie(a.order, a.label, a.id) < std::tie(b.order, b.label, b.id);
}
bool lessShown(const Measurement& a, const Measurement& b) {
    // What was entered later stands later, whatever the clocks and zones said. Tests of older jobs
    // and of other programs have no entry number and go by their time.
    if (a.entry != b.entry || a.entry > 0)
        return std::tie(a.entry, a.id) < std::tie(b.entry, b.id);
    const auto at = [](const Measurement& m) { return utcMs(m.takenAt).value_or(0); };
    return std::tuple(at(a), a.takenAt, a.id) < std::tuple(at(b), b.takenAt, b.id);
}
bool lessShown(const UserCable& a, const UserCable& b) {
    return a.id < b.id;
}
bool lessShown(const Conflict& a, const Conflict& b) {
    return a.id < b.id;
}
bool lessShown(const Floor& a, const Floor& b) {
    return std::tie(a.order, a.name, a.id) < std::tie(b.order, b.name, b.id);
}
bool lessShown(const Box& a, const Box& b) {
    return std::tie(a.order, a.name, a.id) < std::tie(b.order, b.name, b.id);
}
bool lessShown(const Pull& a, const Pull& b) {
    return std::tie(a.order, a.id) < std::tie(b.order, b.id);
}
bool lessShown(const HandTool& a, const HandTool& b) {
    return std::tie(a.order, a.name, a.id) < std::tie(b.order, b.name, b.id);
}
bool lessShown(const Termination& a, const Termination& b) {
    return std::tie(a.entry, a.id) < std::tie(b.entry, b.id);
}
bool lessShown(const UserCard& a, const UserCard& b) {
    return a.id < b.id;
}
template <typename T> bool lessShown(const T& a, const T& b) {
    return std::tie(a.name, a.id) < std::tie(b.name, b.id);
}

template <typename T, typename Less> void sortUnless(std::vector<T>& rows, Less less) {
    if (!std::is_sorted(rows.begin(), rows.end(), less))
        std::sort(rows.begin(), rows.end(), less);
}

/// A kind's ids, each once, and what refers to other rows.
struct Known {
    std::array<std::unordered_set<std::string_view>, kindCount> ids;

    [[nodiscard]] const auto& of(Kind kind) const { return ids.at(static_cast<std::size_t>(kind)); }
    template <typename T> Outcome<bool> add(const std::vector<T>& rows) {
        auto& known = ids.at(static_cast<std::size_t>(kindOf<T>()));
        for (const auto& row : rows)
            if (row.id.empty() || !known.insert(row.id).second)
                return refuse(
                    sentence({"where.said", "{0} {1}"}, asTerm(kindWords[kindOf<T>()]), row.id),
                    row.id.empty() ? sentence({"job.no-id", "it has no id"})
                                   : sentence({"job.two-id", "there are two of this id"}),
                    {"cure.give-each-id", "Give each an id of its own"});
        return true;
    }
    template <typename T> [[nodiscard]] Outcome<bool> check(const std::vector<T>& rows) const {
        const Table& table = tableOf(kindOf<T>());
        for (const auto& field : table.fields) {
            if (field.refers.empty())
                continue;
            const auto& targets = of(*kindWords.find(field.refers));
            for (const auto& row : rows)
                if (const std::string& id = field.text(&row);
                    id.empty() ? !field.mayLack : !targets.contains(id))
                    return refuse(sentence({"where.said", "{0} {1}"}, asTerm(table.name()), row.id),
                                  sentence({"job.not-job", "its {0} ({1}) is not in the job"},
                                           asTerm(field.refers), field.name),
                                  {"cure.name", "Name one that is there"});
        }
        return true;
    }
};

/// Refuses a job that cannot be: an id twice or none, a run without a name, a reference to nothing.
Outcome<bool> checkWhole(const Job& job) {
    Known known;
    Outcome<bool> good = true;
    const auto every = [&](auto see) {
        everyList<JobLists>([&]<typename L>(L) {
            if (good)
                good = see(job.*L::list);
            everyChildList<typename L::Type>([&]<typename C>(C) {
                for (const auto& row : job.*L::list)
                    if (good)
                        good = see(row.*C::list);
            });
        });
    };
    for (const auto& run : job.runs)
        if (run.label.empty())
            return refuse(sentence({"where.run", "run {0}"}, run.id),
                          {"job.run-no-name", "a run has no name"},
                          {"cure.give-label-sl", "Give it a label such as SL-D03"});
    every([&](const auto& rows) { return known.add(rows); });
    every([&](const auto& rows) { return known.check(rows); });
    return good;
}

} // namespace

std::string derivedId(Kind kind, const std::string& ownerId, std::size_t place) {
    return textId(std::string(kindWords[kind]) + ' ' + ownerId + ' ' + std::to_string(place))
        .substr(0, 16);
}

std::string slotId(Kind kind, const std::string& ownerId, const std::string& slot, std::size_t n) {
    return derivedId(kind, textId(ownerId + ' ' + slot), n);
}

void deriveIds(Job& job) {
    std::set<std::string> parts;
    for (auto& d : job.distributions) {
        const bool shared = std::any_of(d.parts.begin(), d.parts.end(),
                                        [&](const auto& p) { return parts.contains(p.id); });
        for (auto& part : d.parts) {
            for (std::string* id : {&part.id, &part.from})
                if (shared && !id->empty())
                    *id = textId("part " + d.id + ' ' + *id).substr(0, 16);
            parts.insert(part.id);
        }
    }
    everyList<JobLists>([&]<typename L>(L) {
        for (auto& owner : job.*L::list)
            deriveOwned(owner);
    });
}

void giveIds(Job& job) {
    everyList<JobLists>([&]<typename L>(L) {
        for (auto& owner : job.*L::list) {
            bool lacks = false;
            everyChildList<typename L::Type>([&]<typename C>(C) {
                for (const auto& row : owner.*C::list)
                    lacks = lacks || row.id.empty();
            });
            if (lacks)
                deriveOwned(owner);
        }
    });
}

namespace {

template <typename L> void sortListed(Job& job) {
    sortUnless(job.*L::list, [](const auto& a, const auto& b) { return lessShown(a, b); });
}

} // namespace

void sortList(Job& job, Kind kind) {
    everyList<JobLists>([&]<typename L>(L) {
        if (L::kind == kind)
            sortListed<L>(job);
    });
}

void sortRows(Job& job) {
    everyList<JobLists>([&]<typename L>(L) {
        for (auto& owner : job.*L::list)
            sortOwned(owner);
        sortListed<L>(job);
    });
}

Json toJson(const Job& job) {
    Json out = objectFor(kindCount);
    out[tableOf(Kind::Job).list] = toJson(job.info);
    everyList<JobLists>([&]<typename L>(L) {
        Json& list = out[tableOf(L::kind).list] = Json::array();
        for (const auto& row : job.*L::list)
            list.push_back(toJson(row));
    });
    return out;
}

Outcome<Job> readJob(const Json& json, const std::string& where, int version,
                     const std::function<void(const Job&)>& asKept) {
    try {
        Job out;
        JsonObject in(json, where, "");
        JsonObject info = in.object(tableOf(Kind::Job).list);
        readObject(tableOf(Kind::Job).fields, &out.info, info);
        everyList<JobLists>([&]<typename L>(L) {
            const Table& table = tableOf(L::kind);
            // Exports of older versions have not all of the lists.
            if (table.since > 1 && in.find(table.list) == nullptr)
                return;
            out.*L::list = in.list(table.list, [&](JsonObject object) {
                typename L::Type row;
                readObject(table.fields, &row, object);
                return row;
            });
        });
        in.close();
        if (asKept)
            asKept(out);
        if (version < 6)
            deriveIds(out);
        sortRows(out);
        if (auto good = checkWhole(out); !good) {
            Fault fault = good.error();
            fault.where = sentence({"where.within", "{0}, {1}"}, where, std::move(fault.where));
            return refuse(std::move(fault));
        }
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
