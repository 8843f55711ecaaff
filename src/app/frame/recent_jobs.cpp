#include "app/frame/recent_jobs.h"
#include "app/frame/user_settings.h"

namespace burin {
namespace {

constexpr int most = 8;
const QString key = QStringLiteral("recentJobs");

} // namespace

QStringList recentJobs() {
    return UserSettings().value(key).toStringList();
}

void noteRecentJob(const QString& path) {
    UserSettings settings;
    QStringList jobs = settings.value(key).toStringList();
    jobs.removeAll(path);
    jobs.prepend(path);
    settings.setValue(key, QStringList(jobs.mid(0, most)));
}

} // namespace burin
