#include "app/frame/file_dialog.h"
#include "app/frame/recent_jobs.h"
#include <QFileInfo>
#include <QStandardPaths>

namespace burin {

QString folderForFiles(const Session& session) {
    QStringList folders;
    if (session.hasJob())
        folders << QFileInfo(session.snapshot().path).absolutePath();
    for (const auto& job : recentJobs())
        folders << QFileInfo(job).absolutePath();
    folders << QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
    for (const auto& folder : folders)
        if (QFileInfo(folder).isDir())
            return folder;
    return QStandardPaths::writableLocation(QStandardPaths::HomeLocation);
}

QStringList askFiles(QWidget* parent, const Session& session, Ask what, const QString& title,
                     const QString& filters, const QString& suffix) {
    QFileDialog dialog(parent, title, folderForFiles(session), filters);
    dialog.setAcceptMode(what == Ask::Save ? QFileDialog::AcceptSave : QFileDialog::AcceptOpen);
    dialog.setFileMode(what == Ask::Save   ? QFileDialog::AnyFile
                       : what == Ask::Open ? QFileDialog::ExistingFile
                                           : QFileDialog::ExistingFiles);
    dialog.setDefaultSuffix(suffix);
    return dialog.exec() == QDialog::Accepted ? dialog.selectedFiles() : QStringList();
}

QString askFile(QWidget* parent, const Session& session, Ask what, const QString& title,
                const QString& filters, const QString& suffix) {
    return askFiles(parent, session, what, title, filters, suffix).value(0);
}

} // namespace burin
