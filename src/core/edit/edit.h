#pragma once
#include "core/base/lookup.h"
#include "core/job/tables.h"
#include <algorithm>

namespace burin {

/// A field set, a row added, or a row taken away.
enum class Op { Set, Add, Remove };
inline constexpr auto opWords = wordsOf<Op>("set", "add", "remove");

struct Change { // NOLINT(bugprone-exception-escape): the JSON library's own move
    Op op = Op::Set;
    Kind kind = Kind::Job;
    std::string id;
    std::string field; ///< of Set: "note", "accuracy.lossDb"
    /// Set: values of the field, null where it is left out. Add has the row after it, Remove the
    /// one before it; a row that another owns names it ("runId"), and does not hold rows it owns.
    Json before, after;
    bool operator==(const Change&) const = default;
};

/// Changes that are done in turn.
class Changes : public std::vector<Change> {
public:
    using std::vector<Change>::vector;
    using std::vector<Change>::push_back;
    Changes() = default;
    Changes(std::initializer_list<Changes> parts) {
        for (const auto& part : parts)
            push_back(part);
    }
    void push_back(const Changes& more) { insert(end(), more.begin(), more.end()); }
};

/// The only way a job changes. All of its changes happen, or none.
struct Edit {
    std::string title; ///< "set cable on 12 runs"
    Changes changes;
    bool operator==(const Edit&) const = default;
};

/// The job with the edit done, or why it cannot be: see `applyTo` in apply.h.
Outcome<Job> apply(const Job& job, const Edit& edit);
/// The edit that takes this one back.
Edit inverse(const Edit& edit);

Json toJson(const Change& change);
Json toJson(const Edit& edit);
/// Refused with the path of what is at fault; values are looked at when the edit is applied.
Outcome<Edit> readEdit(const Json& json, const std::string& where);

namespace detail {
void differInFields(Kind kind, const void* before, const void* after, Changes& out);
/// Add or Remove of a row; `ownerId` of one that is owned.
Change rowChange(Op op, Kind kind, const void* row, const std::string& ownerId = {});
/// Orders that rise along the list: those known stay where they can.
std::vector<double> risingOrders(const std::vector<double>& orders, const std::vector<bool>& known);

/// Gives rows that came without an id the one of a row that is gone and describes the same: one
/// that is alike, one of the same name, one in the same slot; else the id that every copy gives.
template <typename Row>
void takeSlots(Kind kind, const std::string& ownerId, const std::vector<Row>& before,
               std::vector<Row>& after) {
    std::vector<const Row*> gone;
    for (const auto& row : before)
        if (byId(after, row.id) == nullptr)
            gone.push_back(&row);
    const auto take = [&](auto describes) {
        for (auto& row : after) {
            const auto was = !row.id.empty()
                                 ? gone.end()
                                 : std::find_if(gone.begin(), gone.end(), [&](const Row* other) {
                                       return describes(row, *other);
                                   });
            if (was == gone.end())
                continue;
            row.id = (*was)->id;
            row.order = (*was)->order;
            gone.erase(was);
        }
    };
    take([](Row row, const Row& other) {
        row.id = other.id;
        row.order = other.order;
        return row == other;
    });
    if constexpr (requires(const Row& row) { row.name; })
        take([](const Row& row, const Row& other) { return row.name == other.name; });
    take([](const Row& row, const Row& other) { return slotOf(row) == slotOf(other); });
    for (auto& row : after) {
        std::string slot = slotOf(row);
        // Beside others, two of two names are two things.
        if constexpr (requires { row.name; })
            slot += before.empty() ? "" : ' ' + row.name;
        for (std::size_t n = 0; row.id.empty(); ++n)
            if (const auto id = slotId(kind, ownerId, slot, n);
                byId(before, id) == nullptr && byId(after, id) == nullptr)
                row.id = id;
    }
}

/// Rows that a row owns: gone, new and changed ones.
template <typename Row>
void differInRows(Kind kind, const std::string& ownerId, const std::vector<Row>& before,
                  std::vector<Row> after, Changes& out) {
    if constexpr (requires(const Row& row) { slotOf(row); })
        takeSlots(kind, ownerId, before, after);
    // A row that is new has no id yet.
    const auto in = [](const std::vector<Row>& rows, const std::string& id) {
        return id.empty() ? nullptr : byId(rows, id);
    };
    std::vector<double> orders;
    std::vector<bool> known;
    for (auto& row : after) {
        known.push_back(in(before, row.id) != nullptr);
        orders.push_back(row.order);
        if (row.id.empty())
            row.id = newId();
    }
    orders = risingOrders(orders, known);
    for (const auto& row : before)
        if (in(after, row.id) == nullptr)
            out.push_back(rowChange(Op::Remove, kind, &row, ownerId));
    for (std::size_t i = 0; i < after.size(); ++i) {
        after[i].order = orders[i];
        if (const Row* was = in(before, after[i].id))
            differInFields(kind, was, &after[i], out);
        else
            out.push_back(rowChange(Op::Add, kind, &after[i], ownerId));
    }
}
} // namespace detail

/// The changes that turn one row into another, field by field, with the rows it owns; `before`
/// empty adds it, `after` empty removes it.
template <typename T> Changes put(const std::optional<T>& before, const std::optional<T>& after) {
    static const T nothing{};
    const T& was = before ? *before : nothing;
    const T& is = after ? *after : nothing;
    constexpr Kind kind = kindOf<T>();
    Changes out;
    const auto owned = [&] {
        everyChildList<T>([&]<typename L>(L) {
            detail::differInRows(L::kind, before ? was.id : is.id, was.*L::list, is.*L::list, out);
        });
    };
    if (!after) // what it owns first, since it goes with nothing in it
        owned();
    if (before && after)
        detail::differInFields(kind, &was, &is, out);
    else
        out.push_back(detail::rowChange(after ? Op::Add : Op::Remove, kind, after ? &is : &was));
    if (after)
        owned();
    return out;
}

} // namespace burin
