#pragma once
#include "core/job/edit.h"

namespace burin {

/// The changes that take a row away with the rows it owns, and with what refers to it as each
/// field's description says: cleared, or gone too. Refused where something stays that cannot be
/// without it; nothing such is there after a room's runs are gone, say.
Outcome<Changes> removing(const Job& job, Kind kind, const std::string& id);

} // namespace burin
