#include "files/job_store.h"
#include "core/job/job_json.h"
#include "files/job_database.h"
#include "files/job_file.h"
#include "files/job_tables.h"
#include "files/picture_folder.h"
#include "files/whole_file.h"
#include <QCryptographicHash>
#include <QDateTime>
#include <QFile>
#include <QFileInfo>
#include <QSqlQuery>

namespace burin {
namespace {

std::string utf8(const QString& text) {
    return text.toStdString();
}

tl::unexpected<Fault> sqlFault(const QString& path, const SqlFailed& failed) {
    if (failed.full)
        return refuse(utf8(path), "the disk is full, so the edit was not kept",
                      "Make room on the disk, then do it again; the job is as it was");
    return refuse(utf8(path), std::string("the job file did not take it: ") + failed.what(),
                  "Check the disk; the job is as it was before");
}

/// Why a job was not read; with a log of an older Burin beside it, that may be the cause.
tl::unexpected<Fault> unread(const JobHeader& header, const QString& path, const Fault& fault) {
    if (!header.writeAheadLog || QFileInfo(path + QStringLiteral("-wal")).size() == 0)
        return refuse(fault);
    return refuse(utf8(path),
                  "the log beside it does not belong to it, or one of them is damaged: " +
                      fault.what,
                  "Move " + utf8(QFileInfo(path).fileName()) +
                      "-wal to another folder, keep it, and open the job again");
}

} // namespace

struct JobStore::Private {
    QString path;
    std::unique_ptr<JobFile> file; ///< none: for reading alone
    JobDatabase database;          ///< closed before what stands above it
    JobSeal seal;

    [[nodiscard]] QSqlDatabase& db() { return database.db; }

    /// Refused where the job is open for reading alone, or its file is not as we left it.
    [[nodiscard]] Outcome<bool> takesEdits() const {
        if (!file)
            return refuse(utf8(path), "the job is open for reading alone",
                          "Save a copy (Job menu) to a folder of yours, and open that");
        return file->isAsWeLeftIt();
    }

    /// Writes a line of the logbook and takes it into the seal.
    void logLine(JobSeal& sealed, const std::string& who, const std::string& title,
                 const char* state, const std::string& json) {
        const QSqlQuery line =
            runSql(db(),
                   QStringLiteral("INSERT INTO edit_log (at, who, title, state, seal) "
                                  "VALUES (?, ?, ?, ?, ?)"),
                   {QString::fromStdString(momentNow()), QString::fromStdString(who),
                    QString::fromStdString(title), QString::fromLatin1(state),
                    QString::fromLatin1(sealOfLogLine(who, title, json))});
        const QVariant sequence = line.lastInsertId();
        runSql(db(), QStringLiteral("INSERT INTO edit_body (sequence, edit_json) VALUES (?, ?)"),
               {sequence, QString::fromStdString(json)});
        sealed.takeLine(sequence.toLongLong(), state);
    }
    /// What could be done again cannot any more, once something else was done.
    void dropUndone(JobSeal& sealed) {
        QSqlQuery lines =
            runSql(db(), QStringLiteral("SELECT sequence FROM edit_log WHERE state = 'undone'"));
        while (lines.next()) {
            sealed.takeLine(lines.value(0).toLongLong(), "undone");
            sealed.takeLine(lines.value(0).toLongLong(), "dropped");
        }
        runSql(db(),
               QStringLiteral("UPDATE edit_log SET state = 'dropped' WHERE state = 'undone'"));
    }

    struct Line {
        qint64 sequence = 0;
        std::string who, title;
        QByteArray seal;
    };
    /// The edit undo (`state` done) or redo (`state` undone) would take. Throws SqlFailed.
    std::optional<Line> next(const char* state) {
        // What was taken back last is done again first: the lowest sequence among the undone.
        const bool redo = std::string_view(state) == "undone";
        QSqlQuery query =
            runSql(db(), QStringLiteral("SELECT sequence, who, title, seal FROM edit_log "
                                        "WHERE state = '%1' ORDER BY sequence %2 LIMIT 1")
                             .arg(QLatin1String(state),
                                  redo ? QStringLiteral("ASC") : QStringLiteral("DESC")));
        if (!query.next())
            return std::nullopt;
        return Line{query.value(0).toLongLong(), query.value(1).toString().toStdString(),
                    query.value(2).toString().toStdString(), query.value(3).toString().toLatin1()};
    }
    std::string titleOf(const char* state) {
        try {
            const auto line = next(state);
            return line ? line->title : std::string();
        } catch (const SqlFailed&) {
            return {}; // the step itself says what is wrong
        }
    }

