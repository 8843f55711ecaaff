#pragma once
#include "core/job/edit.h"
#include <nlohmann/json.hpp>

namespace burin {

using Json = nlohmann::ordered_json;

/// The job's things as JSON, in the form docs/job-format.md gives. Reading is strict: FaultThrown
/// leaves readJob as an Outcome with the path of the key.
Json toJson(const JobInfo& info);
Json toJson(const Room& room);
Json toJson(const Run& run);
Json toJson(const Measurement& measurement);
Json toJson(const UserCable& cable);
Json toJson(const Job& job);
Json toJson(const AnyChange& change);
Json toJson(const Edit& edit);

Outcome<Job> readJob(const Json& json, const std::string& where);
Outcome<Edit> readEdit(const Json& json, const std::string& where);

} // namespace burin
