#include "core/base/lookup.h"
#include "core/edit/apply.h"
#include "core/edit/clashes.h"
#include "core/edit/plan_edit.h"
#include "core/edit/removal.h"
#include "core/job/ports.h"
#include "core/tray_job.h"
#include "core/units/render.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

Place panelOf(int ports) {
    Place out;
    out.id = "p";
    out.name = "Panel A";
    out.kind = PlaceKind::Panel;
    out.ports = ports;
    return out;
}
Place plateOf(int ports) {
    Place out;
    out.id = "o";
    out.name = "outlet 3";
    out.ports = ports;
    return out;
}
Job scheduledJob(int count) {
    Job job = trayJob();
    job.runs.clear();
    return *apply(job, *scheduled(job, shipped(), "r", "data", count));
}
/// Which port of the panel each run is on, by label.
std::vector<std::string> panelPorts(const Job& job) {
    std::vector<std::string> out;
    for (const auto& run : job.runs)
        out.push_back(run.label + "@" + std::to_string(run.near.port));
    return out;
}
void expectNoneShared(const Job& job) {
    for (const auto& clash : clashesOf(job))
        ADD_FAILURE() << render(clash.fault, {});
}

} // namespace

TEST(Ports, areCalledByWhatTheyAreOn) {
    EXPECT_EQ(portWords(panelOf(24), 7), "Panel A port 7");
    EXPECT_EQ(portWords(plateOf(2), 2), "outlet 3, jack 2");
    Place block = panelOf(25);
    block.kind = PlaceKind::Block;
    block.name = "Block 1";
    EXPECT_EQ(portWords(block, 4), "Block 1 pair 4");
    EXPECT_EQ(portOf(block, {"Block 1 pair 4", "p"}), 4);
    Place named = plateOf(3);
    named.portNames = {"left jack", "", "floor box"};
    EXPECT_EQ(portWords(named, 1), "outlet 3, left jack");
    EXPECT_EQ(portWords(named, 2), "outlet 3, jack 2");
    EXPECT_EQ(portWords(named, 3), "outlet 3, floor box");
    // One alone is not told apart, nor is what nobody has said.
    EXPECT_EQ(portWords(plateOf(1), 1), "outlet 3");
    EXPECT_EQ(portWords(panelOf(24), 0), "Panel A");
}

TEST(Ports, anEndIsCalledByItsTextElseItsPort) {
    Job job;
    job.places = {panelOf(24), plateOf(2)};
    EXPECT_EQ(endName(job, {"bench wall, left", "o", 2}), "bench wall, left");
    EXPECT_EQ(endName(job, {"", "o", 2}), "outlet 3, jack 2");
    EXPECT_EQ(endName(job, {"", "gone", 2}), "");
    EXPECT_EQ(endName(job, {"Panel A port 5", "p", 7}), "Panel A port 7") << "it was put elsewhere";
    EXPECT_EQ(endName(job, {"Panel A port 5", "p"}), "Panel A port 5");
    // Under its place, which stands above.
    EXPECT_EQ(endNameAtPlace(job, {"", "p", 7}), "port 7");
    EXPECT_EQ(endNameAtPlace(job, {"", "o", 2}), "jack 2");
    EXPECT_EQ(endNameAtPlace(job, {"Panel A port 5", "p", 7}), "port 7");
    EXPECT_EQ(endNameAtPlace(job, {"Panel A port 05", "p"}), "port 05") << "as it is called";
    EXPECT_EQ(endNameAtPlace(job, {"bench wall, left", "o", 2}), "bench wall, left");
    EXPECT_EQ(endNameAtPlace(job, {"bench wall, left"}), "bench wall, left");
    EXPECT_EQ(endNameAtPlace(job, {"Panel A, output 3", "p"}), "output 3");
    EXPECT_EQ(endNameAtPlace(job, {"Panel A", "p"}), "");
    EXPECT_EQ(endNameAtPlace(job, {"Panel AB rear", "p"}), "Panel AB rear") << "another's name";
    EXPECT_EQ(endNameAtPlace(job, {"", "p"}), "") << "nobody has said which port";
    job.places[1].portNames = {"", "left jack"};
    EXPECT_EQ(endNameAtPlace(job, {"", "o", 2}), "left jack");
    job.places[1].portNames.clear();
    burin::Run run;
    EXPECT_EQ(fromTo(job, run), "");
    run.near = {"", "p", 7};
    EXPECT_EQ(fromTo(job, run), "Panel A port 7 → ");
    // A place that is renamed is renamed at every end there.
    job.places[0].name = "Panel B";
    EXPECT_EQ(fromTo(job, run), "Panel B port 7 → ");
}

