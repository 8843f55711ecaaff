#include "app/look/language.h"
#include "files/data_folder.h"
#include <QCoreApplication>
#include <QDir>
#include <QLocale>
#include <QTranslator>
#include <memory>

namespace burin {
namespace {

/// English as a language nobody speaks.
class MadeUp : public QTranslator {
public:
    using QTranslator::QTranslator;
    [[nodiscard]] bool isEmpty() const override { return false; }
    QString translate(const char* /*context*/, const char* source, const char* /*comment*/,
                      int n) const override {
        const QString text = QString::fromUtf8(source);
        QString out(QChar(0x2039));
        int letters = 0;
        for (qsizetype i = 0; i < text.size(); ++i) {
            // Places for figures, marks of rich text and of letters stay as they are.
            const QChar c = text[i];
            const QChar end = c == u'{' ? u'}' : c == u'<' ? u'>' : QChar();
            const auto until = end.isNull() ? -1 : text.indexOf(end, i);
            if (until >= 0) {
                // Of one or many, `{0?run|runs}`, both are words.
                const QString place = text.mid(i, until + 1 - i);
                const auto words = c == u'{' ? place.indexOf(u'?') : -1;
                for (qsizetype k = 0; k < place.size(); ++k)
                    out += words >= 0 && k > words ? accented(place[k]) : place[k];
                i = until;
            } else if (c == u'%' && i + 1 < text.size()) {
                if (text[i + 1] == u'n')
                    out += QString::number(n);
                else
                    out += text.mid(i, 2);
                ++i;
            } else {
                letters += c.isLetter() ? 1 : 0;
                out += accented(c);
            }
        }
        return out + QString((letters + 2) / 3, QChar(0x00B7)) + QChar(0x203A);
    }

private:
    static QChar accented(QChar c) {
        static const QString plain = QStringLiteral("aeiouyncsAEIOUYNCS");
        static const QString marked = QStringLiteral("áéíöüýñçšÁÉÍÖÜÝÑÇŠ");
        const auto at = plain.indexOf(c);
        return at < 0 ? c : marked[at];
    }
};

QString spokenCode = QStringLiteral("en"); // NOLINT(cert-err58-cpp)

std::unique_ptr<QTranslator>& translator() {
    static std::unique_ptr<QTranslator> installed;
    return installed;
}

} // namespace

QString figure(const std::string& formatted) {
    QString out = QString::fromStdString(formatted);
    if (decimalPoint() != '.')
        out.replace(u'.', QLatin1Char(decimalPoint()));
    return out;
}

QString languageFolder() {
    return QString::fromStdString(dataFolder()) + QStringLiteral("/languages");
}

QString languageSpoken() {
    return spokenCode;
}

QStringList languagesIn(const QString& folder) {
    QStringList out{QStringLiteral("en")};
    for (const auto& name :
         QDir(folder).entryList({QStringLiteral("burin_*.qm")}, QDir::Files, QDir::Name))
        out << name.mid(6).chopped(3);
    return out;
}

QString nameOfLanguage(const QString& code) {
    const QString own = QLocale(code).nativeLanguageName();
    return own.isEmpty() ? code : own;
}

bool speak(const QString& code, const QString& folder) {
    std::unique_ptr<QTranslator> next;
    if (code == QLatin1String("made-up")) {
        next = std::make_unique<MadeUp>();
    } else if (code != QLatin1String("en")) {
        next = std::make_unique<QTranslator>();
        if (!next->load(folder + QStringLiteral("/burin_") + code + QStringLiteral(".qm")))
            return false;
    }
    if (translator())
        QCoreApplication::removeTranslator(translator().get());
    translator() = std::move(next);
    spokenCode = code;
    if (translator())
        QCoreApplication::installTranslator(translator().get());
    // Figures as its people write them; English ones with a point.
    QLocale::setDefault(
        code == QLatin1String("made-up")
            ? QLocale(QLocale::German)
            : QLocale(code == QLatin1String("en") ? QStringLiteral("en_GB") : code));
    return true;
}

} // namespace burin
