#include "app/survey/picture_loader.h"
#include "app/look/painters.h"
#include "files/picture_folder.h"
#include "files/text_cursor.h"
#include <QCoreApplication>
#include <QElapsedTimer>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QTemporaryDir>

namespace burin {

struct PictureLoader::Wanted {
    QString path;    ///< of a new one
    QString jobPath; ///< of the job that keeps it
    std::string hash;
    int page = 0, mostPx = 0;
};

namespace {

constexpr int longestMs = 60000;

QString tooMuch(const QString& path) {
    return PictureLoader::tr("%1: the picture could not be read: too large, or damaged. Save it "
                             "again smaller, as PNG or JPEG.")
        .arg(path);
}

/// Runs the reader of pictures and takes what it wrote.
void readApart(LoadedPicture& out, int page, int sidePx, const std::function<bool()>& stop) {
    const QTemporaryDir folder;
    const QString png = folder.filePath(QStringLiteral("picture.png"));
    QProcess process;
    process.start(QCoreApplication::applicationDirPath() + QStringLiteral("/burin-cli"),
                  {QStringLiteral("picture"), out.path, QStringLiteral("--page"),
                   QString::number(page + 1), QStringLiteral("--most"), QString::number(sidePx),
                   QStringLiteral("--out"), png});
    if (!process.waitForStarted()) {
        out.fault =
            PictureLoader::tr("%1: the reader of pictures cannot be started. Install Burin again.")
                .arg(out.path);
        return;
    }
    QElapsedTimer clock;
    clock.start();
    while (!process.waitForFinished(50))
        if (process.state() == QProcess::NotRunning || stop() || clock.elapsed() > longestMs)
            break;
    if (process.state() != QProcess::NotRunning) {
        process.kill();
        process.waitForFinished();
    }
    if (process.exitStatus() != QProcess::NormalExit) {
        out.fault = tooMuch(out.path);
        return;
    }
    if (process.exitCode() != 0) {
        // What libraries print comes before it.
        out.fault = QString::fromUtf8(process.readAllStandardError())
                        .trimmed()
                        .section(QStringLiteral("burin-cli: "), -1);
        return;
    }
    const auto answer = QJsonDocument::fromJson(process.readAllStandardOutput()).object();
    out.pages = answer[QStringLiteral("pages")].toInt();
    out.scaled = answer[QStringLiteral("scaled")].toBool();
    out.takenOn = answer[QStringLiteral("takenOn")].toString().toStdString();
    if (!out.image.load(png))
        out.fault = tooMuch(out.path);
}

} // namespace

PictureLoader::PictureLoader(QObject* parent) : QObject(parent) {
    pool_.setMaxThreadCount(1);
}

PictureLoader::~PictureLoader() {
    drop();
    pool_.waitForDone();
}

void PictureLoader::drop() {
    ++*generation_;
    pool_.clear();
}

void PictureLoader::read(const QString& path, int page, int sidePx, Then then) {
    start({path, {}, {}, page, sidePx}, std::move(then));
}

void PictureLoader::readKept(const QString& jobPath, const std::string& hash, int page, int sidePx,
                             Then then) {
    start({{}, jobPath, hash, page, sidePx}, std::move(then));
}

void PictureLoader::start(const Wanted& wanted, Then then) {
    pool_.start([this, wanted, then = std::move(then), mine = generation_->load(),
                 generation = generation_] {
        const auto stop = [&] { return *generation != mine; };
        LoadedPicture out;
        out.path = wanted.path;
        if (wanted.path.isEmpty()) {
            if (const auto kept = picturePath(wanted.jobPath, wanted.hash))
                out.path = *kept;
            else
                out.fault = q(kept.error().text());
        }
        if (out.fault.isEmpty())
            readApart(out, wanted.page, wanted.mostPx, stop);
        if (out.fault.isEmpty() && !wanted.path.isEmpty()) {
            if (auto bytes = readWholeFile(wanted.path.toStdString()))
                out.file =
                    attach(QFileInfo(wanted.path).fileName().toStdString(), std::move(*bytes));
            else
                out.fault = q(bytes.error().text());
        }
        if (stop())
            return;
        QMetaObject::invokeMethod(this, [out = std::move(out), then, mine, generation] {
            if (*generation == mine)
                then(out);
        });
    });
}

} // namespace burin
