#pragma once
#include "core/base/sentence.h"
#include <QByteArray>
#include <optional>
#include <string>

namespace burin {

struct CleanSvg {
    QByteArray bytes;
    Sentence note; ///< what was left out; empty: nothing
};

/// The SVG without what leads out of it: links to anything but its own parts (`#id`) and pictures
/// carried inside (`data:` PNG, JPEG, GIF, WebP), style sheets and other instructions, document
/// types. Nothing: it is no well-formed XML, or nests over 1000 deep.
std::optional<CleanSvg> cleanSvg(const QByteArray& bytes);

} // namespace burin
