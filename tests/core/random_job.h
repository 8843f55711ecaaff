#pragma once
#include "core/coax/tree_json.h"
#include "core/edit/apply.h"
#include "core/edit/removal.h"
#include "core/edit/system_edit.h"
#include "core/job/row_at.h"
#include <random>

namespace burin {

/// Makes rows, edits and whole jobs at random from the descriptions of what is kept: of every kind,
/// with every field, so that a field or a kind that is new is in all tests that use it.
class RandomEditor {
public:
    explicit RandomEditor(unsigned seed, std::string figures = {})
        : random_(seed), figures_(std::move(figures)) {}

    int upTo(int most) { return std::uniform_int_distribution<int>(0, most)(random_); }
    bool oneIn(int many) { return upTo(many - 1) == 0; }

    /// An edit that the job takes.
    Edit next(const Job& job) {
        for (;;) {
            Edit edit{"edit " + std::to_string(++count_), propose(job)};
            if (!edit.changes.empty() && apply(job, edit))
                return edit;
        }
    }
    /// A row of a kind with every field other than it is in a new one, as far as the job has what
    /// it refers to.
    std::optional<Change> row(const Job& job, Kind kind, bool full = false) {
        const Table& table = tableOf(kind);
        Change out;
        out.op = Op::Add;
        out.kind = kind;
        out.id = freshId();
        Json json = Json::object();
        if (table.owner) {
            const std::string owner = anyId(job, *table.owner);
            if (owner.empty())
                return std::nullopt;
            json[table.ownerKey] = owner;
        }
        for (const auto& field : table.fields) {
            if (field.shape == Shape::Children)
                continue;
            if (field.name == "id") {
                json["id"] = out.id;
                continue;
            }
            if (!full && field.mayLack && oneIn(2))
                continue;
            Json value = valueFor(job, table, field, full);
            if (value.is_null() && !field.mayLack)
                return std::nullopt;
            if (field.flat)
                json.update(value);
            else if (!value.is_null())
                json[field.name] = std::move(value);
        }
        out.after = std::move(json);
        return out;
    }
    /// Sets one field of a row that is there.
    std::optional<Change> set(const Job& job, Kind kind, const std::string& id) {
        const Table& table = tableOf(kind);
        std::vector<std::pair<const Field*, std::string>> names;
        for (const auto& field : table.fields) {
            if (field.shape == Shape::Children || field.name == "id")
                continue;
            if (field.byKey)
                for (const auto& inner : field.inner)
                    names.emplace_back(&field, field.name + '.' + inner.name);
            else
                names.emplace_back(&field, field.name);
        }
        const auto& [field, name] = names[std::size_t(upTo(int(names.size()) - 1))];
        Change out;
        out.kind = kind;
        out.id = id;
        out.field = name;
        const void* row = rowAt(job, kind, id).row;
        out.before = valueOf(*field, row, name);
        out.after = valueFor(job, table, *field, false);
        if (field->byKey) {
            const Json object = std::move(out.after);
            const auto it = object.find(name.substr(name.find('.') + 1));
            out.after = it == object.end() ? Json() : *it;
        }
        if (out.after.is_null() && !field->mayLack && !field->byKey)
            return std::nullopt;
        // As it is when it is read again: what is left out is nothing.
        return out.before == out.after ? std::nullopt : std::optional(out);
    }
    std::string anyId(const Job& job, Kind kind) {
        std::vector<std::string> ids;
        everyRow(job, [&](const auto& row, const std::string&) {
            if (kindOfRow(row) == kind)
                ids.push_back(row.id);
        });
        return ids.empty() ? std::string() : ids[std::size_t(upTo(int(ids.size()) - 1))];
    }
    Kind anyKind() {
        // What copies of a job disagree on is made by joining them alone.
        return static_cast<Kind>(upTo(int(kindCount) - 2));
    }
    std::string freshId() {
        std::string out;
        for (int i = 0; i < 16; ++i)
            out += "0123456789abcdef"[upTo(15)];
        return out;
    }

private:
    Changes propose(const Job& job) {
        const Kind kind = anyKind();
        const int what = upTo(9);
        if (kind == Kind::Job || what < 5) {
            const std::string id = kind == Kind::Job ? job.info.id : anyId(job, kind);
            Changes out;
            if (id.empty())
                return out;
            if (auto change = set(job, kind, id))
                out.push_back(std::move(*change));
            return out;
        }
        if (what < 8) {
            Changes out;
            if (auto change = row(job, kind, oneIn(3)))
                out.push_back(std::move(*change));
            return out;
        }
        const std::string id = anyId(job, kind);
        auto gone = id.empty() ? Outcome<Changes>(Changes{}) : removing(job, kind, id);
        return gone ? std::move(*gone) : Changes{};
    }

