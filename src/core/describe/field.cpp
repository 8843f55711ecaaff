#include "core/describe/field.h"
#include <algorithm>
#include <cctype>
#include <cstring>

namespace burin {

std::string Field::column() const {
    if (name == "order")
        return "shown_order"; // a word of SQL
    std::string out;
    for (const char c : name) {
        if (std::isupper(static_cast<unsigned char>(c)) != 0)
            out += '_';
        out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    return shape == Shape::Nested ? out + "_json" : out;
}

void detail::checkLength(const JsonObject& in, const std::string& key, const std::string& text,
                         std::size_t longest) {
    // Bytes are at least as many as characters: nearly always nothing has to be counted.
    if (text.size() <= longest)
        return;
    const auto have = static_cast<std::size_t>(std::count_if(text.begin(), text.end(), [](char c) {
        return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U;
    }));
    if (have > longest)
        in.fail(key,
                sentence({"json.characters-long-more", "is {0} characters long, more than {1}"},
                         asCount(have), asCount(longest)),
                {"cure.shorten", "Shorten it"});
}

namespace detail {

Field textAt(const std::string& name, Spot spot) {
    Field out = make<std::string>(
        name, Shape::Text, spot, [](const std::string& text) { return Json(text); },
        [name](JsonObject& in) { return in.string(name); });
    out.longest = longestName;
    out.text = [spot](const void* thing) -> const std::string& {
        return as<std::string>(spot.in(thing));
    };
    return out;
}

template <typename M>
Field numberAt(const std::string& name, Spot spot, double least, double most) {
    Field out = make<M>(
        name, Shape::Number, spot, [](double value) { return Json(value); },
        [name, least, most](JsonObject& in) -> M { return in.number(name, least, most); });
    out.least = least;
    out.most = most;
    return out;
}
template Field numberAt<double>(const std::string&, Spot, double, double);
template Field numberAt<std::optional<double>>(const std::string&, Spot, double, double);

template <typename M> Field wholeAt(const std::string& name, Spot spot, int least, int most) {
    Field out = make<M>(
        name, Shape::Whole, spot, [](int value) { return Json(value); },
        [name, least, most](JsonObject& in) -> M { return in.integer(name, least, most); });
    out.least = least;
    out.most = most;
    return out;
}
template Field wholeAt<int>(const std::string&, Spot, int, int);
template Field wholeAt<std::optional<int>>(const std::string&, Spot, int, int);

template <typename M> Field flagAt(const std::string& name, Spot spot) {
    return make<M>(
        name, Shape::Flag, spot, [](bool value) { return Json(value); },
        [name](JsonObject& in) -> M {
            in.need(name);
            return in.booleanOr(name, false);
        });
}
template Field flagAt<bool>(const std::string&, Spot);
template Field flagAt<std::optional<bool>>(const std::string&, Spot);

Field wordAt(const std::string& name, Spot spot, std::vector<std::string_view> words) {
    Field out;
    out.name = name;
    out.shape = Shape::Word;
    out.get = [spot, words](const void* thing) -> Json {
        int value = 0;
        std::memcpy(&value, spot.in(thing), sizeof value);
        return words.at(static_cast<std::size_t>(value));
    };
    out.read = [spot, name, words](void* thing, JsonObject& in) {
        const int value = in.wordOf(name, words);
        std::memcpy(spot.in(thing), &value, sizeof value);
    };
    out.reset = [spot](void* thing) { std::memcpy(spot.in(thing), spot.usual, sizeof(int)); };
    out.words = std::move(words);
    return out;
}

Field textsAt(const std::string& name, Spot spot, std::size_t most) {
    using Texts = std::vector<std::string>;
    Field out = make<Texts>(
        name, Shape::Nested, spot, [](const Texts& texts) { return Json(texts); },
        [name, most](JsonObject& in) {
            Texts texts;
            for (const auto& text : in.array(name)) {
                if (!text.is_string() || texts.size() >= most)
                    in.fail(name,
                            sentence({"json.holds-something-other",
                                      "holds something other than {0} texts"},
                                     asCount(most)),
                            {"cure.give-list-texts", "Give a list of texts, no longer than that"});
                texts.push_back(text.get<std::string>());
                checkLength(in, name, texts.back(), longestName);
            }
            return texts;
        });
    out.list = true;
    return out;
}

void add(std::vector<Field>& fields, Field field, const void* usual) {
    if (field.mayLack)
        field.read = [read = field.read, name = field.name](void* thing, JsonObject& in) {
            if (in.find(name) != nullptr)
                read(thing, in);
        };
    if (field.leftOut)
        field.get = [get = field.get, left = field.get(usual)](const void* thing) {
            Json value = get(thing);
            return value == left ? Json() : value;
        };
    fields.push_back(std::move(field));
}

std::vector<Field> within(std::vector<Field> fields, Spot spot) {
    for (Field& f : fields) {
        f.get = [spot, get = std::move(f.get)](const void* thing) { return get(spot.in(thing)); };
        f.read = [spot, read = std::move(f.read)](void* thing, JsonObject& in) {
            read(spot.in(thing), in);
        };
        f.reset = [spot, reset = std::move(f.reset)](void* thing) { reset(spot.in(thing)); };
        if (f.text)
            f.text = [spot, text = std::move(f.text)](const void* thing) -> const std::string& {
                return text(spot.in(thing));
            };
    }
    return fields;
}

} // namespace detail

Json objectOf(const std::vector<Field>& fields, const void* thing, Owned owned, int version) {
    Json out = objectFor(fields.size());
    // Key by key: the library's own way looks for each key first.
    auto& object = out.get_ref<Json::object_t&>();
    for (const auto& field : fields) {
        if (field.since > version || (owned == Owned::Without && field.shape == Shape::Children))
            continue;
        Json value = field.asOf ? field.asOf(thing, version) : field.get(thing);
        if (value.is_null())
            continue;
        if (field.flat)
            for (auto& [key, inner] : value.get_ref<Json::object_t&>())
                object.emplace_back(key, std::move(inner));
        else
            object.emplace_back(field.name, std::move(value));
    }
    return out;
}

namespace {

void readField(const Field& field, void* thing, JsonObject& in) {
    field.read(thing, in);
    if (field.shape == Shape::Text)
        detail::checkLength(in, field.name, field.text(thing), field.longest);
}

} // namespace

void readObject(const std::vector<Field>& fields, void* thing, JsonObject& in, Owned owned) {
    for (const auto& field : fields)
        if (owned == Owned::With || field.shape != Shape::Children)
            readField(field, thing, in);
    in.close();
}

Json valueOf(const Field& field, const void* thing, std::string_view name) {
    Json whole = field.get(thing);
    const auto dot = name.find('.');
    if (dot == std::string_view::npos)
        return whole;
    const auto it = whole.find(std::string(name.substr(dot + 1)));
    return it == whole.end() ? Json() : *it;
}

void setValue(const Field& field, void* thing, std::string_view name, const Json& value,
              const std::string& where) {
    Json whole = value;
    if (const auto dot = name.find('.'); dot != std::string_view::npos) {
        whole = field.get(thing);
        if (whole.is_null())
            whole = Json::object();
        const std::string key(name.substr(dot + 1));
        if (value.is_null())
            whole.erase(key);
        else
            whole[key] = value;
    }
    if (!whole.is_null() && !field.flat)
        whole = Json{{field.name, std::move(whole)}};
    JsonObject in(whole.is_null() ? whole = Json::object() : whole, where, "");
    field.reset(thing);
    readField(field, thing, in);
    in.close();
}

} // namespace burin
