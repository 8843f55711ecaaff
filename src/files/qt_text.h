#pragma once
#include "core/units/render.h"
#include <QCoreApplication>
#include <QString>
#include <string>

namespace burin {

/// A text of the core's as Qt has it, and the other way round; both are UTF-8.
inline QString q(const std::string& text) {
    return QString::fromStdString(text);
}
inline std::string utf8(const QString& text) {
    return text.toStdString();
}

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

} // namespace burin
