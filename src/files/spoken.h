#pragma once
#include "core/units/render.h"
#include <QCoreApplication>
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
/// How the core's sentences are written in it.
inline Rendering spoken(UnitSystem units) {
    Rendering out(units);
    out.translate = inLanguage;
    return out;
}

/// A sentence that has no length in it, or a fault's, where no one has chosen units.
inline QString said(const Sentence& sentence) {
    return QString::fromStdString(render(sentence, spoken(UnitSystem::Metric)));
}
inline QString said(const Fault& fault) {
    return said(told(fault));
}

} // namespace burin