    template <typename Work> Outcome<bool> transaction(Work work) {
        try {
            runSql(db(), QStringLiteral("BEGIN IMMEDIATE"));
            work();
            runSql(db(), QStringLiteral("COMMIT"));
            file->remember();
            return true;
        } catch (const SqlFailed& failed) {
            QSqlQuery(db()).exec(QStringLiteral("ROLLBACK"));
            file->remember();
            return sqlFault(path, failed);
        }
    }

    Outcome<bool> step(Job& job, const char* from, const char* to) {
        if (auto good = takesEdits(); !good)
            return good;
        try {
            const auto entry = next(from);
            if (!entry)
                return false;
            const auto broken = [&](const std::string& why) {
                return refuse(utf8(path),
                              "the logbook's line “" + entry->title + "” is damaged" + why,
                              "It cannot be taken back or done again; the job is as it was");
            };
            const std::string text =
                firstSqlValue(db(), QStringLiteral("SELECT edit_json FROM edit_body "
                                                   "WHERE sequence = %1")
                                        .arg(entry->sequence))
                    .toString()
                    .toStdString();
            if (entry->seal != sealOfLogLine(entry->who, entry->title, text))
                return broken("");
            // Its seal holds: it is what this program wrote.
            Json json = Json::parse(text, nullptr, false);
            if (json.is_discarded())
                return broken(": it is no JSON");
            auto edit = readEdit(json, "edit log");
            if (!edit)
                return broken(": " + edit.error().what);
            if (std::string_view(from) == "done")
                edit = inverse(*edit);
            auto next = apply(job, *edit);
            if (!next)
                return refuse(next.error());
            const WrittenEdit rows = written(std::move(json), std::string_view(from) == "done");
            JobSeal sealed = seal;
            sealed.take(rows);
            sealed.takeLine(entry->sequence, from);
            sealed.takeLine(entry->sequence, to);
            auto done = transaction([&] {
                writeChanges(db(), rows);
                runSql(db(), QStringLiteral("UPDATE edit_log SET state = ? WHERE sequence = ?"),
                       {QString::fromLatin1(to), entry->sequence});
                writeSeal(db(), sealed, &rows);
            });
            if (done) {
                job = std::move(*next);
                seal = std::move(sealed);
            }
            return done;
        } catch (const SqlFailed& failed) {
            return sqlFault(path, failed);
        }
    }

