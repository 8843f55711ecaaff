#include "files/job_store.h"
#include "core/history/merge.h"
#include "files/open_job.h"
#include "files/picture_folder.h"
#include "files/qt_text.h"
#include "files/whole_file.h"
#include <QCryptographicHash>
#include <QDateTime>
#include <QFile>
#include <QFileInfo>
#include <QSqlQuery>
#include <unordered_map>

namespace burin {
namespace {

/// Why a job was not read; with a log of an older Burin beside it, that may be the cause.
tl::unexpected<Fault> unread(const JobHeader& header, const QString& path, const Fault& fault) {
    if (!header.writeAheadLog || QFileInfo(path + QStringLiteral("-wal")).size() == 0)
        return refuse(fault);
    return refuse(
        utf8(path),
        sentence({"job.log-beside-does",
                  "the log beside it does not belong to it, or one of them is damaged: {0}"},
                 fault.what),
        sentence({"cure.move-wal-another",
                  "Move {0}-wal to another folder, keep it, and open the job again"},
                 utf8(QFileInfo(path).fileName())));
}

} // namespace

struct JobStore::Private : OpenJob {};

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
int JobStore::minutesClockIsBehind() const {
    return d_->log.minutesAheadOf(utcNow());
}
Outcome<bool> JobStore::isOnDisk() const {
    return d_->file ? d_->file->isAsWeLeftIt() : true;
}

Outcome<std::unique_ptr<JobStore>> JobStore::create(const QString& path, const std::string& name) {
    Job job;
    job.info.name = name;
    return create(path, job, {}, "a new job", "Burin");
}

Outcome<std::unique_ptr<JobStore>> JobStore::create(const QString& path, Job job,
                                                    const std::vector<Attachment>& attachments,
                                                    const std::string& title,
                                                    const std::string& who) {
    giveIds(job);
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
            d->jobId = newStepId();
            d->log.replica = newId();
            const LogRow first = d->log.next(newStepId(), utcNow(), who, title);
            auto made = d->transaction([&] {
                d->createAllTables();
                writeJob(d->db(), job);
                for (const auto& a : attachments)
                    if (!isPictureOf(job, a.hash))
                        d->keep(a);
                writeStep(d->db(), first, d->seal);
                writeSeal(d->db(), d->seal);
            });
            d->log.take(first);
            return made;
        } catch (const SqlFailed& failed) {
            return sqlFault(d->path, failed);
        }
    }();
    if (done)
        if (const int error = syncFolderOf(utf8(d->path)); error != 0)
            done = refuse(utf8(d->path),
                          sentence({"job.disk-did-not", "the disk did not take its name: {0}"},
                                   whyNot(error)),
                          {"cure.check-disk-do", "Check the disk, then do it again"});
    if (!done) {
        d->database.close();
        d->file->discard();
        return refuse(done.error());
    }
    pictures.stay();
    std::unique_ptr<JobStore> out(new JobStore(std::move(d)));
    out->job_ = std::move(job);
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
            return refuse(
                utf8(path), {"job.file-folder-not", "the file or its folder may not be written"},
                {"cure.copy-folder-open", "Copy it to a folder of yours and open it there"});
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
        d->log = seen->log;
        d->log.replica = newId();
        d->jobId = seen->jobId;
        if (access == Access::ReadWrite) {
            d->database.close();
            d->file->remember();
            if (auto good = d->database.openForWriting(d->path); !good)
                return refuse(good.error());
            d->file->remember();
            if (seen->version < formatVersion)
                if (const auto done = d->transaction([&] { d->seal = rewriteJob(d->db(), *seen); });
                    !done)
                    return refuse(done.error());
        } else {
            d->oldSteps = std::move(seen->oldSteps);
        }
        std::unique_ptr<JobStore> out(new JobStore(std::move(d)));
        out->job_ = std::move(seen->job);
        return out;
    } catch (const SqlFailed& failed) {
        if (failed.busy)
            return refuse(utf8(path), sentence(jobIsBusy),
                          {"cure.try-again-moment", "Try again in a moment"});
        return unread(*header, d->path,
                      damagedJob(path, sentence({"job.damaged-how", "the file is damaged: {0}"},
                                                std::string(failed.what())))
                          .value());
    }
}

