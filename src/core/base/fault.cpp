#include "core/base/fault.h"

namespace burin {

std::string Fault::text() const {
    std::string out = where;
    if (line > 0)
        out += ":" + std::to_string(line);
    if (column > 0)
        out += ":" + std::to_string(column);
    if (!out.empty())
        out += ": ";
    out += what;
    if (!cure.empty())
        out += ". " + cure;
    return out;
}

} // namespace burin
