#pragma once
#include "core/job/tables.h"

namespace burin {

/// A row that an edit touched: as it was, and whether it is still there.
template <typename T> struct TouchedRow {
    std::string id;
    std::optional<T> before; ///< none: it is new
    bool stays = false;
};
/// All rows of a job that an edit touched, with those that they own.
class Touched {
public:
    std::optional<JobInfo> info; ///< none: untouched

private:
    template <typename Lists> struct RowsOf;
    template <typename... L> struct RowsOf<std::tuple<L...>> {
        using type = std::tuple<std::vector<TouchedRow<typename L::Type>>...>;
    };
    RowsOf<JobLists>::type rows_;

public:
    template <typename L> auto& of() {
        return std::get<std::vector<TouchedRow<typename L::Type>>>(rows_);
    }
    template <typename L> const auto& of() const {
        return std::get<std::vector<TouchedRow<typename L::Type>>>(rows_);
    }
};

/// What two people's work can bring about although each is in order: a label twice, a run that
/// feeds two places, two runs on one port. Where a person types it it is refused, with the cure;
/// where copies are joined, or an old step is taken back, it is left and is a finding of the job.
enum class Clashes { Refused, Left };

/// Refuses what an edit brought about and cannot stand: an empty label, a reference to nothing,
/// something drawn without a way, a clash. What stood so before is let be. `job` is as after the
/// edit.
Outcome<bool> checkTouched(const Job& job, const Touched& touched, Clashes clashes);

/// The touched lists of the job in the order they are shown.
void sortRows(Job& job, const Touched& touched);

} // namespace burin
