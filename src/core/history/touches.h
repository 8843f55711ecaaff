#pragma once
#include "core/history/ancestry.h"
#include <map>
#include <set>

namespace burin {

/// Values of a row by field, "accuracy.lossDb" among them; what is left out is not there.
using RowValues = std::map<std::string, Json, std::less<>>;

/// Left out, or an empty text.
bool isNothing(const Json& value);
/// The values of a row as JSON has it without the rows it owns.
RowValues valuesOf(const Table& table, const Json& row);
/// The other way round; with the name of its owner where it has one.
Json rowOf(const Table& table, const RowValues& values, const std::string& ownerId);

/// A step that gave a field a value.
struct Touch {
    std::size_t step = 0;
    Json before, after; ///< null: left out
    /// The step took away what the field referred to, and cleared it for that alone.
    bool follows = false;
    std::optional<Kind> referred{}; ///< then: the kind of that
};
/// A step with which a row came or went.
struct Coming {
    std::size_t step = 0;
    bool there = false;
    RowValues content; ///< as it came, or as it went
};
/// What the steps of a log did to one row, in their order.
struct RowTouches {
    std::map<std::string, std::vector<Touch>, std::less<>> fields;
    std::vector<Coming> comings;
    std::string ownerId; ///< of a row that is owned, where a step tells it
};
/// A change of a step.
struct ChangeAt {
    std::size_t step = 0;
    const Change* change = nullptr;
};

/// All changes of joined logs by the row they are of. Of steps that joined copies only conflicts
/// count: the rest of what they did follows from the others. A step that was taken back before
/// anybody else knew of it, and the one that took it back, are as if they had not been, where
/// wanted.
class TouchIndex {
public:
    enum class TakenBack { Left, Dropped };
    TouchIndex(std::vector<const LogRow*> steps, const Ancestry& ancestry, TakenBack takenBack);

    [[nodiscard]] const std::vector<const LogRow*>& steps() const { return steps_; }
    /// Fields that a step ever made refer to that row, with the rows they are of.
    [[nodiscard]] const std::set<std::pair<RowKey, std::string>>& referring(const RowKey& to) const;
    /// Rows that a step took away.
    [[nodiscard]] const std::set<RowKey>& removed() const { return removed_; }
    /// Rows that a step touched.
    [[nodiscard]] std::set<RowKey> rowsOf(std::size_t step) const;
    /// What was done to a row. A row that came again by taking its going back has the values it
    /// went with before it.
    [[nodiscard]] RowTouches of(const RowKey& key, const Ancestry& ancestry) const;

private:
    std::vector<const LogRow*> steps_;
    std::map<RowKey, std::vector<ChangeAt>> changes_;
    std::map<RowKey, std::set<std::pair<RowKey, std::string>>> referring_;
    std::set<RowKey> removed_;
};

} // namespace burin
