#include "files/picture.h"
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
    return refuse(name, "the picture took more than " + std::to_string(seconds) + " s to read",
                  "Save it again simpler or smaller, as PNG or JPEG");
}

std::string text(const QJsonObject& object, const char* key) {
    return object[QLatin1String(key)].toString().toStdString();
}

/// What the process wrote: a line that describes the picture, or what is wrong with it, and the
/// picture as PNG.
Outcome<Picture> taken(const QByteArray& answer, const std::string& name) {
    const auto end = answer.indexOf('\n');
    const QJsonObject said = QJsonDocument::fromJson(answer.left(end)).object();
    if (said.contains(QLatin1String("what")))
        return refuse(name, text(said, "what"), text(said, "cure"));
    Picture out;
    if (end < 0 || said.isEmpty() || !out.image.loadFromData(answer.mid(end + 1), "PNG"))
        return refuse(name, "the picture could not be read: too large, or damaged",
                      "Save it again smaller, as PNG or JPEG");
    out.fullWidth = said[QLatin1String("fullWidth")].toInt();
    out.fullHeight = said[QLatin1String("fullHeight")].toInt();
    out.pages = said[QLatin1String("pages")].toInt();
    out.scaled = said[QLatin1String("scaled")].toBool();
    out.takenOn = text(said, "takenOn");
    out.note = text(said, "note");
    return out;
}

} // namespace

Outcome<Picture> readPictureApart(const QByteArray& bytes, const std::string& name, int page,
                                  int mostPx, const PictureLimits& limits) {
    if (static_cast<std::size_t>(bytes.size()) > longestPicture)
        return refuse(name, "the file is over 200 MB", "Save it smaller");
    QProcess process;
    process.start(
        QCoreApplication::applicationDirPath() + QStringLiteral("/burin-picture"),
        {QString::number(page), QString::number(mostPx), QString::number(limits.seconds)});
    if (!process.waitForStarted())
        return refuse(name, "the reader of pictures cannot be started", "Install Burin again");
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
        return limits.stop() ? refuse(name, "reading the picture was stopped", "Bring it in again")
                             : tooLong(name, limits.seconds);
    }
    if (process.exitStatus() == QProcess::CrashExit) {
        // Qt tells of an end by a signal with the signal's number.
        const int signal = process.exitCode();
        if (signal == SIGALRM || signal == SIGXCPU)
            return tooLong(name, limits.seconds);
        if (signal == SIGSYS)
            return refuse(name, "the picture wanted something no picture needs, and was stopped",
                          "Save it again from where it came");
        return refuse(name, "the picture could not be read: too large, or damaged",
                      "Save it again smaller, as PNG or JPEG");
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
