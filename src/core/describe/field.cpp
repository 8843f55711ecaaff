#include "core/describe/field.h"
#include <algorithm>
#include <cctype>

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
                "is " + std::to_string(have) + " characters long, more than " +
                    std::to_string(longest),
                "Shorten it");
}

Json objectOf(const std::vector<Field>& fields, const void* thing, Owned owned, int version) {
    Json out = Json::object();
    // Key by key: the library's own way looks for each key first, and copies what stands already
    // as it grows.
    auto& object = out.get_ref<Json::object_t&>();
    object.reserve(fields.size());
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
