#include "core/edit/apply.h"
#include "core/base/text.h"
#include <algorithm>
#include <map>
#include <memory>
#include <unordered_map>
#include <unordered_set>

namespace burin {
namespace {

constexpr Wording wasOvertaken{"edit.job-changed-since",
                               "the job has changed since this edit was made"};
tl::unexpected<Fault> overtaken() {
    return refuse("the edit", sentence(wasOvertaken),
                  {"cure.look-job-now", "Look at the job as it is now and make the edit again"});
}

/// Whether what was there before has to be what the change says.
enum class Care { Checked, Overwriting };

/// Up to so many changes of a kind look for their rows one by one; more by an index.
constexpr int few = 4;

/// The rows of one list that an edit touches, each as it was and as it will be.
template <typename L> class Layer {
public:
    using T = typename L::Type;
    struct Slot {
        std::optional<std::size_t> at; ///< in the job's list; none: it was not there
        std::optional<T> row;          ///< none: it goes
    };

    Layer(const std::vector<T>& rows, int changes)
        : rows_(rows), known_(rows, static_cast<std::size_t>(changes)) {}
    Slot& slot(const std::string& id) {
        const auto it = slots_.find(id);
        if (it != slots_.end())
            return it->second;
        Slot& fresh = slots_[id];
        if (const T* row = known_.find(id)) {
            fresh.at = static_cast<std::size_t>(row - rows_.data());
            fresh.row = *row;
        }
        return fresh;
    }
    /// The row that owns a row of that id, if one does.
    template <typename C> std::optional<std::string> ownerOf(const std::string& id, int changes) {
        std::optional<std::string> owner;
        if (const auto it = fresh_.find(id); it != fresh_.end()) {
            owner = it->second;
        } else if (changes > few) {
            auto& owners = owners_[C::kind];
            if (owners.empty())
                for (std::size_t i = 0; i < rows_.size(); ++i)
                    for (const auto& row : rows_[i].*C::list)
                        owners.emplace(row.id, i);
            if (const auto at = owners.find(id); at != owners.end())
                owner = rows_[at->second].id;
        } else {
            for (const auto& row : rows_)
                if (!owner && holds<C>(row, id))
                    owner = row.id;
        }
        // Unless it has gone meanwhile, or its owner has.
        if (owner)
            if (const auto it = slots_.find(*owner);
                it != slots_.end() && !(it->second.row && holds<C>(*it->second.row, id)))
                return std::nullopt;
        return owner;
    }
    /// A row that is owned came in this edit.
    void came(const std::string& id, const std::string& owner) { fresh_[id] = owner; }
    [[nodiscard]] std::map<std::string, Slot>& slots() { return slots_; }

private:
    template <typename C> static bool holds(const T& owner, const std::string& id) {
        const auto& rows = owner.*C::list;
        return std::any_of(rows.begin(), rows.end(), [&](const auto& r) { return r.id == id; });
    }
    const std::vector<T>& rows_;
    IdFinder<T> known_;
    std::map<Kind, std::unordered_map<std::string_view, std::size_t>> owners_;
    std::map<std::string, Slot> slots_;
    std::unordered_map<std::string, std::string> fresh_; ///< rows that are owned: by whom
};

/// What is done with a row whatever its type is: compiled once, not for each kind.
struct AnyRow {
    std::shared_ptr<void> (*fresh)(); ///< one just made
    std::string (*name)(const void* row);
    template <typename T> static const AnyRow& of() {
        static constexpr AnyRow any{
            [] { return std::static_pointer_cast<void>(std::make_shared<T>()); },
            [](const void* row) { return nameOf(*static_cast<const T*>(row)); }};
        return any;
    }
};

/// An edit under way: rows are changed apart, and put into the job when all of it is good.
class Work {
public:
    Changes done; ///< as the job writes them

