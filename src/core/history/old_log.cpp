#include "core/history/old_log.h"
#include "core/base/moment.h"

namespace burin {
namespace {

constexpr const char* oldReplica = "0000000000000000";

template <typename T> std::optional<T> readRow(JsonObject& change, const std::string& key) {
    const Json* json = change.find(key);
    if (json == nullptr || json->is_null())
        return std::nullopt;
    T row;
    JsonObject in = change.item(key, *json, 0);
    readObject(tableOf(kindOf<T>()).fields, &row, in);
    deriveOwned(row);
    return row;
}
template <typename T> Changes differenceIn(JsonObject& change) {
    const auto before = readRow<T>(change, "before");
    const auto after = readRow<T>(change, "after");
    return put(before, after);
}

/// The changes of an old line field by field. Throws FaultThrown.
Changes changesOf(const OldLine& line) {
    auto json = parseJson(line.editJson, line.title);
    if (!json)
        throw FaultThrown{json.error()};
    Changes out;
    JsonObject in(*json, line.title, "");
    const Json* changes = in.find("changes");
    if (changes == nullptr || !changes->is_array())
        return out; // "{}": only that it began
    for (std::size_t i = 0; i < changes->size(); ++i) {
        JsonObject change = in.item("changes", (*changes)[i], i);
        const Kind kind = change.word("kind", kindWords);
        if (kind == Kind::Job)
            out.push_back(differenceIn<JobInfo>(change));
        everyList<JobLists>([&]<typename L>(L) {
            if (L::kind == kind)
                out.push_back(differenceIn<typename L::Type>(change));
        });
    }
    return out;
}

/// The chain of steps under way.
class Chain {
public:
    std::vector<LogRow> rows;

    LogRow& add(LogRow row, const std::string& content) {
        row.replica = oldReplica;
        row.lamport = static_cast<std::int64_t>(rows.size()) + 1;
        std::string before;
        if (!rows.empty())
            row.parents = {before = rows.back().id};
        row.id = textId(before + '\0' + content);
        return rows.emplace_back(std::move(row));
    }
    /// Takes the steps back that were done since `from`, the last one first.
    void takeBack(std::vector<std::size_t>& done) {
        for (auto it = done.rbegin(); it != done.rend(); ++it) {
            const LogRow& step = rows[*it];
            LogRow back;
            back.at = step.at;
            back.who = step.who;
            back.title = step.title;
            back.undoes = step.id;
            back.changes = inverse({{}, step.changes}).changes;
            add(std::move(back), "takes back " + step.id);
        }
        done.clear();
    }
};

} // namespace

std::vector<LogRow> stepsOfOld(const std::vector<OldLine>& lines, const std::string& jobName) {
    Chain chain;
    if (lines.empty()) {
        LogRow began;
        began.title = "a job of an older Burin";
        chain.add(std::move(began), jobName);
    }
    std::vector<std::size_t> dropped; // taken back before the next that stayed was done
    std::vector<std::size_t> undone;
    for (const auto& line : lines) {
        LogRow row;
        const auto ms = utcMs(line.at);
        row.at = ms ? utcText(*ms) : line.at;
        row.who = line.who;
        row.title = line.title;
        try {
            row.changes = changesOf(line);
        } catch (const FaultThrown&) {
            row.title += " (damaged)";
        }
        // Lines taken back and overtaken lie before the one that overtook them.
        if (line.state != "dropped")
            chain.takeBack(dropped);
        const auto content = line.at + '\0' + line.who + '\0' + line.title + '\0' + line.editJson;
        chain.add(std::move(row), content);
        if (line.state == "dropped")
            dropped.push_back(chain.rows.size() - 1);
        if (line.state == "undone")
            undone.push_back(chain.rows.size() - 1);
    }
    chain.takeBack(dropped);
    chain.takeBack(undone);
    return std::move(chain.rows);
}

std::string jobIdOfOld(const std::vector<OldLine>& lines, const std::string& name) {
    if (lines.empty())
        return textId("job " + name);
    const OldLine& first = lines.front();
    return textId("job " + first.at + '\0' + first.who + '\0' + first.title + '\0' +
                  first.editJson);
}

} // namespace burin
