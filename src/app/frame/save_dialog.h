#pragma once
#include "app/frame/session.h"
#include <functional>
#include <vector>

namespace burin {

/// What a file may be written as: how the dialog calls it, and its bytes, made beside the screen.
struct SaveKind {
    QString filter, suffix;
    std::function<std::string()> bytes;
};
/// Both papers, that of the screen's units first.
std::vector<SaveKind> onPaperSizes(const Session& session, SaveKind a4, SaveKind letter);
/// Asks where to and as what, and writes a whole file or none, never over the job; says what came
/// of it.
void saveAs(QWidget* parent, Session& session, const QString& title,
            const std::vector<SaveKind>& kinds);

} // namespace burin
