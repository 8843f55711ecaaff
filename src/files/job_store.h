#pragma once
#include "core/job/edit.h"
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

/// One line of the logbook.
struct LogEntry {
    qint64 sequence = 0;
    std::string at, who, title, state; ///< done, undone or dropped
};

enum class Access { ReadOnly, ReadWrite };

/// A job in one SQLite file, documented in docs/job-format.md. An object lives in the thread that
/// made it. Every edit is one transaction, on disk (synchronous=FULL) before commit returns.
class JobStore {
public:
    /// Makes a new file; refused where one is there already.
    static Outcome<std::unique_ptr<JobStore>> create(const QString& path, const std::string& name);
    /// Opens a file. Refused, with the file as it was: no such file, not Burin's, newer than this
    /// Burin, damaged, a folder that cannot be written, open in another Burin.
    static Outcome<std::unique_ptr<JobStore>> open(const QString& path, Access access);
    ~JobStore();
    JobStore(const JobStore&) = delete;
    JobStore& operator=(const JobStore&) = delete;

    [[nodiscard]] const Job& job() const { return job_; }
    [[nodiscard]] QString path() const;

    /// Applies and keeps an edit. On failure the file and the job are as before.
    Outcome<bool> commit(const Edit& edit, const std::string& who,
                         const std::vector<Attachment>& attachments = {});
    /// Takes the last edit back, or does the last one taken back again. False: there is none.
    Outcome<bool> undo();
    Outcome<bool> redo();
    /// Titles of what undo and redo would do; empty: nothing.
    [[nodiscard]] std::string undoTitle() const;
    [[nodiscard]] std::string redoTitle() const;

    [[nodiscard]] Outcome<std::string> attachment(const std::string& hash) const;
    /// Measured files, and the pictures beside the job that it names.
    [[nodiscard]] std::vector<Attachment> attachments() const;
    /// Newest first, at most `most`.
    [[nodiscard]] std::vector<LogEntry> log(int most = 1000) const;
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