    Work(Job& job, const Changes& changes, Care care) : job_(job), care_(care), info_(job.info) {
        for (const auto& change : changes)
            ++count_.at(static_cast<std::size_t>(change.kind));
    }

    Outcome<bool> take(const Change& change) {
        if (change.kind == Kind::Job)
            return change.op == Op::Set ? set(info_, change) : overtaken();
        Outcome<bool> good = true;
        everyList<JobLists>([&]<typename L>(L) {
            if (L::kind == change.kind)
                good = takeRow<L>(change);
            everyChildList<typename L::Type>([&]<typename C>(C) {
                if (C::kind == change.kind)
                    good = takeChild<L, C>(change);
            });
        });
        return good;
    }
    /// Puts the changed rows into the job, and what stood there into the layers.
    Touched exchange() {
        Touched touched;
        if (!(job_.info == info_))
            touched.info = std::exchange(job_.info, info_);
        everyList<JobLists>([&]<typename L>(L) {
            if (auto& mine = layer<L>())
                exchange(job_.*L::list, *mine, touched.of<L>());
        });
        sortRows(job_, touched);
        return touched;
    }

private:
    template <typename L> std::optional<Layer<L>>& layer() {
        return std::get<std::optional<Layer<L>>>(layers_);
    }
    template <typename L> Layer<L>& opened() {
        auto& mine = layer<L>();
        if (!mine)
            mine.emplace(job_.*L::list, changesOf<L>());
        return *mine;
    }
    template <typename L> [[nodiscard]] int changesOf() const {
        int out = count_.at(static_cast<std::size_t>(L::kind));
        everyChildList<typename L::Type>(
            [&]<typename C>(C) { out += count_.at(static_cast<std::size_t>(C::kind)); });
        return out;
    }

    template <typename T> Outcome<bool> set(T& row, const Change& change) {
        return set(AnyRow::of<T>(), &row, change);
    }
    Outcome<bool> set(const AnyRow& any, void* row, const Change& change) {
        const Field* field = tableOf(change.kind).field(change.field);
        if (field == nullptr)
            return refuse(
                any.name(row),
                sentence({"edit.no-field", "it has no field “{0}”"}, beginningOf(change.field, 40)),
                {"cure.docs-job-format", "docs/job-format.md lists the fields of each kind"});
        if (field->name == "id")
            return refuse(any.name(row), {"edit.id-cannot-changed", "its id cannot be changed"},
                          {"cure.add-another-remove", "Add another, and remove it"});
        if (field->byKey && field->name == change.field)
            return refuse(
                any.name(row),
                sentence({"edit.not-set-whole", "“{0}” is not set as a whole"}, field->name),
                {"cure.name-keys-point", "Name one of its keys, with a point between"});
        Change written = change;
        written.before = valueOf(*field, row, change.field);
        try {
            if (care_ != Care::Overwriting && written.before != change.before) {
                // The same in another way of writing it?
                const auto same = any.fresh();
                setValue(*field, same.get(), change.field, change.before, any.name(row));
                if (valueOf(*field, same.get(), change.field) != written.before)
                    return overtaken();
            }
            setValue(*field, row, change.field, change.after, any.name(row));
        } catch (const FaultThrown& thrown) {
            return refuse(thrown.fault);
        }
        written.after = valueOf(*field, row, change.field);
        done.push_back(std::move(written));
        return true;
    }
    template <typename T>
    static Outcome<T> read(const Change& change, const Json& json, const std::string& ownerKey) {
        T row;
        if (auto good = readInto(&row, change, json, ownerKey); !good)
            return refuse(good.error());
        return row;
    }
    /// Reads a row into one that was just made.
    static Outcome<bool> readInto(void* row, const Change& change, const Json& json,
                                  const std::string& ownerKey) {
        const std::string where =
            std::string(kindWords[change.kind]) + " " + beginningOf(change.id, 40);
        const Table& table = tableOf(change.kind);
        try {
            JsonObject in(json, where, "");
            if (!ownerKey.empty())
                in.string(ownerKey);
            readObject(table.fields, row, in, Owned::Without);
        } catch (const FaultThrown& thrown) {
            return refuse(thrown.fault);
        }
        const std::string& id = table.field("id")->text(row);
        if (id.empty() || id != change.id)
            return refuse(where, {"edit.no-id-another", "it has no id, or another than its change"},
                          {"cure.give-same-id", "Give the same id in both, or in none"});
        return true;
    }

