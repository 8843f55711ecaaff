#include "core/shipped.h"
#include "core/units/render.h"
#include <fstream>
#include <sstream>

using namespace burin;

namespace {

std::string text(const std::string& name) {
    std::ifstream in(std::string(BURIN_CATALOGUE) + "/" + name + ".json");
    std::stringstream out;
    out << in.rdbuf();
    return out.str();
}

std::string replaced(std::string text, const std::string& what, const std::string& with) {
    const auto at = text.find(what);
    EXPECT_NE(at, std::string::npos) << what;
    return text.replace(at, what.size(), with);
}

Fault faultOfCables(const std::string& cables) {
    const auto out = readCatalogue(cables, text("connections"), text("limits"), text("services"),
                                   text("site"), text("costs"));
    EXPECT_FALSE(out);
    return out ? Fault{} : out.error();
}

double limitAt(LimitSet set, const char* name, LinkKind link, Parameter parameter, double f) {
    const Limit* limit = shipped().limit(set, name, link, parameter);
    if (limit == nullptr || !limit->at(f)) {
        ADD_FAILURE() << name << " " << parameterKey(parameter) << " at " << f;
        return 0;
    }
    return *limit->at(f);
}

constexpr auto channelKind = LinkKind::Channel;
constexpr auto permanentKind = LinkKind::Permanent;

} // namespace

TEST(Catalogue, holdsWhatIsPromised) {
    for (const char* id :
         {"cat3-utp",   "cat5e-utp",    "cat6-utp",      "cat6-futp",  "cat6a-utp",
          "cat6a-futp", "cat7-sftp",    "cat7a-sftp",    "cat8-sftp",  "coax-s59",
          "coax-s6",    "coax-s6-quad", "coax-s11-quad", "coax-sat46", "coax-rg58",
          "coax-mini8", "coax-rg213",   "coax-ll6",      "coax-ll10",  "coax-ll15"}) {
        const Cable* cable = shipped().cable(id);
        ASSERT_NE(cable, nullptr) << id;
        EXPECT_FALSE(cable->attenuation.k1Db.source.empty());
        const auto again = readCable(writeCable(*cable), id);
        ASSERT_TRUE(again) << id << (again ? "" : render(again.error(), {}));
        EXPECT_EQ(again->attenuation, cable->attenuation);
    }
    for (const char* id :
         {"100m",     "1g",      "2g5",      "5g",       "10g",      "25g",  "40g",
          "voice",    "t1",      "e1",       "rs485",    "tv",       "catv", "sat-if",
          "coax-lan", "sdi-270", "sdi-1485", "sdi-2970", "feedline", "gnss"})
        EXPECT_NE(shipped().service(id), nullptr) << id;
}

TEST(Catalogue, publishedLimits) {
    // Published figures are rounded to 0.1 dB (0.001 µs): half of that, and a hair.
    struct Row {
        const char* name;
        LinkKind link;
        Parameter parameter;
        double f, value;
    };
    using P = Parameter;
    const Row rows[] = {
        {"D", channelKind, P::InsertionLoss, 16, 9.1},
        {"D", channelKind, P::InsertionLoss, 100, 24.0},
        {"E", channelKind, P::InsertionLoss, 100, 21.7},
        {"E", channelKind, P::InsertionLoss, 250, 35.9},
        {"E", permanentKind, P::InsertionLoss, 250, 30.7},
        {"EA", channelKind, P::InsertionLoss, 500, 49.3},
        {"EA", permanentKind, P::InsertionLoss, 500, 42.1},
        {"F", channelKind, P::InsertionLoss, 600, 54.6},
        {"FA", channelKind, P::InsertionLoss, 1000, 67.6},
        {"D", channelKind, P::Next, 100, 30.1},
        {"D", channelKind, P::PsNext, 100, 27.1},
        {"D", permanentKind, P::Next, 100, 32.3},
        {"E", channelKind, P::Next, 250, 33.1},
        {"E", channelKind, P::PsNext, 250, 30.2},
        {"E", permanentKind, P::Next, 250, 35.3},
        {"EA", channelKind, P::Next, 500, 27.9},
        {"EA", permanentKind, P::Next, 500, 29.2},
        {"F", channelKind, P::Next, 600, 51.2},
        {"FA", channelKind, P::Next, 1000, 47.9},
        {"D", channelKind, P::AcrF, 100, 17.4},
        {"E", channelKind, P::AcrF, 250, 15.3},
        {"F", channelKind, P::AcrF, 600, 31.3},
        {"FA", channelKind, P::AcrF, 1000, 27.4},
        {"D", channelKind, P::ReturnLoss, 100, 10.0},
        {"E", channelKind, P::ReturnLoss, 250, 8.0},
        {"E", permanentKind, P::ReturnLoss, 250, 10.0},
    };
    for (const auto& row : rows)
        EXPECT_NEAR(limitAt(LimitSet::Iso, row.name, row.link, row.parameter, row.f), row.value,
                    0.055)
            << row.name << " " << parameterKey(row.parameter) << " " << row.f;
    EXPECT_NEAR(limitAt(LimitSet::Iso, "EA", channelKind, P::Delay, 100), 0.548, 0.0005);
    EXPECT_NEAR(limitAt(LimitSet::Tia, "cat6", channelKind, P::InsertionLoss, 100), 21.3, 0.05);
    EXPECT_NEAR(limitAt(LimitSet::Tia, "cat6", channelKind, P::InsertionLoss, 250), 36.0, 0.05);
    EXPECT_NEAR(limitAt(LimitSet::Tia, "cat6", permanentKind, P::InsertionLoss, 100), 18.6, 0.05);
    EXPECT_NEAR(limitAt(LimitSet::Tia, "cat6", permanentKind, P::InsertionLoss, 250), 31.1, 0.05);
    EXPECT_NEAR(limitAt(LimitSet::Tia, "cat6a", channelKind, P::Next, 500),
                31 - 27.15 * std::log10(500 / 330.0), 1e-9);
}

