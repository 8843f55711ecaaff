#pragma once
#include "core/job/edit.h"
#include "files/job_seal.h"
#include <QHash>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QVariant>
#include <stdexcept>

namespace burin {

/// Version of the tables below, in PRAGMA user_version. docs/job-format.md tells them.
inline constexpr int jobFormatVersion = 4;
/// "Buri" in PRAGMA application_id: tells a job from any other SQLite file.
inline constexpr int jobApplicationId = 0x42757269;

/// A statement the database did not do.
struct SqlFailed : std::runtime_error {
    explicit SqlFailed(const std::string& what, bool noRoom = false)
        : std::runtime_error(what), full(noRoom) {}
    bool full; ///< no room left
};
/// Runs a statement; throws SqlFailed.
QSqlQuery runSql(QSqlDatabase& db, const QString& sql, const QVariantList& values = {});

/// Statements made ready once and run many times.
class Statements {
public:
    explicit Statements(QSqlDatabase& db) : db_(db) {}
    /// Throws SqlFailed.
    QSqlQuery& run(const QString& sql, const QVariantList& values);

private:
    QSqlDatabase& db_;
    QHash<QString, QSqlQuery> ready_;
};

/// All of these throw SqlFailed, and what writes is to be called inside a transaction.

/// Makes the tables.
void createTables(QSqlDatabase& db);
/// Adds to a job of an older version what later ones have; everything in it stays.
void bringUpToDate(QSqlDatabase& db, int version);
/// Writes what an edit changed.
void writeChanges(QSqlDatabase& db, const WrittenEdit& edit);
/// Writes all of a job into fresh tables.
void writeJob(QSqlDatabase& db, const Job& job);
/// Writes the seal of the kinds an edit touched and of the logbook; of all without an edit.
void writeSeal(QSqlDatabase& db, const JobSeal& seal, const WrittenEdit* edit = nullptr);
/// The seal of a job and of the logbook's lines in the tables.
JobSeal sealOf(QSqlDatabase& db, const Job& job);
/// Everything in the tables of that version as a job, refused where it is not as it was written.
Outcome<Job> readTables(QSqlDatabase& db, int version, const std::string& where);
/// Refused where a kind of things, or the logbook, is not as the job's seal has it.
Outcome<bool> checkSeal(QSqlDatabase& db, const JobSeal& seal, const std::string& where);

} // namespace burin
