#include "files/picture_folder.h"
#include <QDir>
#include <QFileInfo>
#include <QSaveFile>
#include <algorithm>

namespace burin {
namespace {

QString found(const QString& jobPath, const std::string& hash) {
    const QDir folder(pictureFolder(jobPath));
    const QStringList names =
        folder.entryList({QString::fromStdString(hash) + QStringLiteral(".*")}, QDir::Files);
    return names.isEmpty() ? QString() : folder.filePath(names.front());
}

struct Names {
    const std::string& hash;
    template <typename T> bool operator()(const Change<T>&) const { return false; }
    bool operator()(const Change<Floor>& c) const {
        return c.after && c.after->picture && c.after->picture->hash == hash;
    }
    bool operator()(const Change<Photograph>& c) const { return c.after && c.after->hash == hash; }
};

} // namespace

QString pictureFolder(const QString& jobPath) {
    const QFileInfo info(jobPath);
    return info.absolutePath() + QLatin1Char('/') + info.completeBaseName() +
           QStringLiteral(".pictures");
}

bool isPictureOf(const Edit& edit, const std::string& hash) {
    return std::any_of(edit.changes.begin(), edit.changes.end(),
                       [&](const AnyChange& c) { return std::visit(Names{hash}, c); });
}

Outcome<bool> keepPicture(const QString& jobPath, const Attachment& picture) {
    if (picturePath(jobPath, picture.hash))
        return true;
    const QDir folder(pictureFolder(jobPath));
    QString suffix = QFileInfo(QString::fromStdString(picture.name)).suffix().toLower();
    suffix.removeIf([](QChar c) { return !c.isLetterOrNumber(); });
    const QString path = folder.filePath(QString::fromStdString(picture.hash) + QLatin1Char('.') +
                                         (suffix.isEmpty() ? QStringLiteral("picture") : suffix));
    QSaveFile out(path); // on the disk, and under its name, only when it is whole
    const auto size = static_cast<qint64>(picture.bytes.size());
    if (!QDir().mkpath(folder.path()) || !out.open(QIODevice::WriteOnly) ||
        out.write(picture.bytes.data(), size) != size || !out.commit())
        return refuse(path.toStdString(),
                      "the picture cannot be kept beside the job: " +
                          out.errorString().toStdString(),
                      "Check the folder and the room on the disk");
    return true;
}

Outcome<QString> picturePath(const QString& jobPath, const std::string& hash) {
    const QString path = found(jobPath, hash);
    if (path.isEmpty())
        return refuse(pictureFolder(jobPath).toStdString(),
                      "picture " + hash.substr(0, 12) + "… is missing",
                      "Copy the folder along with the job, or bring the picture in again");
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return refuse(path.toStdString(), "the picture may not be read", "Check who may read it");
    if (attach({}, file.readAll().toStdString()).hash != hash)
        return refuse(path.toStdString(), "the picture is not what was brought in",
                      "Restore it from a copy, or bring it in again");
    return path;
}

std::vector<Attachment> picturesOf(const QString& jobPath, const Job& job) {
    std::vector<Attachment> out;
    const auto add = [&](const std::string& hash, const std::string& name) {
        const auto path = picturePath(jobPath, hash);
        const bool there = std::any_of(out.begin(), out.end(),
                                       [&](const Attachment& a) { return a.hash == hash; });
        QFile file(path ? *path : QString());
        if (path && !there && file.open(QIODevice::ReadOnly))
            out.push_back({hash, name, file.readAll().toStdString()});
    };
    for (const auto& floor : job.floors)
        if (floor.picture)
            add(floor.picture->hash, floor.picture->name);
    for (const auto& photograph : job.photographs)
        add(photograph.hash, photograph.name);
    return out;
}

} // namespace burin