TEST(Ports, thoseTypedBeforeThereWereNumbersAreTold) {
    const Place panel = panelOf(24);
    EXPECT_EQ(portOf(panel, {"Panel A port 07", "p"}), 7);
    EXPECT_EQ(portOf(panel, {"  panel a PORT 12 ", "p"}), 12);
    EXPECT_EQ(portOf(panel, {"Panel A port 25", "p"}), 0) << "it has none of that number";
    EXPECT_EQ(portOf(panel, {"Panel A port 7b", "p"}), 0);
    EXPECT_EQ(portOf(panel, {"Panel A port ", "p"}), 0);
    EXPECT_EQ(portOf(panel, {"Panel A port 99999999999", "p"}), 0);
    EXPECT_EQ(portOf(panel, {"7", "p"}), 0) << "a number alone may be anything";
    EXPECT_EQ(portOf(panel, {"Panel A port 7", "p", 3}), 3) << "what was said as a port leads";
    EXPECT_EQ(portOf(panelOf(1), {"", "p", 3}), 0);
}

TEST(Ports, typedByNameOrNumber) {
    Job job;
    job.places = {panelOf(24), plateOf(2)};
    job.places[1].portNames = {"left jack"};
    const RunEnd at{"", "p", 3};
    EXPECT_EQ(typedEnd(job, at, "Panel A port 9"), (RunEnd{"", "p", 9}));
    EXPECT_EQ(typedEnd(job, at, " port 9 "), (RunEnd{"", "p", 9}));
    EXPECT_EQ(typedEnd(job, at, "9"), (RunEnd{"", "p", 9}));
    EXPECT_EQ(typedEnd(job, at, "panel a port 3"), at) << "it is what it is called already";
    EXPECT_EQ(typedEnd(job, at, "25"), (RunEnd{"25", "p", 3})) << "no port of it: a text";
    EXPECT_EQ(typedEnd(job, at, "behind the door"), (RunEnd{"behind the door", "p", 3}));
    EXPECT_EQ(typedEnd(job, {"behind the door", "p", 3}, ""), at);
    EXPECT_EQ(typedEnd(job, {"", "o", 2}, "LEFT jack"), (RunEnd{"", "o", 1}));
    EXPECT_EQ(typedEnd(job, {"", "o", 1}, "outlet 3, jack 2"), (RunEnd{"", "o", 2}));
    // Nothing is drawn: a text, whatever it reads.
    EXPECT_EQ(typedEnd(job, {}, "Panel A port 9"), (RunEnd{"Panel A port 9"}));
}

TEST(Ports, aGapIsKeptAndFilledBeforeTheNext) {
    // Four, one taken away, one more: the freed port, and no port twice.
    Job job = scheduledJob(4);
    EXPECT_EQ(panelPorts(job),
              (std::vector<std::string>{"SL-D01@1", "SL-D02@2", "SL-D03@3", "SL-D04@4"}));
    job = *apply(job, {"gone", removalOf(job, job.runLabelled("SL-D02")->id)});
    EXPECT_EQ(panelPorts(job), (std::vector<std::string>{"SL-D01@1", "SL-D03@3", "SL-D04@4"}));
    job = *apply(job, *scheduled(job, shipped(), "r", "data", 4));
    expectNoneShared(job);
    EXPECT_EQ(job.runLabelled("SL-D02")->near.port, 2);
    EXPECT_EQ(endName(job, job.runLabelled("SL-D02")->far), "outlet 1, jack 2");
    job = *apply(job, *scheduled(job, shipped(), "r", "data", 6));
    expectNoneShared(job);
    EXPECT_EQ(job.runLabelled("SL-D06")->near.port, 6);
}

