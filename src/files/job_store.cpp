#include "files/job_store.h"
#include "core/job/job_json.h"
#include "files/job_tables.h"
#include "files/picture_folder.h"
#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSqlError>
#include <QSqlQuery>
#include <QVariant>
#include <atomic>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <utility>

namespace burin {
namespace {

std::string utf8(const QString& text) {
    return text.toStdString();
}

QVariant firstValue(QSqlDatabase& db, const QString& sql) {
    QSqlQuery query = runSql(db, sql);
    return query.next() ? query.value(0) : QVariant();
}

tl::unexpected<Fault> sqlFault(const QString& path, const SqlFailed& failed) {
    if (failed.full)
        return refuse(utf8(path), "the disk is full, so the edit was not kept",
                      "Make room on the disk, then do it again; the job is as it was");
    return refuse(utf8(path), "the job file did not take it: " + failed.what,
                  "Check the disk; the job is as it was before");
}

QString now() {
    return QDateTime::currentDateTime().toString(Qt::ISODateWithMs);
}

/// What can be told of a file before SQLite touches it.
Outcome<bool> inspect(const QString& path) {
    const QFileInfo info(path);
    if (!info.exists())
        return refuse(utf8(path), "there is no such file", "Check the name, or make a new job");
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return refuse(utf8(path), "the file may not be read", "Check who may read it");
    const QByteArray header = file.read(100);
    if (!header.startsWith("SQLite format 3") || header.size() < 100)
        return refuse(utf8(path),
                      header.isEmpty() ? "the file is empty" : "this is no job of Burin's",
                      "Choose a .burin file, or import a JSON export");
    const auto byte = [&](int i) { return static_cast<unsigned>(static_cast<uchar>(header[i])); };
    const auto word = [&](int i) {
        return byte(i) << 24U | byte(i + 1) << 16U | byte(i + 2) << 8U | byte(i + 3);
    };
    const unsigned pageSize = (byte(16) << 8U | byte(17)) == 1 ? 65536U : byte(16) << 8U | byte(17);
    // With a write-ahead log beside it the header's page count may lag; the log then heals it.
    const bool logBeside = QFileInfo(path + QStringLiteral("-wal")).size() > 0;
    if (!logBeside && quint64(word(28)) * pageSize > quint64(info.size()))
        return refuse(utf8(path),
                      "the file is cut short: " + std::to_string(info.size()) + " of " +
                          std::to_string(quint64(word(28)) * pageSize) + " bytes",
                      "Restore it from a copy; this one was not touched");
    if (!logBeside && word(68) != static_cast<unsigned>(jobApplicationId))
        return refuse(utf8(path), "this is a database of something else, not a job of Burin's",
                      "Choose a .burin file");
    if (!logBeside && word(60) > static_cast<unsigned>(jobFormatVersion))
        return refuse(utf8(path),
                      "it was written by a newer Burin (format " + std::to_string(word(60)) +
                          ", this one reads " + std::to_string(jobFormatVersion) + ")",
                      "Open it with that Burin, or install the newer one; it was not touched");
    return true;
}

} // namespace

struct JobStore::Private {
    QString path;
    QString connection;
    QSqlDatabase db;
    int lock = -1; ///< descriptor of FILE.lock, held while open for writing

    ~Private() {
        db.close();
        db = QSqlDatabase();
        if (!connection.isEmpty())
            QSqlDatabase::removeDatabase(connection);
        if (lock >= 0) {
            QFile::remove(path + QStringLiteral(".lock"));
            ::close(lock);
        }
    }

    Outcome<bool> takeLock() {
        const QFileInfo folder(QFileInfo(path).absolutePath());
        if (!folder.isWritable())
            return refuse(utf8(path), "its folder may not be written",
                          "Copy the job to a folder of yours and open it there");
        // The kernel lets go of this lock when its process ends, however it ends.
        const QByteArray name = QFile::encodeName(path + QStringLiteral(".lock"));
        for (;;) {
            lock = ::open(name.constData(), O_RDWR | O_CREAT | O_CLOEXEC, 0644);
            if (lock < 0)
                return refuse(utf8(path), "its folder may not be written",
                              "Copy the job to a folder of yours and open it there");
            if (::flock(lock, LOCK_EX | LOCK_NB) != 0) {
                char pid[32] = {};
                const auto size = ::read(lock, pid, sizeof pid - 1);
                ::close(std::exchange(lock, -1));
                return refuse(
                    utf8(path),
                    "it is open in another Burin" +
                        (size > 0 ? " (process " + std::string(pid) + ")" : std::string()),
                    "Close it there first");
            }
            // Its last owner may have removed it between our opening and locking it.
            struct stat now {};
            if (::fstat(lock, &now) == 0 && now.st_nlink > 0)
                break;
            ::close(lock);
        }
        const std::string pid = std::to_string(::getpid());
        if (::ftruncate(lock, 0) != 0 || ::write(lock, pid.data(), pid.size()) < 0)
            return refuse(utf8(path), "its lock file cannot be written", "Check the disk");
        return true;
    }

