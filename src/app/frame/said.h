#pragma once
#include "app/frame/session.h"
#include "core/base/sentence.h"

namespace burin {

/// A sentence of the core, and a figure of one, as the screen writes them.
QString said(const Sentence& sentence, const Session& session);
QString said(const Quantity& quantity, const Session& session);
QString said(const Fault& fault, const Session& session);
QStringList said(const std::vector<Sentence>& sentences, const Session& session);
/// With a capital letter at its beginning.
QString begun(QString text);

} // namespace burin