TEST(Ports, noneIsGivenWhereAllAreTaken) {
    const Job job = scheduledJob(30); // of a panel with 24
    int numbered = 0;
    for (const auto& run : job.runs)
        numbered += run.near.port > 0 ? 1 : 0;
    EXPECT_EQ(numbered, byId(job.places, "p")->ports);
    expectNoneShared(job);
}

TEST(Ports, twoOnOneAreRefusedWhereTypedWithOneThatIsFree) {
    const Job job = scheduledJob(3);
    const burin::Run& run = *job.runLabelled("SL-D03");
    burin::Run after = run;
    after.near = typedEnd(job, run.near, "1");
    const Edit edit{"ends", {put(std::optional(run), std::optional(after))}};
    const auto refused = apply(job, edit);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code(), "port.taken");
    EXPECT_NE(render(refused.error(), {}).find("run SL-D01 is on this port already"),
              std::string::npos)
        << render(refused.error(), {});
    EXPECT_NE(render(refused.error().cure, {}).find("panel A port 3 is free"), std::string::npos)
        << render(refused.error(), {});
    // Joined from two copies it is left, and is a finding; what has nothing to do with it goes on.
    Job joined = job;
    ASSERT_TRUE(applyTo(joined, edit, Clashes::Left));
    const auto clashes = clashesOf(joined);
    ASSERT_EQ(clashes.size(), 1U);
    EXPECT_EQ(clashes[0].fault.code(), "port.taken");
    burin::Run noted = joined.runs[1];
    noted.note = "pulled";
    EXPECT_TRUE(
        apply(joined, {"note", {put(std::optional(joined.runs[1]), std::optional(noted))}}));
    burin::Run alsoNoted = joined.runs[2];
    alsoNoted.note = "pulled";
    EXPECT_TRUE(
        apply(joined, {"note", {put(std::optional(joined.runs[2]), std::optional(alsoNoted))}}))
        << "the run that clashes can be worked on";
}

TEST(Ports, onePortOfAnOldTextIsTakenToo) {
    Job job = scheduledJob(2);
    // As a job of before ends had numbers has it.
    job.runs[0].near = {"panel A port 1", "p"};
    job.runs[1].near = {"Panel A port 01", "p"};
    const auto clashes = clashesOf(job);
    ASSERT_EQ(clashes.size(), 1U);
    EXPECT_EQ(clashes[0].runId, job.runs[1].id);
    PortFinder ports(job);
    EXPECT_EQ(ports.on(*byId(job.places, "p")).port, 2);
    EXPECT_EQ(ports.on(*byId(job.places, "p")).port, 3);
}

TEST(Ports, anEndWhosePlaceGoesKeepsItsName) {
    const Job job = scheduledJob(2);
    const Job after = *apply(job, {"off", removalOfPlace(job, job, "p")});
    EXPECT_EQ(after.runs[1].near, (RunEnd{"panel A port 2"}));
    EXPECT_EQ(after.runs[1].far, job.runs[1].far);
    // However it is taken away.
    const Edit bare{"off", *removing(job, Kind::Place, "p")};
    EXPECT_EQ(apply(job, bare)->runs[1].near, (RunEnd{"panel A port 2"}));
    EXPECT_EQ(*apply(*apply(job, bare), inverse(bare)), job);
}

TEST(Ports, aCopyGoesToPortsOfItsOwn) {
    const Job job = scheduledJob(1);
    burin::Run copy = likeOf(job.runs[0]);
    PortFinder ports(job);
    ports.moveToFree(copy);
    EXPECT_EQ(copy.near, (RunEnd{"", "p", 2}));
    EXPECT_EQ(copy.far.port, 2); // the other jack of its plate
    burin::Run third = likeOf(job.runs[0]);
    ports.moveToFree(third);
    EXPECT_EQ(third.near.port, 3);
    EXPECT_EQ(third.far.port, 0) << "its plate is full";
    burin::Run typed;
    typed.near.text = "rack";
    ports.moveToFree(typed);
    EXPECT_EQ(typed.near, (RunEnd{"rack"}));
}