    /// Notes that a row goes, if it is the one that was meant.
    Outcome<bool> removed(const Change& change, const AnyRow& any, const void* row,
                          const std::string& ownerId) {
        Change written = detail::rowChange(Op::Remove, change.kind, row, ownerId);
        if (care_ != Care::Overwriting && written.before != change.before) {
            const auto meant = any.fresh();
            if (auto good =
                    readInto(meant.get(), change, change.before, tableOf(change.kind).ownerKey);
                !good)
                return good;
            if (detail::rowChange(Op::Remove, change.kind, meant.get(), ownerId).before !=
                written.before)
                return overtaken();
        }
        done.push_back(std::move(written));
        return true;
    }

    template <typename L> Outcome<bool> takeRow(const Change& change) {
        auto& slot = opened<L>().slot(change.id);
        switch (change.op) {
        case Op::Set:
            if (!slot.row)
                return overtaken();
            return set(*slot.row, change);
        case Op::Add: {
            if (slot.row)
                return care_ != Care::Overwriting ? Outcome<bool>(overtaken()) : true;
            auto row = read<typename L::Type>(change, change.after, {});
            if (!row)
                return refuse(row.error());
            done.push_back(detail::rowChange(Op::Add, L::kind, &*row));
            slot.row = std::move(*row);
            return true;
        }
        case Op::Remove:
            if (!slot.row)
                return care_ != Care::Overwriting ? Outcome<bool>(overtaken()) : true;
            if (auto gone = removed(change, AnyRow::of<typename L::Type>(), &*slot.row, {}); !gone)
                return gone;
            slot.row.reset();
            return true;
        }
        return true;
    }
    template <typename L, typename C> Outcome<bool> takeChild(const Change& change) {
        auto& owners = opened<L>();
        if (change.op == Op::Add) {
            const auto owner = change.after.find(tableOf(C::kind).ownerKey);
            if (owner == change.after.end() || !owner->is_string())
                return refuse(
                    sentence({"where.said", "{0} {1}"}, asTerm(kindWords[C::kind]), change.id),
                    sentence({"edit.missing", "{0} is missing"}, tableOf(C::kind).ownerKey),
                    {"cure.say-whose", "Say whose it is"});
            auto& slot = owners.slot(owner->template get<std::string>());
            if (!slot.row)
                return overtaken();
            auto row = read<typename C::Type>(change, change.after, tableOf(C::kind).ownerKey);
            if (!row)
                return refuse(row.error());
            if (owners.template ownerOf<C>(change.id, changesOf<L>()))
                return care_ != Care::Overwriting ? Outcome<bool>(overtaken()) : true;
            done.push_back(
                detail::rowChange(Op::Add, C::kind, &*row, owner->template get<std::string>()));
            owners.came(change.id, owner->template get<std::string>());
            ((*slot.row).*C::list).push_back(std::move(*row));
            return true;
        }
        const auto owner = owners.template ownerOf<C>(change.id, changesOf<L>());
        if (!owner)
            return care_ != Care::Overwriting || change.op == Op::Set ? Outcome<bool>(overtaken())
                                                                      : true;
        auto& rows = (*owners.slot(*owner).row).*C::list;
        const auto row = std::find_if(rows.begin(), rows.end(),
                                      [&](const auto& r) { return r.id == change.id; });
        if (row == rows.end())
            return overtaken();
        if (change.op == Op::Set)
            return set(*row, change);
        if (auto gone = removed(change, AnyRow::of<typename C::Type>(), &*row, *owner); !gone)
            return gone;
        rows.erase(row);
        return true;
    }

