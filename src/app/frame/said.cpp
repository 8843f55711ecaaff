#include "app/frame/said.h"
#include "app/look/painters.h"
#include "core/units/render.h"

namespace burin {

QString said(const Sentence& sentence, const Session& session) {
    return q(render(sentence, session.units()));
}
QString said(const Quantity& quantity, const Session& session) {
    return q(render(quantity, session.units()));
}

} // namespace burin
