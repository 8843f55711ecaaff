#pragma once
#include "core/finding/run_finding.h"
#include "core/finding/site_finding.h"
#include "files/job_store.h"
#include <QObject>
#include <QThread>
#include <QTimer>

namespace burin {

/// What the screen may show: a job that is on disk, with its measured files as read.
struct Snapshot {
    std::shared_ptr<const Job> kept; ///< as stored: what edits start from
    std::shared_ptr<const Job> job;  ///< with the runs that follow the plan laid by it
    std::shared_ptr<const SitePlan> site;
    std::shared_ptr<const Catalogue> catalogue;
    std::shared_ptr<const MeasuredFiles> files;
    QString path, undoTitle, redoTitle;
    bool readOnly = false;     ///< edits are refused
    std::vector<Fault> faults; ///< of the job's own cables
};

/// Owns the job store in a thread of its own, so that waiting for the disk never stops the screen.
class StoreThread : public QObject {
    Q_OBJECT
public:
    explicit StoreThread(Catalogue shipped);
    ~StoreThread() override;

    void open(const QString& path);
    void create(const QString& path, const QString& name);
    void importJson(const QString& from, const QString& path);
    void exportJson(const QString& to);
    /// The job as last kept to a new file, also where its own is gone.
    void saveCopy(const QString& to);
    /// Joins another copy of the job to it.
    void joinCopy(const QString& from);
    void commit(const Edit& edit, std::vector<Attachment> attachments);
    void undo();
    void redo();
    /// Every line of the logbook, asked for by the logbook's window.
    void askLog();

signals:
    /// A job was opened, made or imported.
    void opened(const burin::Snapshot& snapshot);
    /// What was asked for is on disk.
    void committed(const burin::Snapshot& snapshot);
    void failed(const QString& message, bool editLost);
    /// The file on the disk is not the one that was opened: nothing more is kept there.
    void fileLost();
    void done(const QString& message);
    void logRead(const QString& text);

private:
    template <typename Work> void post(Work work);
    void watch();
    void sayDone(const QString& what, const std::vector<Fault>& missing);
    void take(Outcome<std::unique_ptr<JobStore>> store);
    void publish(bool fresh);
    void sayClock();
    void answer(const Outcome<bool>& outcome);

    QThread thread_;
    QObject* worker_ = nullptr;
    QTimer* watch_ = nullptr; ///< lives and goes in the thread
    bool lost_ = false; ///< it was said that the file on the disk is another; in the thread only
    bool clockSaid_ = false; ///< likewise
    const std::shared_ptr<const Catalogue> shipped_;
    std::unique_ptr<JobStore> store_;            ///< touched in the thread only
    std::shared_ptr<const MeasuredFiles> files_; ///< likewise
    std::shared_ptr<const Catalogue> catalogue_; ///< likewise, with what it was made of
    std::shared_ptr<const SitePlan> site_;       ///< of the last state: what stays is taken over
    std::shared_ptr<const Job> last_;            ///< as published
    std::vector<Fault> catalogueFaults_;
    std::string who_;
};

} // namespace burin
Q_DECLARE_METATYPE(burin::Snapshot)
