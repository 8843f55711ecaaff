#include "files/whole_file.h"
#include "files/job_file.h"
#include "files/system_call.h"
#include <algorithm>
#include <array>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <memory>
#include <random>
#include <sys/stat.h>
#include <unistd.h>

namespace burin {
namespace detail {
std::function<int(const char* call)> failCall;
} // namespace detail

namespace {

using detail::systemCall;

tl::unexpected<Fault> notWritten(const std::string& path, int error) {
    return refuse(
        path, sentence({"file.not-written", "it is not written: {0}"}, whyNot(error)),
        error == ENOSPC || error == EDQUOT
            ? sentence({"cure.make-room-disk-do",
                        "Make room on the disk, then do it again; what was there is as it was"})
            : sentence({"cure.check-folder", "Check the folder; what was there is as it was"}));
}

/// 0, or an errno.
int writeAll(int file, std::string_view bytes) {
    while (!bytes.empty()) {
        const auto done =
            systemCall("write", [&] { return ::write(file, bytes.data(), bytes.size()); });
        if (done < 0 && errno == EINTR)
            continue;
        if (done < 0)
            return errno;
        bytes.remove_prefix(static_cast<std::size_t>(done));
    }
    return 0;
}

/// A file beside the one to be written, taken away again unless it was put in its place.
class Beside {
public:
    explicit Beside(const std::string& path) {
        const auto slash = path.rfind('/');
        const std::string folder = slash == std::string::npos ? "" : path.substr(0, slash + 1);
        std::random_device random;
        // Never another's: what is there already, or a link laid there, is not opened.
        do {
            name_ = folder + ".burin-" + std::to_string(random());
            file_ = systemCall("open", [&] {
                return ::open(name_.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC,
                              0666);
            });
        } while (file_ < 0 && errno == EEXIST);
        there_ = file_ >= 0;
    }
    ~Beside() {
        const int kept = errno;
        if (file_ >= 0)
            ::close(file_);
        if (there_)
            ::unlink(name_.c_str());
        errno = kept;
    }
    Beside(const Beside&) = delete;
    Beside& operator=(const Beside&) = delete;

