#include "core/finding/expected.h"
#include "core/shipped.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

const ExpectedResult* resultOf(const Expected& e, Parameter parameter) {
    for (const auto& r : e.results)
        if (r.parameter == parameter)
            return &r;
    return nullptr;
}

} // namespace

// Class D's channel limit is built from the same parts as 100 m of Cat 5e with four connections, so
// its NEXT and ACR-F leave next to nothing.
TEST(Expected, TheFullChannelSitsOnItsLimit) {
    Job job = oneRunJob("cat5e-utp", "1g", 90);
    auto& run = job.runs[0];
    run.cords = {{End::Near, "cat5e-utp", 5, false}, {End::Far, "cat5e-utp", 5, false}};
    const std::string id = run.connections[0].connectionId;
    run.connections = {
        {End::Near, id, 0}, {End::Near, id, 0}, {End::Far, id, 0}, {End::Far, id, 0}};
    const Expected e = expectedOf(job, run, shipped());
    EXPECT_EQ(e.className, "D");
    ASSERT_NE(resultOf(e, Parameter::Next), nullptr);
    EXPECT_NEAR(resultOf(e, Parameter::Next)->margin, 0, 0.6);
    EXPECT_NEAR(resultOf(e, Parameter::AcrF)->margin, 0, 0.1);
    EXPECT_GT(resultOf(e, Parameter::InsertionLoss)->margin, -0.5);
    EXPECT_NE(english(e.working).find("ACR-F"), std::string::npos);
}

TEST(Expected, MoreConnectionsLeaveLess) {
    Job job = oneRunJob("cat6a-utp", "10g", 60);
    const Expected two = expectedOf(job, job.runs[0], shipped());
    auto more = job.runs[0];
    more.connections.push_back(more.connections[0]);
    const Expected three = expectedOf(job, more, shipped());
    EXPECT_LT(resultOf(three, Parameter::Next)->margin, resultOf(two, Parameter::Next)->margin);
    EXPECT_LT(resultOf(three, Parameter::AcrF)->margin, resultOf(two, Parameter::AcrF)->margin);
    EXPECT_NEAR(three.delayUs - two.delayUs, 0.0025, 1e-9);
}

TEST(Expected, TheLowestPartNamesTheClass) {
    Job job = oneRunJob("cat6a-utp", "10g", 60);
    job.runs[0].cords[0].cableId = "cat5e-utp";
    EXPECT_EQ(expectedOf(job, job.runs[0], shipped()).className, "D");
}

TEST(Expected, NothingIsGuessed) {
    const Job coax = oneRunJob("coax-s6", "tv", 30);
    EXPECT_TRUE(expectedOf(coax, coax.runs[0], shipped()).results.empty());
    const Job seven = oneRunJob("cat7a-sftp", "10g", 30);
    const Expected e = expectedOf(seven, seven.runs[0], shipped());
    EXPECT_EQ(resultOf(e, Parameter::Next), nullptr);
    EXPECT_NE(english(e.noCrosstalk).find("Cat 7A"), std::string::npos);
}
