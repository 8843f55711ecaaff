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
    bool asked = true;        ///< two copies that differ in it are a question for somebody
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
    FieldOf notAsked() && {
        field.asked = false;
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

template <typename T> const T& fresh() {
    static const T made{};
    return made;
}
/// Where a member lies in its thing, and the one of a thing just made: all that a field needs, so
/// that what it does is compiled once for its type, not once for each thing that has one.
struct Spot {
    std::size_t offset = 0;
    const void* usual = nullptr;
    [[nodiscard]] const void* in(const void* thing) const {
        return static_cast<const char*>(thing) + offset;
    }
    [[nodiscard]] void* in(void* thing) const { return static_cast<char*>(thing) + offset; }
};
template <typename T, typename M> Spot spotOf(M T::*member) {
    const auto* made = reinterpret_cast<const char*>(&fresh<T>());
    const auto* part = reinterpret_cast<const char*>(&(fresh<T>().*member));
    return {static_cast<std::size_t>(part - made), part};
}

/// Wraps how a value that is there is written and read with what holds for every field: nothing
/// where it may hold nothing, its default where it is left out.
template <typename M, typename Write, typename Read>
Field make(std::string name, Shape shape, Spot spot, Write write, Read read) {
    Field f;
    f.name = std::move(name);
    f.shape = shape;
    f.optional = f.mayLack = Plain<M>::optional;
    f.get = [spot, write](const void* thing) -> Json {
        const M& value = as<M>(spot.in(thing));
        if constexpr (Plain<M>::optional)
            return value ? write(*value) : Json();
        else
            return write(value);
    };
    f.read = [spot, read](void* thing, JsonObject& in) { as<M>(spot.in(thing)) = read(in); };
    f.reset = [spot](void* thing) { as<M>(spot.in(thing)) = as<M>(spot.usual); };
    return f;
}
/// Refuses a text over its limit, in characters.
void checkLength(const JsonObject& in, const std::string& key, const std::string& text,
                 std::size_t longest);

Field textAt(const std::string& name, Spot spot);
template <typename M> Field numberAt(const std::string& name, Spot spot, double least, double most);
template <typename M> Field wholeAt(const std::string& name, Spot spot, int least, int most);
template <typename M> Field flagAt(const std::string& name, Spot spot);
/// Of an enumeration as large as an int.
Field wordAt(const std::string& name, Spot spot, std::vector<std::string_view> words);
Field textsAt(const std::string& name, Spot spot, std::size_t most);
/// Adds a field with what is asked of all fields of a thing of which `usual` was just made.
void add(std::vector<Field>& fields, Field field, const void* usual);
/// Of a part of a thing, as fields of the thing.
std::vector<Field> within(std::vector<Field> fields, Spot spot);

} // namespace detail

template <typename T>
FieldOf<T, std::string> textField(const std::string& name, std::string T::*member) {
    return {detail::textAt(name, detail::spotOf(member))};
}
/// A number, or one that may be none.
template <typename T, typename M>
FieldOf<T, M> numberField(const std::string& name, M T::*member, double least, double most) {
    return {detail::numberAt<M>(name, detail::spotOf(member), least, most)};
}
template <typename T, typename M>
FieldOf<T, M> wholeField(const std::string& name, M T::*member, int least, int most) {
    return {detail::wholeAt<M>(name, detail::spotOf(member), least, most)};
}
template <typename T, typename M> FieldOf<T, M> flagField(const std::string& name, M T::*member) {
    return {detail::flagAt<M>(name, detail::spotOf(member))};
}
template <typename T, typename E, std::size_t N>
FieldOf<T, E> wordField(const std::string& name, E T::*member, const Words<E, N>& words) {
    static_assert(sizeof(E) == sizeof(int));
    return {detail::wordAt(name, detail::spotOf(member), {words.words.begin(), words.words.end()})};
}
template <typename T, typename E, std::size_t N>
FieldOf<T, std::optional<E>> wordField(const std::string& name, std::optional<E> T::*member,
                                       const Words<E, N>& words) {
    FieldOf<T, std::optional<E>> out;
    out.field = detail::make<std::optional<E>>(
        name, Shape::Word, detail::spotOf(member), [&words](E value) { return Json(words[value]); },
        [name, &words](JsonObject& in) -> std::optional<E> { return in.word(name, words); });
    out.field.words.assign(words.words.begin(), words.words.end());
    return out;
}
/// A member written and read by functions of its own.
template <typename T, typename M, typename Write, typename Read>
FieldOf<T, M> nestedField(const std::string& name, M T::*member, Write write, Read read) {
    return {detail::make<M>(name, Shape::Nested, detail::spotOf(member), write,
                            [name, read](JsonObject& in) -> M { return read(in, name); })};
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
    std::vector<Field> out;
    out.reserve(sizeof...(described));
    const auto take = [&](auto one) {
        if constexpr (requires { one.field; })
            detail::add(out, std::move(one.field), &detail::fresh<T>());
        else
            for (auto& field : one.fields)
                out.push_back(std::move(field));
    };
    (take(std::move(described)), ...);
    return out;
}

/// A member with `fields` of its own, made by `fieldsOf<M>`, that stand among the thing's.
template <typename T, typename M>
FieldsOf<T, M> partField(M T::*member, const std::vector<Field>& fields) {
    return {detail::within(fields, detail::spotOf(member))};
}
/// Texts, in turn.
template <typename T>
FieldOf<T, std::vector<std::string>>
textsField(const std::string& name, std::vector<std::string> T::*member, std::size_t most) {
    return {detail::textsAt(name, detail::spotOf(member), most)};
}

/// Every field, whatever version it came with.
inline constexpr int anyVersion = 1000000;
/// Rows with a table of their own: among a thing's fields, or left out.
enum class Owned { With, Without };
/// The fields of `thing` as an object, as that version of the format has them.
Json objectOf(const std::vector<Field>& fields, const void* thing, Owned owned = Owned::With,
              int version = anyVersion);
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
FieldOf<T, M> objectField(const std::string& name, M T::*member, std::vector<Field> fields) {
    using Plain = typename detail::Plain<M>::type;
    FieldOf<T, M> out;
    out.field = detail::make<M>(
        name, Shape::Nested, detail::spotOf(member),
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
FieldOf<T, std::vector<Item>> objectsField(const std::string& name, std::vector<Item> T::*member,
                                           std::vector<Field> fields) {
    FieldOf<T, std::vector<Item>> out;
    out.field = detail::make<std::vector<Item>>(
        name, Shape::Nested, detail::spotOf(member),
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
