#include "core/history/log.h"
#include "core/base/moment.h"
#include <algorithm>

namespace burin {

void Steps::take(const std::vector<LogHead>& log, std::size_t at) {
    const LogHead& row = log[at];
    if (!row.ours || !row.changes)
        return;
    const auto drop = [&](std::vector<std::size_t>& from) {
        const auto it = std::find_if(from.rbegin(), from.rend(),
                                     [&](std::size_t i) { return log[i].id == row.undoes; });
        if (it == from.rend())
            return false;
        from.erase(std::next(it).base());
        return true;
    };
    if (row.undoes.empty()) {
        redo.clear();
        undo.push_back(at);
    } else if (drop(undo)) {
        redo.push_back(at);
    } else {
        drop(redo);
        undo.push_back(at);
    }
}

Steps stepsOf(const std::vector<LogHead>& log) {
    Steps out;
    for (std::size_t i = 0; i < log.size(); ++i)
        out.take(log, i);
    return out;
}

std::string newStepId() {
    return newId() + newId();
}

void OpenLog::take(const LogRow& row) {
    heads.push_back({row.id, row.undoes, row.title, row.mergedBy.empty(), !row.changes.empty()});
    steps.take(heads, heads.size() - 1);
    lamport = std::max(lamport, row.lamport);
    latestAt = std::max(latestAt, row.at);
    if (row.mergedBy.empty())
        last = row.id;
}

int OpenLog::minutesAheadOf(const std::string& now) const {
    const auto latest = utcMs(latestAt);
    const auto is = utcMs(now);
    const auto minutes = latest && is ? (*latest - *is) / 60000 : 0;
    return minutes < 5 ? 0 : static_cast<int>(std::min<std::int64_t>(minutes, 1000000000));
}

LogRow OpenLog::next(std::string id, std::string at, std::string who, std::string title) const {
    LogRow row;
    row.id = std::move(id);
    if (!last.empty())
        row.parents = {last};
    row.replica = replica;
    row.lamport = lamport + 1;
    row.at = std::move(at);
    row.who = std::move(who);
    row.title = std::move(title);
    return row;
}

LogRow OpenLog::takingBack(const LogRow& step, std::string id, std::string at,
                           std::string who) const {
    LogRow row = next(std::move(id), std::move(at), std::move(who), step.title);
    row.undoes = step.id;
    row.changes = inverse({{}, step.changes}).changes;
    return row;
}

LogRow OpenLog::joining(const OpenLog& theirs, Changes changes, std::vector<LogRow>& brought,
                        std::string id, std::string at, std::string who, std::string title) const {
    LogRow row = next(std::move(id), std::move(at), std::move(who), std::move(title));
    row.parents = {last, theirs.last};
    row.lamport = std::max(lamport, theirs.lamport) + 1;
    row.changes = std::move(changes);
    for (auto& step : brought)
        step.mergedBy = row.id;
    return row;
}

std::string changesText(const Changes& changes) {
    std::string out = "[";
    for (const auto& change : changes)
        out += (out.size() > 1 ? "," : "") + toJson(change).dump();
    return out + "]";
}

Outcome<Changes> readChanges(const std::string& text, const std::string& where) {
    auto json = parseJson(text, where);
    if (!json)
        return refuse(json.error());
    auto edit = readEdit(Json{{"title", ""}, {"changes", std::move(*json)}}, where);
    if (!edit)
        return refuse(edit.error());
    return std::move(edit->changes);
}

std::string headText(const LogRow& row) {
    std::string out;
    for (const std::string& part :
         {row.id, row.parents.empty() ? std::string() : row.parents.front(),
          row.joins() ? row.parents.back() : std::string(), row.replica,
          std::to_string(row.lamport), row.at, row.who, row.title, row.undoes,
          std::to_string(row.format)})
        (out += part) += '\0'; // none of them holds one
    return out;
}

} // namespace burin
