#include "core/edit/run_text.h"
#include "core/finding/job_findings.h"
#include "core/history/decide.h"
#include "core/history/merge.h"
#include "core/random_job.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include <set>

using namespace burin;

namespace {

/// A copy of a job that is worked on, without a file.
struct Copy {
    JobCopy kept{"job", {}, {}};
    OpenLog log;

    bool commit(const Edit& edit, Clashes clashes = Clashes::Refused) {
        LogRow row = log.next(newStepId(), "2026-11-26T10:00:00.000Z", "t", edit.title);
        row.changes = edit.changes;
        row.changes.push_back(decidedBy(kept.job, edit.changes));
        return keep(std::move(row), clashes);
    }
    bool keep(LogRow row, Clashes clashes = Clashes::Left) {
        const auto done = applyTo(kept.job, {row.title, row.changes}, clashes);
        EXPECT_TRUE(done) << (done ? "" : render(done.error(), {}));
        if (done) {
            row.changes = done->done;
            log.take(row);
            kept.log.push_back(std::move(row));
        }
        return done.has_value();
    }
    bool step(const std::vector<std::size_t>& steps) {
        if (steps.empty())
            return false;
        const auto& id = log.heads[steps.back()].id;
        const auto it = std::find_if(kept.log.begin(), kept.log.end(),
                                     [&](const LogRow& row) { return row.id == id; });
        return keep(log.takingBack(*it, newStepId(), "2026-11-26T10:00:00.000Z", "t"));
    }
    bool undo() { return step(log.steps.undo); }
    bool redo() { return step(log.steps.redo); }

    Joined joinWith(const Copy& other) {
        auto joined = join(kept, other.kept);
        EXPECT_TRUE(joined) << (joined ? "" : render(joined.error(), {}));
        if (!joined || joined->nothingNew())
            return joined ? *joined : Joined{};
        LogRow row = log.joining(other.log, joined->changes, joined->brought, newStepId(),
                                 "2026-11-26T10:00:00.000Z", "t", "joined");
        for (const auto& brought : joined->brought) {
            log.take(brought);
            kept.log.push_back(brought);
        }
        keep(std::move(row));
        return *joined;
    }
    [[nodiscard]] std::string text() const { return toJson(kept.job).dump(1); }
};

/// Some in every run of the tests, all with BURIN_TRIALS=all.
unsigned rounds(int some, int all) {
    const char* wanted = std::getenv("BURIN_TRIALS");
    return unsigned(wanted != nullptr && std::string_view(wanted) == "all" ? all : trials(some));
}

Copy fresh() {
    Copy out;
    LogRow first = out.log.next("0", "2026-11-26T09:00:00.000Z", "t", "begun");
    out.log.take(first);
    out.kept.log.push_back(first);
    return out;
}
Copy apart(Copy copy, const std::string& replica) {
    copy.log.replica = replica;
    return copy;
}

/// Edits, and now and then a step back or forth.
void work(Copy& copy, RandomEditor& editor, int edits) {
    for (int i = 0; i < edits; ++i) {
        const int what = editor.upTo(11);
        if (what == 0 && copy.undo())
            continue;
        if (what == 1 && copy.redo())
            continue;
        ASSERT_TRUE(copy.commit(editor.next(copy.kept.job)));
    }
}
/// One that has something of every kind.
Copy ancestor(RandomEditor& editor) {
    Copy out = fresh();
    for (int round = 0; round < 2; ++round)
        for (const Kind kind :
             {Kind::Room, Kind::Floor, Kind::Place, Kind::Run, Kind::Stretch, Kind::Cord,
              Kind::Connection, Kind::Measurement, Kind::Cable, Kind::Distribution, Kind::Part,
              Kind::Bus, Kind::Device, Kind::Pathway, Kind::Mains, Kind::Surface, Kind::Photograph})
            for (int tries = 0; tries < 9; ++tries)
                if (auto row = editor.row(out.kept.job, kind, round == 0)) {
                    const Edit edit{"begin", {Changes{*row}}};
                    if (apply(out.kept.job, edit)) {
                        EXPECT_TRUE(out.commit(edit));
                        break;
                    }
                }
    return out;
}

/// Where two texts part, in characters; 0: nowhere. `partingSaid` gets what stands there.
std::string partingSaid;
std::size_t parting(const std::string& a, const std::string& b) {
    partingSaid.clear();
    if (a == b)
        return 0;
    const auto at =
        std::size_t(std::mismatch(a.begin(), a.end(), b.begin(), b.end()).first - a.begin());
    const auto from = at < 200 ? 0 : at - 200;
    partingSaid = "\n…" + a.substr(from, 500) + "…\nand not\n…" + b.substr(from, 500) + "…";
    return at + 1;
}

using Values = std::map<std::string, std::string>;
/// Every row as flat text by its fields: what the oracle looks at.
std::map<std::string, Values> rowsOf(const Job& job) {
    std::map<std::string, Values> out;
    const auto add = [&](Kind kind, const void* row, const std::string& id) {
        Values& values = out[std::string(kindWords[kind]) + " " + id];
        for (const auto& field : tableOf(kind).fields) {
            if (field.shape == Shape::Children)
                continue;
            const Json value = field.get(row);
            if (field.byKey)
                for (const auto& [key, inner] : value.items())
                    values[field.name + "." + key] = inner.dump();
            else if (!value.is_null())
                values[field.name] = value.dump();
        }
    };
    add(Kind::Job, &job.info, job.info.id);
    everyRow(job, [&](const auto& row, const std::string&) { add(kindOfRow(row), &row, row.id); });
    return out;
}
std::string at(const Values& values, const std::string& field) {
    const auto it = values.find(field);
    return it == values.end() ? std::string() : it->second;
}
std::set<std::string> fieldsOf(const Values& a, const Values& b, const Values& c) {
    std::set<std::string> out;
    for (const auto* values : {&a, &b, &c})
        for (const auto& [field, value] : *values)
            out.insert(field);
    return out;
}

bool isReference(const std::string& rowAndField) {
    const auto kind = *kindWords.find(rowAndField.substr(0, rowAndField.find(' ')));
    const Field* field = tableOf(kind).field(rowAndField.substr(rowAndField.rfind(' ') + 1));
    return field != nullptr && !field->refers.empty();
}
/// Whether somebody changed a row, other than by taking away what it refers to.
bool workedOn(const std::string& row, const Values& was, const Values& is) {
    for (const auto& field : fieldsOf(was, is, is))
        if (at(was, field) != at(is, field) &&
            (at(is, field).size() > 2 || !isReference(row + " " + field)))
            return true;
    return false;
}
/// Whether what a field refers to is among the rows; false of a field that is no reference.
bool isThere(const std::string& row, const std::string& field, const std::string& value,
             const std::map<std::string, Values>& rows) {
    const auto kind = *kindWords.find(row.substr(0, row.find(' ')));
    const Field* described = tableOf(kind).field(field);
    return described != nullptr && !described->refers.empty() && value.size() > 2 &&
           rows.contains(described->refers + " " + value.substr(1, value.size() - 2));
}

} // namespace

