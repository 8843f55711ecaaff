#pragma once
#include "core/base/sentence.h"
#include <QJsonArray>
#include <QJsonObject>
#include <array>

/// What the reader of pictures may say of one, and how it comes from its process to ours: as a key
/// and figures. What no key here stands for is not shown, whatever a picture made of that process.
namespace burin::pictureWords {

inline constexpr Wording damaged{"picture.damaged", "the picture is damaged: {0}"};
inline constexpr Wording saveAgain{"cure.save-picture-again", "Save it again from where it came"};
inline constexpr Wording tooLarge{"picture.too-large",
                                  "the picture is {0} × {1} px, more than can be read"};
inline constexpr Wording saveSmaller{"cure.save-picture-smaller",
                                     "Save it smaller: 4000 px on the longer side are plenty"};
inline constexpr Wording svgDamaged{"picture.svg-damaged", "the SVG is damaged or has no size"};
inline constexpr Wording savePlainSvg{"cure.save-plain-svg", "Save it again as plain SVG"};
inline constexpr Wording pdfDamaged{"picture.pdf-damaged", "the PDF is damaged"};
inline constexpr Wording pdfLocked{"picture.pdf-locked", "the PDF is locked with a password"};
inline constexpr Wording saveUnlocked{"cure.save-unlocked", "Save it again without a password"};
inline constexpr Wording noPage{"picture.no-page", "there is no page {0}; it has {1}"};
inline constexpr Wording namePage{"cure.name-page", "Name a page that is there"};
inline constexpr Wording notDrawn{"picture.page-not-drawn", "the page cannot be drawn"};
inline constexpr Wording saveAsPicture{"cure.save-as-picture",
                                       "Save it again as PDF or as a picture"};
inline constexpr Wording tooLong{"picture.too-long", "the file is over 200 MB"};
inline constexpr Wording saveShorter{"cure.save-shorter", "Save it smaller"};
inline constexpr Wording otherKind{"picture.other-kind", "this is neither PNG, JPEG, SVG nor PDF"};
inline constexpr Wording saveAsOne{"cure.save-as-one", "Save the plan as one of these"};
inline constexpr Wording notLocked{
    "picture.not-locked-in",
    "this system cannot lock the reader of pictures in, so nothing is read"};
inline constexpr Wording useSeccomp{"cure.use-seccomp",
                                    "Use a kernel with seccomp, as Debian's is"};
inline constexpr Wording notWritten{"picture.not-written", "the picture cannot be written as PNG"};
inline constexpr Wording tryAnother{"cure.try-another-picture", "Try another"};
inline constexpr Wording fontsLeftOut{"picture.fonts-left-out",
                                      "words in fonts the page does not bring are left out"};
inline constexpr Wording linksLeftOut{
    "picture.links-left-out", "{0} {0?link|links} out of the drawing {0?was|were} left out"};
inline constexpr std::array all{
    damaged,       saveAgain,  tooLarge,     saveSmaller,  svgDamaged,  savePlainSvg,
    pdfDamaged,    pdfLocked,  saveUnlocked, noPage,       namePage,    notDrawn,
    saveAsPicture, tooLong,    saveShorter,  otherKind,    saveAsOne,   notLocked,
    useSeccomp,    notWritten, tryAnother,   fontsLeftOut, linksLeftOut};

inline QJsonObject toJson(const Sentence& said) {
    QJsonArray of;
    for (const auto& quantity : said.of)
        of.append(quantity.of == Quantity::Of::Text
                      ? QJsonValue(QString::fromStdString(quantity.text))
                      : QJsonValue(quantity.value));
    return {{QStringLiteral("key"),
             QString::fromUtf8(said.key().data(), static_cast<qsizetype>(said.key().size()))},
            {QStringLiteral("of"), of}};
}
/// Nothing where there is no such wording.
inline Sentence fromJson(const QJsonObject& json) {
    const std::string key = json[QLatin1String("key")].toString().toStdString();
    for (const auto& wording : all)
        if (wording.key == key) {
            Sentence out{wording};
            for (const auto& value : json[QLatin1String("of")].toArray())
                out.of.push_back(value.isString() ? asText(value.toString().toStdString())
                                                  : asNumber(value.toDouble(), 0));
            return out;
        }
    return {};
}

} // namespace burin::pictureWords