    template <typename L>
    static void exchange(std::vector<typename L::Type>& rows, Layer<L>& layer,
                         std::vector<TouchedRow<typename L::Type>>& touched) {
        std::vector<std::size_t> going;
        for (auto& [id, slot] : layer.slots()) {
            if (!slot.at && !slot.row)
                continue;
            auto& seen = touched.emplace_back();
            seen.id = id;
            seen.stays = slot.row.has_value();
            if (slot.row)
                sortOwned(*slot.row);
            if (slot.at) {
                seen.before = std::move(rows[*slot.at]);
                if (slot.row)
                    rows[*slot.at] = std::move(*slot.row);
                else
                    going.push_back(*slot.at);
            } else {
                rows.push_back(std::move(*slot.row));
            }
        }
        if (going.empty())
            return;
        std::sort(going.begin(), going.end());
        std::size_t next = 0;
        std::size_t at = 0;
        std::erase_if(rows, [&](const auto&) {
            const bool goes = next < going.size() && going[next] == at++;
            next += goes ? 1 : 0;
            return goes;
        });
    }
    template <typename Lists> struct LayersOf;
    template <typename... L> struct LayersOf<std::tuple<L...>> {
        using type = std::tuple<std::optional<Layer<L>>...>;
    };

    Job& job_;
    Care care_;
    JobInfo info_;
    std::array<int, kindCount> count_{};
    LayersOf<JobLists>::type layers_;
};

template <typename T> void restore(std::vector<T>& rows, std::vector<TouchedRow<T>>& touched) {
    const IdFinder<T> known(rows, touched.size());
    std::vector<std::ptrdiff_t> now; // -1: it went
    for (const auto& seen : touched) {
        const T* row = known.find(seen.id);
        now.push_back(row == nullptr ? -1 : row - rows.data());
    }
    std::unordered_set<std::string> came;
    for (std::size_t i = 0; i < touched.size(); ++i) {
        if (!touched[i].before)
            came.insert(touched[i].id);
        else if (now[i] >= 0)
            rows[static_cast<std::size_t>(now[i])] = std::move(*touched[i].before);
        else
            rows.push_back(std::move(*touched[i].before));
    }
    if (!came.empty())
        std::erase_if(rows, [&](const T& row) { return came.contains(row.id); });
}

/// The changes done, nothing checked yet of what they come to.
Outcome<Applied> run(Job& job, const Changes& changes, Care care) {
    Work work(job, changes, care);
    for (const auto& change : changes)
        if (auto good = work.take(change); !good)
            return refuse(good.error());
    return Applied{work.exchange(), std::move(work.done)};
}

} // namespace

Outcome<Applied> applyTo(Job& job, const Edit& edit, Clashes clashes) {
    auto applied = run(job, edit.changes, Care::Checked);
    if (!applied && applied.error().code() == wasOvertaken.key)
        applied.error().where = sentence({"where.edit", "edit “{0}”"}, edit.title);
    if (applied)
        if (auto good = checkTouched(job, applied->touched, clashes); !good) {
            restore(job, std::move(applied->touched));
            return refuse(good.error());
        }
    return applied;
}

void restore(Job& job, Touched touched) {
    if (touched.info)
        job.info = std::move(*touched.info);
    everyList<JobLists>([&]<typename L>(L) { restore(job.*L::list, touched.of<L>()); });
    sortRows(job, touched);
}

Outcome<Job> apply(const Job& job, const Edit& edit) {
    Job out = job;
    if (auto done = applyTo(out, edit); !done)
        return refuse(done.error());
    return out;
}

Outcome<Applied> overwrite(Job& job, const Changes& changes) {
    return run(job, changes, Care::Overwriting);
}

} // namespace burin
