#include "files/job_log.h"
#include "core/history/old_log.h"
#include "files/qt_text.h"
#include <QSqlQuery>

namespace burin {
namespace {

std::string text(const QSqlQuery& query, int column) {
    return query.value(column).toString().toStdString();
}
/// What the job's seal has of a step.
std::string lineOf(const std::string& id, const std::string& mergedBy, const QByteArray& seal) {
    return id + ' ' + mergedBy + ' ' + seal.toStdString();
}

const QString logColumns = QStringLiteral("id, parents, replica, lamport, at, who, title, undoes, "
                                          "format, merged_by, seal, edit_json, changes");

Outcome<LogRow> readRow(const QSqlQuery& query, const std::string& where) {
    LogRow row;
    row.id = text(query, 0);
    const QStringList parents =
        query.value(1).toString().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    for (const auto& parent : parents)
        row.parents.push_back(parent.toStdString());
    row.replica = text(query, 2);
    row.lamport = query.value(3).toLongLong();
    row.at = text(query, 4);
    row.who = text(query, 5);
    row.title = text(query, 6);
    row.undoes = text(query, 7);
    row.format = query.value(8).toInt();
    row.mergedBy = text(query, 9);
    const std::string body = text(query, 11);
    const auto broken = [&](Sentence what) {
        return refuse(where, std::move(what),
                      {"cure.cannot-taken-back",
                       "It cannot be taken back or done again; the job is as it was"});
    };
    if (query.value(10).toString().toLatin1() != sealOfTexts({headText(row), body}))
        return broken(
            sentence({"log.line-damaged", "the logbook's line “{0}” is damaged"}, row.title));
    auto changes = readChanges(body, where);
    if (!changes)
        return broken(sentence({"log.line-damaged-how", "the logbook's line “{0}” is damaged: {1}"},
                               row.title, changes.error().what));
    row.changes = std::move(*changes);
    if (row.changes.size() != query.value(12).toULongLong())
        return broken(
            sentence({"log.line-damaged", "the logbook's line “{0}” is damaged"}, row.title));
    return row;
}

} // namespace

void createLogTables(QSqlDatabase& db, const std::string& jobId) {
    runSql(db, QStringLiteral("CREATE TABLE identity (job_id TEXT NOT NULL)"));
    runSql(db, QStringLiteral("INSERT INTO identity (job_id) VALUES (?)"), {q(jobId)});
    runSql(db, QStringLiteral(
                   "CREATE TABLE edit_log (sequence INTEGER PRIMARY KEY AUTOINCREMENT,"
                   " id TEXT NOT NULL UNIQUE, parents TEXT NOT NULL, replica TEXT NOT NULL,"
                   " lamport INTEGER NOT NULL, at TEXT NOT NULL, who TEXT NOT NULL,"
                   " title TEXT NOT NULL, undoes TEXT, format INTEGER NOT NULL, merged_by TEXT,"
                   " changes INTEGER NOT NULL, seal TEXT NOT NULL)"));
    // Apart: the heads are read at every opening, the changes only when they are wanted.
    runSql(db, QStringLiteral("CREATE TABLE edit_body (sequence INTEGER PRIMARY KEY,"
                              " edit_json TEXT NOT NULL)"));
}

void writeStep(QSqlDatabase& db, const LogRow& row, JobSeal& seal) {
    const std::string body = changesText(row.changes);
    const QByteArray rowSeal = sealOfTexts({headText(row), body});
    std::string parents;
    for (const auto& parent : row.parents)
        parents += (parents.empty() ? "" : " ") + parent;
    const QSqlQuery line =
        runSql(db,
               QStringLiteral(
                   "INSERT INTO edit_log (id, parents, replica, lamport, at, who, title,"
                   " undoes, format, merged_by, changes, seal) VALUES (?,?,?,?,?,?,?,?,?,?,?,?)"),
               {q(row.id), q(parents), q(row.replica), qlonglong(row.lamport), q(row.at),
                q(row.who), q(row.title), q(row.undoes), row.format, q(row.mergedBy),
                qlonglong(row.changes.size()), QString::fromLatin1(rowSeal)});
    runSql(db, QStringLiteral("INSERT INTO edit_body (sequence, edit_json) VALUES (?, ?)"),
           {line.lastInsertId(), q(body)});
    seal.takeLine(lineOf(row.id, row.mergedBy, rowSeal));
}

std::string readJobId(QSqlDatabase& db) {
    return firstSqlValue(db, QStringLiteral("SELECT job_id FROM identity"))
        .toString()
        .toStdString();
}

OpenLog readHeads(QSqlDatabase& db, JobSeal& seal) {
    OpenLog out;
    QSqlQuery query =
        runSql(db, QStringLiteral("SELECT id, undoes, title, merged_by, lamport, seal, "
                                  "changes > 0, at FROM edit_log ORDER BY sequence"));
    while (query.next()) {
        const std::string mergedBy = text(query, 3);
        out.heads.push_back({text(query, 0), text(query, 1), text(query, 2), mergedBy.empty(),
                             query.value(6).toBool()});
        out.lamport = std::max<std::int64_t>(out.lamport, query.value(4).toLongLong());
        out.latestAt = std::max(out.latestAt, text(query, 7));
        if (mergedBy.empty())
            out.last = out.heads.back().id;
        seal.takeLine(lineOf(out.heads.back().id, mergedBy, query.value(5).toString().toLatin1()));
    }
    if (firstSqlValue(db, QStringLiteral("SELECT COUNT(*) FROM edit_body")).toULongLong() !=
        out.heads.size())
        throw SqlFailed("the logbook has not the changes of every line");
    out.steps = stepsOf(out.heads);
    return out;
}

Outcome<LogRow> readStep(QSqlDatabase& db, const std::string& id, const std::string& where) {
    QSqlQuery query =
        runSql(db,
               QStringLiteral("SELECT %1 FROM edit_log JOIN edit_body USING (sequence) "
                              "WHERE id = ?")
                   .arg(logColumns),
               {q(id)});
    if (!query.next())
        return refuse(where, {"log.line-logbook-missing", "a line of the logbook is missing"},
                      {"cure.cannot-taken-back",
                       "It cannot be taken back or done again; the job is as it was"});
    return readRow(query, where);
}

Outcome<std::vector<LogRow>> readSteps(QSqlDatabase& db, const std::string& where) {
    std::vector<LogRow> out;
    QSqlQuery query = runSql(db, QStringLiteral("SELECT %1 FROM edit_log JOIN edit_body "
                                                "USING (sequence) ORDER BY sequence")
                                     .arg(logColumns));
    while (query.next()) {
        auto row = readRow(query, where);
        if (!row)
            return refuse(row.error());
        out.push_back(std::move(*row));
    }
    return out;
}

Outcome<std::vector<OldLine>> readOldLines(QSqlDatabase& db, int version, JobSeal& seal,
                                           const std::string& where) {
    std::vector<OldLine> out;
    const bool sealed = version >= 4;
    QSqlQuery query =
        runSql(db, sealed ? QStringLiteral(
                                "SELECT sequence, at, who, title, state, edit_json, seal "
                                "FROM edit_log JOIN edit_body USING (sequence) ORDER BY sequence")
                          : QStringLiteral("SELECT sequence, at, who, title, state, edit_json, '' "
                                           "FROM edit_log ORDER BY sequence"));
    while (query.next()) {
        const OldLine& line = out.emplace_back(OldLine{
            text(query, 1), text(query, 2), text(query, 3), text(query, 4), text(query, 5)});
        if (sealed && query.value(6).toString().toLatin1() !=
                          sealOfTexts({line.who, line.title, line.editJson}))
            return refuse(
                where,
                sentence({"log.line-damaged", "the logbook's line “{0}” is damaged"}, line.title),
                {"cure.restore-copy-not", "Restore it from a copy; this one was not touched"});
        seal.takeLine(text(query, 0) + ' ' + line.state);
    }
    return out;
}

void dropOldLog(QSqlDatabase& db, int version) {
    runSql(db, QStringLiteral("DROP TABLE edit_log"));
    if (version >= 4) {
        runSql(db, QStringLiteral("DROP TABLE edit_body"));
        runSql(db, QStringLiteral("DROP TABLE seal"));
    }
}

} // namespace burin
