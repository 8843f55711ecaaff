#include "files/sql.h"
#include <QSqlError>

namespace burin {
namespace {

[[noreturn]] void failed(const QSqlQuery& query) {
    const auto error = query.lastError();
    throw SqlFailed(error.databaseText().toStdString(), error.nativeErrorCode().toInt());
}

} // namespace

QSqlQuery runSql(QSqlDatabase& db, const QString& sql, const QVariantList& values) {
    QSqlQuery query(db);
    query.setForwardOnly(true);
    bool good = query.prepare(sql);
    for (const auto& value : values)
        query.addBindValue(value);
    good = good && query.exec();
    if (!good)
        failed(query);
    return query;
}

QSqlQuery& Statements::run(const QString& sql, const QVariantList& values) {
    auto it = ready_.find(sql);
    if (it == ready_.end()) {
        QSqlQuery query(db_);
        query.setForwardOnly(true);
        if (!query.prepare(sql))
            failed(query);
        it = ready_.emplace(sql, std::move(query));
    }
    for (qsizetype i = 0; i < values.size(); ++i)
        it->bindValue(static_cast<int>(i), values[i]);
    if (!it->exec())
        failed(*it);
    return *it;
}

QVariant firstSqlValue(QSqlDatabase& db, const QString& sql) {
    QSqlQuery query = runSql(db, sql);
    return query.next() ? query.value(0) : QVariant();
}

} // namespace burin
