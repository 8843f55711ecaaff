#include "core/edit/typed_field.h"
#include "core/base/moment.h"
#include "core/base/text.h"
#include "core/job/row_at.h"
#include "core/units/render.h"
#include "core/units/short_figure.h"
#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <cstdio>

namespace burin {
namespace {

enum class Unit { None, Metres, Millimetres, Celsius };

Unit unitOf(std::string_view field) {
    return field.ends_with("PerM") ? Unit::None // money
           : field.ends_with("Mm") ? Unit::Millimetres
           : field.ends_with('M')  ? Unit::Metres
           : field.ends_with('C')  ? Unit::Celsius
                                   : Unit::None;
}
Unit unitOf(const Field& field) {
    return field.shape == Shape::Number ? unitOf(std::string_view(field.name)) : Unit::None;
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

enum class RangeEnd { Least, Most };

/// A bound of a field as its screen has it. Lengths are rounded so that what is told may be typed:
/// 0.1 m is 0.33 ft, and 0.32 ft would be refused.
Quantity bound(const Field& field, RangeEnd end, UnitSystem system, const TypedAs& as) {
    const double value = end == RangeEnd::Least ? field.least : field.most;
    constexpr int mostPlaces = 6;
    switch (unitOf(field)) {
    case Unit::Metres: {
        const bool metric = system == UnitSystem::Metric;
        const int places = metric ? std::max(as.places, shortPlaces(value, mostPlaces)) : 2;
        const double step = std::pow(0.1, places) * (metric ? 1 : metresPerFoot);
        constexpr double closeBy = 1e-6; // of a step: what is a whole number of them but for noise
        const double steps = value / step;
        return asMetres(
            (end == RangeEnd::Least ? std::ceil(steps - closeBy) : std::floor(steps + closeBy)) *
                step,
            places);
    }
    case Unit::Millimetres:
        return asMillimetres(value, shortPlaces(value, mostPlaces));
    case Unit::Celsius:
        return asCelsius(value);
    case Unit::None:
        break;
    }
    return asNumber(value * as.scale, shortPlaces(value * as.scale, mostPlaces));
}

/// What may be typed: "Type 0 to 500", "Type more than 0".
Sentence mayBeTyped(const Field& field, UnitSystem system, const TypedAs& as) {
    constexpr double anything = 1e8; // a bound that is only there against nonsense
    constexpr double barely = 1e-6;
    const bool above = field.least > 0 && field.least <= barely;
    Sentence range = above ? sentence({"typed.more-than", "more than {0}"}, asNumber(0, 0))
                     : field.least > -anything ? alone(bound(field, RangeEnd::Least, system, as))
                                               : sentence({"typed.a-number", "a number"});
    if (field.most < anything)
        range = sentence(above ? Wording{"typed.up-to", "{0}, up to {1}"}
                               : Wording{"typed.to", "{0} to {1}"},
                         std::move(range), bound(field, RangeEnd::Most, system, as));
    else if (field.least > barely || field.least == 0)
        range = sentence({"typed.or-more", "{0} or more"}, std::move(range));
    return sentence(field.shape == Shape::Whole
                        ? Wording{"cure.type-whole", "Type {0}, a whole number"}
                        : Wording{"cure.type-range", "Type {0}"},
                    std::move(range));
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
    if (field.shape == Shape::Text && field.name.ends_with("On") && !text.empty() &&
        !calendarDay(text))
        return refuse(alone(asTerm(called)),
                      sentence({"days.no-date", "“{0}” is no date"}, asText(std::string(text))),
                      {"days.write-date", "Write year-month-day: 2026-11-26"});
    if (field.shape == Shape::Text)
        return text.empty() && field.leftOut ? Json() : Json(std::string(text));
    if (field.shape == Shape::Nested) {
        auto list = readList(text);
        return list && list->empty() && field.leftOut ? Json() : list;
    }
    if (text.empty()) {
        if (field.mayLack)
            return Json();
        return refuse(alone(asTerm(called)), {"typed.nothing-typed", "nothing is typed"},
                      {"cure.type-figure", "Type a figure"});
    }
    auto number = readNumber(field, text, system, called);
    if (!number)
        return refuse(number.error());
    const double value = *number / as.scale;
    const bool whole = field.shape == Shape::Whole;
    if (value < field.least || value > field.most || (whole && value != std::floor(value)))
        return refuse(alone(asTerm(called)),
                      sentence({"typed.cannot", "“{0}” cannot be"}, asText(std::string(text))),
                      mayBeTyped(field, system, as));
    return whole ? Json(static_cast<int>(value)) : Json(value);
}

Quantity fieldFigure(std::string_view field, double value) {
    constexpr int mostPlaces = 6;
    switch (unitOf(field)) {
    case Unit::Metres:
        return asMetres(value, 2);
    case Unit::Millimetres:
        return asMillimetres(value, 1);
    case Unit::Celsius:
        return asCelsius(value);
    case Unit::None:
        break;
    }
    if (field.ends_with("Db"))
        return asDecibel(value, 2);
    if (field.ends_with("Mhz"))
        return asMegahertz(value);
    if (field.ends_with("Share"))
        return asShare(value, 1);
    if (field.ends_with("Ohm"))
        return asOhm(value, 1);
    if (field.ends_with('N'))
        return asNewton(value);
    if (field.ends_with('W'))
        return asWatt(value);
    if (field.ends_with('V'))
        return asVolt(value, 2);
    return asNumber(value, shortPlaces(value, mostPlaces));
}

std::string fieldWords(std::string_view field) {
    if (const auto dot = field.rfind('.'); dot != std::string_view::npos)
        field.remove_prefix(dot + 1);
    std::vector<std::string> words(1);
    for (const char c : field) {
        if (std::isupper(static_cast<unsigned char>(c)) != 0 && !words.back().empty())
            words.emplace_back();
        words.back() += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    constexpr std::array<std::string_view, 14> units{
        "m", "mm", "c", "v", "ohm", "n", "w", "db", "mhz", "ns", "share", "kbit", "per", "id"};
    while (words.size() > 1 && std::find(units.begin(), units.end(), words.back()) != units.end())
        words.pop_back();
    std::string out;
    for (const auto& word : words)
        out += (out.empty() ? "" : " ") + word;
    return out;
}

Edit setField(const Job& job, Kind kind, const std::vector<std::string>& ids,
              const std::string& field, const Json& value) {
    Edit out;
    const Field* described = tableOf(kind).field(field);
    Sentence only;
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
    out.title = fieldWords(field) + (out.changes.size() > 1
                                         ? " on " + std::to_string(out.changes.size()) + " rows"
                                         : " of " + render(only, {}));
    return out;
}

} // namespace burin
