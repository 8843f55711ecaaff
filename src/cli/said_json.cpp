// Sentences in what a command prints: the English text under its name, and beside it, under the
// name with "Said" behind, key and quantities of each.
#include "cli/commands.h"
#include "core/describe/words.h"
#include "core/units/render.h"

namespace burin {
namespace {

constexpr auto quantityWords = wordsOf<Quantity::Of>(
    "text", "term", "said", "count", "number", "unit", "metres", "millimetres", "celsius",
    "degrees", "decibel", "decibelPer100m", "megahertz", "newton", "kgPer100m", "watt", "volt",
    "ohm", "share", "money", "day");

// No name of a member is a control character.
constexpr const char* mark = "\x1f";

OutJson parted(const Sentence& sentence);

OutJson parted(const Quantity& q) {
    OutJson out = {{"of", quantityWords[q.of]}};
    switch (q.of) {
    case Quantity::Of::Text:
    case Quantity::Of::Term:
    case Quantity::Of::Day:
        out["text"] = q.text;
        return out;
    case Quantity::Of::Said:
        for (const auto& one : q.said)
            out["said"].push_back(parted(one));
        return out;
    case Quantity::Of::Unit:
        out["unit"] = q.text;
        break;
    case Quantity::Of::Money:
        out["currency"] = q.text;
        break;
    default:
        break;
    }
    out["value"] = q.value;
    return out;
}

OutJson parted(const Sentence& sentence) {
    OutJson out = {{"key", sentence.key()}};
    for (const auto& q : sentence.of)
        out["of"].push_back(parted(q));
    return out;
}

bool isSaid(const OutJson& json) {
    return json.is_object() && json.size() == 1 && json.begin().key() == mark;
}

} // namespace

void to_json(OutJson& out, const Sentence& sentence) {
    if (sentence.empty())
        out = "";
    else
        out = {{mark, {render(sentence, UnitSystem::Metric), parted(sentence)}}};
}

OutJson spoken(OutJson json) {
    if (isSaid(json))
        return json.begin().value()[0];
    if (json.is_array())
        for (auto& one : json)
            one = spoken(std::move(one));
    if (!json.is_object())
        return json;
    OutJson out = OutJson::object();
    for (auto& [name, value] : json.items()) {
        OutJson said;
        if (isSaid(value))
            said = value.begin().value()[1];
        else if (value.is_array() && !value.empty() &&
                 std::all_of(value.begin(), value.end(), isSaid))
            for (const auto& one : value)
                said.push_back(one.begin().value()[1]);
        out[name] = spoken(std::move(value));
        if (!said.is_null())
            out[name + "Said"] = std::move(said);
    }
    return out;
}

} // namespace burin
