#pragma once
#include "core/base/text.h"
#include "core/describe/field.h"
#include "core/job/job.h"
#include <algorithm>
#include <tuple>

namespace burin {

/// The version of what is kept, in the job's file and in exports.
inline constexpr int formatVersion = 9;

/// Everything that is kept is a row of one of these kinds.
enum class Kind {
    Job, ///< the job's own figures: one row, of the id "job"
    Room,
    Run,
    Stretch,
    Cord,
    Connection,
    Measurement,
    Cable,
    Distribution,
    Part,
    Bus,
    Device,
    Floor,
    Place,
    Pathway,
    Mains,
    Surface,
    Photograph,
    Box,
    Pull,
    Tool,
    Termination,
    Card,
    Conflict
};
inline constexpr auto kindWords = wordsOf<Kind>(
    "job", "room", "run", "stretch", "cord", "connection", "measurement", "cable", "distribution",
    "part", "bus", "device", "floor", "place", "pathway", "mains", "surface", "photograph", "box",
    "pull", "tool", "termination", "card", "conflict");
inline constexpr std::size_t kindCount = kindWords.words.size();

/// How a kind is kept: the one description that JSON, SQL, differences, edits, checks and the
/// tables of docs/job-format.md are made from.
struct Table {
    Kind kind = Kind::Job;
    std::string list;          ///< its key in an export ("runs"), or within its owner ("stretches")
    std::string sql;           ///< name of its table
    int since = 1;             ///< format version
    std::optional<Kind> owner; ///< whose row it is a part of, and goes with
    std::string ownerKey;      ///< field that names the owner: "runId"
    std::vector<Field> fields;

