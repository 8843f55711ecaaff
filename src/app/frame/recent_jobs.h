#pragma once
#include <QStringList>

namespace burin {

/// The jobs that were open last, the latest first, as whole paths; they may be gone meanwhile.
QStringList recentJobs();
/// That one is open now.
void noteRecentJob(const QString& path);

} // namespace burin
