#include "files/text_encoding.h"
#include <QByteArrayView>
#include <QString>
#include <QStringDecoder>

namespace burin {

Outcome<DecodedText> decodeText(std::string_view bytes, const std::string& name) {
    const QByteArrayView view(bytes.data(), static_cast<qsizetype>(bytes.size()));
    const bool little = bytes.starts_with("\xff\xfe");
    if (little || bytes.starts_with("\xfe\xff")) {
        QStringDecoder decoder(little ? QStringDecoder::Utf16LE : QStringDecoder::Utf16BE);
        const QString text = decoder(view.sliced(2));
        if (decoder.hasError() || bytes.size() % 2 != 0)
            return refuse(name, {"file.begins-utf-not", "it begins as UTF-16 and is not"},
                          {"cure.save-utf-plain", "Save it as UTF-8 or plain text"});
        return DecodedText{{}, text.toStdString(), sentence({"file.utf-16", "read as UTF-16"})};
    }
    if (view.isValidUtf8())
        return DecodedText{bytes, {}, {}};
    return DecodedText{
        {},
        QString::fromLatin1(view).toStdString(),
        sentence({"file.latin-1", "not UTF-8: read as Latin-1; check letters such as µ, Ω and °"})};
}

} // namespace burin
