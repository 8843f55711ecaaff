#include "files/picture.h"
#include "files/picture_words.h"
#include "files/text_cursor.h"
#include <QCoreApplication>
#include <QElapsedTimer>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <csignal>

namespace burin {
namespace {

tl::unexpected<Fault> tooLong(const std::string& name, int seconds) {
    return refuse(
        name,
        sentence({"picture.picture-took-more", "the picture took more than {0} s to read"},
                 asCount(seconds)),
        {"cure.save-again-simpler", "Save it again simpler or smaller, as PNG or JPEG"});
}

std::string text(const QJsonObject& object, const char* key) {
    return object[QLatin1String(key)].toString().toStdString();
}

/// What the process wrote: a line that describes the picture, or what is wrong with it, and the
/// picture as PNG.
Outcome<Picture> taken(const QByteArray& answer, const std::string& name) {
    const auto end = answer.indexOf('\n');
    const QJsonObject said = QJsonDocument::fromJson(answer.left(end)).object();
    if (Sentence what = pictureWords::fromJson(said[QLatin1String("what")].toObject());
        !what.empty())
        return refuse(name, std::move(what),
                      pictureWords::fromJson(said[QLatin1String("cure")].toObject()));
    Picture out;
    if (end < 0 || said.isEmpty() || !out.image.loadFromData(answer.mid(end + 1), "PNG"))
        return refuse(
            name,
            {"picture.picture-could-not", "the picture could not be read: too large, or damaged"},
            {"cure.save-again-smaller", "Save it again smaller, as PNG or JPEG"});
    out.fullWidth = said[QLatin1String("fullWidth")].toInt();
    out.fullHeight = said[QLatin1String("fullHeight")].toInt();
    out.pages = said[QLatin1String("pages")].toInt();
    out.scaled = said[QLatin1String("scaled")].toBool();
    out.takenOn = text(said, "takenOn");
    out.note = pictureWords::fromJson(said[QLatin1String("note")].toObject());
    return out;
}

} // namespace

Outcome<Picture> readPictureApart(const QByteArray& bytes, const std::string& name, int page,
                                  int mostPx, const PictureLimits& limits) {
    if (static_cast<std::size_t>(bytes.size()) > longestPicture)
        return refuse(name, sentence(pictureWords::tooLong), sentence(pictureWords::saveShorter));
    QProcess process;
    process.start(
        QCoreApplication::applicationDirPath() + QStringLiteral("/burin-picture"),
        {QString::number(page), QString::number(mostPx), QString::number(limits.seconds)});
    if (!process.waitForStarted())
        return refuse(
            name, {"picture.reader-pictures-cannot", "the reader of pictures cannot be started"},
            {"cure.install-burin-anew", "Install Burin again"});
    process.write(bytes);
    process.closeWriteChannel();
    QElapsedTimer clock;
    clock.start();
    const auto late = [&] { return clock.elapsed() > 1000LL * limits.seconds + 2000; };
    while (!process.waitForFinished(50))
        if (process.state() == QProcess::NotRunning || limits.stop() || late())
            break;
    if (process.state() != QProcess::NotRunning) {
        process.kill();
        process.waitForFinished();
        return limits.stop()
                   ? refuse(name,
                            {"picture.reading-picture-stopped", "reading the picture was stopped"},
                            {"cure.bring-again", "Bring it in again"})
                   : tooLong(name, limits.seconds);
    }
    if (process.exitStatus() == QProcess::CrashExit) {
        // Qt tells of an end by a signal with the signal's number.
        const int signal = process.exitCode();
        if (signal == SIGALRM || signal == SIGXCPU)
            return tooLong(name, limits.seconds);
        if (signal == SIGSYS)
            return refuse(name,
                          {"picture.picture-wanted-something",
                           "the picture wanted something no picture needs, and was stopped"},
                          sentence(pictureWords::saveAgain));
        return refuse(
            name,
            {"picture.picture-could-not", "the picture could not be read: too large, or damaged"},
            {"cure.save-again-smaller", "Save it again smaller, as PNG or JPEG"});
    }
    return taken(process.readAllStandardOutput(), name);
}

Outcome<Picture> readPictureFileApart(const std::string& path, int page, int mostPx,
                                      const PictureLimits& limits) {
    const auto bytes = readWholeFile(path, longestPicture);
    if (!bytes)
        return refuse(bytes.error());
    return readPictureApart(QByteArray::fromStdString(*bytes), path, page, mostPx, limits);
}

} // namespace burin