TEST(Joining, DifferentFieldsOfOneRowAreNoConflict) {
    Copy mine = fresh();
    Job job = oneRunJob();
    ASSERT_TRUE(mine.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    ASSERT_TRUE(mine.commit({"run", {put<burin::Run>(std::nullopt, job.runs[0])}}));
    Copy theirs = apart(mine, "b");
    const auto edit = [](Copy& copy, const std::function<void(burin::Run&)>& change) {
        burin::Run after = copy.kept.job.runs[0];
        change(after);
        ASSERT_TRUE(copy.commit(
            {"set", {put(std::optional(copy.kept.job.runs[0]), std::optional(after))}}));
    };
    // A near end here, a far end there; a length here, a cord there.
    edit(mine, [](burin::Run& r) { r.near.text = "Panel A port 7"; });
    edit(mine, [](burin::Run& r) { r.stretches[0].lengthM = 48.5; });
    edit(theirs, [](burin::Run& r) { r.far.text = "bench wall, left"; });
    edit(theirs, [](burin::Run& r) { r.cords[1].lengthM = 5; });
    edit(theirs, [](burin::Run& r) { r.stretches.push_back({"drop", 4, 20, 0}); });
    const auto joined = mine.joinWith(theirs);
    EXPECT_TRUE(!joined.nothingNew() && mine.kept.job.conflicts.empty());
    const burin::Run& run = mine.kept.job.runs[0];
    EXPECT_EQ(run.near.text, "Panel A port 7");
    EXPECT_EQ(run.far.text, "bench wall, left");
    EXPECT_EQ(run.cords[1].lengthM, 5);
    EXPECT_EQ(run.lengthM(), 52.5);
}

/// Two people make the two ends of one run, each with a copy, and one of them both.
TEST(Joining, EndsMadeInBothCopiesAreNoConflict) {
    Copy mine = fresh();
    burin::Run run;
    run.id = run.label = "SL-D01";
    Room room;
    room.id = run.roomId = "r";
    Edit begun{"begun", put(std::optional<Room>(), std::optional(room))};
    begun.changes.push_back(put(std::optional<burin::Run>(), std::optional(run)));
    ASSERT_TRUE(mine.commit(begun));
    Copy theirs = apart(mine, "theirs");
    const auto makes = [](Copy& copy, End end, const char* who) {
        Termination row;
        row.id = newId();
        row.runId = "SL-D01";
        row.end = end;
        row.madeBy = who;
        row.entry = nextEntry(copy.kept.job.terminations);
        ASSERT_TRUE(copy.commit({"made", put(std::optional<Termination>(), std::optional(row))}));
    };
    makes(mine, End::Near, "rigger");
    makes(theirs, End::Far, "second fixer");
    makes(theirs, End::Near, "second fixer");
    mine.joinWith(theirs);
    EXPECT_TRUE(mine.kept.job.conflicts.empty());
    EXPECT_EQ(mine.kept.job.terminations.size(), 3U);
}

TEST(Joining, TheSameFieldIsAConflictUntilSomebodyDecides) {
    Copy mine = fresh();
    Job job = oneRunJob();
    ASSERT_TRUE(mine.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    ASSERT_TRUE(mine.commit({"run", {put<burin::Run>(std::nullopt, job.runs[0])}}));
    Copy theirs = apart(mine, "b");
    const auto note = [](Copy& copy, const std::string& text) {
        burin::Run after = copy.kept.job.runs[0];
        after.note = text;
        ASSERT_TRUE(copy.commit(
            {"note", {put(std::optional(copy.kept.job.runs[0]), std::optional(after))}}));
    };
    note(mine, "mine");
    note(theirs, "first");
    note(theirs, "theirs");
    Copy before = mine;
    mine.joinWith(theirs);
    ASSERT_EQ(mine.kept.job.conflicts.size(), 1U);
    const Conflict& conflict = mine.kept.job.conflicts[0];
    EXPECT_EQ(conflict.field, "note");
    EXPECT_EQ(conflict.base, "null"); // nothing stood there
    ASSERT_EQ(conflict.claims.size(), 2U);
    EXPECT_EQ(conflict.claims[0].value, "\"theirs\""); // the later one stands
    EXPECT_EQ(conflict.claims[1].value, "\"mine\"");
    EXPECT_EQ(mine.kept.job.runs[0].note, "theirs");
    // Taken back: mine again; done again: joined again.
    const std::string joined = mine.text();
    ASSERT_TRUE(mine.undo());
    EXPECT_EQ(mine.text(), before.text());
    ASSERT_TRUE(mine.redo());
    EXPECT_EQ(mine.text(), joined);
    // Joining once more brings nothing, and typing the field decides.
    EXPECT_TRUE(mine.joinWith(theirs).nothingNew());
    note(mine, "both");
    EXPECT_TRUE(mine.kept.job.conflicts.empty());
    theirs.joinWith(mine);
    EXPECT_TRUE(theirs.kept.job.conflicts.empty());
    EXPECT_EQ(theirs.kept.job.runs[0].note, "both");
    EXPECT_EQ(theirs.text(), mine.text());
}

TEST(Joining, WhatWasChangedIsNotTakenAway) {
    Copy mine = fresh();
    Job job = oneRunJob();
    Measurement m;
    m.id = "m";
    m.runId = "run";
    ASSERT_TRUE(mine.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    ASSERT_TRUE(mine.commit({"run", {put<burin::Run>(std::nullopt, job.runs[0])}}));
    ASSERT_TRUE(mine.commit({"test", {put<Measurement>(std::nullopt, m)}}));
    Copy theirs = apart(mine, "b");
    ASSERT_TRUE(mine.commit({"gone", removalOf(mine.kept.job, "run")}));
    burin::Run after = theirs.kept.job.runs[0];
    after.cords[0].lengthM = 1;
    ASSERT_TRUE(theirs.commit(
        {"cord", {put(std::optional(theirs.kept.job.runs[0]), std::optional(after))}}));
    Copy other = theirs;
    other.joinWith(mine);
    mine.joinWith(theirs);
    ASSERT_EQ(mine.kept.job.runs.size(), 1U);
    EXPECT_EQ(mine.kept.job.runs[0], after);          // with what it owns
    EXPECT_EQ(mine.kept.job.measurements.size(), 1U); // and its test
    ASSERT_EQ(mine.kept.job.conflicts.size(), 1U);
    EXPECT_EQ(mine.kept.job.conflicts[0].kind, "run");
    EXPECT_EQ(mine.kept.job.conflicts[0].field, "");
    EXPECT_EQ(mine.text(), other.text());
}

TEST(Joining, EitherClaimIsOneEdit) {
    Copy mine = fresh();
    Job job = oneRunJob();
    ASSERT_TRUE(mine.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    ASSERT_TRUE(mine.commit({"run", {put<burin::Run>(std::nullopt, job.runs[0])}}));
    Copy theirs = apart(mine, "b");
    const auto length = [](Copy& copy, double lengthM) {
        burin::Run after = copy.kept.job.runs[0];
        after.stretches[0].lengthM = lengthM;
        ASSERT_TRUE(copy.commit(
            {"length", {put(std::optional(copy.kept.job.runs[0]), std::optional(after))}}));
    };
    length(mine, 61);
    length(theirs, 62);
    mine.joinWith(theirs);
    ASSERT_EQ(mine.kept.job.conflicts.size(), 1U);
    const Conflict conflict = mine.kept.job.conflicts[0];
    EXPECT_EQ(render(subjectOf(mine.kept.job, conflict), {}), "stretch tray of run SL-D01, length");
    EXPECT_EQ(render(claimed(mine.kept.job, shipped(), conflict, conflict.base), {}), "60.00 m");
    ASSERT_EQ(conflict.claims.size(), 2U);
    for (std::size_t i = 0; i < 2; ++i) {
        Copy decided = mine;
        const auto edit = decide(mine.kept.job, conflict, i);
        ASSERT_TRUE(edit) << render(edit.error(), {});
        ASSERT_TRUE(decided.commit(*edit));
        EXPECT_TRUE(decided.kept.job.conflicts.empty());
        EXPECT_TRUE(stands(decided.kept.job, conflict, i));
        EXPECT_FALSE(stands(decided.kept.job, conflict, 1 - i));
        // The other copy takes the decision, and is not asked again.
        Copy other = theirs;
        other.joinWith(decided);
        EXPECT_TRUE(other.kept.job.conflicts.empty());
        EXPECT_EQ(other.text(), decided.text());
        ASSERT_TRUE(decided.undo());
        EXPECT_EQ(decided.text(), mine.text());
    }
    EXPECT_FALSE(decide(mine.kept.job, conflict, 2));
}

/// A copy with one run in it, and its run changed.
Copy withOneRun(const burin::Run& run) {
    Copy out = fresh();
    const Job job = oneRunJob();
    EXPECT_TRUE(out.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    EXPECT_TRUE(out.commit({"run", {put<burin::Run>(std::nullopt, run)}}));
    return out;
}
void change(Copy& copy, const std::function<void(burin::Run&)>& how) {
    burin::Run after = copy.kept.job.runs[0];
    how(after);
    ASSERT_TRUE(copy.commit(
        {"changed", {put(std::optional(copy.kept.job.runs[0]), std::optional(after))}}));
}
/// The run of both copies joined, the same whichever way round.
burin::Run joinedRun(const Copy& mine, const Copy& theirs, std::size_t conflicts) {
    Copy one = mine;
    Copy other = theirs;
    one.joinWith(theirs);
    other.joinWith(mine);
    EXPECT_EQ(one.text(), other.text());
    EXPECT_EQ(one.kept.job.conflicts.size(), conflicts);
    return one.kept.job.runs.at(0);
}

TEST(Joining, ALengthTypedInBothCopiesIsNotItsSum) {
    burin::Run bare = oneRunJob().runs[0];
    bare.stretches.clear();
    // Ways that were typed for the first time: neither copy's stretches stand beside the other's.
    {
        Copy mine = withOneRun(bare);
        Copy theirs = apart(mine, "b");
        change(mine, [](burin::Run& run) {
            run.stretches = *parseWay("riser 12 m; tray 34 m", UnitSystem::Metric);
        });
        change(theirs, [](burin::Run& run) {
            run.stretches = *parseWay("shaft 12 m; tray 36 m", UnitSystem::Metric);
        });
        EXPECT_EQ(joinedRun(mine, theirs, 2).stretches.size(), 2U);
    }
    for (const double theirLengthM : {61.0, 62.0}) {
        Copy mine = withOneRun(bare);
        Copy theirs = apart(mine, "b");
        change(mine, [](burin::Run& run) { run = withLength(run, 61); });
        change(theirs, [&](burin::Run& run) { run = withLength(run, theirLengthM); });
        const auto joined = joinedRun(mine, theirs, theirLengthM == 61 ? 0 : 1);
        ASSERT_EQ(joined.stretches.size(), 1U);
        EXPECT_GE(joined.lengthM(), 61);
        EXPECT_LE(joined.lengthM(), 62);
    }
}

TEST(Joining, LettersTypedInBothCopiesAreOneRoom) {
    Copy mine = fresh();
    Copy theirs = apart(mine, "b");
    for (const auto& [copy, line] : {std::pair(&mine, "SL-D01 20 m"), {&theirs, "SL-D02 30 m"}}) {
        const auto typed = parseNewRun(line, copy->kept.job, shipped(), UnitSystem::Metric);
        ASSERT_TRUE(typed) << render(typed.error(), {});
        ASSERT_TRUE(typed->room);
        ASSERT_TRUE(copy->commit({"room", put<Room>(std::nullopt, *typed->room)}));
        ASSERT_TRUE(copy->commit({"run", put<burin::Run>(std::nullopt, typed->run)}));
    }
    mine.joinWith(theirs);
    ASSERT_EQ(mine.kept.job.rooms.size(), 1U);
    EXPECT_EQ(mine.kept.job.runs.size(), 2U);
    EXPECT_TRUE(mine.kept.job.conflicts.empty());
    // One that was given other letters keeps what is its own.
    Job job = mine.kept.job;
    job.rooms[0].letters = "XX";
    const auto anew = parseNewRun("SL-D09 20 m", job, shipped(), UnitSystem::Metric);
    ASSERT_TRUE(anew && anew->room);
    EXPECT_NE(anew->room->id, job.rooms[0].id);
}

TEST(Joining, AWayTypedAnewIsTheSameWay) {
    struct Case {
        const char *mine, *theirs, *joined;
        std::size_t conflicts;
    };
    for (const auto& [mineTyped, theirsTyped, way, conflicts] :
         {// Each another stretch: both count. The same one: somebody decides, the later stands.
          Case{"riser 13 m; tray 34 m; drop 3 m", "riser 12 m; tray 36 m; drop 3 m",
               "riser 13 m; tray 36 m; drop 3 m", 0},
          Case{"riser 13 m; tray 34 m; drop 3 m", "riser 14 m; tray 34 m; drop 3 m", nullptr, 1},
          // One renamed and one taken out, one put in between.
          Case{"shaft 12 m; tray 34 m", "riser 12 m; hall 5 m; tray 34 m; drop 3 m",
               "shaft 12 m; hall 5 m; tray 34 m", 0},
          // The same way in another order.
          Case{"drop 3 m; riser 12 m; tray 34 m", "riser 12 m; tray 34 m; drop 4 m",
               "drop 4 m; riser 12 m; tray 34 m", 0},
          // Each put one in: both are there, unless it is the same.
          Case{"riser 12 m; hall 5 m; tray 34 m; drop 3 m",
               "riser 12 m; tray 34 m; attic 8 m; drop 3 m",
               "riser 12 m; hall 5 m; tray 34 m; attic 8 m; drop 3 m", 0},
          Case{"riser 12 m; hall 5 m; tray 34 m; drop 3 m",
               "riser 12 m; hall 5 m; tray 34 m; drop 3 m",
               "riser 12 m; hall 5 m; tray 34 m; drop 3 m", 0}}) {
        burin::Run run = oneRunJob().runs[0];
        run.stretches = *parseWay("riser 12 m; tray 34 m; drop 3 m", UnitSystem::Metric);
        Copy mine = withOneRun(run);
        Copy theirs = apart(mine, "b");
        for (const auto& [copy, typed] : {std::pair(&mine, mineTyped), {&theirs, theirsTyped}})
            change(*copy, [typed = typed](burin::Run& now) {
                now.stretches = *parseWay(typed, UnitSystem::Metric);
            });
        const auto joined = joinedRun(mine, theirs, conflicts);
        if (way == nullptr)
            EXPECT_EQ(joined.stretches.size(), 3U);
        else
            EXPECT_EQ(wayText(joined.stretches, UnitSystem::Metric), way);
    }
}

TEST(Joining, CordsAndPlugsOfBothCopiesAreNotDoubled) {
    burin::Run run = oneRunJob().runs[0];
    run.cords.clear();
    run.connections.clear();
    Copy mine = withOneRun(run);
    Copy theirs = apart(mine, "b");
    const auto make = [](double nearM, double farM) {
        return [=](burin::Run& now) {
            now.connections = {{End::Near, "conn-cat6a", 0}, {End::Far, "conn-cat6a", 0}};
            now.cords.clear();
            if (nearM > 0)
                now.cords.push_back({End::Near, now.cableId, nearM, false});
            if (farM > 0)
                now.cords.push_back({End::Far, now.cableId, farM, false});
        };
    };
    change(mine, make(3, 0));
    change(theirs, make(0, 5));
    auto joined = joinedRun(mine, theirs, 0);
    EXPECT_EQ(joined.connections.size(), 2U);
    EXPECT_EQ(cordsAtM(joined, End::Near), 3);
    EXPECT_EQ(cordsAtM(joined, End::Far), 5);
    change(theirs, make(2, 5));
    joined = joinedRun(mine, theirs, 1);
    EXPECT_EQ(joined.cords.size(), 2U);
    // Another plug at both ends, one more of them at one.
    mine.joinWith(theirs);
    theirs.joinWith(mine);
    const auto rowsOf = [](const Copy& copy) { return copy.kept.job.runs[0].connections; };
    ASSERT_EQ(rowsOf(mine), rowsOf(theirs));
    change(mine, [](burin::Run& now) { now = withConnector(now, "conn-cat6"); });
    change(theirs, [](burin::Run& now) { now = withConnections(now, End::Near, 2, "conn-cat6a"); });
    joined = joinedRun(mine, theirs, 1);
    EXPECT_EQ(connectionsAt(joined, End::Near), 2);
    EXPECT_EQ(connectionsAt(joined, End::Far), 1);
    EXPECT_EQ(std::count_if(joined.connections.begin(), joined.connections.end(),
                            [](const auto& c) { return c.connectionId == "conn-cat6"; }),
              2);
}

TEST(Joining, ARemovalIsDecidedOn) {
    Copy mine = fresh();
    Job job = oneRunJob();
    ASSERT_TRUE(mine.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    ASSERT_TRUE(mine.commit({"run", {put<burin::Run>(std::nullopt, job.runs[0])}}));
    Copy theirs = apart(mine, "b");
    ASSERT_TRUE(mine.commit({"gone", removalOf(mine.kept.job, "run")}));
    burin::Run after = theirs.kept.job.runs[0];
    after.note = "worked on";
    ASSERT_TRUE(theirs.commit(
        {"note", {put(std::optional(theirs.kept.job.runs[0]), std::optional(after))}}));
    mine.joinWith(theirs);
    ASSERT_EQ(mine.kept.job.conflicts.size(), 1U);
    const Conflict conflict = mine.kept.job.conflicts[0];
    for (std::size_t i = 0; i < 2; ++i) {
        Copy decided = mine;
        const auto edit = decide(mine.kept.job, conflict, i);
        ASSERT_TRUE(edit) << render(edit.error(), {});
        ASSERT_TRUE(decided.commit(*edit));
        const bool gone = conflict.claims[i].value == "removed";
        EXPECT_EQ(decided.kept.job.runs.empty(), gone);
        // Further work there does not bring the question back.
        Copy other = theirs;
        other.joinWith(decided);
        EXPECT_EQ(other.text(), decided.text());
    }
}

TEST(Joining, WhatAnotherCopyPutToUseIsNotTakenAway) {
    Copy mine = fresh();
    Job job = oneRunJob();
    ASSERT_TRUE(mine.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    Copy theirs = apart(mine, "b");
    ASSERT_TRUE(mine.commit({"gone", *removing(mine.kept.job, Kind::Room, "r")}));
    ASSERT_TRUE(theirs.commit({"run", {put<burin::Run>(std::nullopt, job.runs[0])}}));
    mine.joinWith(theirs);
    EXPECT_EQ(mine.kept.job.rooms.size(), 1U);
    EXPECT_EQ(mine.kept.job.runs.size(), 1U);
    ASSERT_EQ(mine.kept.job.conflicts.size(), 1U);
    EXPECT_EQ(mine.kept.job.conflicts[0].kind, "room");
}

TEST(Joining, WhatStayedForAnothersSakeStaysThroughLaterJoinings) {
    Copy root = fresh();
    const Job job = oneRunJob();
    const burin::Run& run = job.runs[0];
    ASSERT_TRUE(root.commit({"room", {put<Room>(std::nullopt, job.rooms[0])}}));
    ASSERT_TRUE(root.commit({"run", {put<burin::Run>(std::nullopt, run)}}));
    Distribution fed = newDistribution(run);
    deriveOwned(fed);
    ASSERT_TRUE(root.commit({"fed", {put<Distribution>(std::nullopt, fed)}}));
    // One hangs it somewhere else and back again, the other takes the run away.
    Copy a = apart(root, "a");
    Copy b = apart(root, "b");
    Distribution bare = fed;
    bare.parts[0].runId.clear();
    ASSERT_TRUE(a.commit({"off", {put<Distribution>(fed, bare)}}));
    ASSERT_TRUE(a.commit({"on", {put<Distribution>(bare, fed)}}));
    ASSERT_TRUE(b.commit({"gone", *removing(b.kept.job, {{Kind::Run, run.id}}, {})}));
    Copy ab = a;
    Copy ba = b;
    ab.joinWith(b);
    ba.joinWith(a);
    ASSERT_EQ(ab.kept.job.runs.size(), 1U);
    ASSERT_EQ(ab.text(), ba.text());
    // Both have the run and what refers to it alike now, and both know that it was taken away.
    const auto rename = [](Copy& copy, const char* letters) {
        ASSERT_TRUE(copy.commit(
            {"room", {put<Room>(std::nullopt, Room{letters, letters, letters, 0, 0})}}));
    };
    rename(ab, "x");
    rename(ba, "y");
    Copy one = ab;
    Copy two = ba;
    one.joinWith(ba);
    two.joinWith(ab);
    EXPECT_EQ(one.text(), two.text());
    ASSERT_EQ(one.kept.job.runs.size(), 1U);
    EXPECT_EQ(one.kept.job.distributions[0].parts[0].runId, run.id);
}

TEST(Joining, CopiesOfTwoJobsAreRefused) {
    Copy mine = fresh();
    Copy theirs = fresh();
    theirs.kept.jobId = "another";
    EXPECT_FALSE(join(mine.kept, theirs.kept));
    // A difference that no step tells is damage.
    theirs = apart(mine, "b");
    ASSERT_TRUE(theirs.commit({"room", {put<Room>(std::nullopt, Room{"r", "R", "R", 0, 0})}}));
    theirs.kept.job.info.name = "by another hand";
    const auto joined = join(mine.kept, theirs.kept);
    ASSERT_FALSE(joined);
    EXPECT_NE(render(joined.error().what, {}).find("neither logbook"), std::string::npos);
    // So is a step that is missing.
    theirs.kept.job.info.name.clear();
    ASSERT_TRUE(theirs.commit({"room", {put<Room>(std::nullopt, Room{"q", "Q", "Q", 0, 0})}}));
    theirs.kept.log.erase(theirs.kept.log.end() - 2);
    EXPECT_FALSE(join(mine.kept, theirs.kept));
}

TEST(Joining, RandomCopiesComeToOneJobWhicheverWay) {
    const std::string figures = writeCable(*shipped().cable("coax-s6"));
    int conflicts = 0;
    int kept = 0;
    for (unsigned seed = 1; seed <= rounds(200, 1000); ++seed) {
        RandomEditor editor(seed, figures);
        const Copy root = ancestor(editor);
        const int longest = seed % 10 == 0 ? 200 : 30;
        Copy a = apart(root, "a");
        Copy b = apart(root, "b");
        work(a, editor, editor.upTo(longest));
        work(b, editor, editor.upTo(longest));
        Copy ab = a;
        Copy ba = b;
        const Joined joined = ab.joinWith(b);
        ba.joinWith(a);
        ASSERT_EQ(parting(ab.text(), ba.text()), 0U) << "seed " << seed << partingSaid;
        ASSERT_TRUE(readJob(toJson(ab.kept.job), "joined")) << "seed " << seed;
        // Whatever came of it, its findings can be worked out.
        if (seed % 10 == 0) {
            EXPECT_NO_THROW(findJob(ab.kept.job, shipped(), {}, {})) << "seed " << seed;
        }
        if (joined.changes.empty())
            continue;
        const std::string together = ab.text();
        ASSERT_TRUE(ab.undo());
        ASSERT_EQ(parting(ab.text(), a.text()), 0U) << "seed " << seed << partingSaid;
        ASSERT_TRUE(ab.redo());
        ASSERT_EQ(parting(ab.text(), together), 0U) << "seed " << seed << partingSaid;
        ASSERT_TRUE(ab.joinWith(b).nothingNew());
        ASSERT_TRUE(ba.joinWith(a).nothingNew());

        // The oracle: what each made of every field, by the jobs alone.
        const auto was = rowsOf(root.kept.job);
        const auto mine = rowsOf(a.kept.job);
        const auto theirs = rowsOf(b.kept.job);
        const auto now = rowsOf(ab.kept.job);
        std::set<std::string> expected;
        std::set<std::string> found;
        for (const auto& c : ab.kept.job.conflicts)
            if (!c.field.empty())
                found.insert(c.kind + " " + c.rowId + " " + c.field);
            else
                ++kept;
        for (const auto& [row, values] : was) {
            const auto m = mine.find(row);
            const auto t = theirs.find(row);
            if (m == mine.end() || t == theirs.end())
                continue;
            for (const auto& field : fieldsOf(values, m->second, t->second)) {
                const auto old = at(values, field);
                const auto my = at(m->second, field);
                const auto their = at(t->second, field);
                const auto is = at(now.at(row), field);
                const bool both = my != their && my != old && their != old;
                // In what order cords and plugs stand says nothing: the later holds, nobody is
                // asked.
                const bool saysNothing = field == "order" && (row.starts_with("cord ") ||
                                                              row.starts_with("connection "));
                if (both && !saysNothing)
                    expected.insert(row + " " + field);
                // A reference that was cleared with a row that stays after all is there again.
                const bool again =
                    isThere(row, field, is, now) &&
                    !(isThere(row, field, is, mine) && isThere(row, field, is, theirs));
                ASSERT_TRUE(both || again || is == (my == old ? their : my))
                    << "seed " << seed << ": " << row << " " << field << " is " << is;
            }
        }
        // A reference that was cleared only because its row went is no claim; one to a row that
        // stays after all may be.
        for (const auto& one : found)
            ASSERT_TRUE(expected.contains(one) || isReference(one))
                << "seed " << seed << ": " << one;
        for (const auto& one : expected)
            ASSERT_TRUE(found.contains(one) || isReference(one)) << "seed " << seed << ": " << one;
        conflicts += int(found.size());
        // Rows: new ones are there; what one took away is there only where the other held to it.
        for (const auto* side : {&mine, &theirs})
            for (const auto& [row, values] : *side)
                ASSERT_TRUE(was.contains(row) || now.contains(row)) << "seed " << seed << row;
        for (const auto& [row, values] : was) {
            const auto m = mine.find(row);
            const auto t = theirs.find(row);
            const bool one = (m == mine.end()) != (t == theirs.end());
            const bool there = now.contains(row);
            ASSERT_TRUE(one || there == (m != mine.end())) << "seed " << seed << ": " << row;
            ASSERT_TRUE(!one || there || !workedOn(row, values, (m != mine.end() ? m : t)->second))
                << "seed " << seed << ": " << row;
        }
    }
    EXPECT_GT(conflicts + kept, trials(200) / 10);
}

TEST(Joining, ThreeCopiesInAnyOrder) {
    const std::string figures = writeCable(*shipped().cable("coax-s6"));
    for (unsigned seed = 1; seed <= rounds(60, 1500); ++seed) {
        RandomEditor editor(5000 + seed, figures);
        const Copy root = ancestor(editor);
        std::vector<Copy> copies;
        for (const char* replica : {"a", "b", "c"}) {
            copies.push_back(apart(root, replica));
            work(copies.back(), editor, editor.upTo(25));
        }
        std::vector<int> order{0, 1, 2};
        std::string first;
        do {
            Copy out = copies[std::size_t(order[0])];
            out.joinWith(copies[std::size_t(order[1])]);
            out.joinWith(copies[std::size_t(order[2])]);
            Copy other = copies[std::size_t(order[1])];
            other.joinWith(copies[std::size_t(order[2])]);
            Copy last = copies[std::size_t(order[0])];
            last.joinWith(other);
            if (first.empty())
                first = out.text();
            ASSERT_EQ(parting(out.text(), first), 0U) << "seed " << seed << partingSaid;
            ASSERT_EQ(parting(last.text(), first), 0U) << "seed " << seed << partingSaid;
        } while (std::next_permutation(order.begin(), order.end()));
    }
}
