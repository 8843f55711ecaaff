#include "core/describe/json_reader.h"
#include "core/base/text.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <sstream>

namespace burin {
namespace {

std::string shown(double value) {
    std::ostringstream out;
    out << value;
    return out.str();
}

/// Looks over a text before a tree is made of it: a hostile one may nest deep enough to exhaust the
/// stack, or put so many keys into one object that finding one takes for ever; and of a key given
/// twice one value would be lost without a word.
class Look {

public:
    Sentence fault;

    bool null() { return value(); }
    bool boolean(bool) { return value(); }
    bool number_integer(Json::number_integer_t) { return value(); }
    bool number_unsigned(Json::number_unsigned_t) { return value(); }
    bool number_float(Json::number_float_t, const Json::string_t&) { return value(); }
    bool string(Json::string_t&) { return value(); }
    bool binary(Json::binary_t&) { return value(); }
    bool start_object(std::size_t) { return enter(); }
    bool start_array(std::size_t) { return enter(); }
    bool end_array() {
        --depth_;
        return true;
    }
    bool key(Json::string_t& name) {
        auto& keys = keys_[depth_];
        keys.push_back(name);
        return keys.size() <= mostKeys ||
               no(sentence({"json.over-keys", "an object with over {0} keys"}, asCount(mostKeys)));
    }
    bool end_object() {
        auto& keys = keys_[depth_];
        --depth_;
        std::sort(keys.begin(), keys.end());
        const auto twice = std::adjacent_find(keys.begin(), keys.end());
        return twice == keys.end() ||
               no(sentence({"json.key-twice", "the key “{0}” twice in an object"},
                           beginningOf(*twice, 40)));
    }
    bool parse_error(std::size_t, const std::string&, const Json::exception&) { return false; }

private:
    // Ours: under 12 levels, under 60 keys, 4 million values in 50,000 runs.
    static constexpr std::size_t deepest = 64, mostKeys = 1000, mostValues = 20'000'000;

