#pragma once
#include <QImage>
#include <QObject>
#include <QProcess>
#include <QTemporaryDir>

namespace burin {

/// Reads pictures in a process of its own (burin-cli picture): a file that is huge, damaged or made
/// to do harm stops that process, and the plan goes on.
class PictureLoader : public QObject {
    Q_OBJECT
public:
    explicit PictureLoader(QObject* parent = nullptr);
    static constexpr int mostPx = 4096;
    /// Drops what was being read before.
    void read(const QString& path, int page);

signals:
    void ready(const QString& path, const QImage& image, int pages, bool scaled);
    void failed(const QString& text);

private:
    void finish(int code, QProcess::ExitStatus status);
    QTemporaryDir folder_;
    QProcess* process_ = nullptr;
    QString path_;
};

} // namespace burin
