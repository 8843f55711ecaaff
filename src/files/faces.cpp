#include "files/faces.h"
#include <QFile>
#include <QFontDatabase>
#include <QtEndian>
#include <map>

namespace burin {
namespace {

constexpr qsizetype directoryAt = 12, directoryRow = 16;

quint16 short16(const QByteArray& font, qsizetype at) {
    return at >= 0 && at + 2 <= font.size() ? qFromBigEndian<quint16>(font.constData() + at) : 0;
}
quint32 long32(const QByteArray& font, qsizetype at) {
    return at >= 0 && at + 4 <= font.size() ? qFromBigEndian<quint32>(font.constData() + at) : 0;
}
void append16(QByteArray& out, quint32 value) {
    out.append(static_cast<char>(value >> 8)).append(static_cast<char>(value));
}
void append32(QByteArray& out, quint32 value) {
    append16(out, value >> 16);
    append16(out, value & 0xFFFF);
}

using Glyphs = std::map<quint32, quint32>; ///< by character

/// A subtable of segments (format 4), "cmap" in OpenType 1.9.
Glyphs segments(const QByteArray& font, qsizetype at) {
    Glyphs out;
    const int count = short16(font, at + 6) / 2;
    const qsizetype ends = at + 14;
    const qsizetype starts = ends + 2 * count + 2;
    const qsizetype deltas = starts + 2 * count;
    const qsizetype offsets = deltas + 2 * count;
    for (int i = 0; i < count; ++i) {
        const quint32 last = short16(font, ends + 2 * i);
        const quint32 delta = short16(font, deltas + 2 * i);
        const quint32 offset = short16(font, offsets + 2 * i);
        for (quint32 c = short16(font, starts + 2 * i); c <= last && c != 0xFFFF; ++c) {
            quint32 glyph = c;
            if (offset != 0)
                glyph = short16(font,
                                offsets + 2 * i + offset + 2 * (c - short16(font, starts + 2 * i)));
            if (glyph != 0 && ((glyph + delta) & 0xFFFF) != 0)
                out[c] = (glyph + delta) & 0xFFFF;
        }
    }
    return out;
}
/// A subtable of groups (format 12).
Glyphs groups(const QByteArray& font, qsizetype at) {
    Glyphs out;
    const quint32 count = long32(font, at + 12);
    for (quint32 i = 0; i < count && at + 28 + 12 * qsizetype(i) <= font.size(); ++i) {
        const qsizetype row = at + 16 + 12 * qsizetype(i);
        const quint32 first = long32(font, row);
        for (quint32 c = first; c <= long32(font, row + 4) && c <= 0x10FFFF; ++c)
            out[c] = long32(font, row + 8) + (c - first);
    }
    return out;
}

/// A table with one subtable of groups that are one character long.
QByteArray tableOf(const Glyphs& glyphs) {
    // FreeType makes one from the names of glyphs where no such table is of this platform.
    constexpr quint32 unicode = 0, fullRepertoire = 4;
    QByteArray out;
    append16(out, 0);
    append16(out, 1);
    append16(out, unicode);
    append16(out, fullRepertoire);
    append32(out, 12);
    append16(out, 12); // format
    append16(out, 0);
    append32(out, 16 + 12 * static_cast<quint32>(glyphs.size()));
    append32(out, 0);
    append32(out, static_cast<quint32>(glyphs.size()));
    for (const auto& [character, glyph] : glyphs) {
        append32(out, character);
        append32(out, character);
        append32(out, glyph);
    }
    return out;
}

} // namespace

QByteArray withoutCharacters(QByteArray font, const QByteArray& latin1) {
    for (int i = 0; i < short16(font, 4); ++i) {
        const qsizetype row = directoryAt + i * directoryRow;
        if (font.mid(row, 4) != "cmap")
            continue;
        const auto table = static_cast<qsizetype>(long32(font, row + 8));
        Glyphs glyphs;
        for (int k = 0; k < short16(font, table + 2); ++k) {
            const qsizetype at = table + long32(font, table + 4 + 8 * k + 4);
            const int format = short16(font, at);
            if (format == 4)
                glyphs.merge(segments(font, at));
            else if (format == 12)
                glyphs.merge(groups(font, at));
        }
        if (glyphs.empty())
            return font;
        for (const char c : latin1)
            glyphs.erase(static_cast<unsigned char>(c));
        // Behind all others; nothing that reads fonts here looks at the check sums.
        font.append(QByteArray((4 - font.size() % 4) % 4, '\0'));
        const QByteArray made = tableOf(glyphs);
        QByteArray place;
        append32(place, static_cast<quint32>(font.size()));
        append32(place, static_cast<quint32>(made.size()));
        font.replace(row + 8, 8, place);
        return font + made;
    }
    return font;
}

bool loadFaces(const QString& folder) {
    bool good = true;
    for (const char* name :
         {"B612-Regular.otf", "B612-Bold.otf", "DejaVuSans.ttf", "DejaVuSans-Bold.ttf"}) {
        QFile file(folder + QLatin1Char('/') + QLatin1String(name));
        if (!file.open(QIODevice::ReadOnly)) {
            good = false;
            continue;
        }
        QByteArray bytes = file.readAll();
        if (name[0] == 'B')
            bytes = withoutCharacters(bytes, "()");
        good = QFontDatabase::addApplicationFontFromData(bytes) >= 0 && good;
    }
    return good;
}

QFont faceOf(int pixelSize, bool bold) {
    QFont font;
    font.setFamilies({QStringLiteral("B612"), QStringLiteral("DejaVu Sans")});
    font.setPixelSize(pixelSize);
    font.setBold(bold);
    return font;
}

} // namespace burin
