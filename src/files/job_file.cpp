#include "files/job_file.h"
#include "files/job_tables.h"
#include "files/qt_text.h"
#include "files/system_call.h"
#include "files/whole_file.h"
#include <QElapsedTimer>
#include <QFile>
#include <QFileInfo>
#include <QThread>
#include <array>
#include <fcntl.h>
#include <fstream>
#include <sstream>
#include <sys/file.h>
#include <sys/sysmacros.h>
#include <unistd.h>

namespace burin {
namespace {

constexpr int waitMs = 500, headerBytes = 100;

QByteArray headerOf(int handle) {
    QByteArray out(headerBytes, '\0');
    const auto have = ::pread(handle, out.data(), headerBytes, 0);
    out.truncate(std::max<qsizetype>(0, static_cast<qsizetype>(have)));
    return out;
}

/// Which process has the lock, as the kernel tells; empty where it does not.
/// By which process, where the system tells.
Sentence openElsewhere(const struct stat& file) {
    std::array<char, 64> id{};
    std::snprintf(id.data(), id.size(), "%02x:%02x:%llu", major(file.st_dev), minor(file.st_dev),
                  static_cast<unsigned long long>(file.st_ino));
    std::ifstream locks("/proc/locks");
    for (std::string line; std::getline(locks, line);) {
        std::istringstream words(line);
        std::string number, kind, how, what, pid, where;
        words >> number >> kind >> how >> what >> pid >> where;
        if (kind == "FLOCK" && where == id.data())
            return sentence({"job.open-in-process", "it is open in another Burin (process {0})"},
                            pid);
    }
    return sentence({"job.open-elsewhere", "it is open in another Burin"});
}

JobHeader read(const QByteArray& header) {
    const auto byte = [&](int i) { return static_cast<unsigned>(static_cast<uchar>(header[i])); };
    const auto word = [&](int i) {
        return byte(i) << 24U | byte(i + 1) << 16U | byte(i + 2) << 8U | byte(i + 3);
    };
    JobHeader out;
    out.pageBytes = (byte(16) << 8U | byte(17)) == 1 ? 65536U : byte(16) << 8U | byte(17);
    out.pages = word(28);
    out.version = word(60);
    out.applicationId = word(68);
    out.writeAheadLog = byte(18) == 2 || byte(19) == 2;
    return out;
}

} // namespace

bool isJobFile(const char* path) {
    const int handle = ::open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    if (handle < 0)
        return false;
    const QByteArray header = headerOf(handle);
    ::close(handle);
    return header.size() == headerBytes && header.startsWith("SQLite format 3") &&
           read(header).applicationId == static_cast<unsigned>(jobApplicationId);
}

bool takesWrites(const QString& path) {
    const QFileInfo file(QFileInfo(path).canonicalFilePath());
    return file.isWritable() && QFileInfo(file.absolutePath()).isWritable();
}

bool isBesideJob(const std::string& path) {
    for (const std::string_view suffix : {"-journal", "-wal", "-shm"})
        if (path.ends_with(suffix) &&
            isJobFile(path.substr(0, path.size() - suffix.size()).c_str()))
            return true;
    return false;
}

Outcome<JobHeader> inspectJobFile(const QString& path) {
    const QByteArray name = QFile::encodeName(path);
    struct stat info {};
    if (::stat(name.constData(), &info) != 0)
        return refuse(utf8(path), {"job.no-file", "there is no such file"},
                      {"cure.check-name-make", "Check the name, or make a new job"});
    if (S_ISDIR(info.st_mode))
        return refuse(utf8(path), {"job.folder-not-job", "this is a folder, not a job"},
                      {"cure.choose-burin-file", "Choose a .burin file in it"});
    if (!S_ISREG(info.st_mode))
        return refuse(utf8(path), {"job.device-pipe-not", "this is a device or a pipe, not a job"},
                      {"cure.choose-a-burin-file", "Choose a .burin file"});
    const int handle = ::open(name.constData(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    if (handle < 0)
        return refuse(utf8(path), {"job.file-not-read", "the file may not be read"},
                      {"cure.check-who-read", "Check who may read it"});
    const QByteArray bytes = headerOf(handle);
    ::close(handle);
    if (bytes.size() < headerBytes || !bytes.startsWith("SQLite format 3"))
        return refuse(
            utf8(path),
            bytes.isEmpty()
                ? sentence({"job.file-empty", "the file is empty"})
                : sentence({"job.this-is-no-job-of-burin-s", "this is no job of Burin's"}),
            {"cure.choose-burin-file-import", "Choose a .burin file, or import a JSON export"});
    const JobHeader header = read(bytes);
    // With a log of an older Burin beside it, or an edit that was cut off, the header may be behind
    // or ahead of the file; SQLite then puts it right.
    const auto beside = [&](const char* suffix) {
        return QFileInfo(path + QLatin1String(suffix)).size() > 0;
    };
    if ((header.writeAheadLog && beside("-wal")) || beside("-journal"))
        return header;
    const auto size = quint64(header.pages) * header.pageBytes;
    if (size > quint64(info.st_size))
        return refuse(
            utf8(path),
            sentence({"job.file-cut-short", "the file is cut short: {0} of {1} bytes"},
                     asCount(static_cast<std::size_t>(info.st_size)),
                     asCount(static_cast<std::size_t>(size))),
            {"cure.restore-copy-not", "Restore it from a copy; this one was not touched"});
    if (header.applicationId != static_cast<unsigned>(jobApplicationId))
        return refuse(utf8(path),
                      {"job.database-something-else",
                       "this is a database of something else, not a job of Burin's"},
                      {"cure.choose-a-burin-file", "Choose a .burin file"});
    if (header.version > static_cast<unsigned>(formatVersion))
        return refuse(utf8(path),
                      sentence({"job.written-newer-burin",
                                "it was written by a newer Burin (format {0}, this one reads {1})"},
                               asCount(static_cast<std::size_t>(header.version)),
                               asCount(formatVersion)),
                      {"cure.open-burin-install",
                       "Open it with that Burin, or install the newer one; it was not touched"});
    return header;
}

Outcome<std::unique_ptr<JobFile>> JobFile::make(const QString& path) {
    const QByteArray name = QFile::encodeName(path);
    if (isBesideJob(name.toStdString()))
        return refuse(utf8(path),
                      {"job.file-name-part", "a file of this name is part of the job beside it"},
                      {"cure.choose-another-name", "Choose another name"});
    const int handle = detail::systemCall("open", [&] {
        return ::open(name.constData(), O_RDWR | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
    });
    if (handle < 0 && errno == EEXIST)
        return refuse(
            utf8(path), {"job.file-name-already", "there is a file of this name already"},
            {"cure.choose-another-name-nothing", "Choose another name; nothing was written over"});
    if (handle < 0)
        return refuse(
            utf8(path), sentence({"job.cannot-made", "it cannot be made: {0}"}, whyNot(errno)),
            {"cure.choose-folder-written", "Choose a folder of yours that may be written"});
    return lock(std::unique_ptr<JobFile>(new JobFile(path, handle)));
}

Outcome<std::unique_ptr<JobFile>> JobFile::hold(const QString& path) {
    const QByteArray name = QFile::encodeName(path);
    const int handle = ::open(name.constData(), O_RDWR | O_CLOEXEC | O_NOFOLLOW);
    if (handle < 0)
        return refuse(
            utf8(path),
            sentence({"job.file-not-written", "the file may not be written: {0}"}, whyNot(errno)),
            {"cure.copy-folder-open", "Copy it to a folder of yours and open it there"});
    return lock(std::unique_ptr<JobFile>(new JobFile(path, handle)));
}

Outcome<std::unique_ptr<JobFile>> JobFile::lock(std::unique_ptr<JobFile> file) {
    QElapsedTimer clock;
    clock.start();
    while (::flock(file->handle_, LOCK_EX | LOCK_NB) != 0) {
        if (clock.elapsed() < waitMs && errno == EWOULDBLOCK) {
            QThread::msleep(20);
            continue;
        }
        struct stat info {};
        ::fstat(file->handle_, &info);
        return refuse(utf8(file->path_), openElsewhere(info),
                      {"cure.close-first", "Close it there first"});
    }
    file->remember();
    return file;
}

JobFile::~JobFile() {
    ::close(handle_);
}

void JobFile::remember() {
    ::fstat(handle_, &noted_);
    header_ = headerOf(handle_);
}

void JobFile::discard() {
    struct stat now {};
    const QByteArray name = QFile::encodeName(path_);
    if (::stat(name.constData(), &now) == 0 && now.st_ino == noted_.st_ino &&
        now.st_dev == noted_.st_dev) {
        QFile::remove(path_);
        QFile::remove(path_ + QStringLiteral("-journal"));
    }
}

Outcome<bool> JobFile::isAsWeLeftIt() const {
    const Sentence cure = sentence({"cure.save-copy-open-it",
                                    "Nothing more is written there. Save a copy (Job menu): all "
                                    "that was kept is in it; then open the copy"});
    struct stat now {};
    if (::stat(QFile::encodeName(path_).constData(), &now) != 0)
        return refuse(
            utf8(path_),
            {"job.job-file-moved", "the job's file was moved or removed while it is open"}, cure);
    if (now.st_dev != noted_.st_dev || now.st_ino != noted_.st_ino)
        return refuse(
            utf8(path_),
            {"job.another-file-put", "another file was put in the job's place while it is open"},
            cure);
    if (now.st_size < noted_.st_size)
        return refuse(utf8(path_),
                      {"job.job-file-cut", "the job's file was cut short while it is open"}, cure);
    if (now.st_size != noted_.st_size || headerOf(handle_) != header_)
        return refuse(utf8(path_),
                      {"job.another-program-changed",
                       "another program changed the job's file while it is open"},
                      cure);
    if (::access(QFile::encodeName(path_).constData(), W_OK) != 0)
        return refuse(utf8(path_),
                      {"job.job-file-not", "the job's file may not be written any more"}, cure);
    return true;
}

} // namespace burin
