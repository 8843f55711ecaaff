#include "cli/commands.h"
#include "core/edit/apply.h"
#include "core/edit/edit_request.h"
#include "core/job/row_at.h"
#include "files/job_store.h"
#include "files/text_cursor.h"
#include <QDir>
#include <QFile>

namespace burin {
namespace {

QString pathOf(const std::string& path) {
    return QString::fromStdString(path);
}

OutJson toJson(const Conflict& conflict) {
    OutJson out = {{"kind", conflict.kind}, {"id", conflict.rowId}};
    if (!conflict.field.empty()) {
        out["field"] = conflict.field;
        out["base"] = OutJson::parse(conflict.base, nullptr, false);
    }
    for (const auto& claim : conflict.claims)
        out["claims"].push_back(
            {{"value", conflict.field.empty() ? OutJson(claim.value)
                                              : OutJson::parse(claim.value, nullptr, false)},
             {"who", claim.who},
             {"at", claim.at}});
    return out;
}
/// What a copy has where a conflict is.
OutJson sideOf(const Conflict& conflict, const Job& job) {
    const auto kind = *kindWords.find(conflict.kind);
    if (conflict.field.empty())
        return rowAt(job, kind, conflict.rowId).row == nullptr ? "removed" : "changed";
    return valueAt(job, kind, conflict.rowId, conflict.field);
}

void merge(const std::string& minePath, const std::string& theirsPath, const std::string& outPath) {
    const auto mine = orBadInput(JobStore::open(pathOf(minePath), Access::ReadOnly));
    const auto theirs = orBadInput(JobStore::open(pathOf(theirsPath), Access::ReadOnly));
    auto missing = orBadInput(mine->saveCopy(pathOf(outPath)));
    auto joined = [&]() -> Outcome<JoinReport> {
        auto out = JobStore::open(pathOf(outPath), Access::ReadWrite);
        return out ? (*out)->join(*theirs, "burin-cli") : refuse(out.error());
    }();
    if (!joined) {
        // What was only a copy of mine is no answer.
        QFile::remove(pathOf(outPath));
        throw BadInput{joined.error()};
    }
    const auto store = orBadInput(JobStore::open(pathOf(outPath), Access::ReadOnly));
    OutJson out = {{"merged", joined->steps},
                   {"out", outPath},
                   {"changes", joined->changes},
                   {"runs", store->job().runs.size()}};
    addOpenEnds(out, store->job(), clashesOf(store->job()));
    for (std::size_t i = 0; i < store->job().conflicts.size(); ++i) {
        out["conflicts"][i]["mine"] = sideOf(store->job().conflicts[i], mine->job());
        out["conflicts"][i]["theirs"] = sideOf(store->job().conflicts[i], theirs->job());
    }
    missing.insert(missing.end(), joined->missing.begin(), joined->missing.end());
    for (const auto& fault : missing)
        out["missing"].push_back(told(fault));
    print(out);
}

void edit(const std::string& jobPath, const std::string& editsPath, bool dryRun) {
    const auto json =
        orBadInput(parseJson(orBadInput(readWholeFile(editsPath, longestExport)), editsPath));
    const auto store =
        orBadInput(JobStore::open(pathOf(jobPath), dryRun ? Access::ReadOnly : Access::ReadWrite));
    // One edit or a list of them; all of them, or none.
    Job job = store->job();
    std::vector<Edit> edits;
    OutJson changes = OutJson::array();
    const auto take = [&](const Json& one, const std::string& where) {
        edits.push_back(orBadInput(readRequest(one, job, where)));
        for (const auto& change : orBadInput(applyTo(job, edits.back())).done)
            changes.push_back(toJson(change));
    };
    if (!json.is_array())
        take(json, editsPath);
    else
        for (std::size_t i = 0; i < json.size(); ++i)
            take(json[i], editsPath + ", edit " + std::to_string(i + 1));
    if (!dryRun)
        for (const auto& one : edits)
            orBadInput(store->commit(one, "burin-cli"));
    OutJson out = {{dryRun ? "wouldEdit" : "edited", jobPath},
                   {"edits", edits.size()},
                   {"changes", std::move(changes)},
                   {"runs", job.runs.size()}};
    addOpenEnds(out, job, clashesOf(job));
    print(out);
}

} // namespace

void addOpenEnds(OutJson& out, const Job& job, const std::vector<Clash>& clashes) {
    out["conflicts"] = OutJson::array();
    for (const auto& conflict : job.conflicts)
        out["conflicts"].push_back(toJson(conflict));
    out["clashes"] = OutJson::array();
    for (const auto& clash : clashes)
        out["clashes"].push_back(told(clash.fault));
}

void addHistoryCommands(CLI::App& app) {
    auto* mergeCommand = app.add_subcommand("merge", "two copies of a job joined in a new file");
    auto mine = std::make_shared<std::string>();
    auto theirs = std::make_shared<std::string>();
    auto out = std::make_shared<std::string>();
    mergeCommand->add_option("MINE", *mine)->required();
    mergeCommand->add_option("THEIRS", *theirs)->required();
    mergeCommand->add_option("OUT", *out)->required();
    mergeCommand->callback([mine, theirs, out] { merge(*mine, *theirs, *out); });

    auto* editCommand =
        app.add_subcommand("edit", "edits of a job, from a file of them as JSON (docs/cli.md)");
    auto job = std::make_shared<std::string>();
    auto edits = std::make_shared<std::string>();
    auto dryRun = std::make_shared<bool>(false);
    editCommand->add_option("JOB", *job)->required();
    editCommand->add_option("EDITS", *edits)->required();
    editCommand->add_flag("--dry-run", *dryRun, "say what would happen, and keep nothing");
    editCommand->callback([job, edits, dryRun] { edit(*job, *edits, *dryRun); });
}

} // namespace burin
