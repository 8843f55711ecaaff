#include "core/job/row_at.h"

namespace burin {

RowAt rowAt(const Job& job, Kind kind, const std::string& id) {
    if (kind == Kind::Job)
        return id == job.info.id ? RowAt{&job.info, "the job"} : RowAt{};
    RowAt out;
    std::string owner;
    everyRow(job, [&](const auto& row, const std::string& ownerId) {
        if (kindOfRow(row) == kind && row.id == id) {
            out = {&row, std::string(kindWords[kind])};
            if (const std::string name = calledOf(row); !name.empty())
                out.called += " " + name.substr(0, 60);
            owner = ownerId;
        }
    });
    if (!owner.empty())
        out.called += " of " + rowAt(job, *tableOf(kind).owner, owner).called;
    return out;
}

Json valueAt(const Job& job, Kind kind, const std::string& id, const std::string& field) {
    const RowAt found = rowAt(job, kind, id);
    const Field* described = tableOf(kind).field(field);
    return found.row == nullptr || described == nullptr ? Json()
                                                        : valueOf(*described, found.row, field);
}

} // namespace burin
