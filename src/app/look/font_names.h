#pragma once
#include <QByteArray>

namespace burin {

/// An OpenType font whose family name is its typographic one (name 16) wherever it has one. The
/// shipped monospaced files call themselves "B612" as well: which of the two a program gets then
/// hangs on where it is installed. What is no such font comes back as it was.
QByteArray withOneFamily(QByteArray font);

} // namespace burin