    [[nodiscard]] std::string_view name() const { return kindWords[kind]; }
    /// By its name; of "accuracy.lossDb" the field "accuracy". nullptr: there is none.
    [[nodiscard]] const Field* field(std::string_view name) const;
};
const Table& tableOf(Kind kind);
/// What a field holds in the JSON of a row; null: it is left out.
Json valueIn(const Table& table, const Field& field, const Json& row);

/// A list of the job, or of a row of it, and the kind of what stands in it.
template <Kind k, auto member> struct Listed;
template <Kind k, typename O, typename T, std::vector<T> O::*member> struct Listed<k, member> {
    using Owner = O;
    using Type = T;
    static constexpr Kind kind = k;
    static constexpr std::vector<T> O::*list = member;
};
/// A new kind is named here, and gets its table.
using JobLists =
    std::tuple<Listed<Kind::Room, &Job::rooms>, Listed<Kind::Run, &Job::runs>,
               Listed<Kind::Measurement, &Job::measurements>, Listed<Kind::Cable, &Job::cables>,
               Listed<Kind::Distribution, &Job::distributions>, Listed<Kind::Bus, &Job::buses>,
               Listed<Kind::Floor, &Job::floors>, Listed<Kind::Place, &Job::places>,
               Listed<Kind::Pathway, &Job::pathways>, Listed<Kind::Mains, &Job::mains>,
               Listed<Kind::Surface, &Job::surfaces>, Listed<Kind::Photograph, &Job::photographs>,
               Listed<Kind::Box, &Job::boxes>, Listed<Kind::Pull, &Job::pulls>,
               Listed<Kind::Tool, &Job::tools>, Listed<Kind::Termination, &Job::terminations>,
               Listed<Kind::Card, &Job::cards>, Listed<Kind::Conflict, &Job::conflicts>>;
using ChildLists =
    std::tuple<Listed<Kind::Stretch, &Run::stretches>, Listed<Kind::Cord, &Run::cords>,
               Listed<Kind::Connection, &Run::connections>,
               Listed<Kind::Part, &Distribution::parts>, Listed<Kind::Device, &BusChain::devices>>;
static_assert(1 + std::tuple_size_v<JobLists> + std::tuple_size_v<ChildLists> == kindCount);

namespace detail {
template <typename See, typename... L> void everyListed(See& see, const std::tuple<L...>*) {
    (see(L{}), ...);
}
template <typename T, typename... L>
constexpr Kind kindIn(const std::tuple<L...>*, Kind otherwise) {
    Kind out = otherwise;
    ((std::is_same_v<typename L::Type, T> ? (out = L::kind, 0) : 0), ...);
    return out;
}
} // namespace detail

/// Calls `see` with a Listed of each of the lists.
template <typename Lists, typename See> void everyList(See see) {
    detail::everyListed(see, static_cast<const Lists*>(nullptr));
}
/// Calls `see` with a Listed of each list that rows of T own.
template <typename T, typename See> void everyChildList(See see) {
    everyList<ChildLists>([&]<typename L>(L listed) {
        if constexpr (std::is_same_v<typename L::Owner, T>)
            see(listed);
    });
}
/// The kind of a type.
template <typename T> constexpr Kind kindOf() {
    return detail::kindIn<T>(static_cast<const JobLists*>(nullptr),
                             detail::kindIn<T>(static_cast<const ChildLists*>(nullptr), Kind::Job));
}

/// A row of a job by its kind and id.
using RowKey = std::pair<Kind, std::string>;
/// The kind of a row.
template <typename T> constexpr Kind kindOfRow(const T&) {
    return kindOf<T>();
}
/// Calls `see(row, ownerId)` with every row of the job's lists, what is owned before its owner.
template <typename See> void everyRow(const Job& job, See see) {
    static const std::string none;
    everyList<JobLists>([&]<typename L>(L) {
        for (const auto& row : job.*L::list) {
            everyChildList<typename L::Type>([&]<typename C>(C) {
                for (const auto& owned : row.*C::list)
                    see(owned, row.id);
            });
            see(row, none);
        }
    });
}

/// What people call a row: its label, file or name; empty: nothing.
template <typename T> std::string calledOf(const T& row) {
    std::string name;
    if constexpr (requires { row.label; })
        name = row.label;
    else if constexpr (requires { row.fileName; })
        name = row.fileName;
    else if constexpr (requires { row.name; })
        name = row.name;
    return name;
}
/// "run SL-D03": the row that a fault is about, by its id where it is not called anything.
template <typename T> std::string nameOf(const T& row) {
    const std::string name = calledOf(row);
    return std::string(kindWords[kindOf<T>()]) + " " +
           beginningOf(name.empty() ? row.id : name, 40);
}

/// A row with the rows it owns, as an export has it.
template <typename T> Json toJson(const T& row) {
    return objectOf(tableOf(kindOf<T>()).fields, &row);
}
Json toJson(const Job& job);
/// The job of an export of that version, refused with the path of what is at fault: also an id
/// twice, a reference to nothing. Rows that versions before 6 kept without ids get ones derived
/// from their place, so that every copy gives them the same; `asKept` sees the job before that.
Outcome<Job> readJob(const Json& json, const std::string& where, int version = formatVersion,
                     const std::function<void(const Job&)>& asKept = {});

/// What a row describes of its owner where it is no thing of its own: whoever gives a run another
/// length, cord or plug changes the row that is there, and two who do so change the same row.
inline std::string slotOf(const RunStretch& /*row*/) {
    return "way";
}
inline std::string slotOf(const RunCord& row) {
    return std::string(endWords[row.end]);
}
inline std::string slotOf(const RunConnection& row) {
    return std::string(endWords[row.end]);
}
/// The id of the n-th row in a slot of its owner, the same in every copy.
std::string slotId(Kind kind, const std::string& ownerId, const std::string& slot, std::size_t n);
/// The id of a row that had none, by its owner's and its place among the owner's.
std::string derivedId(Kind kind, const std::string& ownerId, std::size_t place);
/// Gives the rows that one from before version 6 owns ids, and orders that rise.
template <typename T> void deriveOwned(T& owner) {
    everyChildList<T>([&]<typename C>(C) {
        auto& rows = owner.*C::list;
        const bool rise =
            std::adjacent_find(rows.begin(), rows.end(), [](const auto& a, const auto& b) {
                return a.order >= b.order;
            }) == rows.end();
        for (std::size_t i = 0; i < rows.size(); ++i) {
            if (rows[i].id.empty())
                rows[i].id = derivedId(C::kind, owner.id, i);
            if (!rise)
                rows[i].order = static_cast<double>(i);
        }
    });
}
/// A row like that one: with an id of its own, and none yet for the rows that it owns. A run like
/// another has not been pulled with it.
template <typename T> T likeOf(T row) {
    row.id = newId();
    if constexpr (std::is_same_v<T, Run>) {
        row.pullId.clear();
        row.piece = {};
    }
    everyChildList<T>([&]<typename C>(C) {
        for (auto& owned : row.*C::list)
            owned.id.clear();
    });
    return row;
}
/// Gives rows of a job from before version 6 ids where they have none, or one that another
/// distribution's part has too, and orders that rise.
void deriveIds(Job& job);
/// The same only where rows that are owned have none yet.
void giveIds(Job& job);

/// The job's rows in the order they are shown.
void sortRows(Job& job);
/// The same of the rows of one kind that nothing owns.
void sortList(Job& job, Kind kind);
/// The rows that a row owns in theirs.
template <typename T> void sortOwned(T& owner) {
    everyChildList<T>([&]<typename C>(C) {
        auto& rows = owner.*C::list;
        const auto less = [](const auto& a, const auto& b) {
            return std::tie(a.order, a.id) < std::tie(b.order, b.id);
        };
        if (!std::is_sorted(rows.begin(), rows.end(), less))
            std::sort(rows.begin(), rows.end(), less);
    });
}

} // namespace burin
