#pragma once
#include "core/catalogue/catalogue.h"
#include "core/edit/edit.h"

namespace burin {

/// Puts a connector on that end of a run, in place of the one on its cable there.
Edit adoptedConnector(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                      const std::string& connectionId);
/// The same on that end of every run with the same cable, where a connector of the same series is,
/// or none that somebody chose.
Edit adoptedAlike(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                  const std::string& connectionId);

} // namespace burin
