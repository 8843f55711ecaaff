#include "core/history/decide.h"
#include "core/edit/removal.h"
#include "core/history/touches.h"
#include "core/job/row_at.h"
#include <cctype>

namespace burin {
namespace {

/// "nearPlaceId": near place; "accuracy.lossDb": accuracy: loss.
std::string fieldWords(const std::string& field) {
    std::string out;
    for (const char c : field) {
        if (c == '.')
            out += ": ";
        else if (std::isupper(static_cast<unsigned char>(c)) != 0)
            (out += ' ') += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        else
            out += c;
    }
    for (const char* end : {" id", " m", " c", " db", " mm", " mhz", " w", " ns", " ohm"})
        if (out.ends_with(end)) {
            out.resize(out.size() - std::string_view(end).size());
            break;
        }
    return out;
}

Json parsed(const std::string& value) {
    return Json::parse(value, nullptr, false);
}

} // namespace

Outcome<Edit> decide(const Job& job, const Conflict& conflict, std::size_t claim) {
    const auto kind = kindWords.find(conflict.kind);
    if (!kind || claim >= conflict.claims.size())
        return refuse("the conflict", {"conflict.no-claim", "it has no such claim"},
                      {"cure.choose-those-lists", "Choose one of those it lists"});
    const RowAt found = rowAt(job, *kind, conflict.rowId);
    Edit out{"decide on " + subjectOf(job, conflict), {}};
    const Changes gone = put(std::optional(conflict), std::optional<Conflict>{});
    if (found.row == nullptr ||
        (conflict.field.empty() && conflict.claims[claim].value != "removed")) {
        out.changes = gone;
        return out;
    }
    if (conflict.field.empty()) {
        auto removal = removing(job, *kind, conflict.rowId);
        if (!removal)
            return refuse(removal.error());
        out.changes = Changes{std::move(*removal), gone};
        return out;
    }
    const Field* field = tableOf(*kind).field(conflict.field);
    if (field == nullptr)
        return refuse("the conflict", {"conflict.no-field", "there is no such field"},
                      {"cure.decide-other-claim", "Decide on the other claim"});
    Change change;
    change.kind = *kind;
    change.id = conflict.rowId;
    change.field = conflict.field;
    change.before = valueOf(*field, found.row, conflict.field);
    change.after = parsed(conflict.claims[claim].value);
    // Also where it stands already: whoever joins later sees that it was meant.
    out.changes.push_back(std::move(change));
    out.changes.push_back(gone);
    return out;
}

bool stands(const Job& job, const Conflict& conflict, std::size_t claim) {
    const auto kind = kindWords.find(conflict.kind);
    const RowAt found = kind ? rowAt(job, *kind, conflict.rowId) : RowAt{};
    const std::string& value = conflict.claims.at(claim).value;
    if (conflict.field.empty())
        return (found.row == nullptr) == (value == "removed");
    const Field* field = found.row == nullptr ? nullptr : tableOf(*kind).field(conflict.field);
    return field != nullptr && valueOf(*field, found.row, conflict.field) == parsed(value);
}

std::string subjectOf(const Job& job, const Conflict& conflict) {
    const auto kind = kindWords.find(conflict.kind);
    const RowAt found = kind ? rowAt(job, *kind, conflict.rowId) : RowAt{};
    return (found.row == nullptr ? "a " + conflict.kind + " that is gone" : found.called) +
           (conflict.field.empty() ? std::string() : ", " + fieldWords(conflict.field));
}

std::string valueText(const Job& job, const Catalogue& catalogue, const Conflict& conflict,
                      const std::string& json, UnitSystem units) {
    if (conflict.field.empty())
        return json == "removed" ? "taken away" : "kept";
    const Json value = parsed(json);
    const auto kind = kindWords.find(conflict.kind);
    const Field* field = kind ? tableOf(*kind).field(conflict.field) : nullptr;
    if (isNothing(value))
        return "nothing";
    if (value.is_number() && conflict.field.ends_with("M"))
        return formatLength(value.get<double>(), units, 2);
    if (value.is_number() && conflict.field.ends_with("C"))
        return formatTemperature(value.get<double>(), units);
    if (value.is_boolean())
        return value.get<bool>() ? "yes" : "no";
    if (value.is_string() && field != nullptr && !field->refers.empty()) {
        const RowAt target = rowAt(job, *kindWords.find(field->refers), value.get<std::string>());
        return target.row == nullptr ? "one that is gone" : target.called;
    }
    if (value.is_string() && conflict.field == "cableId")
        if (const Cable* cable = catalogue.cable(value.get<std::string>()))
            return cable->name;
    if (value.is_string() && conflict.field == "serviceId")
        if (const Service* service = catalogue.service(value.get<std::string>()))
            return service->name;
    if (value.is_string() && conflict.field == "connectionId")
        if (const Connection* connection = catalogue.connection(value.get<std::string>()))
            return connection->name;
    if (value.is_string())
        return "“" + value.get<std::string>().substr(0, 80) + "”";
    if (value.is_array())
        return "a list of " + std::to_string(value.size());
    return value.is_object() ? "other figures" : value.dump();
}

} // namespace burin
