#pragma once
#include "files/job_store.h"
#include <QStringList>

namespace burin {

/// The pictures of a job, beside it: JOB.pictures/HASH.ext, named by their content, so that the
/// original may go. `jobPath` is the job's file.
QString pictureFolder(const QString& jobPath);
/// Whether an edit ties this file to the plan: then it is kept beside the job.
bool isPictureOf(const Edit& edit, const std::string& hash);
/// Writes the picture whole and to the disk, or refuses; one that is there stays as it is.
Outcome<bool> keepPicture(const QString& jobPath, const Attachment& picture);
/// The file's path; refused when it is not there or is no more what it was.
Outcome<QString> picturePath(const QString& jobPath, const std::string& hash);
/// The pictures a job names that are there, with their bytes.
std::vector<Attachment> picturesOf(const QString& jobPath, const Job& job);

} // namespace burin
