#pragma once
#include <QHash>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QVariant>
#include <stdexcept>

namespace burin {

/// A statement the database did not do.
struct SqlFailed : std::runtime_error {
    /// `code` is SQLite's, with what it says beyond the first byte or without.
    explicit SqlFailed(const std::string& what, int code = 0)
        : std::runtime_error(what), full((code & 0xff) == 13), busy((code & 0xff) == 5) {}
    bool full; ///< no room left
    bool busy; ///< another program held it for as long as we waited
};
/// Runs a statement; throws SqlFailed.
QSqlQuery runSql(QSqlDatabase& db, const QString& sql, const QVariantList& values = {});
/// The first value a statement gives; throws SqlFailed.
QVariant firstSqlValue(QSqlDatabase& db, const QString& sql);

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

} // namespace burin
