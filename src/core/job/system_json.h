#pragma once
#include "core/catalogue/json_reader.h"
#include "core/job/system.h"

namespace burin {

/// Distributions and buses of a job as JSON; docs/job-format.md has the keys.
nlohmann::ordered_json toJson(const Distribution& distribution);
nlohmann::ordered_json toJson(const BusChain& bus);
/// Throw FaultThrown with the place and key at fault.
Distribution readDistribution(JsonObject in);
BusChain readBusChain(JsonObject in);

} // namespace burin
