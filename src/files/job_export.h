#pragma once
#include "core/line/sweep.h"
#include "files/job_store.h"

namespace burin {

struct Exported {
    std::string text;
    std::vector<Fault> missing; ///< measured files and pictures that are gone or damaged
};
/// The whole job with its measured files as JSON text (docs/job-format.md). Exporting what was
/// imported gives the same bytes. The edit log stays behind.
Outcome<Exported> exportJob(const JobStore& store);
/// Fills a new job file at `path` from such a text. Refused with the place where the text is not
/// one, and then no file is made.
Outcome<std::unique_ptr<JobStore>> importJob(std::string_view text, const std::string& where,
                                             const QString& path, const std::string& who);

/// The measured file of one measurement, read anew.
Outcome<MeasuredFile> readMeasurementFile(const JobStore& store, const Measurement& measurement);

} // namespace burin
