#include "app/terminate/screen_scale.h"
#include "app/frame/user_settings.h"

namespace burin::screen_scale {
namespace {

constexpr double leastPxPerMm = 1, mostPxPerMm = 40;
constexpr double mmPerInch = 25.4;

/// A screen is known by what it calls itself and by how many pixels it shows: another resolution
/// or scale is another screen.
QString keyOf(const QScreen& screen) {
    QString name = screen.manufacturer() + QLatin1Char(' ') + screen.model() + QLatin1Char(' ') +
                   screen.serialNumber() + QLatin1Char(' ') + screen.name();
    name.replace(QLatin1Char('/'), QLatin1Char('_')).replace(QLatin1Char('\\'), QLatin1Char('_'));
    return QStringLiteral("screens/%1 %2x%3/pxPerMm")
        .arg(name.simplified())
        .arg(screen.size().width())
        .arg(screen.size().height());
}
bool isScreens(double pxPerMm) {
    return pxPerMm >= leastPxPerMm && pxPerMm <= mostPxPerMm;
}

} // namespace

std::optional<double> measuredPxPerMm(const QScreen& screen) {
    bool read = false;
    const double kept = UserSettings().value(keyOf(screen)).toDouble(&read);
    return read && isScreens(kept) ? std::optional(kept) : std::nullopt;
}

double pxPerMm(const QScreen& screen) {
    if (const auto measured = measuredPxPerMm(screen))
        return *measured;
    const double said = screen.physicalDotsPerInch() / mmPerInch;
    constexpr double usual = 96 / mmPerInch;
    return isScreens(said) ? said : usual;
}

bool keep(const QScreen& screen, double pxPerMm) {
    if (!isScreens(pxPerMm))
        return false;
    UserSettings kept;
    kept.setValue(keyOf(screen), pxPerMm);
    kept.sync();
    return kept.status() == QSettings::NoError;
}

void forget(const QScreen& screen) {
    UserSettings().remove(keyOf(screen));
}

} // namespace burin::screen_scale
