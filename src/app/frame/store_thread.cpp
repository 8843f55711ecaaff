#include "app/frame/store_thread.h"
#include "files/job_export.h"
#include "files/text_cursor.h"
#include <QSaveFile>

namespace burin {

StoreThread::StoreThread(Catalogue shipped)
    : worker_(new QObject), shipped_(std::make_shared<const Catalogue>(std::move(shipped))),
      who_(qEnvironmentVariable("USER", QStringLiteral("installer")).toStdString()) {
    qRegisterMetaType<Snapshot>();
    worker_->moveToThread(&thread_);
    thread_.start();
}

StoreThread::~StoreThread() {
    // The connection must close in the thread that opened it, after all that was asked before.
    QMetaObject::invokeMethod(
        worker_, [this] { store_.reset(); }, Qt::BlockingQueuedConnection);
    thread_.quit();
    thread_.wait();
    delete worker_;
}

template <typename Work> void StoreThread::post(Work work) {
    QMetaObject::invokeMethod(worker_, std::move(work), Qt::QueuedConnection);
}

void StoreThread::publish(bool fresh) {
    Snapshot out;
    out.kept = std::make_shared<const Job>(store_->job());
    // Findings point into the catalogue they were made of: it stays the same while the cables do.
    if (!catalogue_ || cables_ != out.kept->cables) {
        cables_ = out.kept->cables;
        catalogueFaults_.clear();
        catalogue_ = cables_.empty() ? shipped_
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
    out.undoTitle = QString::fromStdString(store_->undoTitle());
    out.redoTitle = QString::fromStdString(store_->redoTitle());
    if (fresh)
        emit opened(out);
    else
        emit committed(out);
}

void StoreThread::take(Outcome<std::unique_ptr<JobStore>> store) {
    if (!store) {
        emit failed(QString::fromStdString(store.error().text()), false);
        return;
    }
    store_ = std::move(*store);
    files_.reset();
    publish(true);
}

void StoreThread::answer(const Outcome<bool>& outcome) {
    if (!outcome)
        emit failed(QString::fromStdString(outcome.error().text()), true);
    publish(false);
}

void StoreThread::open(const QString& path) {
    post([this, path] {
        if (store_ && store_->path() == path)
            return publish(true);
        take(JobStore::open(path, Access::ReadWrite));
    });
}

void StoreThread::create(const QString& path, const QString& name) {
    post([this, path, name] { take(JobStore::create(path, name.toStdString())); });
}

void StoreThread::importJson(const QString& from, const QString& path) {
    post([this, from, path] {
        const auto text = readWholeFile(from.toStdString());
        if (!text) {
            emit failed(QString::fromStdString(text.error().text()), false);
            return;
        }
        take(importJob(*text, from.toStdString(), path, who_));
    });
}

void StoreThread::exportJson(const QString& to) {
    post([this, to] {
        if (!store_)
            return;
        QSaveFile out(to);
        const QByteArray text = QByteArray::fromStdString(exportJob(*store_));
        if (!out.open(QIODevice::WriteOnly) || out.write(text) != text.size() || !out.commit())
            emit failed(tr("%1: it cannot be written. %2").arg(to, out.errorString()), false);
        else
            emit done(tr("exported to %1").arg(to));
    });
}

void StoreThread::commit(const Edit& edit, std::vector<Attachment> attachments) {
    post([this, edit, attachments = std::move(attachments)] {
        if (store_)
            answer(store_->commit(edit, who_, attachments));
    });
}

void StoreThread::undo() {
    post([this] {
        if (store_)
            answer(store_->undo());
    });
}

void StoreThread::redo() {
    post([this] {
        if (store_)
            answer(store_->redo());
    });
}

void StoreThread::askLog() {
    post([this] {
        if (!store_)
            return;
        QString text;
        for (const auto& entry : store_->log())
            text += QStringLiteral("%1  %2  %3%4\n")
                        .arg(QString::fromStdString(entry.at).left(19).replace(u'T', u' '),
                             QString::fromStdString(entry.who), QString::fromStdString(entry.title),
                             entry.state == "done"     ? QString()
                             : entry.state == "undone" ? tr("  (taken back)")
                                                       : tr("  (taken back, then overtaken)"));
        emit logRead(text);
    });
}

} // namespace burin
