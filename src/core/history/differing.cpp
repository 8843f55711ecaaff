#include "core/history/differing.h"
#include <unordered_map>

namespace burin {
namespace {

class Finder {
public:
    std::map<RowKey, Differing> out;

    template <typename T>
    void compare(const std::vector<T>& mine, const std::string& mineOwner,
                 const std::vector<T>& theirs, const std::string& theirOwner) {
        std::unordered_map<std::string_view, const T*> other;
        other.reserve(theirs.size());
        for (const auto& row : theirs)
            other.emplace(row.id, &row);
        for (const auto& row : mine) {
            const auto it = other.find(row.id);
            const T* same = it == other.end() ? nullptr : it->second;
            if (same != nullptr)
                other.erase(it);
            if (same == nullptr || !(*same == row) || mineOwner != theirOwner)
                add(&row, mineOwner, same, theirOwner);
        }
        for (const auto& row : theirs)
            if (other.contains(row.id))
                add<T>(nullptr, mineOwner, &row, theirOwner);
    }
    template <typename T>
    void add(const T* mine, const std::string& mineOwner, const T* theirs,
             const std::string& theirOwner) {
        const Table& table = tableOf(kindOf<T>());
        const auto state = [&](const T* row, const std::string& owner) {
            return row == nullptr
                       ? std::nullopt
                       : std::optional(RowState{
                             valuesOf(table, objectOf(table.fields, row, Owned::Without)), owner});
        };
        const std::string& id = (mine != nullptr ? mine : theirs)->id;
        Differing row{state(mine, mineOwner), state(theirs, theirOwner)};
        // A row may have moved to another owner: it is met once on each side.
        Differing& kept = out[{table.kind, id}];
        if (row.mine)
            kept.mine = std::move(row.mine);
        if (row.theirs)
            kept.theirs = std::move(row.theirs);
        if (kept.mine && kept.theirs && *kept.mine == *kept.theirs)
            out.erase({table.kind, id});
        everyChildList<T>([&]<typename C>(C) {
            static const std::vector<typename C::Type> none;
            compare(mine == nullptr ? none : mine->*C::list, id,
                    theirs == nullptr ? none : theirs->*C::list, id);
        });
    }
};

} // namespace

std::map<RowKey, RowState> statesOf(const Job& job, const std::set<RowKey>& keys) {
    std::map<RowKey, RowState> out;
    if (keys.empty())
        return out;
    const auto look = [&](Kind kind, const auto& row, const std::string& owner) {
        if (keys.contains({kind, row.id}))
            out[{kind, row.id}] = {
                valuesOf(tableOf(kind), objectOf(tableOf(kind).fields, &row, Owned::Without)),
                owner};
    };
    everyList<JobLists>([&]<typename L>(L) {
        for (const auto& row : job.*L::list) {
            look(L::kind, row, {});
            everyChildList<typename L::Type>([&]<typename C>(C) {
                for (const auto& child : row.*C::list)
                    look(C::kind, child, row.id);
            });
        }
    });
    return out;
}

std::map<RowKey, Differing> differingRows(const Job& mine, const Job& theirs) {
    Finder finder;
    if (!(mine.info == theirs.info))
        finder.add(&mine.info, {}, &theirs.info, {});
    everyList<JobLists>(
        [&]<typename L>(L) { finder.compare(mine.*L::list, {}, theirs.*L::list, {}); });
    return std::move(finder.out);
}

} // namespace burin
