#pragma once
#include <QSettings>
#include <QString>

namespace burin {

/// What is kept of the user and not of a job: a file of their own.
struct UserSettings : QSettings {
    UserSettings()
        : QSettings(QSettings::IniFormat, QSettings::UserScope, QStringLiteral("burin"),
                    QStringLiteral("burin")) {}
};

} // namespace burin
