#pragma once
#include <QString>
#include <string>

namespace burin {

/// A text of the core's as Qt has it, and the other way round; both are UTF-8.
inline QString q(const std::string& text) {
    return QString::fromStdString(text);
}
inline std::string utf8(const QString& text) {
    return text.toStdString();
}

} // namespace burin
