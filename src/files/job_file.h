#pragma once
#include "core/base/fault.h"
#include <QByteArray>
#include <QString>
#include <memory>
#include <sys/stat.h>

namespace burin {

/// Whether a file begins as a job of Burin's does.
bool isJobFile(const char* path);

/// Whether a job that is there, and its folder, take writes.
bool takesWrites(const QString& path);

/// Whether SQLite would take a file of that name for a part of a job that is there.
bool isBesideJob(const std::string& path);

/// The file of a job on the disk while it is open for writing: locked by its inode, so that no
/// other name, link or hard link leads a second Burin to it, and looked at before each edit, so
/// that nothing is written into a file that was moved, replaced or cut short meanwhile. The kernel
/// lets go of the lock when the process ends, however it ends; no lock file is left or followed.
class JobFile {
public:
    /// Makes the file, empty; refused where something of the name is there, a link to nothing too.
    static Outcome<std::unique_ptr<JobFile>> make(const QString& path);
    /// Takes hold of a file that is there. Waits half a second for another that has it.
    static Outcome<std::unique_ptr<JobFile>> hold(const QString& path);
    ~JobFile();
    JobFile(const JobFile&) = delete;
    JobFile& operator=(const JobFile&) = delete;

    /// Notes the file as it is now: what we wrote ourselves.
    void remember();
    /// Refused where what stands under the name is no more what we noted.
    [[nodiscard]] Outcome<bool> isAsWeLeftIt() const;
    /// Takes a file we made away again.
    void discard();

private:
    JobFile(QString path, int handle) : path_(std::move(path)), handle_(handle) {}
    static Outcome<std::unique_ptr<JobFile>> lock(std::unique_ptr<JobFile> file);
    QString path_;
    int handle_ = -1;
    struct stat noted_ {};
    QByteArray header_;
};

/// The first 100 bytes of a job, as SQLite's file format has them.
struct JobHeader {
    unsigned pageBytes = 0, pages = 0, applicationId = 0, version = 0;
    bool writeAheadLog = false; ///< kept by Burin's older versions
};
/// What can be told of a file before SQLite touches it. Refused: no such file, a folder or device,
/// empty, another's, cut short, newer than this Burin.
Outcome<JobHeader> inspectJobFile(const QString& path);

} // namespace burin
