#pragma once
#include "files/job_file.h"
#include "files/job_log.h"
#include <memory>

namespace burin {

/// A connection to a job's database, under a name of its own; it closes with the object.
class JobDatabase {
public:
    QSqlDatabase db;

    JobDatabase();
    ~JobDatabase();
    JobDatabase(const JobDatabase&) = delete;
    JobDatabase& operator=(const JobDatabase&) = delete;

    /// Without a log beside the file, flushed at every commit. Throws SqlFailed.
    Outcome<bool> openForWriting(const QString& path);
    /// In the way that the medium, and what lies beside the file, allow: nothing is left there.
    Outcome<bool> openForReading(const QString& path, const JobHeader& header);
    void close();

private:
    enum class Way {
        Write,
        Read,
        ReadAlone ///< the file and nothing beside it, on a medium that takes no writes
    };
    class IndexBeside;
    Outcome<bool> open(const QString& path, Way way);
    std::unique_ptr<IndexBeside> index_;
    QString name_;
};

/// What a job's tables hold, all of it as of one moment.
struct SeenJob {
    int version = 0;
    Job job;
    std::string jobId;
    JobSeal seal; ///< of what was read, in the form of this version
    OpenLog log;
    std::vector<LogRow> oldSteps; ///< of a job of an older version, whose log is no steps yet
};
/// Refused: another's, damaged, a table or column missing. Throws SqlFailed.
Outcome<SeenJob> look(QSqlDatabase& db, const QString& path);

/// Writes a job of an older version anew in the form of this one; measured files stay as they are.
/// The seal that it has then. To be called inside a transaction. Throws SqlFailed.
JobSeal rewriteJob(QSqlDatabase& db, const SeenJob& seen);

tl::unexpected<Fault> damagedJob(const QString& path, Sentence how);

} // namespace burin
