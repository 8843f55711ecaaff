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

tl::unexpected<Fault> refuse(Fault fault) {
    return tl::unexpected<Fault>(std::move(fault));
}
tl::unexpected<Fault> refuse(std::string where, std::string what, std::string cure) {
    return refuse(Fault{std::move(where), 0, 0, std::move(what), std::move(cure)});
}

} // namespace burin
