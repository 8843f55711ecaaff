#pragma once
#include "core/job/edit.h"
#include "files/job_seal.h"
#include "files/sql.h"

namespace burin {

/// Version of the tables below, in PRAGMA user_version. docs/job-format.md tells them.
inline constexpr int jobFormatVersion = 5;
/// "Buri" in PRAGMA application_id: tells a job from any other SQLite file.
inline constexpr int jobApplicationId = 0x42757269;

/// All of these throw SqlFailed, and what writes is to be called inside a transaction.

/// Makes the tables.
void createTables(QSqlDatabase& db);
/// Adds to a job of an older version what later ones have; everything in it stays.
void bringUpToDate(QSqlDatabase& db, int version);
/// Writes what an edit changed.
void writeChanges(QSqlDatabase& db, const WrittenEdit& edit);
/// Writes all of a job into fresh tables.
void writeJob(QSqlDatabase& db, const Job& job);
/// Everything in the tables of that version as a job, refused where it is not as it was written.
Outcome<Job> readTables(QSqlDatabase& db, int version, const std::string& where);
} // namespace burin
