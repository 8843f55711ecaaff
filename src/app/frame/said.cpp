#include "app/frame/said.h"
#include "app/look/painters.h"
#include "core/units/render.h"

namespace burin {

QString said(const Sentence& sentence, const Session& session) {
    return q(render(sentence, session.rendering()));
}
QString said(const Fault& fault, const Session& session) {
    return said(told(fault), session);
}
QString said(const Quantity& quantity, const Session& session) {
    return q(render(quantity, session.rendering()));
}

QStringList said(const std::vector<Sentence>& sentences, const Session& session) {
    QStringList out;
    for (const auto& one : sentences)
        out << said(one, session);
    return out;
}
QString begun(QString text) {
    if (!text.isEmpty())
        text[0] = text[0].toUpper();
    return text;
}

} // namespace burin
