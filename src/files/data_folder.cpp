#include "files/data_folder.h"
#include <QByteArray>
#include <QCoreApplication>

namespace burin {

std::string dataFolder() {
    const QByteArray given = qgetenv("BURIN_DATA");
    if (!given.isEmpty())
        return given.toStdString();
    return (QCoreApplication::applicationDirPath() + QStringLiteral("/../share/burin"))
        .toStdString();
}

} // namespace burin
