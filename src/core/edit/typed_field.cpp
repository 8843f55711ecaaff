#include "core/edit/typed_field.h"
#include "core/base/text.h"
#include "core/job/row_at.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>

namespace burin {
namespace {

enum class Unit { None, Metres, Millimetres, Celsius };

Unit unitOf(const Field& field) {
    if (field.shape != Shape::Number || field.name.ends_with("PerM"))
        return Unit::None;
    return field.name.ends_with("Mm")  ? Unit::Millimetres
           : field.name.ends_with('M') ? Unit::Metres
           : field.name.ends_with('C') ? Unit::Celsius
                                       : Unit::None;
}

std::string plain(double value) {
    std::array<char, 32> buffer{};
    std::snprintf(buffer.data(), buffer.size(), "%.6g", value);
    return buffer.data();
}

std::string figure(const Field& field, double value, UnitSystem system, const TypedAs& as) {
    switch (unitOf(field)) {
    case Unit::Metres:
        return formatLength(value, system, as.places);
    case Unit::Millimetres:
        return plain(value) + " mm";
    case Unit::Celsius:
        return formatTemperature(value, system);
    case Unit::None:
        break;
    }
    return plain(value * as.scale);
}

Outcome<double> readNumber(const Field& field, std::string_view text, UnitSystem system,
                           const std::string& called) {
    switch (unitOf(field)) {
    case Unit::Metres: {
        // Heights may lie below the floor.
        bool below = false;
        for (const std::string_view minus : {"-", "\u2212"})
            if (field.least < 0 && text.starts_with(minus)) {
                text = trimmed(text.substr(minus.size()));
                below = true;
            }
        auto out = parseLengthM(text, system);
        if (out && below)
            *out = -*out;
        return out;
    }
    case Unit::Millimetres:
        return parseMillimetres(text);
    case Unit::Celsius:
        return parseTemperatureC(text, system);
    case Unit::None:
        break;
    }
    return parseNumber(text, called);
}

/// What may be typed, in words: "Type 0 to 500", "Type more than 0".
std::string rangeOf(const Field& field, UnitSystem system, const TypedAs& as) {
    constexpr double anything = 1e8; // a bound that is only there against nonsense
    constexpr double barely = 1e-6;
    std::string out = "Type ";
    if (field.least > 0 && field.least <= barely)
        out += "more than " + figure(field, 0, system, as);
    else if (field.least > -anything)
        out += figure(field, field.least, system, as);
    else
        out += "a number";
    if (field.most < anything)
        out += (field.least > 0 && field.least <= barely ? ", up to " : " to ") +
               figure(field, field.most, system, as);
    else if (field.least > barely || field.least == 0)
        out += " or more";
    return field.shape == Shape::Whole ? out + ", a whole number" : out;
}

Outcome<Json> readList(std::string_view text) {
    Json out = Json::array();
    while (!text.empty()) {
        const auto comma = text.find(',');
        out.push_back(std::string(trimmed(text.substr(0, comma))));
        text = comma == std::string_view::npos ? std::string_view() : text.substr(comma + 1);
    }
    return out;
}

} // namespace

const Field* typedField(Kind kind, std::string_view name) {
    const Field* field = tableOf(kind).field(name);
    const auto dot = name.find('.');
    if (field == nullptr || dot == std::string_view::npos)
        return field;
    const auto it = std::find_if(field->inner.begin(), field->inner.end(), [&](const Field& inner) {
        return inner.name == name.substr(dot + 1);
    });
    return it == field->inner.end() ? nullptr : &*it;
}

std::string typedText(const Field& field, const Json& value, UnitSystem system, const TypedAs& as) {
    if (value.is_null())
        return {};
    if (value.is_number())
        return figure(field, value.get<double>(), system, as);
    if (value.is_string())
        return value.get<std::string>();
    std::string out;
    if (value.is_array())
        for (const auto& item : value)
            if (item.is_string())
                out += (out.empty() ? "" : ", ") + item.get<std::string>();
    return out;
}

Outcome<Json> readTyped(const Field& field, std::string_view text, UnitSystem system,
                        const std::string& called, const TypedAs& as) {
    text = trimmed(text);
    if (field.shape == Shape::Text)
        return text.empty() && field.leftOut ? Json() : Json(std::string(text));
    if (field.shape == Shape::Nested) {
        auto list = readList(text);
        return list && list->empty() && field.leftOut ? Json() : list;
    }
    if (text.empty()) {
        if (field.mayLack)
            return Json();
        return refuse(called, "nothing is typed", "Type a figure");
    }
    auto number = readNumber(field, text, system, called);
    if (!number)
        return refuse(number.error());
    const double value = *number / as.scale;
    const bool whole = field.shape == Shape::Whole;
    if (value < field.least || value > field.most || (whole && value != std::floor(value)))
        return refuse(called, "“" + std::string(text) + "” cannot be", rangeOf(field, system, as));
    return whole ? Json(static_cast<int>(value)) : Json(value);
}

Edit setField(const Job& job, Kind kind, const std::vector<std::string>& ids,
              const std::string& field, const Json& value, const std::string& called) {
    Edit out;
    const Field* described = tableOf(kind).field(field);
    std::string only;
    for (const auto& id : ids) {
        const RowAt at = rowAt(job, kind, id);
        if (at.row == nullptr || described == nullptr)
            continue;
        Json before = valueOf(*described, at.row, field);
        if (before == value)
            continue;
        out.changes.push_back(Change{Op::Set, kind, id, field, std::move(before), value});
        only = at.called;
    }
    out.title =
        called + (out.changes.size() > 1 ? " on " + std::to_string(out.changes.size()) + " rows"
                                         : " of " + only);
    return out;
}

} // namespace burin
