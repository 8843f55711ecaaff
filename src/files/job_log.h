#pragma once
#include "core/history/log.h"
#include "files/job_seal.h"

namespace burin {

/// A job's log in its file, and who the job is. All of these throw SqlFailed; what writes is to be
/// called inside a transaction.

/// From this version on a job's log is steps, and stays as it is when the job is brought up to a
/// later one.
inline constexpr int firstLogOfSteps = 6;

void createLogTables(QSqlDatabase& db, const std::string& jobId);
/// Adds a step and takes it into the seal.
void writeStep(QSqlDatabase& db, const LogRow& row, JobSeal& seal);
/// Which job this is a copy of.
std::string readJobId(QSqlDatabase& db);

/// The heads of the log, with its lines taken into the seal.
OpenLog readHeads(QSqlDatabase& db, JobSeal& seal);
/// A step with its changes; refused where it is not as it was written.
Outcome<LogRow> readStep(QSqlDatabase& db, const std::string& id, const std::string& where);
/// All steps, oldest first; refused where one is not as it was written.
Outcome<std::vector<LogRow>> readSteps(QSqlDatabase& db, const std::string& where);

/// The log as versions 1 to 5 kept it, oldest first; `seal` takes its lines as those did. One whose
/// own seal does not hold is refused.
struct OldLine;
Outcome<std::vector<OldLine>> readOldLines(QSqlDatabase& db, int version, JobSeal& seal,
                                           const std::string& where);
void dropOldLog(QSqlDatabase& db, int version);

} // namespace burin