    Outcome<bool> connect(Access access) {
        static std::atomic<int> count{0};
        connection = QStringLiteral("burin-%1").arg(++count);
        db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), connection);
        db.setDatabaseName(path);
        if (access == Access::ReadOnly)
            db.setConnectOptions(QStringLiteral("QSQLITE_OPEN_READONLY;QSQLITE_BUSY_TIMEOUT=2000"));
        if (!db.open())
            return refuse(utf8(path), "it cannot be opened: " + utf8(db.lastError().databaseText()),
                          "Check that the file and its folder may be read");
        if (access == Access::ReadWrite) {
            runSql(db, QStringLiteral("PRAGMA journal_mode = WAL"));
            runSql(db, QStringLiteral("PRAGMA synchronous = FULL"));
        }
        return true;
    }

    void log(const Edit& edit, const std::string& who) {
        runSql(db,
               QStringLiteral("INSERT INTO edit_log (at, who, title, state, edit_json) "
                              "VALUES (?, ?, ?, 'done', ?)"),
               {now(), QString::fromStdString(who), QString::fromStdString(edit.title),
                QString::fromStdString(toJson(edit).dump())});
    }

    /// The edit undo (`state` done) or redo (`state` undone) would take.
    std::optional<std::pair<qint64, QString>> next(const char* state, const char* column) {
        // What was taken back last is done again first: the lowest sequence among the undone.
        const bool redo = std::string_view(state) == "undone";
        QSqlQuery query =
            runSql(db, QStringLiteral("SELECT sequence, %1 FROM edit_log WHERE state = '%2' "
                                      "ORDER BY sequence %3 LIMIT 1")
                           .arg(QLatin1String(column), QLatin1String(state),
                                redo ? QStringLiteral("ASC") : QStringLiteral("DESC")));
        if (!query.next())
            return std::nullopt;
        return std::pair(query.value(0).toLongLong(), query.value(1).toString());
    }

    template <typename Work> Outcome<bool> transaction(Work work) {
        try {
            runSql(db, QStringLiteral("BEGIN IMMEDIATE"));
            work();
            runSql(db, QStringLiteral("COMMIT"));
            return true;
        } catch (const SqlFailed& failed) {
            QSqlQuery(db).exec(QStringLiteral("ROLLBACK"));
            return sqlFault(path, failed);
        }
    }

    Outcome<bool> step(Job& job, const char* from, const char* to) {
        const auto entry = next(from, "edit_json");
        if (!entry)
            return false;
        auto edit = readEdit(Json::parse(entry->second.toStdString()), "edit log");
        if (!edit)
            return refuse(edit.error());
        if (std::string_view(from) == "done")
            edit = inverse(*edit);
        auto next = apply(job, *edit);
        if (!next)
            return refuse(next.error());
        auto done = transaction([&] {
            writeChanges(db, *edit);
            runSql(db, QStringLiteral("UPDATE edit_log SET state = ? WHERE sequence = ?"),
                   {QString::fromLatin1(to), entry->first});
        });
        if (done)
            job = std::move(*next);
        return done;
    }
};

Attachment attach(std::string name, std::string bytes) {
    const auto hash =
        QCryptographicHash::hash(QByteArrayView(bytes.data(), static_cast<qsizetype>(bytes.size())),
                                 QCryptographicHash::Sha256);
    return {hash.toHex().toStdString(), std::move(name), std::move(bytes)};
}

JobStore::JobStore(std::unique_ptr<Private> d) : d_(std::move(d)) {}
JobStore::~JobStore() = default;
QString JobStore::path() const {
    return d_->path;
}

Outcome<std::unique_ptr<JobStore>> JobStore::create(const QString& path, const std::string& name) {
    if (QFileInfo::exists(path))
        return refuse(utf8(path), "there is a file of this name already",
                      "Choose another name; nothing was written over");
    auto d = std::make_unique<Private>();
    d->path = path;
    if (auto locked = d->takeLock(); !locked)
        return refuse(locked.error());
    JobInfo info;
    info.name = name;
    try {
        if (auto good = d->connect(Access::ReadWrite); !good)
            return refuse(good.error());
        runSql(d->db, QStringLiteral("BEGIN IMMEDIATE"));
        createTables(d->db);
        writeChanges(d->db, {"new job", {put<JobInfo>(std::nullopt, info)}});
        runSql(d->db, QStringLiteral("COMMIT"));
    } catch (const SqlFailed& failed) {
        return sqlFault(path, failed);
    }
    std::unique_ptr<JobStore> out(new JobStore(std::move(d)));
    out->job_.info = info;
    return out;
}

