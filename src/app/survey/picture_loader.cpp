#include "app/survey/picture_loader.h"
#include <QCoreApplication>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTimer>

namespace burin {

PictureLoader::PictureLoader(QObject* parent) : QObject(parent) {}

void PictureLoader::read(const QString& path, int page) {
    if (process_ != nullptr) {
        process_->disconnect(this);
        process_->kill();
        process_->deleteLater();
    }
    path_ = path;
    process_ = new QProcess(this);
    connect(process_, &QProcess::finished, this, &PictureLoader::finish);
    connect(process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            emit failed(tr("%1: the reader of pictures cannot be started. Install Burin again.")
                            .arg(path_));
    });
    const QString reader = QCoreApplication::applicationDirPath() + QStringLiteral("/burin-cli");
    process_->start(reader,
                    {QStringLiteral("picture"), path, QStringLiteral("--page"),
                     QString::number(page + 1), QStringLiteral("--most"), QString::number(mostPx),
                     QStringLiteral("--out"), folder_.filePath(QStringLiteral("picture.png"))});
    QTimer::singleShot(60000, process_, [process = process_] { process->kill(); });
}

void PictureLoader::finish(int code, QProcess::ExitStatus status) {
    if (status != QProcess::NormalExit) {
        emit failed(tr("%1: the picture could not be read: too large, or damaged. Save it again "
                       "smaller, as PNG or JPEG.")
                        .arg(path_));
        return;
    }
    if (code != 0) {
        // What libraries print comes before it.
        const QString said = QString::fromUtf8(process_->readAllStandardError()).trimmed();
        emit failed(said.section(QStringLiteral("burin-cli: "), -1));
        return;
    }
    const auto answer = QJsonDocument::fromJson(process_->readAllStandardOutput()).object();
    const QImage image(folder_.filePath(QStringLiteral("picture.png")));
    if (image.isNull())
        emit failed(tr("%1: the picture could not be read. Save it again as PNG.").arg(path_));
    else
        emit ready(path_, image, answer[QStringLiteral("pages")].toInt(),
                   answer[QStringLiteral("scaled")].toBool());
}

} // namespace burin
