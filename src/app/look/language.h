#pragma once
#include "files/spoken.h"
#include <QString>
#include <QStringList>

namespace burin {

/// A figure that the core has formatted, as the language on screen writes it.
QString figure(const std::string& formatted);

/// Where languages are installed.
QString languageFolder();
/// The code of the language on screen.
QString languageSpoken();
/// Languages there is something in: English, and each `burin_CODE.qm` of a folder.
QStringList languagesIn(const QString& folder);
/// What is a language called, in itself: "English", "Deutsch".
QString nameOfLanguage(const QString& code);
/// Puts the program into a language: of what is made from then on. "en" is its own; "made-up" is no
/// language but English made a third longer, accented and marked at both ends, so that a word that
/// is written past the translator, or cut, is seen. False: there is no such file, or it is none;
/// then it stays as it was.
bool speak(const QString& code, const QString& folder);

} // namespace burin
