#include "files/picture_folder.h"
#include "files/whole_file.h"
#include <QDir>
#include <QFileInfo>
#include <algorithm>

namespace burin {
namespace {

QString found(const QString& jobPath, const std::string& hash) {
    const QDir folder(pictureFolder(jobPath));
    const QStringList names =
        folder.entryList({QString::fromStdString(hash) + QStringLiteral(".*")}, QDir::Files);
    return names.isEmpty() ? QString() : folder.filePath(names.front());
}

/// Whether a change gives a floor or a photograph the picture of that hash.
bool names(const Change& change, const std::string& hash) {
    const auto is = [&](const Json& object) {
        return object.is_object() && object.contains("hash") && object["hash"] == hash;
    };
    if (change.kind == Kind::Photograph)
        return is(change.after) || (change.field == "hash" && change.after == hash);
    if (change.kind != Kind::Floor)
        return false;
    return change.field == "picture" ? is(change.after)
                                     : change.op == Op::Add && change.after.contains("picture") &&
                                           is(change.after["picture"]);
}

} // namespace

QString pictureFolder(const QString& jobPath) {
    const QFileInfo info(jobPath);
    return info.absolutePath() + QLatin1Char('/') + info.completeBaseName() +
           QStringLiteral(".pictures");
}

bool isPictureOf(const Edit& edit, const std::string& hash) {
    return std::any_of(edit.changes.begin(), edit.changes.end(),
                       [&](const Change& c) { return names(c, hash); });
}

bool isPictureOf(const Job& job, const std::string& hash) {
    return std::any_of(job.floors.begin(), job.floors.end(),
                       [&](const Floor& f) { return f.picture && f.picture->hash == hash; }) ||
           std::any_of(job.photographs.begin(), job.photographs.end(),
                       [&](const Photograph& p) { return p.hash == hash; });
}

NewPictures::~NewPictures() {
    for (const auto& path : made_)
        QFile::remove(path);
    if (!made_.isEmpty())
        QDir().rmdir(pictureFolder(jobPath_)); // only when nothing else is in it
}

Outcome<bool> NewPictures::keep(const Attachment& picture) {
    if (picturePath(jobPath_, picture.hash))
        return true;
    const QDir folder(pictureFolder(jobPath_));
    QString suffix = QFileInfo(QString::fromStdString(picture.name)).suffix().toLower();
    suffix.removeIf([](QChar c) { return !c.isLetterOrNumber(); });
    suffix.truncate(8);
    const QString path = folder.filePath(QString::fromStdString(picture.hash) + QLatin1Char('.') +
                                         (suffix.isEmpty() ? QStringLiteral("picture") : suffix));
    if (QFileInfo(folder.path()).isSymLink())
        return refuse(folder.path().toStdString(),
                      {"picture.folder-pictures-link", "the folder of pictures is a link"},
                      {"cure.put-folder-beside", "Put a folder of its own beside the job"});
    if (!QDir().mkpath(folder.path()))
        return refuse(folder.path().toStdString(),
                      {"picture.folder-pictures-cannot", "the folder of pictures cannot be made"},
                      {"cure.check-folder-room", "Check the folder and the room on the disk"});
    auto done = writeWholeFile(QFile::encodeName(path).toStdString(), picture.bytes);
    if (!done) {
        if (made_.isEmpty())
            QDir().rmdir(folder.path());
        return done;
    }
    made_ << path;
    return true;
}

Outcome<QString> picturePath(const QString& jobPath, const std::string& hash) {
    const QString path = found(jobPath, hash);
    if (path.isEmpty())
        return refuse(
            pictureFolder(jobPath).toStdString(),
            sentence({"picture.picture-missing", "picture {0}… is missing"}, hash.substr(0, 12)),
            {"cure.copy-folder-along",
             "Copy the folder along with the job, or bring the picture in again"});
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return refuse(path.toStdString(),
                      {"picture.picture-not-read", "the picture may not be read"},
                      {"cure.check-who-read", "Check who may read it"});
    if (attach({}, file.readAll().toStdString()).hash != hash)
        return refuse(path.toStdString(),
                      {"picture.picture-not-brought", "the picture is not what was brought in"},
                      {"cure.restore-copy-bring", "Restore it from a copy, or bring it in again"});
    return path;
}

KeptFiles picturesOf(const QString& jobPath, const Job& job) {
    KeptFiles out;
    const auto add = [&](const std::string& hash, const std::string& name) {
        if (std::any_of(out.files.begin(), out.files.end(),
                        [&](const Attachment& a) { return a.hash == hash; }))
            return;
        const auto path = picturePath(jobPath, hash);
        QFile file(path ? *path : QString());
        if (path && file.open(QIODevice::ReadOnly))
            out.files.push_back({hash, name, file.readAll().toStdString()});
        else
            out.missing.push_back({named(name), 0, 0,
                                   path ? sentence({"file.may-not-be-read", "it may not be read"})
                                        : path.error().what,
                                   path ? sentence({"cure.check-who-read", "Check who may read it"})
                                        : path.error().cure});
    };
    for (const auto& floor : job.floors)
        if (floor.picture)
            add(floor.picture->hash, floor.picture->name);
    for (const auto& photograph : job.photographs)
        add(photograph.hash, photograph.name);
    return out;
}

} // namespace burin