    void keep(const Attachment& a) {
        runSql(db(),
               QStringLiteral("INSERT OR IGNORE INTO attachment (hash, name, bytes) "
                              "VALUES (?, ?, ?)"),
               {QString::fromStdString(a.hash), QString::fromStdString(a.name),
                QByteArray::fromStdString(a.bytes)});
    }
};

Attachment attach(std::string name, std::string bytes) {
    const auto hash =
        QCryptographicHash::hash(QByteArrayView(bytes.data(), static_cast<qsizetype>(bytes.size())),
                                 QCryptographicHash::Sha256);
    return {hash.toHex().toStdString(), std::move(name), std::move(bytes)};
}

std::string momentNow() {
    const auto at = QDateTime::currentDateTime();
    return utf8(at.toOffsetFromUtc(at.offsetFromUtc()).toString(Qt::ISODateWithMs));
}

JobStore::JobStore(std::unique_ptr<Private> d) : d_(std::move(d)) {}
JobStore::~JobStore() = default;
QString JobStore::path() const {
    return d_->path;
}
bool JobStore::readOnly() const {
    return !d_->file;
}
Outcome<bool> JobStore::isOnDisk() const {
    return d_->file ? d_->file->isAsWeLeftIt() : true;
}

Outcome<std::unique_ptr<JobStore>> JobStore::create(const QString& path, const std::string& name) {
    Job job;
    job.info.name = name;
    return create(path, job, {}, {}, {});
}

Outcome<std::unique_ptr<JobStore>> JobStore::create(const QString& path, const Job& job,
                                                    const std::vector<Attachment>& attachments,
                                                    const std::string& title,
                                                    const std::string& who) {
    auto d = std::make_unique<Private>();
    const QFileInfo info(path);
    const QString folder = QFileInfo(info.absolutePath()).canonicalFilePath();
    d->path =
        folder.isEmpty() ? info.absoluteFilePath() : folder + QLatin1Char('/') + info.fileName();
    auto file = JobFile::make(d->path);
    if (!file)
        return refuse(file.error());
    d->file = std::move(*file);
    NewPictures pictures(d->path);
    auto done = [&]() -> Outcome<bool> {
        try {
            if (auto good = d->database.openForWriting(d->path); !good)
                return good;
            for (const auto& a : attachments)
                if (isPictureOf(job, a.hash))
                    if (auto kept = pictures.keep(a); !kept)
                        return kept;
            d->seal = JobSeal::of(job);
            return d->transaction([&] {
                createTables(d->db());
                writeJob(d->db(), job);
                for (const auto& a : attachments)
                    if (!isPictureOf(job, a.hash))
                        d->keep(a);
                if (!title.empty())
                    d->logLine(d->seal, who, title, "begun", "{}");
                writeSeal(d->db(), d->seal);
            });
        } catch (const SqlFailed& failed) {
            return sqlFault(d->path, failed);
        }
    }();
    if (done)
        if (const int error = syncFolderOf(utf8(d->path)); error != 0)
            done = refuse(utf8(d->path), "the disk did not take its name: " + whyNot(error),
                          "Check the disk, then do it again");
    if (!done) {
        d->database.close();
        d->file->discard();
        return refuse(done.error());
    }
    pictures.stay();
    std::unique_ptr<JobStore> out(new JobStore(std::move(d)));
    out->job_ = job;
    return out;
}

Outcome<std::unique_ptr<JobStore>> JobStore::open(const QString& path, Access access) {
    const auto header = inspectJobFile(path);
    if (!header)
        return refuse(header.error());
    auto d = std::make_unique<Private>();
    d->path = QFileInfo(path).canonicalFilePath();
    if (access == Access::ReadWrite) {
        if (!takesWrites(d->path))
            return refuse(utf8(path), "the file or its folder may not be written",
                          "Copy it to a folder of yours and open it there");
        auto file = JobFile::hold(d->path);
        if (!file)
            return refuse(file.error());
        d->file = std::move(*file);
    }
    try {
        // First without leave to write, so that a file we refuse stays as it was.
        if (auto good = d->database.openForReading(d->path, *header); !good)
            return refuse(good.error());
        auto seen = look(d->database.db, d->path);
        if (!seen)
            return unread(*header, d->path, seen.error());
        d->seal = seen->seal;
        if (access == Access::ReadWrite) {
            d->database.close();
            d->file->remember();
            if (auto good = d->database.openForWriting(d->path); !good)
                return refuse(good.error());
            d->file->remember();
            if (seen->version < jobFormatVersion) {
                const auto done = d->transaction([&] {
                    bringUpToDate(d->db(), seen->version);
                    writeSeal(d->db(), d->seal);
                });
                if (!done)
                    return refuse(done.error());
            }
        }
        std::unique_ptr<JobStore> out(new JobStore(std::move(d)));
        out->job_ = std::move(seen->job);
        return out;
    } catch (const SqlFailed& failed) {
        return unread(
            *header, d->path,
            damagedJob(path, std::string("the file is damaged: ") + failed.what()).value());
    }
}

Outcome<bool> JobStore::commit(const Edit& edit, const std::string& who,
                               const std::vector<Attachment>& attachments) {
    auto next = apply(job_, edit);
    if (!next)
        return refuse(next.error());
    if (auto good = d_->takesEdits(); !good)
        return good;
    // Pictures first: an edit that names one must find it, however the program ends.
    NewPictures pictures(d_->path);
    for (const auto& a : attachments)
        if (isPictureOf(edit, a.hash))
            if (auto kept = pictures.keep(a); !kept)
                return kept;
    const WrittenEdit rows = written(edit);
    JobSeal sealed = d_->seal;
    sealed.take(rows);
    auto done = d_->transaction([&] {
        for (const auto& a : attachments)
            if (!isPictureOf(edit, a.hash))
                d_->keep(a);
        writeChanges(d_->db(), rows);
        d_->dropUndone(sealed);
        d_->logLine(sealed, who, edit.title, "done", logText(edit.title, rows));
        writeSeal(d_->db(), sealed, &rows);
    });
    if (done) {
        pictures.stay();
        job_ = std::move(*next);
        d_->seal = std::move(sealed);
    }
    return done;
}

Outcome<bool> JobStore::undo() {
    return d_->step(job_, "done", "undone");
}
Outcome<bool> JobStore::redo() {
    return d_->step(job_, "undone", "done");
}
std::string JobStore::undoTitle() const {
    return d_->titleOf("done");
}
std::string JobStore::redoTitle() const {
    return d_->titleOf("undone");
}

Outcome<std::string> JobStore::attachment(const std::string& hash) const {
    try {
        QSqlQuery query =
            runSql(d_->db(), QStringLiteral("SELECT bytes FROM attachment WHERE hash = ?"),
                   {QString::fromStdString(hash)});
        if (!query.next())
            return refuse(utf8(d_->path), "a measured file is missing from the job",
                          "Bring it in again");
        std::string bytes = query.value(0).toByteArray().toStdString();
        if (attach({}, bytes).hash != hash)
            return refuse(utf8(d_->path), "a measured file is damaged: not what was brought in",
                          "Restore the job from a copy, or bring the file in again");
        return bytes;
    } catch (const SqlFailed& failed) {
        return refuse(utf8(d_->path),
                      std::string("a measured file cannot be read: ") + failed.what(),
                      "Restore the job from a copy, or bring the file in again");
    }
}

Outcome<KeptFiles> JobStore::attachments() const {
    try {
        KeptFiles out;
        std::vector<std::pair<std::string, std::string>> names;
        QSqlQuery query =
            runSql(d_->db(), QStringLiteral("SELECT hash, name FROM attachment ORDER BY hash"));
        while (query.next())
            names.emplace_back(query.value(0).toString().toStdString(),
                               query.value(1).toString().toStdString());
        for (const auto& [hash, name] : names) {
            auto bytes = attachment(hash);
            if (bytes)
                out.files.push_back({hash, name, std::move(*bytes)});
            else
                out.missing.push_back({name, 0, 0, bytes.error().what, bytes.error().cure});
        }
        auto pictures = picturesOf(d_->path, job_);
        for (auto& picture : pictures.files)
            out.files.push_back(std::move(picture));
        for (auto& fault : pictures.missing)
            out.missing.push_back(std::move(fault));
        return out;
    } catch (const SqlFailed& failed) {
        return damagedJob(d_->path,
                          std::string("its measured files cannot be read: ") + failed.what());
    }
}

Outcome<std::vector<LogEntry>> JobStore::log(int most) const {
    try {
        std::vector<LogEntry> out;
        QSqlQuery query =
            runSql(d_->db(), QStringLiteral("SELECT sequence, at, who, title, state FROM "
                                            "edit_log ORDER BY sequence DESC LIMIT %1")
                                 .arg(most));
        while (query.next())
            out.push_back({query.value(0).toLongLong(), query.value(1).toString().toStdString(),
                           query.value(2).toString().toStdString(),
                           query.value(3).toString().toStdString(),
                           query.value(4).toString().toStdString()});
        return out;
    } catch (const SqlFailed& failed) {
        return damagedJob(d_->path, std::string("its logbook cannot be read: ") + failed.what());
    }
}

Outcome<std::vector<Fault>> JobStore::saveCopy(const QString& to) const {
    if (QFileInfo::exists(to) || QFileInfo(to).isSymLink())
        return refuse(utf8(to), "there is a file of this name already",
                      "Choose another name; nothing was written over");
    const auto gathered = attachments();
    const KeptFiles kept = gathered ? *gathered : KeptFiles{{}, {gathered.error()}};
    std::vector<Fault> missing = kept.missing;
    // Whole, with its logbook, where the database can still be read; from memory where it cannot.
    const QString beside =
        QFileInfo(to).absolutePath() + QStringLiteral("/.burin-") + QString::fromStdString(newId());
    bool whole = false;
    try {
        runSql(d_->db(), QStringLiteral("VACUUM INTO ?"), {beside});
        auto copy = open(beside, Access::ReadOnly);
        whole = copy && (*copy)->job() == job_;
    } catch (const SqlFailed& failed) {
        if (failed.full) {
            QFile::remove(beside);
            return sqlFault(to, failed);
        }
    }
    if (!whole) {
        QFile::remove(beside);
        missing.push_back({"the logbook", 0, 0, "it cannot be read from the job's file",
                           "The copy begins a new one"});
        auto copy = create(to, job_, kept.files, "saved from " + utf8(d_->path), "Burin");
        if (!copy)
            return refuse(copy.error());
        return missing;
    }
    NewPictures pictures(to);
    for (const auto& a : kept.files)
        if (isPictureOf(job_, a.hash))
            if (auto done = pictures.keep(a); !done) {
                QFile::remove(beside);
                return refuse(done.error());
            }
    const int error = putNewFile(utf8(beside), utf8(to));
    if (error != 0 && QFile::remove(beside))
        return refuse(utf8(to), "the copy is not written: " + whyNot(error),
                      "Choose another name or folder");
    pictures.stay();
    if (error != 0)
        return refuse(utf8(to),
                      "the copy is written, but the disk did not confirm it: " + whyNot(error),
                      "Check the disk, then save it again under another name");
    return missing;
}

bool JobStore::sound() const {
    try {
        return firstSqlValue(d_->db(), QStringLiteral("PRAGMA integrity_check")).toString() ==
               QLatin1String("ok");
    } catch (const SqlFailed&) {
        return false;
    }
}

void JobStore::limitPages(int pages) {
    runSql(d_->db(), QStringLiteral("PRAGMA max_page_count = %1").arg(pages));
}

} // namespace burin
