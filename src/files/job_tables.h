#pragma once
#include "core/edit/apply.h"
#include "files/sql.h"

namespace burin {

/// "Buri" in PRAGMA application_id: tells a job from any other SQLite file.
inline constexpr int jobApplicationId = 0x42757269;

/// A row that an edit touched, with the rows it owns. Its JSON is made once: what is written and
/// sealed is the same text.
struct RowChange { // NOLINT(bugprone-exception-escape): the JSON library's own move
    Kind kind = Kind::Job;
    std::string id;
    Json before, after;                ///< null: it was not there, it went
    std::string beforeText, afterText; ///< empty likewise
};
using RowChanges = std::vector<RowChange>;
/// What was touched, and as it is now in the job.
RowChanges rowChanges(const Touched& touched, const Job& job);

/// The tables are made from the descriptions of core/job/tables.h; docs/job-format.md tells them.
/// All of these throw SqlFailed, and what writes is to be called inside a transaction.

/// Makes the tables of this version.
void createTables(QSqlDatabase& db);
/// Takes away the tables of the job's rows that another version made.
void dropTables(QSqlDatabase& db, int version);
void writeRows(QSqlDatabase& db, const RowChanges& rows);
/// Writes all of a job into fresh tables.
void writeJob(QSqlDatabase& db, const Job& job);
/// Everything in the tables of that version as a job, refused where it is not as it was written.
/// `asKept` as of `readJob`.
Outcome<Job> readTables(QSqlDatabase& db, int version, const std::string& where,
                        const std::function<void(const Job&)>& asKept = {});

} // namespace burin
