#pragma once
#include "core/edit/edit.h"
#include <QByteArray>
#include <QString>
#include <memory>
#include <utility>
#include <vector>

namespace burin {

/// A file that comes with an edit, kept whole under its hash.
struct Attachment {
    std::string hash; ///< SHA-256, hex
    std::string name;
    std::string bytes;
};
/// The attachment of these bytes.
Attachment attach(std::string name, std::string bytes);

/// The moment in local time with its offset, so that it is one moment everywhere.
std::string momentNow();
/// What is wrong with a job that could not be looked at because others wrote it all the while.
inline constexpr Wording jobIsBusy{"job.busy", "another program has been writing it all the while"};

/// One line of the logbook, as it is shown.
struct LogEntry {
    enum class What {
        Done,
        TakenBack, ///< it takes back the one called so
        DoneAgain,
        Joined, ///< another copy of the job was joined to this one
    };
    std::string id, at, who, title; ///< the time in UTC
    What what = What::Done;
    bool brought = false; ///< by joining another copy
};

/// Measured files and pictures of a job as far as they are there and whole.
struct KeptFiles {
    std::vector<Attachment> files;
    std::vector<Fault> missing; ///< what is missing or damaged, by name
};

/// What joining another copy did.
struct JoinReport {
    std::size_t steps = 0;      ///< brought
    std::size_t changes = 0;    ///< in this copy's job
    std::vector<Fault> missing; ///< files of the other copy that could not be brought
};

enum class Access { ReadOnly, ReadWrite };

/// A job in one SQLite file, documented in docs/job-format.md. An object lives in the thread that
/// made it. Every edit is one transaction, on disk (synchronous=EXTRA, no write-ahead log: the file
/// alone is the job) before commit returns. Nothing here throws; what the disk refuses is a Fault.
class JobStore {
public:
    /// Makes a new file; refused where one is there already. When it fails, none is left.
    static Outcome<std::unique_ptr<JobStore>> create(const QString& path, const std::string& name);
    /// Makes a new file of a whole job and its files. Rows that are owned and have no id yet get
    /// one. When it fails, nothing is left.
    static Outcome<std::unique_ptr<JobStore>> create(const QString& path, Job job,
                                                     const std::vector<Attachment>& attachments,
                                                     const std::string& title,
                                                     const std::string& who);
    /// Opens a file. Refused, with the file as it was: no such file, not Burin's, newer than this
    /// Burin, damaged, one that may not be written, open in another Burin (by whatever name).
    /// For reading alone neither the file nor its folder need be writable, and nothing is left.
    static Outcome<std::unique_ptr<JobStore>> open(const QString& path, Access access);
    ~JobStore();
    JobStore(const JobStore&) = delete;
    JobStore& operator=(const JobStore&) = delete;

    [[nodiscard]] const Job& job() const { return job_; }
    /// Its full name, links followed.
    [[nodiscard]] QString path() const;
    [[nodiscard]] bool readOnly() const;
    /// How many minutes this computer's clock is behind the last change of the job; 0 under five.
    [[nodiscard]] int minutesClockIsBehind() const;
    /// Refused where the file was moved, replaced, changed or cut short by others since.
    [[nodiscard]] Outcome<bool> isOnDisk() const;

    /// Applies and keeps an edit. On failure the file and the job are as before.
    Outcome<bool> commit(const Edit& edit, const std::string& who,
                         const std::vector<Attachment>& attachments = {});
    /// Takes the last edit back, or does the last one taken back again. False: there is none.
    Outcome<bool> undo(const std::string& who = {});
    Outcome<bool> redo(const std::string& who = {});
    /// Titles of what undo and redo would do; empty: nothing.
    [[nodiscard]] std::string undoTitle() const;
    [[nodiscard]] std::string redoTitle() const;

    /// Joins another copy of this job to it, with its measured files and pictures: one step, which
    /// undo takes back. What could not be brought along is named. The other copy stays as it is.
    Outcome<JoinReport> join(const JobStore& theirs, const std::string& who);

    /// The bytes of a measured file; refused where they are missing or not what was brought in.
    [[nodiscard]] Outcome<std::string> attachment(const std::string& hash) const;
    /// Measured files, and the pictures beside the job that it names.
    [[nodiscard]] Outcome<KeptFiles> attachments() const;
    /// Newest first, at most `most`.
    [[nodiscard]] Outcome<std::vector<LogEntry>> log(int most = 1000) const;
    /// Writes the job as last kept, with its logbook, files and pictures, to a new file: also where
    /// its own file is gone. What could not be copied is named.
    [[nodiscard]] Outcome<std::vector<Fault>> saveCopy(const QString& to) const;
    /// SQLite's own integrity check; true when sound.
    [[nodiscard]] bool sound() const;
    /// For tests of a full disk: no more than this many pages.
    void limitPages(int pages);

private:
    struct Private;
    explicit JobStore(std::unique_ptr<Private> d);
    std::unique_ptr<Private> d_;
    Job job_;
};

} // namespace burin
