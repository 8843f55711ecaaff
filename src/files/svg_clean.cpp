#include "files/svg_clean.h"
#include "files/picture_words.h"
#include <QXmlStreamReader>
#include <QXmlStreamWriter>

namespace burin {
namespace {

constexpr int deepest = 1000;

/// A link that stays inside the file.
bool staysInside(QStringView link) {
    const QStringView text = link.trimmed();
    if (text.startsWith(u'#'))
        return true;
    // Not an SVG inside: it would be read with links of its own.
    for (const auto kind : {u"data:image/png", u"data:image/jpeg", u"data:image/jpg",
                            u"data:image/gif", u"data:image/webp"}) {
        const QStringView head(kind);
        if (text.startsWith(head, Qt::CaseInsensitive) && text.size() > head.size() &&
            (text[head.size()] == u';' || text[head.size()] == u','))
            return true;
    }
    return false;
}

/// url(#id) is the file's own; any other url( ) is not.
bool leadsOut(QStringView value) {
    for (auto at = value.indexOf(u"url(", 0, Qt::CaseInsensitive); at >= 0;
         at = value.indexOf(u"url(", at + 4, Qt::CaseInsensitive)) {
        QStringView inside = value.sliced(at + 4).trimmed();
        if (inside.startsWith(u'\'') || inside.startsWith(u'"'))
            inside = inside.sliced(1).trimmed();
        if (!staysInside(inside))
            return true;
    }
    return value.contains(u"@import", Qt::CaseInsensitive);
}

class Cleaner {
public:
    explicit Cleaner(const QByteArray& bytes) : in_(bytes), out_(&clean_) {}

    std::optional<CleanSvg> run() {
        while (!in_.atEnd()) {
            in_.readNext();
            if (!take())
                return std::nullopt;
        }
        if (in_.hasError())
            return std::nullopt;
        Sentence note;
        if (left_ > 0)
            note = sentence(pictureWords::linksLeftOut, asCount(left_));
        return CleanSvg{clean_, std::move(note)};
    }

private:
    bool take() {
        switch (in_.tokenType()) {
        case QXmlStreamReader::StartElement:
            if (++depth_ > deepest)
                return false;
            startElement();
            inStyle_ = in_.name() == u"style";
            break;
        case QXmlStreamReader::EndElement:
            --depth_;
            inStyle_ = false;
            out_.writeEndElement();
            break;
        case QXmlStreamReader::Characters:
            if (inStyle_ && leadsOut(in_.text()))
                ++left_;
            else
                out_.writeCharacters(in_.text().toString());
            break;
        case QXmlStreamReader::ProcessingInstruction:
            ++left_;
            break;
        default:
            break; // comments, document types, unresolved entities: nothing that is drawn
        }
        return true;
    }

    void startElement() {
        out_.writeStartElement(in_.qualifiedName().toString());
        for (const auto& space : in_.namespaceDeclarations()) {
            const QString name = space.prefix().isEmpty()
                                     ? QStringLiteral("xmlns")
                                     : QStringLiteral("xmlns:") + space.prefix().toString();
            out_.writeAttribute(name, space.namespaceUri().toString());
        }
        for (const auto& attribute : in_.attributes()) {
            const auto name = attribute.name();
            const bool link = name.compare(u"href", Qt::CaseInsensitive) == 0 ||
                              name.compare(u"src", Qt::CaseInsensitive) == 0 ||
                              name.compare(u"base", Qt::CaseInsensitive) == 0;
            if (link ? !staysInside(attribute.value()) : leadsOut(attribute.value()))
                ++left_;
            else
                out_.writeAttribute(attribute.qualifiedName().toString(),
                                    attribute.value().toString());
        }
    }

    QXmlStreamReader in_;
    QByteArray clean_;
    QXmlStreamWriter out_;
    int depth_ = 0, left_ = 0;
    bool inStyle_ = false; ///< between the tags of a style sheet
};

} // namespace

std::optional<CleanSvg> cleanSvg(const QByteArray& bytes) {
    return Cleaner(bytes).run();
}

} // namespace burin