TEST(Catalogue, floorsCeilingsAndEnds) {
    EXPECT_DOUBLE_EQ(limitAt(LimitSet::Iso, "EA", channelKind, Parameter::InsertionLoss, 1), 4.0);
    EXPECT_LT(limitAt(LimitSet::Tia, "cat6a", channelKind, Parameter::InsertionLoss, 1), 4.0);
    EXPECT_DOUBLE_EQ(limitAt(LimitSet::Iso, "EA", channelKind, Parameter::Next, 1), 65.0);
    EXPECT_DOUBLE_EQ(limitAt(LimitSet::Iso, "EA", channelKind, Parameter::ReturnLoss, 450), 6.0);
    EXPECT_DOUBLE_EQ(limitAt(LimitSet::Iso, "D", permanentKind, Parameter::LoopResistance, 1), 21);
    EXPECT_DOUBLE_EQ(limitAt(LimitSet::Iso, "F", channelKind, Parameter::Skew, 100), 30);
    const Limit* e = shipped().limit(LimitSet::Iso, "E", channelKind, Parameter::Next);
    EXPECT_FALSE(e->at(250.1));
    EXPECT_TRUE(e->at(250));
    EXPECT_EQ(shipped().limit(LimitSet::Iso, "C", channelKind, Parameter::PsNext), nullptr);
    EXPECT_NEAR(limitAt(LimitSet::Iso, "C", channelKind, Parameter::Next, 16), 19.4, 0.1);
    EXPECT_NEAR(limitAt(LimitSet::Iso, "C", permanentKind, Parameter::Next, 16), 21.1, 0.1);
    EXPECT_DOUBLE_EQ(limitAt(LimitSet::Iso, "C", channelKind, Parameter::ReturnLoss, 10), 15);
    EXPECT_EQ(className(LimitSet::Tia, Category::Cat7), "");
    const Limit* unbalance =
        shipped().limit(LimitSet::Iso, "E", channelKind, Parameter::UnbalanceWithinPair);
    EXPECT_DOUBLE_EQ(*unbalance->at(1, 20), 0.6);
    EXPECT_DOUBLE_EQ(*unbalance->at(1, 2), 0.2);
    EXPECT_NE(render(e->formulaAt(100), {}).find("74.3"), std::string::npos);
}

TEST(Catalogue, faultsNameFileKeyAndCure) {
    const std::string cables = text("cables");
    const Fault unit = faultOfCables(replaced(cables, "\"k1Db\"", "\"k1Np\""));
    EXPECT_EQ(render(unit.where, {}), "cables.json");
    EXPECT_NE(render(unit.what, {}).find("cat3-utp"), std::string::npos) << render(unit.what, {});
    EXPECT_NE(render(unit.what, {}).find("k1Db is missing"), std::string::npos)
        << render(unit.what, {});
    EXPECT_FALSE(unit.cure.empty());
    const Fault range = faultOfCables(replaced(cables, "\"value\": 0.65", "\"value\": 65"));
    EXPECT_NE(render(range.what, {}).find("nvp"), std::string::npos) << render(range.what, {});
    EXPECT_NE(render(range.what, {}).find("65"), std::string::npos) << render(range.what, {});
    const Fault extra = faultOfCables(
        replaced(cables, "\"id\": \"cat3-utp\"", "\"id\": \"cat3-utp\", \"colour\": 3"));
    EXPECT_NE(render(extra.what, {}).find("colour"), std::string::npos) << render(extra.what, {});
    const Fault source =
        faultOfCables(replaced(cables, "\"source\": \"iec-61156\"", "\"source\": \"hearsay\""));
    EXPECT_NE(render(source.what, {}).find("hearsay"), std::string::npos)
        << render(source.what, {});
    const Fault syntax = faultOfCables(replaced(cables, "\"version\": 1,", "\"version\" 1,"));
    EXPECT_EQ(syntax.line, 3);
    EXPECT_GT(syntax.column, 1);
    const Fault twice =
        faultOfCables(replaced(cables, "\"id\": \"cat5e-utp\"", "\"id\": \"cat3-utp\""));
    EXPECT_NE(render(twice.what, {}).find("twice"), std::string::npos) << render(twice.what, {});
    const auto gone = loadCatalogue("/nowhere");
    ASSERT_FALSE(gone);
    EXPECT_NE(render(gone.error().where, {}).find("/nowhere"), std::string::npos);
}