    bool value() {
        return ++values_ <= mostValues ||
               no(sentence({"json.over-values", "over {0} values"}, asCount(mostValues)));
    }
    bool no(Sentence what) {
        fault = std::move(what);
        return false;
    }
    bool enter() {
        if (!value())
            return false;
        if (++depth_ > deepest)
            return no(sentence({"json.nested", "nested deeper than {0} levels"}, asCount(deepest)));
        keys_[depth_].clear();
        return true;
    }
    std::size_t depth_ = 0, values_ = 0;
    std::array<std::vector<std::string>, deepest + 1> keys_;
};

} // namespace

Json objectFor(std::size_t keys) {
    Json out = Json::object();
    out.get_ref<Json::object_t&>().reserve(keys);
    return out;
}

Outcome<nlohmann::ordered_json> parseJson(std::string_view text, const std::string& where) {
    try {
        Look look;
        if (!Json::sax_parse(text.begin(), text.end(), &look) && !look.fault.empty())
            return refuse(where, look.fault,
                          {"cure.no-file-burin", "No file of Burin's has that; take another"});
        return Json::parse(text.begin(), text.end());
    } catch (const Json::parse_error& error) {
        const std::size_t byte = std::min(error.byte, text.size());
        const auto before = text.substr(0, byte == 0 ? 0 : byte - 1);
        const auto line = 1 + std::count(before.begin(), before.end(), '\n');
        const auto lastBreak = before.rfind('\n');
        const auto column =
            lastBreak == std::string_view::npos ? before.size() + 1 : before.size() - lastBreak;
        return refuse(Fault{named(where),
                            static_cast<int>(line),
                            static_cast<int>(column),
                            {"json.not-json", "this is not JSON from here on"},
                            {"cure.mend-syntax-place", "Mend the syntax at this place"}});
    } catch (const Json::exception& error) {
        return refuse(where,
                      sentence({"json.json-could-not", "JSON could not be read: {0}"},
                               std::string(error.what())),
                      {"cure.mend-value", "Mend the value"});
    }
}

JsonObject::JsonObject(const nlohmann::ordered_json& json, std::string file, std::string path)
    : json_(&json), file_(std::move(file)), path_(std::move(path)) {
    if (!json.is_object())
        throw FaultThrown{{named(file_),
                           0,
                           0,
                           sentence({"json.no-object", "{0} is no object"},
                                    path_.empty() ? asTerm("the file") : asText(path_)),
                           {"cure.put-named-values", "Put named values in curly brackets here"}}};
}

void JsonObject::fail(std::string_view key, Sentence what, Sentence cure) const {
    const std::string place = path_.empty() ? std::string(key) : path_ + "." + std::string(key);
    throw FaultThrown{{named(file_), 0, 0,
                       sentence({"where.said", "{0} {1}"}, place, std::move(what)),
                       std::move(cure)}};
}

const nlohmann::ordered_json* JsonObject::find(std::string_view key) {
    asked_.emplace_back(key);
    const auto it = json_->find(std::string(key));
    return it == json_->end() || it->is_null() ? nullptr : &*it;
}

const nlohmann::ordered_json& JsonObject::need(std::string_view key) {
    const auto* value = find(key);
    if (value == nullptr)
        fail(key, {"json.missing", "is missing"}, {"cure.add", "Add it"});
    return *value;
}

double JsonObject::checked(std::string_view key, const nlohmann::ordered_json& value, double least,
                           double most) const {
    if (!value.is_number())
        fail(key, {"json.no-number", "is no number"},
             {"cure.write-plain-number",
              "Write a plain number; its unit is the end of the key's name"});
    const double number = value.get<double>();
    if (!std::isfinite(number) || number < least || number > most)
        fail(key,
             sentence({"json.outside", "is {0}, outside {1} to {2}"}, shown(number), shown(least),
                      shown(most)),
             {"cure.check-unit-key", "Check the unit the key's name ends in, then the value"});
    return number;
}

double JsonObject::number(std::string_view key, double least, double most) {
    return checked(key, need(key), least, most);
}
double JsonObject::numberOr(std::string_view key, double least, double most, double otherwise) {
    return optionalNumber(key, least, most).value_or(otherwise);
}
std::optional<double> JsonObject::optionalNumber(std::string_view key, double least, double most) {
    const auto* value = find(key);
    if (value == nullptr)
        return std::nullopt;
    return checked(key, *value, least, most);
}
int JsonObject::integer(std::string_view key, int least, int most) {
    const double value = number(key, least, most);
    if (value != std::floor(value))
        fail(key, {"json.no-whole-number", "is no whole number"},
             {"cure.write-whole-number", "Write a whole number"});
    return static_cast<int>(value);
}
std::optional<int> JsonObject::optionalInteger(std::string_view key, int least, int most) {
    const auto* value = find(key);
    if (value == nullptr)
        return std::nullopt;
    return integer(key, least, most);
}
std::string JsonObject::string(std::string_view key) {
    const auto& value = need(key);
    if (!value.is_string())
        fail(key, {"json.no-text", "is no text"}, {"cure.write-quotes", "Write it in quotes"});
    return value.get<std::string>();
}
std::string JsonObject::stringOr(std::string_view key, std::string otherwise) {
    const auto* value = find(key);
    return value == nullptr ? std::move(otherwise) : string(key);
}
int JsonObject::wordOf(std::string_view key, const std::vector<std::string_view>& words) {
    const std::string text = string(key);
    std::string known;
    for (std::size_t i = 0; i < words.size(); ++i) {
        if (words[i] == text)
            return static_cast<int>(i);
        known += (known.empty() ? "" : ", ") + std::string(words[i]);
    }
    fail(key, sentence({"json.word-unknown", "is “{0}”, which is not known"}, text),
         sentence({"cure.one-of", "One of {0}"}, known));
}

bool JsonObject::booleanOr(std::string_view key, bool otherwise) {
    const auto* value = find(key);
    if (value == nullptr)
        return otherwise;
    if (!value->is_boolean())
        fail(key, {"json.neither-true-nor", "is neither true nor false"},
             {"cure.write-true-false", "Write true or false"});
    return value->get<bool>();
}
const nlohmann::ordered_json& JsonObject::array(std::string_view key) {
    const auto& value = need(key);
    if (!value.is_array())
        fail(key, {"json.no-list", "is no list"},
             {"cure.write-entries", "Write [ ] with the entries"});
    return value;
}
JsonObject JsonObject::object(std::string_view key) {
    const auto& value = need(key);
    return {value, file_, path_.empty() ? std::string(key) : path_ + "." + std::string(key)};
}
JsonObject JsonObject::item(std::string_view key, const nlohmann::ordered_json& json,
                            std::size_t index) const {
    std::string name = "[" + std::to_string(index + 1) + "]";
    if (json.is_object())
        if (const auto it = json.find("id"); it != json.end() && it->is_string())
            name = "[" + it->get<std::string>() + "]";
    return {json, file_, (path_.empty() ? "" : path_ + ".") + std::string(key) + name};
}

void JsonObject::close() const {
    for (const auto& [key, value] : json_->items()) {
        if (std::find(asked_.begin(), asked_.end(), key) != asked_.end())
            continue;
        Sentence cure = sentence({"cure.remove-it", "Remove it, or mend its name"});
        // A key of the same stem with another unit is the usual slip.
        for (const auto& known : asked_)
            if (known.size() > 3 && key.starts_with(known.substr(0, known.size() / 2 + 1)))
                cure = sentence(
                    {"cure.key-of-unit", "“{0}” is the key, in the unit its name ends in"}, known);
        fail(key, {"json.not-known", "is not known here"}, cure);
    }
}

} // namespace burin
