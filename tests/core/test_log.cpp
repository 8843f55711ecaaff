#include "core/history/log.h"
#include "core/history/old_log.h"
#include "core/shipped.h"

using namespace burin;

namespace {

OpenLog logOf(const std::vector<std::string>& undoes) {
    OpenLog out;
    for (std::size_t i = 0; i < undoes.size(); ++i) {
        LogRow row = out.next(std::to_string(i), "2026-11-26T10:00:00.000Z", "t", "s");
        row.undoes = undoes[i];
        row.changes = put<Room>(std::nullopt, Room{"r", "R", "R", 0, 0});
        out.take(row);
    }
    return out;
}

} // namespace

TEST(Log, undoAndRedoGoAlongTheSteps) {
    // 0, 1, undo of 1, undo of 0, redo of 0, redo of 1, undo of that, 7.
    const std::vector<std::string> all{"", "", "1", "0", "3", "2", "5", ""};
    const std::vector<std::pair<std::vector<std::size_t>, std::vector<std::size_t>>> expected{
        {{0}, {}},  {{0, 1}, {}}, {{0}, {2}}, {{}, {2, 3}},
        {{4}, {2}}, {{4, 5}, {}}, {{4}, {6}}, {{4, 7}, {}}};
    for (std::size_t i = 0; i < all.size(); ++i) {
        const OpenLog log = logOf({all.begin(), all.begin() + std::ptrdiff_t(i) + 1});
        EXPECT_EQ(log.steps.undo, expected[i].first) << i;
        EXPECT_EQ(log.steps.redo, expected[i].second) << i;
    }
}

TEST(Log, aClockThatIsBehindIsTold) {
    const OpenLog log = logOf({""});
    EXPECT_EQ(log.minutesAheadOf("2026-11-26T09:56:00.000Z"), 0);
    EXPECT_EQ(log.minutesAheadOf("2026-11-26T09:55:00.000Z"), 5);
    EXPECT_EQ(log.minutesAheadOf("2026-11-25T10:00:00.000Z"), 1440);
    EXPECT_EQ(log.minutesAheadOf("2027-01-01T00:00:00.000Z"), 0);
    EXPECT_EQ(OpenLog{}.minutesAheadOf("1970-01-01T00:00:00.000Z"), 0);
}

TEST(Log, oldLinesGetTheSameIdsInEveryCopy) {
    const auto line = [](const char* title, const char* state) {
        return OldLine{"2026-10-05T09:00:00.000+02:00", "t", title, state,
                       R"({"title":"x","changes":[{"kind":"room","after":{"id":"r","letters":"R",)"
                       R"("name":"R","tape":0,"order":0}}]})"};
    };
    const auto whole = stepsOfOld({line("a", "done"), line("b", "done")}, "job");
    const auto undone = stepsOfOld({line("a", "done"), line("b", "undone")}, "job");
    const auto overtaken =
        stepsOfOld({line("a", "done"), line("b", "dropped"), line("c", "done")}, "job");
    ASSERT_EQ(whole.size(), 2U);
    ASSERT_EQ(undone.size(), 3U);
    ASSERT_EQ(overtaken.size(), 4U);
    for (std::size_t i = 0; i < 2; ++i) {
        EXPECT_EQ(whole[i], undone[i]);
        EXPECT_EQ(whole[i], overtaken[i]);
    }
    EXPECT_EQ(undone[2].undoes, undone[1].id);
    EXPECT_EQ(undone[2], overtaken[2]);
    EXPECT_EQ(overtaken[3].parents, std::vector<std::string>{overtaken[2].id});
    EXPECT_EQ(whole[0].at, "2026-10-05T07:00:00.000Z");
    EXPECT_EQ(whole[0].changes.size(), 1U);
    EXPECT_TRUE(whole[0].parents.empty());
    // What cannot be read keeps its place.
    auto bad = line("b", "done");
    bad.editJson = "{";
    const auto damaged = stepsOfOld({line("a", "done"), bad}, "job");
    ASSERT_EQ(damaged.size(), 2U);
    EXPECT_TRUE(damaged[1].changes.empty());
    EXPECT_EQ(damaged[1].title, "b (damaged)");
    EXPECT_EQ(stepsOfOld({}, "job").size(), 1U);
}
