#include "core/job/row_at.h"
#include "core/base/text.h"

namespace burin {

RowAt rowAt(const Job& job, Kind kind, const std::string& id) {
    if (kind == Kind::Job)
        return id == job.info.id ? RowAt{&job.info, {"row.job", "the job"}} : RowAt{};
    RowAt out;
    std::string owner;
    everyRow(job, [&](const auto& row, const std::string& ownerId) {
        if (kindOfRow(row) == kind && row.id == id) {
            const std::string name = calledOf(row);
            out = {&row, name.empty() ? alone(asTerm(kindWords[kind]))
                                      : sentence({"row.called", "{0} {1}"}, asTerm(kindWords[kind]),
                                                 asText(beginningOf(name, 60)))};
            owner = ownerId;
        }
    });
    if (!owner.empty())
        out.called = sentence({"row.of", "{0} of {1}"}, std::move(out.called),
                              rowAt(job, *tableOf(kind).owner, owner).called);
    return out;
}

Json valueAt(const Job& job, Kind kind, const std::string& id, const std::string& field) {
    const RowAt found = rowAt(job, kind, id);
    const Field* described = tableOf(kind).field(field);
    return found.row == nullptr || described == nullptr ? Json()
                                                        : valueOf(*described, found.row, field);
}

} // namespace burin
