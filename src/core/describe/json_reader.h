#pragma once
#include "core/base/fault.h"
#include "core/describe/words.h"
#include <exception>
#include <initializer_list>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// Keeps its keys in the order they were written.
using Json = nlohmann::ordered_json;

/// Thrown inside a reader and turned into an Outcome at its border. One that a reader forgot is an
/// exception like any other to the nets further out.
struct FaultThrown : std::exception {
    explicit FaultThrown(Fault thrown) : fault(std::move(thrown)) {}
    [[nodiscard]] const char* what() const noexcept override {
        return fault.what.wording.english.data();
    }
    Fault fault;
};

/// An empty object with room for so many keys. One without room copies all that stands in it,
/// however large, each time it grows.
Json objectFor(std::size_t keys);

/// Writes a value that is there; one that is not leaves no key.
template <typename T>
void putIf(nlohmann::ordered_json& out, const char* key, const std::optional<T>& value) {
    if (value)
        out[key] = *value;
}

/// Parses `text`; a syntax error is refused with line and column.
Outcome<nlohmann::ordered_json> parseJson(std::string_view text, const std::string& where);

/// A JSON object read strictly: each key asked for must be there with the right type and range,
/// and `close` refuses every key that nobody asked for. Faults name file and path of the key.
class JsonObject {
public:
    JsonObject(const nlohmann::ordered_json& json, std::string file, std::string path);

    [[noreturn]] void fail(std::string_view key, Sentence what, Sentence cure) const;

    const nlohmann::ordered_json* find(std::string_view key); ///< nullptr when absent or null
    const nlohmann::ordered_json& need(std::string_view key);
    double number(std::string_view key, double least, double most);
    double numberOr(std::string_view key, double least, double most, double otherwise);
    std::optional<double> optionalNumber(std::string_view key, double least, double most);
    int integer(std::string_view key, int least, int most);
    std::optional<int> optionalInteger(std::string_view key, int least, int most);
    std::string string(std::string_view key);
    std::string stringOr(std::string_view key, std::string otherwise);
    /// One of the words of an enumeration.
    template <typename E, std::size_t N> E word(std::string_view key, const Words<E, N>& words) {
        return static_cast<E>(wordOf(key, {words.words.begin(), words.words.end()}));
    }
    /// Which of those words it is.
    int wordOf(std::string_view key, const std::vector<std::string_view>& words);
    /// One of a few words, as `known` tells them.
    template <typename T>
    T keyword(std::string_view key, std::optional<T> (*known)(std::string_view)) {
        const std::string text = string(key);
        const auto value = known(text);
        if (!value)
            fail(key, sentence({"json.word-unknown", "is “{0}”, which is not known"}, text),
                 {"cure.name-docs-catalogue",
                  "Name one that docs/catalogue.md or docs/job-format.md lists"});
        return *value;
    }
    bool booleanOr(std::string_view key, bool otherwise);
    const nlohmann::ordered_json& array(std::string_view key);
    JsonObject object(std::string_view key);
    JsonObject item(std::string_view key, const nlohmann::ordered_json& json,
                    std::size_t index) const;
    /// What `read` makes of each object of a list, in turn.
    template <typename Read> auto list(std::string_view key, Read read) {
        std::vector<decltype(read(object(key)))> out;
        const auto& items = array(key);
        for (std::size_t i = 0; i < items.size(); ++i)
            out.push_back(read(item(key, items[i], i)));
        return out;
    }

    /// Refuses keys not asked for, naming a near one where there is one.
    void close() const;
    [[nodiscard]] const std::string& path() const { return path_; }
    [[nodiscard]] const std::string& file() const { return file_; }

private:
    double checked(std::string_view key, const nlohmann::ordered_json& value, double least,
                   double most) const;
    const nlohmann::ordered_json* json_;
    std::string file_, path_;
    std::vector<std::string> asked_;
};

} // namespace burin
