#pragma once
#include "core/describe/json_reader.h"
#include "core/describe/words.h"
#include <functional>
#include <string>
#include <utility>
#include <vector>

namespace burin {

/// What a field holds, and so how it stands in JSON and in a column.
enum class Shape {
    Text,
    Number,   ///< a double; its unit is the end of its name
    Whole,    ///< a whole number
    Flag,     ///< true or false
    Word,     ///< one of a few
    Nested,   ///< an object or list, changed as a whole or, where `byKey`, key by key
    Children, ///< rows with ids and a table of their own
};
/// What becomes of a thing when what it refers to goes.
enum class Gone {
    Clear,  ///< it refers to nothing then
    Remove, ///< it goes too
    Refuse, ///< what it refers to cannot go
};

/// One field of a stored type: everything that reading, writing, comparing, changing and checking
/// it needs. `thing` is an object of the described type.
struct Field { // NOLINT(bugprone-exception-escape): the JSON library's own move
    std::string name;
    Shape shape = Shape::Text;
    int since = 1;              ///< format version
    bool mayLack = false;       ///< need not be there: its default holds then
    bool leftOut = false;       ///< not written while it is its default
    bool flat = false;          ///< the keys of its object stand among the thing's own
    bool byKey = false;         ///< "accuracy.lossDb" is a field that can be changed by itself
    bool optional = false;      ///< may hold nothing
    double least = 0, most = 0; ///< numbers
    std::size_t longest = 0;    ///< texts, in characters
    std::vector<std::string_view> words;
    std::string refers;       ///< kind of the thing whose id it holds; empty: of none
    std::string owns;         ///< of children: their kind
    std::vector<Field> inner; ///< of an object, or of the objects of a list
    bool list = false;        ///< its objects stand in a list
    Gone gone = Gone::Clear;
    /// Its value; null where it is left out.
    std::function<Json(const void* thing)> get;
    /// The same as an older version of the format has it; only of children.
    std::function<Json(const void* thing, int version)> asOf;
    /// Takes its key from an object. Throws FaultThrown: missing, of another type, out of range.
    std::function<void(void* thing, JsonObject& in)> read;
    /// Makes it what it is in a thing that was just made.
    std::function<void(void* thing)> reset;
    /// The text that it holds, of texts.
    std::function<const std::string&(const void* thing)> text;