    [[nodiscard]] int file() const { return file_; }
    int close() {
        const int result = systemCall("close", [&] { return ::close(file_); });
        if (result == 0)
            file_ = -1;
        return result;
    }
    int putAt(const std::string& path) {
        const int result =
            systemCall("rename", [&] { return ::rename(name_.c_str(), path.c_str()); });
        there_ = result != 0;
        return result;
    }

private:
    std::string name_;
    int file_ = -1;
    bool there_ = false;
};

bool same(const struct stat& a, const struct stat& b) {
    return a.st_dev == b.st_dev && a.st_ino == b.st_ino;
}

/// Where the bytes go: the path, or what a link leads to. Refused: what must not be written over.
Outcome<std::string> targetOf(const std::string& path, const std::vector<std::string>& inputs) {
    struct stat there {};
    if (path.empty())
        return refuse("the file to write", {"file.no-name-given", "no name is given"},
                      {"cure.name-one", "Name one"});
    if (isBesideJob(path))
        return refuse(path,
                      {"job.file-name-part", "a file of this name is part of the job beside it"},
                      {"cure.choose-another-name", "Choose another name"});
    if (::lstat(path.c_str(), &there) != 0) {
        if (errno == ENOENT && path.back() != '/')
            return path;
        return notWritten(path, errno == ENOENT ? EISDIR : errno);
    }
    const std::unique_ptr<char, decltype(&std::free)> full(::realpath(path.c_str(), nullptr),
                                                           &std::free);
    if (!full || ::stat(full.get(), &there) != 0)
        return refuse(path, {"file.link-nothing", "it is a link to nothing"},
                      {"cure.name-file-itself", "Name the file itself"});
    if (!S_ISREG(there.st_mode))
        return refuse(path,
                      S_ISDIR(there.st_mode)
                          ? sentence({"file.folder", "this is a folder"})
                          : sentence({"file.device-pipe-not",
                                      "this is a device or a pipe, not a plain file"}),
                      {"cure.name-file", "Name a file"});
    for (const auto& input : inputs) {
        struct stat from {};
        if (::stat(input.c_str(), &from) == 0 && same(from, there))
            return refuse(
                path,
                {"file.file-made-would", "this is the file it is made from, which would be lost"},
                {"cure.choose-another-name", "Choose another name"});
    }
    if (isBesideJob(full.get()))
        return refuse(path, {"file.leads-part-job", "it leads to a part of a job of Burin's"},
                      {"cure.choose-another-name", "Choose another name"});
    if (isJobFile(full.get()))
        return refuse(
            path, {"file.job-burin-not", "a job of Burin's is there, and is not written over"},
            {"cure.choose-another-name-move", "Choose another name, or move the job away"});
    if (::access(full.get(), W_OK) != 0)
        return notWritten(path, errno);
    return std::string(full.get());
}

} // namespace

std::string whyNot(int error) {
    switch (error) {
    case ENOSPC:
    case EDQUOT:
        return "the disk is full";
    case EACCES:
    case EPERM:
        return "it may not be written there";
    case EROFS:
        return "the medium is for reading only";
    case ENOENT:
    case ENOTDIR:
        return "there is no such folder";
    case EISDIR:
        return "this is a folder";
    case EEXIST:
        return "there is a file of this name already";
    case ENAMETOOLONG:
        return "the name is too long";
    case EIO:
        return "the disk reports an error";
    default:
        return std::strerror(error);
    }
}

bool isStandardOutput(const std::string& path) {
    return path == "-" || path == "/dev/stdout" || path == "/dev/fd/1" || path == "/proc/self/fd/1";
}

int putNewFile(const std::string& beside, const std::string& path) {
    const int file = ::open(beside.c_str(), O_RDWR | O_CLOEXEC);
    if (file < 0)
        return errno;
    int error = systemCall("fsync", [&] { return ::fsync(file); }) == 0 ? 0 : errno;
    ::close(file);
    const auto rename = [&](unsigned how) {
        return systemCall("rename", [&] {
            return ::renameat2(AT_FDCWD, beside.c_str(), AT_FDCWD, path.c_str(), how);
        });
    };
    if (error == 0 && rename(RENAME_NOREPLACE) != 0) {
        error = errno;
        // Some file systems cannot promise it: there it is looked at first.
        struct stat there {};
        if (error == EINVAL && ::lstat(path.c_str(), &there) != 0 && errno == ENOENT)
            error = rename(0) == 0 ? 0 : errno;
    }
    return error != 0 ? error : syncFolderOf(path);
}

int syncFolderOf(const std::string& path) {
    const auto slash = path.rfind('/');
    const std::string folder = slash == std::string::npos ? "." : path.substr(0, slash + 1);
    const int handle = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (handle < 0)
        return errno;
    const int result = systemCall("fsync", [&] { return ::fsync(handle); });
    // Some file systems cannot, and need not.
    const int error = result == 0 || errno == EINVAL || errno == EROFS ? 0 : errno;
    ::close(handle);
    return error;
}

Outcome<bool> writeWholeFile(const std::string& path, std::string_view bytes,
                             const std::vector<std::string>& inputs) {
    if (isStandardOutput(path)) {
        if (const int error = writeAll(STDOUT_FILENO, bytes); error != 0)
            return refuse(
                "standard output",
                sentence({"file.does-not-take", "it does not take the bytes: {0}"}, whyNot(error)),
                {"cure.check-leads", "Check where it leads"});
        return true;
    }
    const auto target = targetOf(path, inputs);
    if (!target)
        return refuse(target.error());
    Beside beside(*target);
    if (beside.file() < 0)
        return notWritten(path, errno);
    struct stat old {};
    if (::stat(target->c_str(), &old) == 0)
        ::fchmod(beside.file(), old.st_mode & 07777U);
    if (const int error = writeAll(beside.file(), bytes); error != 0)
        return notWritten(path, error);
    if (systemCall("fsync", [&] { return ::fsync(beside.file()); }) != 0 || beside.close() != 0 ||
        beside.putAt(*target) != 0)
        return notWritten(path, errno);
    if (const int error = syncFolderOf(*target); error != 0)
        return refuse(path,
                      sentence({"file.written-but-disk",
                                "it is written, but the disk did not confirm it: {0}"},
                               whyNot(error)),
                      {"cure.check-disk-write", "Check the disk, then write it again"});
    return true;
}

} // namespace burin
