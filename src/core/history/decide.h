#pragma once
#include "core/history/merge.h"

namespace burin {

/// The edit that decides a conflict for one of its claims: the field gets that value, or the row
/// stays or goes. Refused: there is no such claim, or what the row needs does not let it go.
Outcome<Edit> decide(const Job& job, const Conflict& conflict, std::size_t claim);
/// Whether the job is now as that claim has it.
bool stands(const Job& job, const Conflict& conflict, std::size_t claim);

/// What a conflict is about: "run SL-D03", "stretch tray of run SL-D03, length".
Sentence subjectOf(const Job& job, const Conflict& conflict);
/// What the base or a claim of a conflict says: a value, with cables, connections and services by
/// their names, a stretch with how long its run is then; "kept" or "taken away".
Sentence claimed(const Job& job, const Catalogue& catalogue, const Conflict& conflict,
                 const std::string& json);

} // namespace burin
