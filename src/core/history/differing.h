#pragma once
#include "core/history/touches.h"

namespace burin {

/// A row as one copy of a job has it, without the rows it owns.
struct RowState {
    RowValues values;
    std::string ownerId; ///< of a row that is owned
    bool operator==(const RowState&) const = default;
};
/// A row that two copies do not have alike; none: that copy has it not.
struct Differing {
    std::optional<RowState> mine, theirs;
};
/// Some rows of a job, as far as it has them.
std::map<RowKey, RowState> statesOf(const Job& job, const std::set<RowKey>& keys);
/// All of them. Rows that are alike cost a comparison each.
std::map<RowKey, Differing> differingRows(const Job& mine, const Job& theirs);

} // namespace burin