    std::string word() {
        static const char* const words[] = {"Sail loft", "µΩ “x”", "", "wall", "a\nb", "7", "é"};
        return words[upTo(6)];
    }
    Json point() { return Json::array({upTo(400) / 10.0, upTo(300) / 10.0}); }
    Json number(const Field& field) {
        const double least = std::max(field.least, -1000.0);
        const double most = std::min(field.most, 1000.0);
        const double share = upTo(1000) / 1000.0;
        return least + (most - least) * share;
    }
    Json object(const Job& job, const std::vector<Field>& fields, bool full) {
        Json out = Json::object();
        for (const auto& field : fields) {
            Json value = field.mayLack && !full && oneIn(2) ? Json() : nested(job, field, full);
            if (!value.is_null())
                out[field.name] = std::move(value);
            else if (!field.mayLack)
                out[field.name] = 1;
        }
        return out;
    }
    Json nested(const Job& job, const Field& field, bool full) {
        static const Table none;
        return valueFor(job, none, field, full);
    }
    Json valueFor(const Job& job, const Table& table, const Field& field, bool full) {
        if (!field.refers.empty()) {
            if (field.mayLack && !full && oneIn(3))
                return field.leftOut ? Json() : Json("");
            const std::string id = anyId(job, *kindWords.find(field.refers));
            return id.empty() && !field.mayLack  ? Json()
                   : id.empty() && field.leftOut ? Json()
                                                 : Json(id);
        }
        switch (field.shape) {
        case Shape::Text:
            return text(job, table, field, full);
        case Shape::Number:
            return field.optional && !full && oneIn(3) ? Json() : number(field);
        case Shape::Whole:
            return field.optional && !full && oneIn(3)
                       ? Json()
                       : Json(std::max(int(std::max(field.least, -1e6)),
                                       std::min(int(std::min(field.most, 1e6)), 1 + upTo(30))));
        case Shape::Flag: {
            const bool yes = full || oneIn(2);
            return !yes && field.leftOut ? Json() : Json(yes);
        }
        case Shape::Word: {
            const auto last = int(field.words.size()) - 1;
            const int at = full ? last : upTo(last);
            return at == 0 && field.leftOut ? Json() : Json(field.words[std::size_t(at)]);
        }
        case Shape::Nested:
            return field.optional && !full && oneIn(3) ? Json() : nestedValue(job, field, full);
        case Shape::Children:
            break;
        }
        return {};
    }
    Json text(const Job& job, const Table& table, const Field& field, bool full) {
        if (field.name == "label")
            return "L-" + freshId().substr(0, 6);
        if (field.name == "day" || field.name.ends_with("On"))
            return "2026-12-0" + std::to_string(1 + upTo(8));
        if (field.name == "floorId") { // of a way that leads through it
            const std::string id = anyId(job, Kind::Floor);
            return id.empty() ? "f" : id;
        }
        if (table.kind == Kind::Distribution && field.name == "serviceId")
            return "tv";
        std::string out = full ? "wall 2" : word();
        return out.empty() && field.leftOut ? Json() : Json(out);
    }
    Json nestedValue(const Job& job, const Field& field, bool full) {
        if (!field.inner.empty()) {
            if (!field.list)
                return object(job, field.inner, full);
            Json out = Json::array();
            for (int i = full ? 2 : upTo(2); i > 0; --i)
                out.push_back(object(job, field.inner, full));
            return out.empty() && field.leftOut ? Json() : out;
        }
        if (field.flat) {
            const char* kinds[] = {"splitter 4",    "tap 12", "amplifier 15 slope 4 return 2",
                                   "multiswitch 8", "pad 6",  "dc-block"};
            return toJson(*parseTreeUnit(kinds[upTo(5)]));
        }
        if (field.name == "at")
            return point();
        if (field.name == "farPin")
            return Json::array({1, 2, 3, upTo(8), 5, 6, 7, upTo(8)});
        if (field.name == "shortGroups")
            return "a  a    ";
        if (field.name == "figures")
            return Json::parse(figures_);
        if (field.name == "card")
            return Json::parse(R"({"id": "own", "name": "F, compression, of the sheet",
                "connections": ["f-compression"], "first": [], "cuts": [{"of": "centre",
                "name": "centre bare", "from": "cut-end", "mm": 7.5, "source": "the sheet"}],
                "steps": ["cut"], "proofs": [{"id": "flush", "what": "flush"}], "schools": [],
                "tools": [], "cautions": []})");
        if (field.name.ends_with("On"))
            return Json::array({"2026-11-0" + std::to_string(1 + upTo(8)), "2026-11-20"});
        if (field.name == "portNames")
            return Json::array({"left jack", word()});
        // A line or an outline.
        Json out = Json::array();
        for (int i = 3 + upTo(2); i > 0; --i)
            out.push_back(point());
        return out;
    }

    std::mt19937 random_;
    std::string figures_;
    int count_ = 0;
};

} // namespace burin
