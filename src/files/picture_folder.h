#pragma once
#include "files/job_store.h"
#include <QStringList>

namespace burin {

/// The pictures of a job, beside it: JOB.pictures/HASH.ext, named by their content, so that the
/// original may go. `jobPath` is the job's file.
QString pictureFolder(const QString& jobPath);
/// Whether an edit, or a job, ties this file to the plan: then it is kept beside the job.
bool isPictureOf(const Edit& edit, const std::string& hash);
bool isPictureOf(const Job& job, const std::string& hash);

/// Pictures on their way to a job: those that were not there before go again, with the folder, if
/// what names them is not kept in the end.
class NewPictures {
public:
    explicit NewPictures(QString jobPath) : jobPath_(std::move(jobPath)) {}
    ~NewPictures();
    NewPictures(const NewPictures&) = delete;
    NewPictures& operator=(const NewPictures&) = delete;

    /// Writes the picture whole and to the disk, or refuses; one that is there stays as it is.
    Outcome<bool> keep(const Attachment& picture);
    void stay() { made_.clear(); }

private:
    QString jobPath_;
    QStringList made_;
};

/// The file's path; refused when it is not there or is no more what it was.
Outcome<QString> picturePath(const QString& jobPath, const std::string& hash);
/// The pictures a job names that are there, with their bytes; those that are not, by name.
KeptFiles picturesOf(const QString& jobPath, const Job& job);

} // namespace burin
