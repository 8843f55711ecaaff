#include "core/base/fault.h"

namespace burin {

Sentence named(std::string name) {
    return name.empty() ? Sentence{} : alone(asText(std::move(name)));
}

Sentence whatToDo(const Fault& fault) {
    return fault.cure.empty() ? fault.what
                              : sentence({"fault.what-cure", "{0}. {1}"}, fault.what, fault.cure);
}

Sentence told(const Fault& fault) {
    Sentence out = whatToDo(fault);
    Sentence where = fault.where;
    if (fault.line > 0)
        where = sentence({"fault.line", "{0}:{1}"}, std::move(where), asCount(fault.line));
    if (fault.column > 0)
        where = sentence({"fault.line", "{0}:{1}"}, std::move(where), asCount(fault.column));
    return where.empty() ? out
                         : sentence({"where.what", "{0}: {1}"}, std::move(where), std::move(out));
}

tl::unexpected<Fault> refuse(Fault fault) {
    return tl::unexpected<Fault>(std::move(fault));
}
tl::unexpected<Fault> refuse(Sentence where, Sentence what, Sentence cure) {
    return refuse(Fault{std::move(where), 0, 0, std::move(what), std::move(cure)});
}
tl::unexpected<Fault> refuse(std::string where, Sentence what, Sentence cure) {
    return refuse(named(std::move(where)), std::move(what), std::move(cure));
}
tl::unexpected<Fault> refuse(const char* where, Sentence what, Sentence cure) {
    return refuse(alone(asTerm(where)), std::move(what), std::move(cure));
}

} // namespace burin
