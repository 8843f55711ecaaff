#include "core/edit/edit_request.h"
#include "core/shipped.h"
#include "core/units/render.h"

using namespace burin;

namespace {

Outcome<Job> withChanges(const Job& job, const char* changes) {
    auto json = parseJson(std::string(R"({"title":"t","changes":[)") + changes + "]}", "e.json");
    EXPECT_TRUE(json) << changes;
    const auto edit = readRequest(*json, job, "e.json");
    return edit ? apply(job, *edit) : Outcome<Job>(refuse(edit.error()));
}
std::string refusal(const Job& job, const char* changes) {
    const auto done = withChanges(job, changes);
    return done ? std::string("it was done") : render(done.error(), {});
}

} // namespace

TEST(EditRequest, SetsByLabelAndById) {
    const Job job = oneRunJob();
    auto done =
        withChanges(job, R"({"op":"set","kind":"run","label":"SL-D01","field":"note","value":"x"},
                              {"op":"set","kind":"run","id":"run","field":"leftCoiled","value":true},
                              {"op":"set","kind":"job","field":"accuracy.lossDb","value":0.4})");
    ASSERT_TRUE(done) << render(done.error(), {});
    EXPECT_EQ(done->runs[0].note, "x");
    EXPECT_TRUE(done->runs[0].leftCoiled);
    EXPECT_EQ(done->info.accuracy.lossDb, 0.4);
    // Without a value it is left out again.
    done = withChanges(*done, R"({"op":"set","kind":"run","label":"SL-D01","field":"note"})");
    ASSERT_TRUE(done);
    EXPECT_EQ(done->runs[0].note, "");
    // What it must hold.
    EXPECT_TRUE(withChanges(
        job, R"({"op":"set","kind":"run","id":"run","field":"order","before":0,"value":3})"));
    EXPECT_NE(refusal(job, R"({"op":"set","kind":"run","id":"run","field":"order","before":1,)"
                           R"("value":3})")
                  .find("has changed"),
              std::string::npos);
}

TEST(EditRequest, AddsRowsWithWhatTheyOwn) {
    const Job job = oneRunJob();
    const auto done = withChanges(
        job, R"({"op":"add","kind":"run","value":{"roomId":"r","label":"SL-D09","serviceId":"10g",
                 "cableId":"cat6a-utp","nearEnd":"","farEnd":"",
                 "stretches":[{"name":"tray","lengthM":40,"temperatureC":20,"neighbours":3},
                              {"name":"drop","lengthM":4,"temperatureC":20,"neighbours":0}]}},
               {"op":"set","kind":"run","label":"SL-D09","field":"note","value":"just made"})");
    ASSERT_TRUE(done) << render(done.error(), {});
    const burin::Run* run = done->runLabelled("SL-D09");
    ASSERT_NE(run, nullptr);
    EXPECT_EQ(run->lengthM(), 44);
    EXPECT_EQ(run->stretches[1].name, "drop");
    EXPECT_EQ(run->note, "just made");
    EXPECT_EQ(run->id.size(), 16U);
    EXPECT_GT(run->order, job.runs[0].order);
}

TEST(EditRequest, RemovesWithWhatGoesAlong) {
    Job job = oneRunJob();
    Measurement m;
    m.id = "m";
    m.runId = "run";
    job.measurements.push_back(m);
    const auto done = withChanges(job, R"({"op":"remove","kind":"run","label":"SL-D01"},
                                    {"op":"remove","kind":"room","id":"r"})");
    ASSERT_TRUE(done) << render(done.error(), {});
    EXPECT_TRUE(done->runs.empty() && done->measurements.empty() && done->rooms.empty());
    EXPECT_NE(refusal(job, R"({"op":"remove","kind":"room","id":"r"})").find("needs the room"),
              std::string::npos);
}

TEST(EditRequest, SaysWhereItIsWrong) {
    const Job job = oneRunJob();
    for (const auto& [changes, said] : std::vector<std::pair<const char*, const char*>>{
             {R"({"op":"set","kind":"run","label":"X","field":"note","value":"x"})", "X"},
             {R"({"op":"set","kind":"run","id":"no","field":"note","value":"x"})",
              "changes[no].id"},
             {R"({"op":"set","kind":"run","id":"run","field":"colour","value":"x"})", "colour"},
             {R"({"op":"set","kind":"run","id":"run","field":"id","value":"x"})", "id cannot"},
             {R"({"op":"set","kind":"run","id":"run","field":"order","value":"x"})", "order"},
             {R"({"op":"set","kind":"job","field":"accuracy","value":{}})", "as a whole"},
             {R"({"op":"paint","kind":"run","id":"run"})", "paint"},
             {R"({"op":"set","kind":"boat","id":"run","field":"x"})", "boat"},
             {R"({"op":"add","kind":"run","value":[]})", "no object"},
             {R"({"op":"add","kind":"run","value":{"label":"Y"}})", "roomId"},
             {R"({"op":"add","kind":"stretch","value":{"name":"x"}})", "runId"},
             {R"({"op":"remove","kind":"job"})", "is no job"},
             {R"({"op":"set","kind":"run","id":"run","field":"note","value":"x","by":"me"})", "by"},
             {R"({"op":"set","kind":"run","id":"run","field":"stretches","value":[]})",
              "stretches"},
             {R"({"op":"add","kind":"run","value":{"stretches":[4]}})", "no objects"}})
        EXPECT_NE(refusal(job, changes).find(said), std::string::npos)
            << changes << ": " << refusal(job, changes);
    EXPECT_FALSE(readRequest(Json::array(), job, "e.json"));
    EXPECT_FALSE(readRequest(Json{{"changes", Json::array()}}, job, "e.json"));
}
