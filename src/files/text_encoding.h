#pragma once
#include "core/base/fault.h"
#include "core/base/sentence.h"
#include <string>
#include <string_view>

namespace burin {

/// A file's text as UTF-8: the file's own bytes where they are that already.
struct DecodedText {
    std::string_view same; ///< the bytes as they came, when nothing had to be changed
    std::string changed;
    Sentence note; ///< what it was taken for, when that was not UTF-8

    [[nodiscard]] std::string_view view() const { return changed.empty() ? same : changed; }
};

/// UTF-8, UTF-16 by its byte order mark, and what is neither as Latin-1, with a note. A file that
/// says UTF-16 and is not is refused. The bytes must outlive what is returned.
Outcome<DecodedText> decodeText(std::string_view bytes, const std::string& name);

} // namespace burin
