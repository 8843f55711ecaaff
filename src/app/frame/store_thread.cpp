#include "app/frame/store_thread.h"
#include "files/job_export.h"
#include "files/job_file.h"
#include "files/spoken.h"
#include "files/text_cursor.h"
#include "files/whole_file.h"
#include <QDateTime>
#include <QFileInfo>

namespace burin {
namespace {

QString localTime(const std::string& utc) {
    const auto at = QDateTime::fromString(QString::fromStdString(utc), Qt::ISODateWithMs);
    return at.isValid() ? at.toLocalTime().toString(QStringLiteral("yyyy-MM-dd HH:mm:ss"))
                        : QString::fromStdString(utc);
}
QString whatWasDone(const LogEntry& entry) {
    QString title = QString::fromStdString(entry.title);
    switch (entry.what) {
    case LogEntry::What::TakenBack:
        return StoreThread::tr("taken back: %1").arg(title);
    case LogEntry::What::DoneAgain:
        return StoreThread::tr("done again: %1").arg(title);
    case LogEntry::What::Done:
    case LogEntry::What::Joined:
        break;
    }
    return title;
}

} // namespace

StoreThread::StoreThread(Catalogue shipped)
    : worker_(new QObject), shipped_(std::make_shared<const Catalogue>(std::move(shipped))),
      who_(qEnvironmentVariable("USER", QStringLiteral("installer")).toStdString()) {
    qRegisterMetaType<Snapshot>();
    worker_->moveToThread(&thread_);
    thread_.start();
    post([this] {
        watch_ = new QTimer(worker_);
        QObject::connect(watch_, &QTimer::timeout, worker_, [this] { watch(); });
        watch_->start(2000);
    });
}

StoreThread::~StoreThread() {
    // The connection must close in the thread that opened it, after all that was asked before.
    QMetaObject::invokeMethod(
        worker_,
        [this] {
            delete watch_;
            store_.reset();
        },
        Qt::BlockingQueuedConnection);
    thread_.quit();
    thread_.wait();
    delete worker_;
}

template <typename Work> void StoreThread::post(Work work) {
    // The border of the thread: what nobody foresaw ends in a message and not the program.
    const auto guarded = [this, work = std::move(work)]() mutable {
        try {
            work();
        } catch (const std::exception& unforeseen) {
            emit failed(tr("That was not done: %1. The job is as it was.")
                            .arg(QString::fromUtf8(unforeseen.what())),
                        true);
            // Who waits for an answer gets one: the job as it is kept.
            if (store_ && store_->isOnDisk())
                QMetaObject::invokeMethod(
                    worker_, [this] { publish(false); }, Qt::QueuedConnection);
        }
    };
    QMetaObject::invokeMethod(worker_, guarded, Qt::QueuedConnection);
}

/// Says once that the job's file is not the one that was opened, edit or no edit.
void StoreThread::watch() {
    if (!store_ || lost_)
        return;
    if (const auto there = store_->isOnDisk(); !there) {
        lost_ = true;
        emit fileLost();
        emit failed(said(there.error()), false);
    }
}

void StoreThread::publish(bool fresh) {
    Snapshot out;
    out.kept = std::make_shared<const Job>(store_->job());
    // Findings point into the catalogue they were made of: it stays while what the job lays over it
    // does.
    const auto before = std::exchange(last_, out.kept);
    if (!catalogue_ || before == nullptr || !haveOneCatalogue(*before, *out.kept)) {
        catalogueFaults_.clear();
        catalogue_ = haveOneCatalogue(Job(), *out.kept)
                         ? shipped_
                         : std::make_shared<const Catalogue>(
                               catalogueOf(*shipped_, *out.kept, &catalogueFaults_));
    }
    out.catalogue = catalogue_;
    out.site = std::make_shared<const SitePlan>(planSite(*out.kept, *catalogue_, site_.get()));
    site_ = out.site;
    out.job = std::make_shared<const Job>(laidJob(*out.kept, *out.site));
    out.faults = catalogueFaults_;
    auto files = std::make_shared<MeasuredFiles>();
    for (const auto& m : out.job->measurements) {
        if (m.fileHash.empty())
            continue;
        const std::string key = fileKey(m);
        const auto it = files_ ? files_->find(key) : MeasuredFiles::const_iterator{};
        (*files)[key] =
            files_ && it != files_->end()
                ? it->second
                : std::make_shared<const Outcome<MeasuredFile>>(readMeasurementFile(*store_, m));
    }
    files_ = files;
    out.files = files;
    out.path = store_->path();
    out.readOnly = store_->readOnly();
    out.undoTitle = QString::fromStdString(store_->undoTitle());
    out.redoTitle = QString::fromStdString(store_->redoTitle());
    if (fresh)
        emit opened(out);
    else
        emit committed(out);
    sayClock();
}

/// Says once that this computer's clock cannot be right.
void StoreThread::sayClock() {
    const int minutes = store_->minutesClockIsBehind();
    if (minutes == 0 || clockSaid_)
        return;
    clockSaid_ = true;
    const QString behind = minutes < 120    ? tr("%1 minutes").arg(minutes)
                           : minutes < 2880 ? tr("%1 hours").arg(minutes / 60)
                                            : tr("%1 days").arg(minutes / 1440);
    emit failed(
        tr("This computer's clock is %1 behind the last change of the job. Set it: dates in "
           "the record follow it. No verdict depends on it.")
            .arg(behind),
        false);
}

void StoreThread::take(Outcome<std::unique_ptr<JobStore>> store) {
    if (!store) {
        emit failed(said(store.error()), false);
        return;
    }
    store_ = std::move(*store);
    lost_ = false;
    clockSaid_ = false;
    files_.reset();
    publish(true);
    if (store_->readOnly())
        emit failed(tr("%1: this medium or file takes no writes, so the job is open for reading "
                       "alone. To change it, save a copy (Job menu) and open that.")
                        .arg(store_->path()),
                    false);
}

void StoreThread::answer(const Outcome<bool>& outcome) {
    if (!outcome) {
        emit failed(said(outcome.error()), true);
        if (!lost_ && !store_->isOnDisk()) {
            lost_ = true;
            emit fileLost();
        }
    }
    publish(false);
}

void StoreThread::open(const QString& path) {
    post([this, path] {
        const QFileInfo file(path);
        if (store_ && store_->path() == file.canonicalFilePath() && store_->isOnDisk())
            return publish(true);
        // What others did to the file must be a job before the one that is open, and its way out by
        // a copy, are let go; its own lock would keep the same file from being opened again.
        if (store_ && store_->path() == file.canonicalFilePath()) {
            if (const auto there = JobStore::open(path, Access::ReadOnly); !there)
                return emit failed(said(there.error()), false);
            store_.reset();
        }
        take(JobStore::open(path, takesWrites(path) ? Access::ReadWrite : Access::ReadOnly));
    });
}

void StoreThread::create(const QString& path, const QString& name) {
    post([this, path, name] { take(JobStore::create(path, name.toStdString())); });
}

void StoreThread::importJson(const QString& from, const QString& path) {
    post([this, from, path] {
        const auto text = readWholeFile(from.toStdString(), longestExport);
        if (!text) {
            emit failed(said(text.error()), false);
            return;
        }
        take(importJob(*text, from.toStdString(), path, who_));
    });
}

void StoreThread::exportJson(const QString& to) {
    post([this, to] {
        if (!store_)
            return;
        const auto exported = exportJob(*store_);
        const auto written = exported ? writeWholeFile(to.toStdString(), exported->text,
                                                       {store_->path().toStdString()})
                                      : Outcome<bool>(refuse(exported.error()));
        if (!written)
            return emit failed(said(written.error()), false);
        sayDone(tr("exported to %1").arg(to), exported->missing);
    });
}

void StoreThread::saveCopy(const QString& to) {
    post([this, to] {
        if (!store_)
            return;
        const auto missing = store_->saveCopy(to);
        if (!missing)
            return emit failed(said(missing.error()), false);
        sayDone(tr("copied to %1").arg(to), *missing);
    });
}

void StoreThread::joinCopy(const QString& from) {
    post([this, from] {
        if (!store_)
            return;
        const auto theirs = JobStore::open(from, Access::ReadOnly);
        if (!theirs)
            return emit failed(said(theirs.error()), false);
        const auto joined = store_->join(**theirs, who_);
        if (!joined)
            return answer(refuse(joined.error()));
        publish(false);
        if (joined->steps == 0)
            return emit done(tr("%1 holds nothing new").arg(QFileInfo(from).fileName()));
        const QString name = QFileInfo(from).fileName();
        sayDone(
            store_->job().conflicts.empty()
                ? tr("merged with %1, steps brought: %2").arg(name).arg(joined->steps)
                : tr("merged with %1, steps brought: %2; something is left to decide: see the top "
                     "right")
                      .arg(name)
                      .arg(joined->steps),
            joined->missing);
    });
}

/// What was written, and what it could not hold.
void StoreThread::sayDone(const QString& what, const std::vector<Fault>& missing) {
    if (missing.empty())
        return emit done(what);
    QStringList names;
    for (const auto& fault : missing)
        names << said(fault);
    emit failed(tr("%1, without these: %2").arg(what, names.join(QStringLiteral("; "))), false);
}

void StoreThread::commit(const Edit& edit, std::vector<Attachment> attachments) {
    post([this, edit, attachments = std::move(attachments)] {
        if (store_)
            answer(store_->commit(edit, who_, attachments));
        else
            emit failed(tr("No job is open, so the edit was not kept: open it again."), true);
    });
}

void StoreThread::undo() {
    post([this] {
        if (store_)
            answer(store_->undo(who_));
    });
}

void StoreThread::redo() {
    post([this] {
        if (store_)
            answer(store_->redo(who_));
    });
}

void StoreThread::askLog() {
    post([this] {
        if (!store_)
            return;
        const auto lines = store_->log();
        if (!lines)
            return emit failed(said(lines.error()), false);
        QString text;
        for (const auto& entry : *lines)
            text +=
                QStringLiteral("%1  %2  %3%4\n")
                    .arg(localTime(entry.at), QString::fromStdString(entry.who), whatWasDone(entry),
                         entry.brought ? tr("  (from the other copy)") : QString());
        emit logRead(text);
    });
}

} // namespace burin
