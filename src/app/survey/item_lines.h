#pragma once
#include "app/frame/session.h"
#include <functional>

namespace burin {

/// A row of the sheet: how it reads, and what a typed text makes of it.
struct SheetLine {
    const char* name = ""; ///< of what it keeps, whatever the language: "survey.rackM"
    QString label, value;
    QStringList choices;
    std::function<Outcome<Edit>(const QString&)> keep;
    QString hint{}; ///< what to type where nothing stands yet
    QString tip{};  ///< what it means
};

/// The rows of a chosen thing of the plan, with the job's own id of its rules, or with an empty
/// `id` of the floor; none where there is neither.
std::vector<SheetLine> linesFor(const Session& session, const std::string& floorId,
                                const std::string& id, QString* title);

} // namespace burin
