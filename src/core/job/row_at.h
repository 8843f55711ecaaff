#pragma once
#include "core/base/sentence.h"
#include "core/job/tables.h"

namespace burin {

/// A row of a job, and what people call it.
struct RowAt {
    const void* row = nullptr; ///< of the type of its kind; nullptr: the job has none such
    Sentence called{};         ///< "run SL-D03", "stretch tray of run SL-D03", "the job"
};
RowAt rowAt(const Job& job, Kind kind, const std::string& id);

/// The value of a field of a row, null where it is left out or there is no such row or field.
Json valueAt(const Job& job, Kind kind, const std::string& id, const std::string& field);

} // namespace burin
