#include "core/history/differing.h"
#include "core/base/lookup.h"

namespace burin {
namespace {

template <typename T> RowState stateOf(const T& row, const std::string& owner) {
    const Table& table = tableOf(kindOf<T>());
    return {valuesOf(table, objectOf(table.fields, &row, Owned::Without)), owner};
}

class Comparer {
public:
    std::map<RowKey, Differing> out;

    template <typename T>
    void compare(const std::vector<T>& mine, const std::string& mineOwner,
                 const std::vector<T>& theirs, const std::string& theirOwner) {
        const IdFinder<T> inMine(mine, theirs.size());
        const IdFinder<T> inTheirs(theirs, mine.size());
        for (const auto& row : mine) {
            const T* same = inTheirs.find(row.id);
            if (same == nullptr || !(*same == row) || mineOwner != theirOwner)
                add(&row, mineOwner, same, theirOwner);
        }
        for (const auto& row : theirs)
            if (inMine.find(row.id) == nullptr)
                add<T>(nullptr, mineOwner, &row, theirOwner);
    }
    template <typename T>
    void add(const T* mine, const std::string& mineOwner, const T* theirs,
             const std::string& theirOwner) {
        const RowKey key{kindOf<T>(), (mine != nullptr ? mine : theirs)->id};
        // A row may have moved to another owner: it is met once on each side.
        Differing& kept = out[key];
        if (mine != nullptr)
            kept.mine = stateOf(*mine, mineOwner);
        if (theirs != nullptr)
            kept.theirs = stateOf(*theirs, theirOwner);
        if (kept.mine && kept.theirs && *kept.mine == *kept.theirs)
            out.erase(key);
        everyChildList<T>([&]<typename C>(C) {
            static const std::vector<typename C::Type> none;
            compare(mine == nullptr ? none : mine->*C::list, key.second,
                    theirs == nullptr ? none : theirs->*C::list, key.second);
        });
    }
};

} // namespace

std::map<RowKey, RowState> statesOf(const Job& job, const std::set<RowKey>& keys) {
    std::map<RowKey, RowState> out;
    if (!keys.empty())
        everyRow(job, [&](const auto& row, const std::string& owner) {
            if (RowKey key{kindOfRow(row), row.id}; keys.contains(key))
                out.emplace(std::move(key), stateOf(row, owner));
        });
    return out;
}

std::map<RowKey, Differing> differingRows(const Job& mine, const Job& theirs) {
    Comparer comparer;
    if (!(mine.info == theirs.info))
        comparer.add(&mine.info, {}, &theirs.info, {});
    everyList<JobLists>(
        [&]<typename L>(L) { comparer.compare(mine.*L::list, {}, theirs.*L::list, {}); });
    return std::move(comparer.out);
}

} // namespace burin
