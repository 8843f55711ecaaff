#include "files/open_job.h"
#include "core/base/moment.h"
#include "files/job_store.h"
#include <QDateTime>

namespace burin {

std::string utcNow() {
    return utcText(QDateTime::currentMSecsSinceEpoch());
}

tl::unexpected<Fault> sqlFault(const QString& path, const SqlFailed& failed) {
    if (failed.full)
        return refuse(path.toStdString(),
                      {"job.disk-full-edit", "the disk is full, so the edit was not kept"},
                      {"cure.make-room-disk",
                       "Make room on the disk, then do it again; the job is as it was"});
    return refuse(
        path.toStdString(),
        sentence({"job.job-file-did", "the job file did not take it: {0}"}, failed.what()),
        {"cure.check-disk-job", "Check the disk; the job is as it was before"});
}

Outcome<bool> OpenJob::takesEdits() const {
    if (!file)
        return refuse(
            path.toStdString(), {"job.job-open-reading", "the job is open for reading alone"},
            {"cure.save-copy-job", "Save a copy (Job menu) to a folder of yours, and open that"});
    return file->isAsWeLeftIt();
}

Outcome<bool> OpenJob::transaction(const std::function<void()>& work) {
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

Outcome<bool> OpenJob::keepStep(Job& job, LogRow row, Clashes clashes,
                                const std::function<void()>& more,
                                const std::vector<LogRow>& brought) {
    auto applied = applyTo(job, {row.title, std::move(row.changes)}, clashes);
    if (!applied)
        return refuse(applied.error());
    row.changes = std::move(applied->done);
    const RowChanges rows = rowChanges(applied->touched, job);
    JobSeal sealed = seal;
    sealed.take(rows);
    auto done = transaction([&] {
        if (more)
            more();
        writeRows(db(), rows);
        for (const auto& other : brought)
            writeStep(db(), other, sealed);
        writeStep(db(), row, sealed);
        writeSeal(db(), sealed, &rows);
    });
    if (!done) {
        restore(job, std::move(applied->touched));
        return done;
    }
    seal = std::move(sealed);
    for (const auto& other : brought)
        log.take(other);
    log.take(row);
    return done;
}

Outcome<bool> OpenJob::takeBack(Job& job, const std::vector<std::size_t>& steps,
                                const std::string& who) {
    if (auto good = takesEdits(); !good)
        return good;
    if (steps.empty())
        return false;
    try {
        const auto last = readStep(db(), log.heads[steps.back()].id, path.toStdString());
        if (!last)
            return refuse(last.error());
        return keepStep(job, log.takingBack(*last, newStepId(), utcNow(), who), Clashes::Left);
    } catch (const SqlFailed& failed) {
        return sqlFault(path, failed);
    }
}

std::string OpenJob::titleOf(const std::vector<std::size_t>& steps) const {
    return steps.empty() ? std::string() : log.heads[steps.back()].title;
}

Outcome<std::vector<LogRow>> OpenJob::steps() {
    return oldSteps.empty() ? readSteps(db(), path.toStdString()) : oldSteps;
}

void OpenJob::createAllTables() {
    createTables(db());
    createLogTables(db(), jobId);
    createSealTable(db());
    runSql(db(),
           QStringLiteral("CREATE TABLE attachment (hash TEXT PRIMARY KEY, name TEXT NOT NULL,"
                          " bytes BLOB NOT NULL)"));
    runSql(db(), QStringLiteral("PRAGMA application_id = %1").arg(jobApplicationId));
    runSql(db(), QStringLiteral("PRAGMA user_version = %1").arg(formatVersion));
}

void OpenJob::keep(const Attachment& attachment) {
    runSql(db(),
           QStringLiteral("INSERT OR IGNORE INTO attachment (hash, name, bytes) VALUES (?, ?, ?)"),
           {QString::fromStdString(attachment.hash), QString::fromStdString(attachment.name),
            QByteArray::fromStdString(attachment.bytes)});
}

} // namespace burin
