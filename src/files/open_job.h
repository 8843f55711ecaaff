#pragma once
#include "core/edit/apply.h"
#include "files/job_database.h"

namespace burin {

struct Attachment;

/// Now in UTC, as the log writes it.
std::string utcNow();
/// What the disk did not take, for whoever made the edit.
tl::unexpected<Fault> sqlFault(const QString& path, const SqlFailed& failed);

/// A job's file while it is open, with its log: each step is done in memory and kept in one
/// transaction, or neither.
struct OpenJob {
    QString path;
    std::unique_ptr<JobFile> file; ///< none: for reading alone
    JobDatabase database;          ///< closed before what stands above it
    JobSeal seal;
    OpenLog log;
    std::string jobId;
    std::vector<LogRow> oldSteps; ///< of a job of an older version that is only read

    [[nodiscard]] QSqlDatabase& db() { return database.db; }
    /// Refused where the job is open for reading alone, or its file is not as we left it.
    [[nodiscard]] Outcome<bool> takesEdits() const;
    Outcome<bool> transaction(const std::function<void()>& work);
    /// Does a step on the job and keeps it, with `more` and the steps it brought.
    Outcome<bool> keepStep(Job& job, LogRow row, Clashes clashes,
                           const std::function<void()>& more = {},
                           const std::vector<LogRow>& brought = {});
    /// Takes back what `steps` ends with. False: there is nothing.
    Outcome<bool> takeBack(Job& job, const std::vector<std::size_t>& steps, const std::string& who);
    [[nodiscard]] std::string titleOf(const std::vector<std::size_t>& steps) const;
    /// All steps of the log, oldest first.
    [[nodiscard]] Outcome<std::vector<LogRow>> steps();

    /// These throw SqlFailed, and are to be called inside a transaction.
    void createAllTables();
    void keep(const Attachment& attachment);
};

} // namespace burin