Outcome<bool> JobStore::commit(const Edit& edit, const std::string& who,
                               const std::vector<Attachment>& attachments) {
    if (auto good = d_->takesEdits(); !good)
        return good;
    // Pictures first: an edit that names one must find it, however the program ends.
    NewPictures pictures(d_->path);
    for (const auto& a : attachments)
        if (isPictureOf(edit, a.hash))
            if (auto kept = pictures.keep(a); !kept)
                return kept;
    LogRow row = d_->log.next(newStepId(), utcNow(), who, edit.title);
    row.changes = edit.changes;
    row.changes.push_back(decidedBy(job_, edit.changes));
    auto done = d_->keepStep(job_, row, Clashes::Refused, [&] {
        for (const auto& a : attachments)
            if (!isPictureOf(edit, a.hash))
                d_->keep(a);
    });
    if (done)
        pictures.stay();
    return done;
}

Outcome<JoinReport> JobStore::join(const JobStore& theirs, const std::string& who) {
    if (auto good = d_->takesEdits(); !good)
        return refuse(good.error());
    try {
        auto mineSteps = d_->steps();
        auto theirSteps = theirs.d_->steps();
        if (!mineSteps || !theirSteps)
            return refuse((mineSteps ? theirSteps : mineSteps).error());
        auto joined = burin::join({d_->jobId, job_, std::move(*mineSteps)},
                                  {theirs.d_->jobId, theirs.job_, std::move(*theirSteps)});
        if (!joined)
            return refuse(joined.error());
        JoinReport report{joined->brought.size(), joined->changes.size(), {}};
        if (joined->nothingNew())
            return report;
        const LogRow row = d_->log.joining(
            theirs.d_->log, std::move(joined->changes), joined->brought, newStepId(), utcNow(), who,
            "merged with " + utf8(QFileInfo(theirs.path()).fileName()));
        // Files first, so that what names one finds it.
        const auto files = theirs.attachments();
        if (!files)
            return refuse(files.error());
        report.missing = files->missing;
        NewPictures pictures(d_->path);
        for (const auto& a : files->files)
            if (isPictureOf(theirs.job_, a.hash))
                if (auto kept = pictures.keep(a); !kept)
                    return refuse(kept.error());
        const auto done = d_->keepStep(
            job_, row, Clashes::Left,
            [&] {
                for (const auto& a : files->files)
                    if (!isPictureOf(theirs.job_, a.hash))
                        d_->keep(a);
            },
            joined->brought);
        if (!done)
            return refuse(done.error());
        pictures.stay();
        return report;
    } catch (const SqlFailed& failed) {
        return sqlFault(d_->path, failed);
    }
}

Outcome<bool> JobStore::undo(const std::string& who) {
    return d_->takeBack(job_, d_->log.steps.undo, who);
}
Outcome<bool> JobStore::redo(const std::string& who) {
    return d_->takeBack(job_, d_->log.steps.redo, who);
}
std::string JobStore::undoTitle() const {
    return d_->titleOf(d_->log.steps.undo);
}
std::string JobStore::redoTitle() const {
    return d_->titleOf(d_->log.steps.redo);
}