    /// The column it stands in: "lengthM" is length_m, "order" shown_order, nested ones …_json.
    [[nodiscard]] std::string column() const;
};

/// Longest texts a job takes, in characters. A name longer than this is a mistake or an attack, and
/// would be drawn, searched and sorted at every edit.
inline constexpr std::size_t longestName = 200;
inline constexpr std::size_t longestNote = 4000;
/// Columns given by hand, figures of a user's cable.
inline constexpr std::size_t longestTable = 100000;

/// A field of T that is its member M: the types by which `fieldsOf` sees that none is forgotten.
template <typename T, typename M> struct FieldOf {
    using Member = M;
    Field field;

    FieldOf since(int version) && {
        field.since = version;
        field.mayLack = true;
        return std::move(*this);
    }
    FieldOf mayLack() && {
        field.mayLack = true;
        return std::move(*this);
    }
    FieldOf leftOut() && {
        field.mayLack = field.leftOut = true;
        return std::move(*this);
    }
    FieldOf asList() && {
        field.list = true;
        return std::move(*this);
    }
    FieldOf byKey() && {
        field.byKey = true;
        return std::move(*this);
    }
    FieldOf longest(std::size_t characters) && {
        field.longest = characters;
        return std::move(*this);
    }
    FieldOf refers(std::string kind, Gone gone) && {
        field.refers = std::move(kind);
        field.gone = gone;
        return std::move(*this);
    }
};

/// The fields of one member M of T that stand among T's own.
template <typename T, typename M> struct FieldsOf {
    using Member = M;
    std::vector<Field> fields;
};

namespace detail {

template <typename T> const T& as(const void* thing) {
    return *static_cast<const T*>(thing);
}
template <typename T> T& as(void* thing) {
    return *static_cast<T*>(thing);
}
template <typename M> struct Plain {
    using type = M;
    static constexpr bool optional = false;
};
template <typename M> struct Plain<std::optional<M>> {
    using type = M;
    static constexpr bool optional = true;
};

/// Wraps how a value that is there is written and read with what holds for every field: nothing
/// where it may hold nothing, its default where it is left out.
template <typename T, typename M, typename Write, typename Read>
FieldOf<T, M> make(std::string name, Shape shape, M T::*member, Write write, Read read) {
    FieldOf<T, M> out;
    Field& f = out.field;
    f.name = std::move(name);
    f.shape = shape;
    f.optional = f.mayLack = Plain<M>::optional;
    f.get = [member, write](const void* thing) -> Json {
        const M& value = as<T>(thing).*member;
        if constexpr (Plain<M>::optional)
            return value ? write(*value) : Json();
        else
            return write(value);
    };
    f.read = [member, read](void* thing, JsonObject& in) { as<T>(thing).*member = read(in); };
    f.reset = [member](void* thing) {
        static const T fresh{};
        as<T>(thing).*member = fresh.*member;
    };
    return out;
}
/// Refuses a text over its limit, in characters.
void checkLength(const JsonObject& in, const std::string& key, const std::string& text,
                 std::size_t longest);

} // namespace detail

template <typename T> FieldOf<T, std::string> textField(std::string name, std::string T::*member) {
    auto out = detail::make(
        name, Shape::Text, member, [](const std::string& text) { return Json(text); },
        [name](JsonObject& in) { return in.string(name); });
    out.field.longest = longestName;
    out.field.text = [member](const void* thing) -> const std::string& {
        return detail::as<T>(thing).*member;
    };
    return out;
}
/// A number, or one that may be none.
template <typename T, typename M>
FieldOf<T, M> numberField(std::string name, M T::*member, double least, double most) {
    static_assert(std::is_same_v<typename detail::Plain<M>::type, double>);
    auto out = detail::make(
        name, Shape::Number, member, [](double value) { return Json(value); },
        [name, least, most](JsonObject& in) -> M { return in.number(name, least, most); });
    out.field.least = least;
    out.field.most = most;
    return out;
}
template <typename T, typename M>
FieldOf<T, M> wholeField(std::string name, M T::*member, int least, int most) {
    static_assert(std::is_same_v<typename detail::Plain<M>::type, int>);
    auto out = detail::make(
        name, Shape::Whole, member, [](int value) { return Json(value); },
        [name, least, most](JsonObject& in) -> M { return in.integer(name, least, most); });
    out.field.least = least;
    out.field.most = most;
    return out;
}
template <typename T, typename M> FieldOf<T, M> flagField(std::string name, M T::*member) {
    static_assert(std::is_same_v<typename detail::Plain<M>::type, bool>);
    return detail::make(
        name, Shape::Flag, member, [](bool value) { return Json(value); },
        [name](JsonObject& in) -> M {
            in.need(name);
            return in.booleanOr(name, false);
        });
}
template <typename T, typename M, typename E, std::size_t N>
FieldOf<T, M> wordField(std::string name, M T::*member, const Words<E, N>& words) {
    static_assert(std::is_same_v<typename detail::Plain<M>::type, E>);
    auto out = detail::make(
        name, Shape::Word, member, [&words](E value) { return Json(words[value]); },
        [name, &words](JsonObject& in) -> M { return in.word(name, words); });
    out.field.words.assign(words.words.begin(), words.words.end());
    return out;
}
/// A member written and read by functions of its own.
template <typename T, typename M, typename Write, typename Read>
FieldOf<T, M> nestedField(std::string name, M T::*member, Write write, Read read) {
    return detail::make(name, Shape::Nested, member, write,
                        [name, read](JsonObject& in) -> M { return read(in, name); });
}

/// All fields of T, in the order of its members: each a FieldOf or a FieldsOf.
template <typename T, typename... F> std::vector<Field> fieldsOf(F... described) {
    static_assert(
        requires { T{std::declval<typename F::Member>()...}; },
        "the fields are not the members of the struct in their order");
    static_assert(
        !requires {
            T{std::declval<typename F::Member>()..., {}};
        },
        "a member has no field");
    static const T defaults{};
    std::vector<Field> out;
    const auto add = [&](Field field) {
        if (field.mayLack) {
            field.read = [read = field.read, get = field.get, name = field.name](void* thing,
                                                                                 JsonObject& in) {
                if (in.find(name) != nullptr)
                    read(thing, in);
            };
        }
        if (field.leftOut)
            field.get = [get = field.get, usual = field.get(&defaults)](const void* thing) {
                Json value = get(thing);
                return value == usual ? Json() : value;
            };
        out.push_back(std::move(field));
    };
    const auto take = [&](auto one) {
        if constexpr (requires { one.field; })
            add(std::move(one.field));
        else
            for (auto& field : one.fields)
                out.push_back(std::move(field));
    };
    (take(std::move(described)), ...);
    return out;
}

/// A member with `fields` of its own, made by `fieldsOf<M>`, that stand among the thing's.
template <typename T, typename M>
FieldsOf<T, M> partField(M T::*member, std::vector<Field> fields) {
    for (Field& f : fields) {
        f.get = [member, get = std::move(f.get)](const void* thing) {
            return get(&(detail::as<T>(thing).*member));
        };
        f.read = [member, read = std::move(f.read)](void* thing, JsonObject& in) {
            read(&(detail::as<T>(thing).*member), in);
        };
        f.reset = [member, reset = std::move(f.reset)](void* thing) {
            reset(&(detail::as<T>(thing).*member));
        };
        if (f.text)
            f.text = [member, text = std::move(f.text)](const void* thing) -> const std::string& {
                return text(&(detail::as<T>(thing).*member));
            };
    }
    return {std::move(fields)};
}
/// Texts, in turn.
template <typename T>
FieldOf<T, std::vector<std::string>>
textsField(std::string name, std::vector<std::string> T::*member, std::size_t most) {
    return nestedField(
               std::move(name), member,
               [](const std::vector<std::string>& texts) { return Json(texts); },
               [most](JsonObject& in, const std::string& key) {
                   std::vector<std::string> out;
                   for (const auto& text : in.array(key)) {
                       if (!text.is_string() || out.size() >= most)
                           in.fail(key,
                                   "holds something other than " + std::to_string(most) + " texts",
                                   "Give a list of texts, no longer than that");
                       out.push_back(text.template get<std::string>());
                       detail::checkLength(in, key, out.back(), longestName);
                   }
                   return out;
               })
        .asList();
}

/// Rows with a table of their own: among a thing's fields, or left out.
enum class Owned { With, Without };
/// The fields of `thing` as an object, as that version of the format has them.
Json objectOf(const std::vector<Field>& fields, const void* thing, Owned owned = Owned::With,
              int version = 1000000);
/// Reads an object into a thing that is as made; a key nobody knows is refused.
void readObject(const std::vector<Field>& fields, void* thing, JsonObject& in,
                Owned owned = Owned::With);

/// One value of a thing by its field's name, "accuracy.lossDb" of one by key; null: left out.
Json valueOf(const Field& field, const void* thing, std::string_view name);
/// Gives it that value; null makes it what it is in a thing just made. Throws FaultThrown with
/// `where`: of another type, out of range, too long.
void setValue(const Field& field, void* thing, std::string_view name, const Json& value,
              const std::string& where);

/// A member that is an object, with fields of its own.
template <typename T, typename M>
FieldOf<T, M> objectField(std::string name, M T::*member, std::vector<Field> fields) {
    using Plain = typename detail::Plain<M>::type;
    auto out = detail::make(
        name, Shape::Nested, member,
        [fields](const Plain& value) { return objectOf(fields, &value); },
        [name, fields](JsonObject& in) -> M {
            Plain value;
            JsonObject object = in.object(name);
            readObject(fields, &value, object);
            return value;
        });
    out.field.inner = std::move(fields);
    return out;
}
/// A member that is a list of objects.
template <typename T, typename Item>
FieldOf<T, std::vector<Item>> objectsField(std::string name, std::vector<Item> T::*member,
                                           std::vector<Field> fields) {
    auto out = detail::make(
        name, Shape::Nested, member,
        [fields](const std::vector<Item>& items) {
            Json list = Json::array();
            for (const auto& item : items)
                list.push_back(objectOf(fields, &item));
            return list;
        },
        [name, fields](JsonObject& in) {
            return in.list(name, [&](JsonObject object) {
                Item item;
                readObject(fields, &item, object);
                return item;
            });
        });
    out.field.inner = std::move(fields);
    out.field.list = true;
    return out;
}

} // namespace burin
