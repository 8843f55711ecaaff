#pragma once
#include <QFont>

namespace burin {

/// The faces that Burin ships: B612 for words and figures, whose figures are all equally wide, and
/// DejaVu Sans for what it lacks and for parentheses, which B612 draws like square brackets. False:
/// one of them is missing from the folder.
bool loadFaces(const QString& folder);
QFont faceOf(int pixelSize, bool bold = false);

/// An OpenType font without these characters, so that the next family's are drawn. What is no such
/// font comes back as it was.
QByteArray withoutCharacters(QByteArray font, const QByteArray& latin1);

} // namespace burin
