#include "core/edit/edit.h"
#include <algorithm>

namespace burin {

Change detail::rowChange(Op op, Kind kind, const void* row, const std::string& ownerId) {
    Change out;
    out.op = op;
    out.kind = kind;
    Json json = Json::object();
    if (!ownerId.empty())
        json[tableOf(kind).ownerKey] = ownerId;
    json.update(objectOf(tableOf(kind).fields, row, Owned::Without));
    out.id = json.at("id").get<std::string>();
    (op == Op::Add ? out.after : out.before) = std::move(json);
    return out;
}

void detail::differInFields(Kind kind, const void* before, const void* after, Changes& out) {
    const auto& fields = tableOf(kind).fields;
    const auto id =
        std::find_if(fields.begin(), fields.end(), [](const Field& f) { return f.name == "id"; });
    const auto differ = [&](std::string field, Json was, Json is) {
        if (was == is)
            return;
        Change change;
        change.kind = kind;
        change.id = id->text(before);
        change.field = std::move(field);
        change.before = std::move(was);
        change.after = std::move(is);
        out.push_back(std::move(change));
    };
    for (const auto& field : fields) {
        if (field.shape == Shape::Children)
            continue;
        if (field.text && field.text(before) == field.text(after))
            continue;
        Json was = field.get(before);
        Json is = field.get(after);
        if (!field.byKey || !was.is_object() || !is.is_object()) {
            differ(field.name, std::move(was), std::move(is));
            continue;
        }
        const auto keyOf = [](const Json& object, const std::string& key) {
            const auto it = object.find(key);
            return it == object.end() ? Json() : *it;
        };
        for (const auto& [key, value] : was.items())
            differ(field.name + '.' + key, value, keyOf(is, key));
        for (const auto& [key, value] : is.items())
            if (!was.contains(key))
                differ(field.name + '.' + key, Json(), value);
    }
}

std::vector<double> detail::risingOrders(const std::vector<double>& orders,
                                         const std::vector<bool>& known) {
    std::vector<double> out(orders.size());
    double last = -1;
    for (std::size_t i = 0; i < orders.size(); ++i) {
        if (known[i] && orders[i] > last) {
            out[i] = last = orders[i];
            continue;
        }
        // Between what came before and the next that stays.
        std::size_t next = i + 1;
        while (next < orders.size() && !(known[next] && orders[next] > last))
            ++next;
        out[i] = next < orders.size() ? (last + orders[next]) / 2 : last + 1;
        if (!(out[i] > last) || (next < orders.size() && !(out[i] < orders[next]))) {
            for (std::size_t k = 0; k < out.size(); ++k)
                out[k] = static_cast<double>(k);
            return out;
        }
        last = out[i];
    }
    return out;
}

Edit inverse(const Edit& edit) {
    Edit out{edit.title, {}};
    for (auto it = edit.changes.rbegin(); it != edit.changes.rend(); ++it) {
        Change back = *it;
        if (back.op != Op::Set)
            back.op = back.op == Op::Add ? Op::Remove : Op::Add;
        std::swap(back.before, back.after);
        out.changes.push_back(std::move(back));
    }
    return out;
}

Json toJson(const Change& change) {
    Json out = {{"op", opWords[change.op]}, {"kind", kindWords[change.kind]}, {"id", change.id}};
    if (!change.field.empty())
        out["field"] = change.field;
    if (!change.before.is_null())
        out["before"] = change.before;
    if (!change.after.is_null())
        out["after"] = change.after;
    return out;
}

Json toJson(const Edit& edit) {
    Json out;
    out["title"] = edit.title;
    out["changes"] = Json::array();
    for (const auto& change : edit.changes)
        out["changes"].push_back(toJson(change));
    return out;
}

Outcome<Edit> readEdit(const Json& json, const std::string& where) {
    try {
        JsonObject in(json, where, "");
        Edit out;
        out.title = in.string("title");
        for (auto& read : in.list("changes", [](JsonObject row) {
                 Change change;
                 change.op = row.word("op", opWords);
                 change.kind = row.word("kind", kindWords);
                 change.id = row.string("id");
                 change.field = row.stringOr("field", "");
                 if (const Json* before = row.find("before"))
                     change.before = *before;
                 if (const Json* after = row.find("after"))
                     change.after = *after;
                 const bool fits =
                     change.op == Op::Set
                         ? !change.field.empty()
                         : (change.op == Op::Add ? change.after : change.before).is_object() &&
                               change.field.empty();
                 if (!fits)
                     row.fail("op", {"edit.does-not-needs", "does not have what it needs"},
                              {"cure.set-field-add",
                               "“set” has a field, “add” a row after it, “remove” one before it"});
                 row.close();
                 return change;
             }))
            out.changes.push_back(std::move(read));
        in.close();
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
