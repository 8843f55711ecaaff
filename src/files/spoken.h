#pragma once
#include "core/units/render.h"
#include <QCoreApplication>
#include <QLocale>
#include <QString>

namespace burin {

/// A word of the program or of its catalogue in the language that is spoken; English without one.
inline QString term(std::string_view word) {
    return QCoreApplication::translate("core", std::string(word).c_str(), "term");
}
/// A wording of the core in that language.
inline std::string inLanguage(std::string_view key, std::string_view english) {
    return QCoreApplication::translate("core", std::string(english).c_str(),
                                       std::string(key).c_str())
        .toStdString();
}
/// What stands between whole digits and the others, as its people write figures.
inline char decimalPoint() {
    return QLocale().decimalPoint() == QLatin1String(",") ? ',' : '.';
}
/// How the core's sentences are written in it.
inline Rendering spoken(UnitSystem units) {
    Rendering out(units);
    out.translate = inLanguage;
    out.point = decimalPoint();
    return out;
}

inline QString said(const Sentence& sentence, UnitSystem units) {
    return QString::fromStdString(render(sentence, spoken(units)));
}
inline QString said(const Quantity& quantity, UnitSystem units) {
    return QString::fromStdString(render(quantity, spoken(units)));
}
/// A sentence that has no length in it, or a fault's, where no one has chosen units.
inline QString said(const Sentence& sentence) {
    return said(sentence, UnitSystem::Metric);
}
inline QString said(const Fault& fault) {
    return said(told(fault));
}

} // namespace burin