Outcome<std::unique_ptr<JobStore>> JobStore::open(const QString& path, Access access) {
    if (auto good = inspect(path); !good)
        return refuse(good.error());
    auto d = std::make_unique<Private>();
    d->path = path;
    if (access == Access::ReadWrite) {
        if (!QFileInfo(path).isWritable())
            return refuse(utf8(path), "the file may not be written",
                          "Copy it to a folder of yours and open it there");
        if (auto locked = d->takeLock(); !locked)
            return refuse(locked.error());
    }
    try {
        // First without leave to write, so that a file we refuse stays as it was.
        int version = 0;
        {
            Private look;
            look.path = path;
            if (auto good = look.connect(Access::ReadOnly); !good)
                return refuse(good.error());
            const int id = firstValue(look.db, QStringLiteral("PRAGMA application_id")).toInt();
            version = firstValue(look.db, QStringLiteral("PRAGMA user_version")).toInt();
            if (id != jobApplicationId || version < 1 || version > jobFormatVersion)
                return refuse(utf8(path), "this is no job this Burin can read",
                              "Choose another, or install a newer Burin");
            if (firstValue(look.db, QStringLiteral("PRAGMA quick_check")).toString() !=
                QLatin1String("ok"))
                return refuse(utf8(path), "the file is damaged",
                              "Restore it from a copy; this one was not touched");
        }
        if (auto good = d->connect(access); !good)
            return refuse(good.error());
        auto job = readTables(d->db, version, utf8(path));
        if (!job)
            return refuse(job.error());
        // Only once it has been read whole: a job we refuse is not written to.
        if (access == Access::ReadWrite && version < jobFormatVersion)
            if (auto done = d->transaction([&] { bringUpToDate(d->db, version); }); !done)
                return refuse(done.error());
        std::unique_ptr<JobStore> out(new JobStore(std::move(d)));
        out->job_ = std::move(*job);
        return out;
    } catch (const SqlFailed& failed) {
        return refuse(utf8(path), "the file cannot be read: " + failed.what,
                      "Restore it from a copy; this one was not touched");
    }
}

Outcome<bool> JobStore::commit(const Edit& edit, const std::string& who,
                               const std::vector<Attachment>& attachments) {
    auto next = apply(job_, edit);
    if (!next)
        return refuse(next.error());
    // Pictures first: an edit that names one must find it, however the program ends.
    for (const auto& a : attachments)
        if (isPictureOf(edit, a.hash))
            if (auto kept = keepPicture(d_->path, a); !kept)
                return kept;
    auto done = d_->transaction([&] {
        for (const auto& a : attachments)
            if (!isPictureOf(edit, a.hash))
                runSql(d_->db,
                       QStringLiteral("INSERT OR IGNORE INTO attachment (hash, name, bytes) "
                                      "VALUES (?, ?, ?)"),
                       {QString::fromStdString(a.hash), QString::fromStdString(a.name),
                        QByteArray::fromStdString(a.bytes)});
        writeChanges(d_->db, edit);
        runSql(d_->db,
               QStringLiteral("UPDATE edit_log SET state = 'dropped' WHERE state = 'undone'"));
        d_->log(edit, who);
    });
    if (done)
        job_ = std::move(*next);
    return done;
}

Outcome<bool> JobStore::undo() {
    return d_->step(job_, "done", "undone");
}
Outcome<bool> JobStore::redo() {
    return d_->step(job_, "undone", "done");
}

std::string JobStore::undoTitle() const {
    const auto entry = d_->next("done", "title");
    return entry ? entry->second.toStdString() : std::string();
}
std::string JobStore::redoTitle() const {
    const auto entry = d_->next("undone", "title");
    return entry ? entry->second.toStdString() : std::string();
}

Outcome<std::string> JobStore::attachment(const std::string& hash) const {
    try {
        QSqlQuery query =
            runSql(d_->db, QStringLiteral("SELECT bytes FROM attachment WHERE hash = ?"),
                   {QString::fromStdString(hash)});
        if (!query.next())
            return refuse(utf8(d_->path), "a measured file is missing from the job",
                          "Bring it in again");
        return query.value(0).toByteArray().toStdString();
    } catch (const SqlFailed& failed) {
        return sqlFault(d_->path, failed);
    }
}

std::vector<Attachment> JobStore::attachments() const {
    std::vector<Attachment> out;
    QSqlQuery query =
        runSql(d_->db, QStringLiteral("SELECT hash, name, bytes FROM attachment ORDER BY hash"));
    while (query.next())
        out.push_back({query.value(0).toString().toStdString(),
                       query.value(1).toString().toStdString(),
                       query.value(2).toByteArray().toStdString()});
    for (auto& picture : picturesOf(d_->path, job_))
        out.push_back(std::move(picture));
    return out;
}

std::vector<LogEntry> JobStore::log(int most) const {
    std::vector<LogEntry> out;
    QSqlQuery query = runSql(d_->db, QStringLiteral("SELECT sequence, at, who, title, state FROM "
                                                    "edit_log ORDER BY sequence DESC LIMIT %1")
                                         .arg(most));
    while (query.next())
        out.push_back({query.value(0).toLongLong(), query.value(1).toString().toStdString(),
                       query.value(2).toString().toStdString(),
                       query.value(3).toString().toStdString(),
                       query.value(4).toString().toStdString()});
    return out;
}

bool JobStore::sound() const {
    return firstValue(d_->db, QStringLiteral("PRAGMA integrity_check")).toString() ==
           QLatin1String("ok");
}

void JobStore::limitPages(int pages) {
    runSql(d_->db, QStringLiteral("PRAGMA max_page_count = %1").arg(pages));
}

} // namespace burin
