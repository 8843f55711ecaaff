#include "app/look/font_names.h"
#include <QtEndian>

namespace burin {
namespace {

constexpr qsizetype directoryAt = 12, directoryRow = 16, nameHead = 6, nameRow = 12;
constexpr int familyName = 1, typographicFamily = 16;

quint16 short16(const QByteArray& font, qsizetype at) {
    return at + 2 <= font.size() ? qFromBigEndian<quint16>(font.constData() + at) : 0;
}
quint32 long32(const QByteArray& font, qsizetype at) {
    return at + 4 <= font.size() ? qFromBigEndian<quint32>(font.constData() + at) : 0;
}

/// Where the table of names begins; 0 where there is none.
qsizetype nameTable(const QByteArray& font) {
    const int tables = short16(font, 4);
    for (int i = 0; i < tables; ++i) {
        const qsizetype row = directoryAt + i * directoryRow;
        if (font.mid(row, 4) == "name")
            return static_cast<qsizetype>(long32(font, row + 8));
    }
    return 0;
}

} // namespace

// OpenType 1.9, "name": a row is platform, encoding, language, name, length, offset.
QByteArray withOneFamily(QByteArray font) {
    const qsizetype names = nameTable(font);
    if (names == 0)
        return font;
    const int count = short16(font, names + 2);
    const auto rowAt = [&](int i) { return names + nameHead + i * nameRow; };
    for (int from = 0; from < count; ++from) {
        if (short16(font, rowAt(from) + 6) != typographicFamily)
            continue;
        for (int to = 0; to < count; ++to)
            if (short16(font, rowAt(to) + 6) == familyName &&
                font.mid(rowAt(to), 6) == font.mid(rowAt(from), 6) &&
                rowAt(to) + nameRow <= font.size())
                font.replace(rowAt(to) + 8, 4, font.mid(rowAt(from) + 8, 4));
    }
    return font;
}

} // namespace burin
