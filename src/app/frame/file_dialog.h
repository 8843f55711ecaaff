#pragma once
#include "app/frame/session.h"
#include <QFileDialog>

namespace burin {

/// Where files are looked for: beside the open job, else where the last job was, else among the
/// user's documents. Never in the program's folder.
QString folderForFiles(const Session& session);

enum class Ask { Open, OpenSeveral, Save };
/// Asks for files in the desktop's own dialog; empty: nothing was chosen. `filters` as
/// QFileDialog takes them.
QStringList askFiles(QWidget* parent, const Session& session, Ask what, const QString& title,
                     const QString& filters, const QString& suffix = {});
/// The one that was chosen; empty: none.
QString askFile(QWidget* parent, const Session& session, Ask what, const QString& title,
                const QString& filters, const QString& suffix = {});

} // namespace burin
