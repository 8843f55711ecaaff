#include "app/frame/save_dialog.h"
#include "app/frame/file_dialog.h"
#include "app/look/painters.h"
#include "files/spoken.h"
#include "files/whole_file.h"
#include <QApplication>
#include <QPointer>
#include <QThreadPool>

namespace burin {

std::vector<SaveKind> onPaperSizes(const Session& session, SaveKind a4, SaveKind letter) {
    if (session.units() == UnitSystem::Imperial)
        return {std::move(letter), std::move(a4)};
    return {std::move(a4), std::move(letter)};
}

void saveAs(QWidget* parent, Session& session, const QString& title,
            const std::vector<SaveKind>& kinds) {
    QStringList filters;
    for (const auto& kind : kinds)
        filters << kind.filter;
    QFileDialog dialog(parent, title, folderForFiles(session));
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setNameFilters(filters);
    dialog.setLabelText(QFileDialog::FileType, QObject::tr("On"));
    const auto chosen = [&] {
        return kinds[static_cast<std::size_t>(
            std::max<qsizetype>(0, filters.indexOf(dialog.selectedNameFilter())))];
    };
    const auto takeSuffix = [&] { dialog.setDefaultSuffix(chosen().suffix); };
    QObject::connect(&dialog, &QFileDialog::filterSelected, &dialog, takeSuffix);
    takeSuffix();
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty())
        return;
    const QString path = dialog.selectedFiles().front();
    const std::string job = session.snapshot().path.toStdString();
    QThreadPool::globalInstance()->start([told = QPointer<Session>(&session), path, job,
                                          bytes = chosen().bytes] {
        QString said = QObject::tr("printed to %1").arg(path);
        bool bad = false;
        try {
            if (const auto written = writeWholeFile(path.toStdString(), bytes(), {job}); !written) {
                said = burin::said(written.error());
                bad = true;
            }
        } catch (const std::exception& unforeseen) {
            said =
                QObject::tr("That was not printed: %1").arg(QString::fromUtf8(unforeseen.what()));
            bad = true;
        }
        QMetaObject::invokeMethod(qApp, [told, said, bad] {
            if (told)
                emit told->message(said, bad);
        });
    });
}

} // namespace burin
