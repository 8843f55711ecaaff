#pragma once
#include "core/job/edit.h"
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QVariant>

namespace burin {

/// Version of the tables below, in PRAGMA user_version. docs/job-format.md tells them.
inline constexpr int jobFormatVersion = 3;
/// "Buri" in PRAGMA application_id: tells a job from any other SQLite file.
inline constexpr int jobApplicationId = 0x42757269;

/// Makes the tables. Throws SqlFailed.
void createTables(QSqlDatabase& db);
/// Adds to a job of an older version what later ones have; everything in it stays. To be called
/// inside a transaction. Throws SqlFailed.
void bringUpToDate(QSqlDatabase& db, int version);
/// Writes what an edit changed. Throws SqlFailed.
void writeChanges(QSqlDatabase& db, const Edit& edit);
/// Everything in the tables of that version as a job. Throws SqlFailed.
Outcome<Job> readTables(QSqlDatabase& db, int version, const std::string& where);

struct SqlFailed {
    std::string what;
    bool full = false; ///< no room left
};
/// Runs a statement; throws SqlFailed.
QSqlQuery runSql(QSqlDatabase& db, const QString& sql, const QVariantList& values = {});

} // namespace burin
