#include "cli/commands.h"
#include "core/job/apply.h"
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
    if (!conflict.field.empty())
        out["field"] = conflict.field;
    for (const auto& claim : conflict.claims)
        out["claims"].push_back({{"value", claim.value}, {"who", claim.who}, {"at", claim.at}});
    return out;
}
/// What stands in a job and should not, with what its copies disagree on.
void addOpenEnds(OutJson& out, const Job& job) {
    out["conflicts"] = OutJson::array();
    for (const auto& conflict : job.conflicts)
        out["conflicts"].push_back(toJson(conflict));
    out["clashes"] = OutJson::array();
    for (const auto& clash : clashesOf(job))
        out["clashes"].push_back(clash.fault.text());
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
    OutJson out = {{"merged", outPath},
                   {"steps", joined->steps},
                   {"changes", joined->changes},
                   {"runs", store->job().runs.size()}};
    addOpenEnds(out, store->job());
    missing.insert(missing.end(), joined->missing.begin(), joined->missing.end());
    for (const auto& fault : missing)
        out["missing"].push_back(fault.text());
    print(out);
}

/// One edit or a list of them.
std::vector<Edit> readEdits(const std::string& path) {
    const auto json = orBadInput(parseJson(orBadInput(readWholeFile(path, longestExport)), path));
    std::vector<Edit> out;
    if (!json.is_array())
        return {orBadInput(readEdit(json, path))};
    for (std::size_t i = 0; i < json.size(); ++i)
        out.push_back(orBadInput(readEdit(json[i], path + ", edit " + std::to_string(i + 1))));
    return out;
}

void edit(const std::string& jobPath, const std::string& editsPath, bool dryRun) {
    const auto edits = readEdits(editsPath);
    const auto store =
        orBadInput(JobStore::open(pathOf(jobPath), dryRun ? Access::ReadOnly : Access::ReadWrite));
    // All of them, or none.
    Job job = store->job();
    for (const auto& one : edits)
        orBadInput(applyTo(job, one));
    std::size_t changes = 0;
    for (const auto& one : edits) {
        changes += one.changes.size();
        if (!dryRun)
            orBadInput(store->commit(one, "burin-cli"));
    }
    OutJson out = {{dryRun ? "would-edit" : "edited", jobPath},
                   {"edits", edits.size()},
                   {"changes", changes},
                   {"runs", job.runs.size()}};
    addOpenEnds(out, dryRun ? job : store->job());
    print(out);
}

} // namespace

void addHistoryCommands(CLI::App& app) {
    auto* mergeCommand = app.add_subcommand("merge", "two copies of a job joined in a new file");
    auto mine = std::make_shared<std::string>();
    auto theirs = std::make_shared<std::string>();
    auto out = std::make_shared<std::string>();
    mergeCommand->add_option("MINE", *mine)->required();
    mergeCommand->add_option("THEIRS", *theirs)->required();
    mergeCommand->add_option("OUT", *out)->required();
    mergeCommand->callback([mine, theirs, out] { merge(*mine, *theirs, *out); });

    auto* editCommand = app.add_subcommand("edit", "edits of a job, from a file of them as JSON");
    auto job = std::make_shared<std::string>();
    auto edits = std::make_shared<std::string>();
    auto dryRun = std::make_shared<bool>(false);
    editCommand->add_option("JOB", *job)->required();
    editCommand->add_option("EDITS", *edits)->required();
    editCommand->add_flag("--dry-run", *dryRun, "say what would happen, and keep nothing");
    editCommand->callback([job, edits, dryRun] { edit(*job, *edits, *dryRun); });
}

} // namespace burin
