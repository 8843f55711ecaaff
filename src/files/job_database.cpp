#include "files/job_database.h"
#include "core/history/old_log.h"
#include <QFile>
#include <QFileInfo>
#include <QSqlError>
#include <QUrl>
#include <atomic>
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

namespace burin {
namespace {

qint64 sizeOf(const QString& path) {
    return QFileInfo(path).size();
}

} // namespace

tl::unexpected<Fault> damagedJob(const QString& path, Sentence how) {
    return refuse(path.toStdString(), std::move(how),
                  {"cure.restore-copy-not", "Restore it from a copy; this one was not touched"});
}

/// Reading a log of an older Burin makes an index beside it. One that was not there goes again,
/// unless somebody has the job open.
class JobDatabase::IndexBeside {
public:
    explicit IndexBeside(const QString& path)
        : path_(path), name_(path + QStringLiteral("-shm")), was_(QFileInfo::exists(name_)) {}
    ~IndexBeside() {
        if (was_ || !QFileInfo::exists(name_))
            return;
        const int handle = ::open(QFile::encodeName(path_).constData(), O_RDONLY | O_CLOEXEC);
        if (handle >= 0 && ::flock(handle, LOCK_EX | LOCK_NB) == 0)
            QFile::remove(name_);
        if (handle >= 0)
            ::close(handle);
    }
    IndexBeside(const IndexBeside&) = delete;
    IndexBeside& operator=(const IndexBeside&) = delete;

private:
    QString path_, name_;
    bool was_;
};

JobDatabase::JobDatabase() = default;
JobDatabase::~JobDatabase() {
    close();
}

void JobDatabase::close() {
    if (!name_.isEmpty()) {
        db.close();
        db = QSqlDatabase();
        QSqlDatabase::removeDatabase(name_);
        name_.clear();
    }
    index_.reset();
}

Outcome<bool> JobDatabase::open(const QString& path, Way way) {
    static std::atomic<int> count{0};
    name_ = QStringLiteral("burin-%1").arg(++count);
    db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), name_);
    // A full path: SQLite would take "file:x" for an address.
    db.setDatabaseName(path);
    if (way == Way::Read)
        db.setConnectOptions(QStringLiteral("QSQLITE_OPEN_READONLY;QSQLITE_BUSY_TIMEOUT=5000"));
    if (way == Way::ReadAlone) {
        db.setDatabaseName(QString::fromLatin1(QUrl::fromLocalFile(path).toEncoded()) +
                           QStringLiteral("?immutable=1"));
        db.setConnectOptions(QStringLiteral("QSQLITE_OPEN_READONLY;QSQLITE_OPEN_URI"));
    }
    if (!db.open())
        return refuse(path.toStdString(),
                      sentence({"job.cannot-opened", "it cannot be opened: {0}"},
                               db.lastError().databaseText().toStdString()),
                      {"cure.check-file-folder", "Check that the file and its folder may be read"});
    return true;
}

Outcome<bool> JobDatabase::openForWriting(const QString& path) {
    if (auto good = open(path, Way::Write); !good)
        return good;
    // No log beside the file: what lies on the disk under the job's name is the job, whole, however
    // the program ends and whatever copies it.
    runSql(db, QStringLiteral("PRAGMA journal_mode = DELETE"));
    runSql(db, QStringLiteral("PRAGMA synchronous = EXTRA"));
    return true;
}

Outcome<bool> JobDatabase::openForReading(const QString& path, const JobHeader& header) {
    const bool mayWrite = takesWrites(path);
    const bool log = header.writeAheadLog && sizeOf(path + QStringLiteral("-wal")) > 0;
    const bool journal = sizeOf(path + QStringLiteral("-journal")) > 0;
    if ((log || journal) && !mayWrite)
        return refuse(
            path.toStdString(),
            {"job.last-edits-lie", "its last edits lie in a file beside it, and here nothing can "
                                   "be written to bring them together"},
            {"cure.copy-job-begins",
             "Copy the job and what begins with its name to a folder of yours, and open it there"});
    if (header.writeAheadLog && !log)
        return open(path, Way::ReadAlone);
    if (log)
        index_ = std::make_unique<IndexBeside>(path);
    // An edit that was being written when a Burin was killed is taken back by SQLite first.
    return open(path, journal ? Way::Write : mayWrite ? Way::Read : Way::ReadAlone);
}

namespace {

/// An older version's log as steps, when it is as it was written. Its job has just been read.
Outcome<bool> lookAtOldLog(QSqlDatabase& db, SeenJob& seen, JobSeal old, const std::string& where) {
    const auto lines = readOldLines(db, seen.version, old, where);
    if (!lines)
        return refuse(lines.error());
    if (seen.version >= 4)
        if (auto sound = checkSeal(db, old, seen.version, where); !sound)
            return sound;
    seen.jobId = jobIdOfOld(*lines, seen.job.info.name);
    seen.oldSteps = stepsOfOld(*lines, seen.job.info.name);
    for (const auto& step : seen.oldSteps)
        seen.log.take(step);
    return true;
}

} // namespace

Outcome<SeenJob> look(QSqlDatabase& db, const QString& path) {
    runSql(db, QStringLiteral("BEGIN"));
    const int id = firstSqlValue(db, QStringLiteral("PRAGMA application_id")).toInt();
    SeenJob out;
    out.version = firstSqlValue(db, QStringLiteral("PRAGMA user_version")).toInt();
    if (id != jobApplicationId || out.version < 1 || out.version > formatVersion)
        return refuse(path.toStdString(),
                      {"job.no-job-burin", "this is no job this Burin can read"},
                      {"cure.choose-another-install", "Choose another, or install a newer Burin"});
    if (firstSqlValue(db, QStringLiteral("PRAGMA quick_check")).toString() != QLatin1String("ok"))
        return damagedJob(path, {"job.damaged", "the file is damaged"});
    // Read later: what is missing is said now.
    runSql(db, QStringLiteral("SELECT hash, name, bytes FROM attachment LIMIT 1"));
    const std::string where = path.toStdString();
    JobSeal old;
    auto job = readTables(db, out.version, where, [&](const Job& asKept) {
        if (out.version < firstLogOfSteps)
            old = JobSeal::of(asKept, out.version);
    });
    if (!job)
        return refuse(job.error());
    out.job = std::move(*job);
    out.seal = JobSeal::of(out.job);
    if (out.version < firstLogOfSteps) {
        if (auto good = lookAtOldLog(db, out, std::move(old), where); !good)
            return refuse(good.error());
    } else {
        out.jobId = readJobId(db);
        out.log = readHeads(db, out.seal);
        const bool now = out.version == formatVersion;
        if (!now) {
            old = JobSeal::of(out.job, out.version);
            readHeads(db, old); // its own seal is over its log too
        }
        if (auto sound = checkSeal(db, now ? out.seal : old, out.version, where); !sound)
            return refuse(sound.error());
    }
    runSql(db, QStringLiteral("COMMIT"));
    return out;
}

JobSeal rewriteJob(QSqlDatabase& db, const SeenJob& seen) {
    dropTables(db, seen.version);
    createTables(db);
    JobSeal seal = seen.seal;
    if (seen.version < firstLogOfSteps) {
        dropOldLog(db, seen.version);
        createLogTables(db, seen.jobId);
        createSealTable(db);
        seal = JobSeal::of(seen.job);
        for (const auto& step : seen.oldSteps)
            writeStep(db, step, seal);
    }
    writeJob(db, seen.job);
    writeSeal(db, seal);
    runSql(db, QStringLiteral("PRAGMA user_version = %1").arg(formatVersion));
    return seal;
}

} // namespace burin
