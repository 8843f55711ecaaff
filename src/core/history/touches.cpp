#include "core/history/touches.h"
#include <algorithm>

namespace burin {
namespace {

Json at(const RowValues& values, const std::string& field) {
    const auto it = values.find(field);
    return it == values.end() ? Json() : it->second;
}

} // namespace

bool isNothing(const Json& value) {
    return value.is_null() || (value.is_string() && value.get_ref<const std::string&>().empty());
}

RowValues valuesOf(const Table& table, const Json& row) {
    RowValues out;
    for (const auto& field : table.fields) {
        if (field.shape == Shape::Children)
            continue;
        Json value = valueIn(table, field, row);
        if (value.is_null())
            continue;
        if (field.byKey && value.is_object())
            for (auto& [key, inner] : value.items())
                out[field.name + '.' + key] = std::move(inner);
        else
            out[field.name] = std::move(value);
    }
    return out;
}

Json rowOf(const Table& table, const RowValues& values, const std::string& ownerId) {
    Json out = Json::object();
    if (table.owner)
        out[table.ownerKey] = ownerId;
    for (const auto& field : table.fields) {
        if (field.byKey) {
            Json object = Json::object();
            const std::string prefix = field.name + '.';
            for (auto it = values.lower_bound(prefix);
                 it != values.end() && it->first.starts_with(prefix); ++it)
                object[it->first.substr(prefix.size())] = it->second;
            if (const auto whole = values.find(field.name); whole != values.end())
                object = whole->second;
            out[field.name] = std::move(object);
        } else if (const auto it = values.find(field.name); it != values.end()) {
            if (field.flat)
                out.update(it->second);
            else
                out[field.name] = it->second;
        }
    }
    return out;
}

namespace {

/// Whether each step has come to nothing.
std::vector<bool> cancelled(const std::vector<const LogRow*>& steps, const Ancestry& ancestry) {
    std::unordered_map<std::string_view, std::size_t> index;
    for (std::size_t i = 0; i < steps.size(); ++i)
        index.emplace(steps[i]->id, i);
    std::vector<bool> out(steps.size());
    for (std::size_t i = steps.size(); i-- > 0;) {
        const auto undone = out[i] ? index.end() : index.find(steps[i]->undoes);
        if (undone != index.end() && !steps[undone->second]->joins() &&
            ancestry.undisturbed(undone->second, i))
            out[i] = out[undone->second] = true;
    }
    return out;
}

} // namespace

TouchIndex::TouchIndex(std::vector<const LogRow*> steps, const Ancestry& ancestry,
                       TakenBack takenBack)
    : steps_(std::move(steps)) {
    const auto nothing = takenBack == TakenBack::Dropped ? cancelled(steps_, ancestry)
                                                         : std::vector<bool>(steps_.size());
    const auto refers = [&](const Change& change, const Field& field, const Json& value) {
        if (!field.refers.empty() && value.is_string() &&
            !value.get_ref<const std::string&>().empty())
            referring_[{*kindWords.find(field.refers), value.get<std::string>()}].insert(
                {{change.kind, change.id}, field.name});
    };
    for (std::size_t i = 0; i < steps_.size(); ++i)
        for (const auto& change : steps_[i]->changes) {
            if (nothing[i])
                break;
            if (steps_[i]->joins() && change.kind != Kind::Conflict)
                continue;
            changes_[{change.kind, change.id}].push_back({i, &change});
            if (change.op == Op::Remove && change.kind != Kind::Conflict)
                removed_.emplace(change.kind, change.id);
            const Table& table = tableOf(change.kind);
            if (change.op == Op::Add)
                for (const auto& field : table.fields)
                    refers(change, field, valueIn(table, field, change.after));
            else if (const Field* field = table.field(change.field))
                refers(change, *field, change.after);
        }
}

const std::set<std::pair<RowKey, std::string>>& TouchIndex::referring(const RowKey& to) const {
    static const std::set<std::pair<RowKey, std::string>> none;
    const auto it = referring_.find(to);
    return it == referring_.end() ? none : it->second;
}

std::set<RowKey> TouchIndex::rowsOf(std::size_t step) const {
    std::set<RowKey> out;
    if (!steps_[step]->joins())
        for (const auto& change : steps_[step]->changes)
            out.emplace(change.kind, change.id);
    return out;
}

RowTouches TouchIndex::of(const RowKey& key, const Ancestry& ancestry) const {
    RowTouches out;
    const auto found = changes_.find(key);
    if (found == changes_.end())
        return out;
    const Table& table = tableOf(key.first);
    const auto follows = [&](std::size_t step, const std::string& name, const Json& before,
                             const Json& after) {
        const Field* field = table.field(name);
        if (field == nullptr || field->refers.empty() || !before.is_string() || !isNothing(after))
            return false;
        const auto gone =
            changes_.find({*kindWords.find(field->refers), before.get<std::string>()});
        return gone != changes_.end() &&
               std::any_of(gone->second.begin(), gone->second.end(), [&](const ChangeAt& at) {
                   return at.step == step && at.change->op == Op::Remove;
               });
    };
    const auto touch = [&](std::size_t step, const std::string& field, const Json& before,
                           const Json& after) {
        auto& touches = out.fields[field];
        // A step that sets a field twice has set it to the last.
        if (!touches.empty() && touches.back().step == step)
            touches.back().after = after;
        else if (follows(step, field, before, after))
            touches.push_back(
                {step, before, after, true, kindWords.find(table.field(field)->refers)});
        else
            touches.push_back({step, before, after});
    };
    const auto owner = [&](const Json& row) {
        if (table.owner)
            if (const auto it = row.find(table.ownerKey); it != row.end() && it->is_string())
                out.ownerId = it->get<std::string>();
    };
    for (const auto& [step, change] : found->second) {
        switch (change->op) {
        case Op::Set:
            touch(step, change->field, change->before, change->after);
            break;
        case Op::Remove:
            owner(change->before);
            out.comings.push_back({step, false, valuesOf(table, change->before)});
            break;
        case Op::Add: {
            owner(change->after);
            RowValues values = valuesOf(table, change->after);
            std::optional<RowValues> went;
            for (const auto& coming : out.comings)
                if (!coming.there && ancestry.before(coming.step, step))
                    went = coming.content;
            const std::size_t now = step; // no lambda takes a binding
            const auto gives = [&](const std::string& field) {
                Json before = went ? at(*went, field) : Json();
                Json after = at(values, field);
                if (!went || before != after)
                    touch(now, field, before, after);
            };
            for (const auto& field : table.fields)
                if (field.shape != Shape::Children && !field.byKey)
                    gives(field.name);
            for (const auto& [field, value] : values)
                if (field.find('.') != std::string::npos)
                    gives(field);
            out.comings.push_back({step, true, std::move(values)});
            break;
        }
        }
    }
    return out;
}

} // namespace burin
