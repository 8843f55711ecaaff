#include "core/history/decide.h"
#include "core/base/lookup.h"
#include "core/base/text.h"
#include "core/edit/removal.h"
#include "core/edit/typed_field.h"
#include "core/history/touches.h"
#include "core/job/row_at.h"
#include "core/units/render.h"
#include <algorithm>

namespace burin {
namespace {

/// "nearPlaceId": near place; "accuracy.lossDb": accuracy: loss.
Sentence fieldSaid(std::string_view field) {
    std::vector<Sentence> parts;
    for (;;) {
        const auto dot = std::min(field.find('.'), field.size());
        parts.push_back(alone(asTerm(fieldWords(field.substr(0, dot)))));
        if (dot == field.size())
            return joined(std::move(parts), ": ");
        field.remove_prefix(dot + 1);
    }
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
    Edit out{"decide on " + render(subjectOf(job, conflict), {}), {}};
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

Sentence subjectOf(const Job& job, const Conflict& conflict) {
    const auto kind = kindWords.find(conflict.kind);
    const RowAt found = kind ? rowAt(job, *kind, conflict.rowId) : RowAt{};
    Sentence row = found.row == nullptr
                       ? sentence({"conflict.row-gone", "{0} that is gone"}, asTerm(conflict.kind))
                       : found.called;
    return conflict.field.empty()
               ? row
               : sentence({"conflict.field-of", "{0}, {1}"}, row, fieldSaid(conflict.field));
}

namespace {

/// How long a run is if one of its stretches is so long; none: it is no stretch, or the only one.
std::optional<double> lengthInAllM(const Job& job, const Conflict& conflict, double lengthM) {
    if (conflict.kind != kindWords[Kind::Stretch] || conflict.field != "lengthM")
        return std::nullopt;
    for (const auto& run : job.runs)
        if (const auto* stretch = byId(run.stretches, conflict.rowId))
            return run.stretches.size() < 2
                       ? std::nullopt
                       : std::optional(run.lengthM() - stretch->lengthM + lengthM);
    return std::nullopt;
}
bool isDay(std::string_view text) {
    return text.size() == 10 && text[4] == '-' && text[7] == '-' &&
           text.find_first_not_of("0123456789-") == std::string_view::npos;
}

} // namespace

Sentence claimed(const Job& job, const Catalogue& catalogue, const Conflict& conflict,
                 const std::string& json) {
    if (conflict.field.empty())
        return json == "removed" ? Sentence{{"conflict.removed", "taken away"}}
                                 : Sentence{{"conflict.kept", "kept"}};
    const Json value = parsed(json);
    if (isNothing(value))
        return {{"conflict.nothing", "nothing"}};
    if (value.is_boolean())
        return value.get<bool>() ? Sentence{{"conflict.yes", "yes"}}
                                 : Sentence{{"conflict.no", "no"}};
    if (value.is_number()) {
        const auto figure = value.get<double>();
        Quantity said = fieldFigure(conflict.field, figure);
        if (const auto all = lengthInAllM(job, conflict, figure))
            return sentence({"conflict.length-in-all", "{0}, {1} in all"}, std::move(said),
                            asMetres(*all));
        return alone(std::move(said));
    }
    if (value.is_array())
        return sentence({"conflict.list", "a list of {0}"}, asCount(value.size()));
    if (!value.is_string())
        return {{"conflict.figures", "other figures"}};
    const auto& text = value.get_ref<const std::string&>();
    const auto kind = kindWords.find(conflict.kind);
    const Field* field = kind ? tableOf(*kind).field(conflict.field) : nullptr;
    if (field != nullptr && !field->refers.empty()) {
        const RowAt target = rowAt(job, *kindWords.find(field->refers), text);
        return target.row == nullptr ? Sentence{{"conflict.target-gone", "one that is gone"}}
                                     : target.called;
    }
    const auto named = [](const auto* row) { return alone(asTerm(row->name)); };
    if (conflict.field == "cableId")
        if (const Cable* cable = catalogue.cable(text))
            return named(cable);
    if (conflict.field == "serviceId")
        if (const Service* service = catalogue.service(text))
            return named(service);
    if (conflict.field == "connectionId")
        if (const Connection* connection = catalogue.connection(text))
            return named(connection);
    if (field != nullptr && !field->words.empty())
        return alone(asTerm(text));
    if (isDay(text))
        return alone(asDay(text));
    return sentence({"conflict.text", "“{0}”"}, asText(beginningOf(text, 80)));
}

} // namespace burin
