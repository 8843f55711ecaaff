#include "files/job_seal.h"
#include <QCryptographicHash>
#include <set>

namespace burin {
namespace {

constexpr qsizetype sealBytes = 16;

QByteArray sealOf(const std::string& text) {
    return QCryptographicHash::hash(QByteArrayView(text.data(), qsizetype(text.size())),
                                    QCryptographicHash::Blake2b_160)
        .left(sealBytes);
}

/// The kinds that are sealed: those that no other owns.
std::vector<std::string_view> sealedKinds(int version) {
    std::vector<std::string_view> out;
    for (std::size_t k = 0; k < kindCount; ++k)
        if (const Table& table = tableOf(static_cast<Kind>(k));
            !table.owner && table.since <= version)
            out.push_back(table.name());
    return out;
}

} // namespace

void JobSeal::mix(std::string_view kind, const QByteArray& seal) {
    auto& tally = tallies_[std::string(kind)];
    if (tally.isEmpty())
        tally.fill('\0', sealBytes);
    for (qsizetype i = 0; i < sealBytes; ++i)
        tally[i] = static_cast<char>(tally[i] ^ seal[i]);
}

void JobSeal::take(const RowChanges& rows) {
    for (const auto& row : rows)
        for (const std::string* text : {&row.beforeText, &row.afterText})
            if (!text->empty())
                mix(kindWords[row.kind], sealOf(*text));
}

void JobSeal::takeLine(const std::string& line) {
    mix(logKind, sealOf(line));
}

JobSeal JobSeal::of(const Job& job, int version) {
    JobSeal out;
    const auto take = [&](Kind kind, const void* row) {
        out.mix(kindWords[kind],
                sealOf(objectOf(tableOf(kind).fields, row, Owned::With, version).dump()));
    };
    take(Kind::Job, &job.info);
    everyList<JobLists>([&]<typename L>(L) {
        for (const auto& row : job.*L::list)
            take(L::kind, &row);
    });
    return out;
}

QByteArray JobSeal::hex(std::string_view kind) const {
    const auto it = tallies_.find(kind);
    return (it == tallies_.end() ? QByteArray(sealBytes, '\0') : it->second).toHex();
}

QByteArray sealOfTexts(std::initializer_list<std::string_view> texts) {
    QCryptographicHash hash(QCryptographicHash::Blake2b_160);
    for (const auto text : texts) {
        hash.addData(QByteArrayView(text.data(), qsizetype(text.size())));
        hash.addData(QByteArrayView("\0", 1));
    }
    return hash.result().left(sealBytes).toHex();
}

void createSealTable(QSqlDatabase& db) {
    runSql(db, QStringLiteral("CREATE TABLE seal (kind TEXT PRIMARY KEY, tally TEXT NOT NULL)"));
}

void writeSeal(QSqlDatabase& db, const JobSeal& seal, const RowChanges* rows) {
    Statements sql(db);
    std::set<std::string_view> touched{logKind};
    if (rows == nullptr)
        for (const auto kind : sealedKinds(formatVersion))
            touched.insert(kind);
    else
        for (const auto& row : *rows)
            touched.insert(kindWords[row.kind]);
    for (const auto kind : touched)
        sql.run(QStringLiteral("INSERT OR REPLACE INTO seal (kind, tally) VALUES (?, ?)"),
                {QString::fromUtf8(kind.data(), qsizetype(kind.size())),
                 QString::fromLatin1(seal.hex(kind))});
}

Outcome<bool> checkSeal(QSqlDatabase& db, const JobSeal& seal, int version,
                        const std::string& where) {
    std::map<std::string, QByteArray, std::less<>> written;
    QSqlQuery rows = runSql(db, QStringLiteral("SELECT kind, tally FROM seal"));
    while (rows.next())
        written[rows.value(0).toString().toStdString()] = rows.value(1).toString().toLatin1();
    auto all = sealedKinds(version);
    all.push_back(logKind);
    for (const auto kind : all) {
        const auto it = written.find(kind);
        if (it == written.end() || it->second != seal.hex(kind))
            return refuse(
                where,
                sentence(
                    {"job.file-damaged-not", "the file is damaged: “{0}” is not as it was written"},
                    asText(std::string(kind))),
                {"cure.restore-copy-not", "Restore it from a copy; this one was not touched"});
    }
    return true;
}

} // namespace burin
