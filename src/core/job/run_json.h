#pragma once
#include "core/catalogue/json_reader.h"
#include "core/job/job_json.h"

/// Part of job_json.h, which files and screens want.
namespace burin {

/// Throws FaultThrown with the path of the key at fault.
Run readRun(JsonObject in);

} // namespace burin