Outcome<std::string> JobStore::attachment(const std::string& hash) const {
    try {
        QSqlQuery query =
            runSql(d_->db(), QStringLiteral("SELECT bytes FROM attachment WHERE hash = ?"),
                   {QString::fromStdString(hash)});
        if (!query.next())
            return refuse(utf8(d_->path),
                          {"job.measured-file-missing", "a measured file is missing from the job"},
                          {"cure.bring-again", "Bring it in again"});
        std::string bytes = query.value(0).toByteArray().toStdString();
        if (attach({}, bytes).hash != hash)
            return refuse(utf8(d_->path),
                          {"job.measured-file-damaged",
                           "a measured file is damaged: not what was brought in"},
                          {"cure.restore-job-copy-bring",
                           "Restore the job from a copy, or bring the file in again"});
        return bytes;
    } catch (const SqlFailed& failed) {
        return refuse(utf8(d_->path),
                      sentence({"job.measured-file-cannot", "a measured file cannot be read: {0}"},
                               std::string(failed.what())),
                      {"cure.restore-job-copy-bring",
                       "Restore the job from a copy, or bring the file in again"});
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
                out.missing.push_back({named(name), 0, 0, bytes.error().what, bytes.error().cure});
        }
        auto pictures = picturesOf(d_->path, job_);
        for (auto& picture : pictures.files)
            out.files.push_back(std::move(picture));
        for (auto& fault : pictures.missing)
            out.missing.push_back(std::move(fault));
        return out;
    } catch (const SqlFailed& failed) {
        return damagedJob(d_->path,
                          sentence({"job.files-unread", "its measured files cannot be read: {0}"},
                                   std::string(failed.what())));
    }
}

Outcome<std::vector<LogEntry>> JobStore::log(int most) const {
    std::vector<LogEntry> out;
    const auto& heads = d_->log.heads;
    std::unordered_map<std::string_view, const LogHead*> byId;
    for (const auto& head : heads)
        byId.emplace(head.id, &head);
    const auto add = [&](const std::string& id, const std::string& at, const std::string& who,
                         bool joins) {
        const LogHead& head = *byId.at(id);
        LogEntry& line = out.emplace_back(LogEntry{id, at, who, head.title});
        line.brought = !head.ours;
        line.what = joins ? LogEntry::What::Joined : LogEntry::What::Done;
        if (const auto undone = byId.find(head.undoes); undone != byId.end())
            line.what = undone->second->undoes.empty() ? LogEntry::What::TakenBack
                                                       : LogEntry::What::DoneAgain;
    };
    for (auto it = d_->oldSteps.rbegin(); it != d_->oldSteps.rend(); ++it)
        if (static_cast<int>(out.size()) < most)
            add(it->id, it->at, it->who, false);
    if (!out.empty())
        return out;
    try {
        QSqlQuery query = runSql(d_->db(), QStringLiteral("SELECT id, at, who, parents LIKE '% %' "
                                                          "FROM edit_log "
                                                          "ORDER BY sequence DESC LIMIT %1")
                                               .arg(most));
        while (query.next())
            add(query.value(0).toString().toStdString(), query.value(1).toString().toStdString(),
                query.value(2).toString().toStdString(), query.value(3).toBool());
        return out;
    } catch (const SqlFailed& failed) {
        return damagedJob(d_->path, sentence({"log.unread", "its logbook cannot be read: {0}"},
                                             std::string(failed.what())));
    }
}

Outcome<std::vector<Fault>> JobStore::saveCopy(const QString& to) const {
    if (QFileInfo::exists(to) || QFileInfo(to).isSymLink())
        return refuse(
            utf8(to), {"job.file-name-already", "there is a file of this name already"},
            {"cure.choose-another-name-nothing", "Choose another name; nothing was written over"});
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
        missing.push_back({alone(asTerm("the logbook")),
                           0,
                           0,
                           {"log.not-in-file", "it cannot be read from the job's file"},
                           {"cure.log-begins", "The copy begins a new one"}});
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
        return refuse(
            utf8(to),
            sentence({"job.copy-not-written", "the copy is not written: {0}"}, whyNot(error)),
            {"cure.choose-another-name-folder", "Choose another name or folder"});
    pictures.stay();
    if (error != 0)
        return refuse(
            utf8(to),
            sentence({"job.copy-written-but",
                      "the copy is written, but the disk did not confirm it: {0}"},
                     whyNot(error)),
            {"cure.check-disk-save", "Check the disk, then save it again under another name"});
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
