#include "files/job_seal.h"
#include "core/job/job_json.h"
#include "core/job/system_json.h"
#include "core/site/plan_json.h"
#include <QCryptographicHash>
#include <algorithm>
#include <set>

namespace burin {
namespace {

constexpr qsizetype sealBytes = 16;

QByteArray sealOf(const std::string& text) {
    return QCryptographicHash::hash(QByteArrayView(text.data(), qsizetype(text.size())),
                                    QCryptographicHash::Blake2b_160)
        .left(sealBytes);
}

} // namespace

WrittenEdit written(const Edit& edit) {
    WrittenEdit out;
    out.reserve(edit.changes.size());
    for (const auto& change : edit.changes)
        std::visit(
            [&](const auto& c) {
                WrittenChange& row = out.emplace_back();
                row.kind = kindOf(change);
                row.id = c.id();
                if (c.before) {
                    row.before = toJson(*c.before);
                    row.beforeText = row.before.dump();
                }
                if (c.after) {
                    row.after = toJson(*c.after);
                    row.afterText = row.after.dump();
                }
            },
            change);
    return out;
}

WrittenEdit written(Json editJson, bool takenBack) {
    WrittenEdit out;
    auto& changes = editJson["changes"];
    out.reserve(changes.size());
    for (auto& change : changes) {
        WrittenChange& row = out.emplace_back();
        const auto kind = change["kind"].get<std::string>();
        row.kind = *std::find(jobKinds.begin(), jobKinds.end(), kind);
        row.before = std::move(change["before"]);
        row.after = std::move(change["after"]);
        if (takenBack)
            std::swap(row.before, row.after);
        for (const auto& [json, text] :
             {std::pair(&row.before, &row.beforeText), std::pair(&row.after, &row.afterText)}) {
            if (json->is_null())
                continue;
            row.id = (*json)["id"].get<std::string>();
            *text = json->dump();
        }
    }
    // Last done, first taken back.
    if (takenBack)
        std::reverse(out.begin(), out.end());
    return out;
}

std::string logText(const std::string& title, const WrittenEdit& changes) {
    std::string out = "{\"title\":" + Json(title).dump() + ",\"changes\":[";
    for (const auto& change : changes) {
        if (&change != &changes.front())
            out += ',';
        out += "{\"kind\":\"" + std::string(change.kind) + '"';
        if (!change.beforeText.empty())
            out += ",\"before\":" + change.beforeText;
        if (!change.afterText.empty())
            out += ",\"after\":" + change.afterText;
        out += '}';
    }
    return out + "]}";
}

void JobSeal::mix(std::string_view kind, const QByteArray& seal) {
    auto& tally = tallies_[std::string(kind)];
    if (tally.isEmpty())
        tally.fill('\0', sealBytes);
    for (qsizetype i = 0; i < sealBytes; ++i)
        tally[i] = static_cast<char>(tally[i] ^ seal[i]);
}

void JobSeal::take(const WrittenEdit& edit) {
    for (const auto& change : edit)
        for (const std::string* text : {&change.beforeText, &change.afterText})
            if (!text->empty())
                mix(change.kind, sealOf(*text));
}

void JobSeal::takeLine(qint64 sequence, std::string_view state) {
    mix(logKind, sealOf(std::to_string(sequence) + " " + std::string(state)));
}

JobSeal JobSeal::of(const Job& job) {
    JobSeal out;
    everyThing(job, [&]<typename T>(const T& thing) {
        out.mix(jobKinds[AnyChange(Change<T>{}).index()], sealOf(toJson(thing).dump()));
    });
    return out;
}

QByteArray JobSeal::hex(std::string_view kind) const {
    const auto it = tallies_.find(kind);
    return (it == tallies_.end() ? QByteArray(sealBytes, '\0') : it->second).toHex();
}

QByteArray sealOfLogLine(const std::string& who, const std::string& title,
                         const std::string& editJson) {
    QCryptographicHash hash(QCryptographicHash::Blake2b_160);
    for (const std::string* text : {&who, &title, &editJson}) {
        hash.addData(QByteArrayView(text->data(), qsizetype(text->size())));
        hash.addData(QByteArrayView("\0", 1));
    }
    return hash.result().left(sealBytes).toHex();
}

void writeSeal(QSqlDatabase& db, const JobSeal& seal, const WrittenEdit* edit) {
    Statements sql(db);
    std::set<std::string_view> touched{logKind};
    if (edit == nullptr)
        touched.insert(jobKinds.begin(), jobKinds.end());
    else
        for (const auto& change : *edit)
            touched.insert(change.kind);
    for (const auto kind : touched)
        sql.run(QStringLiteral("INSERT OR REPLACE INTO seal (kind, tally) VALUES (?, ?)"),
                {QString::fromUtf8(kind.data(), qsizetype(kind.size())),
                 QString::fromLatin1(seal.hex(kind))});
}

JobSeal sealOf(QSqlDatabase& db, const Job& job) {
    JobSeal out = JobSeal::of(job);
    QSqlQuery lines = runSql(db, QStringLiteral("SELECT sequence, state FROM edit_log"));
    while (lines.next())
        out.takeLine(lines.value(0).toLongLong(), lines.value(1).toString().toStdString());
    return out;
}

Outcome<bool> checkSeal(QSqlDatabase& db, const JobSeal& seal, const std::string& where) {
    std::map<std::string, QByteArray, std::less<>> written;
    QSqlQuery rows = runSql(db, QStringLiteral("SELECT kind, tally FROM seal"));
    while (rows.next())
        written[rows.value(0).toString().toStdString()] = rows.value(1).toString().toLatin1();
    std::vector<std::string_view> all(jobKinds.begin(), jobKinds.end());
    all.push_back(logKind);
    for (const auto kind : all) {
        const auto it = written.find(kind);
        if (it == written.end() || it->second != seal.hex(kind))
            return refuse(
                where, "the file is damaged: “" + std::string(kind) + "” is not as it was written",
                "Restore it from a copy; this one was not touched");
    }
    return true;
}

} // namespace burin
