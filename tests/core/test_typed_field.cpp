#include "core/edit/apply.h"
#include "core/edit/typed_field.h"
#include "core/tray_job.h"
#include "core/units/render.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

const Field& fieldOf(Kind kind, const char* name) {
    return *tableOf(kind).field(name);
}
Outcome<Json> typed(Kind kind, const char* name, const char* text,
                    UnitSystem system = UnitSystem::Metric, TypedAs as = {}) {
    return readTyped(fieldOf(kind, name), text, system, "it", as);
}
std::string shown(Kind kind, const char* name, const Json& value,
                  UnitSystem system = UnitSystem::Metric, TypedAs as = {}) {
    return typedText(fieldOf(kind, name), value, system, as);
}
std::string refusal(Kind kind, const char* name, const char* text,
                    UnitSystem system = UnitSystem::Metric, TypedAs as = {}) {
    const auto read = typed(kind, name, text, system, as);
    return read ? "taken: " + read->dump() : render(read.error(), system);
}

} // namespace

TEST(TypedField, theUnitIsThatOfTheName) {
    EXPECT_EQ(shown(Kind::Place, "heightM", 1.5), "1.50 m");
    EXPECT_EQ(shown(Kind::Place, "heightM", 1.5, UnitSystem::Imperial), "4.92 ft");
    EXPECT_EQ(shown(Kind::Device, "stubM", 0.3, UnitSystem::Metric, {1, 1}), "0.3 m");
    EXPECT_EQ(shown(Kind::Pathway, "boreMm", 27), "27 mm");
    EXPECT_EQ(shown(Kind::Pathway, "temperatureC", 31, UnitSystem::Imperial), "88 °F");
    EXPECT_EQ(shown(Kind::Device, "ampere", 0.12, UnitSystem::Metric, {1000, 1}), "120");
    EXPECT_EQ(shown(Kind::Mains, "kva", 2.5), "2.5");
    EXPECT_EQ(typedText(*typedField(Kind::Job, "survey.cablePerM"), 0.6, UnitSystem::Metric),
              "0.6");
    EXPECT_EQ(typedText(*typedField(Kind::Job, "survey.rackM"), 3, UnitSystem::Metric), "3.00 m");
    EXPECT_EQ(typedField(Kind::Job, "survey.nothing"), nullptr);
    EXPECT_EQ(typedField(Kind::Job, "nothing.rackM"), nullptr);
    EXPECT_EQ(shown(Kind::Place, "ports", 24), "24");
    EXPECT_EQ(shown(Kind::Place, "portNames", Json::array({"left", "", "right"})), "left, , right");
    EXPECT_EQ(shown(Kind::Pathway, "boreMm", Json()), "");
    EXPECT_EQ(shown(Kind::Run, "vias", Json::array({Json::object()})), "") << "no one types it";
}

TEST(TypedField, readsBackWhatItShows) {
    EXPECT_EQ(*typed(Kind::Place, "heightM", "1.5"), 1.5);
    EXPECT_EQ(*typed(Kind::Place, "heightM", "10 ft"), 10 * metresPerFoot);
    EXPECT_EQ(*typed(Kind::Place, "heightM", "10", UnitSystem::Imperial), 10 * metresPerFoot);
    EXPECT_EQ(*typed(Kind::Place, "heightM", "-0.3"), -0.3);
    EXPECT_EQ(*typed(Kind::Place, "heightM", "\u22120.3 m"), -0.3);
    EXPECT_EQ(*typed(Kind::Pathway, "boreMm", "27"), 27.0);
    EXPECT_NEAR(typed(Kind::Pathway, "boreMm", "1 in")->get<double>(), 25.4, 1e-9);
    EXPECT_EQ(*typed(Kind::Pathway, "boreMm", " "), Json()) << "none";
    EXPECT_EQ(*typed(Kind::Pathway, "temperatureC", "31 °C"), 31.0);
    EXPECT_EQ(*typed(Kind::Device, "ampere", "120", UnitSystem::Metric, {1000, 1}), 0.12);
    EXPECT_EQ(*typed(Kind::Place, "ports", "48"), 48);
    EXPECT_EQ(*typed(Kind::Place, "portNames", "left jack, , right"),
              Json::array({"left jack", "", "right"}));
    EXPECT_EQ(*typed(Kind::Place, "portNames", ""), Json());
    EXPECT_EQ(*typed(Kind::Place, "name", "  Panel B "), "Panel B");
    EXPECT_EQ(*typed(Kind::Photograph, "note", ""), Json());
}

TEST(TypedField, refusesWithWhatMayBeTyped) {
    EXPECT_EQ(refusal(Kind::Place, "ports", "2.5"),
              "it: “2.5” cannot be. Type 0 to 100000, a whole number");
    EXPECT_EQ(refusal(Kind::Place, "ports", "-1"),
              "it: “-1” cannot be. Type 0 to 100000, a whole number");
    EXPECT_EQ(refusal(Kind::Place, "ports", ""), "it: nothing is typed. Type a figure");
    EXPECT_EQ(refusal(Kind::Device, "ampere", "200000", UnitSystem::Metric, {1000, 1}),
              "it: “200000” cannot be. Type 0 to 100000");
    EXPECT_EQ(refusal(Kind::Run, "powerW", "0"), "it: “0” cannot be. Type more than 0");
    EXPECT_EQ(refusal(Kind::Run, "loadRatio", "0.5"), "it: “0.5” cannot be. Type 1 or more");
    EXPECT_EQ(refusal(Kind::Floor, "widthM", "0.05", UnitSystem::Imperial),
              "it: “0.05” cannot be. Type 0.33 ft to 328083.98 ft");
    for (const char* told : {"0.33", "328083.98"})
        EXPECT_TRUE(typed(Kind::Floor, "widthM", told, UnitSystem::Imperial).has_value()) << told;
    EXPECT_EQ(refusal(Kind::Photograph, "takenOn", "yesterday"),
              "it: “yesterday” is no date. Write year-month-day: 2026-11-26");
    EXPECT_EQ(refusal(Kind::Photograph, "takenOn", "2026-11-27"), "taken: \"2026-11-27\"");
    EXPECT_NE(refusal(Kind::Place, "heightM", "high").find("high"), std::string::npos);
    EXPECT_NE(refusal(Kind::Pathway, "temperatureC", "900").find("900"), std::string::npos);
}

TEST(TypedField, titlesNameTheFieldByItsKey) {
    for (const auto& [field, words] : std::vector<std::pair<std::string, std::string>>{
             {"note", "note"},
             {"lengthM", "length"},
             {"survey.rackM", "rack"},
             {"boreMm", "bore"},
             {"survey.cablePerM", "cable"},
             {"supplyToleranceShare", "supply tolerance"},
             {"bitRateKbit", "bit rate"},
             {"portNames", "port names"},
             {"mostV", "most"}})
        EXPECT_EQ(fieldWords(field), words);
}

TEST(TypedField, figuresInTheUnitTheyAreCalledBy) {
    for (const auto& [field, figure] :
         std::vector<std::pair<std::string, std::string>>{{"lengthM", "2.50 m"},
                                                          {"survey.rackM", "2.50 m"},
                                                          {"survey.cablePerM", "2.5"}, // money
                                                          {"boreMm", "2.5 mm"},
                                                          {"accuracy.lossDb", "2.50 dB"},
                                                          {"leastV", "2.50 V"},
                                                          {"loadRatio", "2.5"},
                                                          {"routeShare", "250.0 %"}})
        EXPECT_EQ(render(alone(fieldFigure(field, 2.5)), {}), figure) << field;
}

TEST(TypedField, setsItOnEveryRowThatHasItNot) {
    Job job = trayJob();
    job.runs.push_back(likeOf(job.runs[0]));
    job.runs[1].label = "SL-D02";
    job.runs[1].note = "pulled";
    const std::vector<std::string> all{job.runs[0].id, "not there", job.runs[1].id};
    const Edit one = setField(job, Kind::Run, all, "note", "pulled");
    EXPECT_EQ(one.title, "note of run SL-D01");
    ASSERT_EQ(one.changes.size(), 1U);
    EXPECT_EQ(apply(job, one)->runs[0].note, "pulled");
    EXPECT_EQ(setField(job, Kind::Run, all, "note", "ended").title, "note on 2 rows");
    EXPECT_TRUE(setField(job, Kind::Run, {job.runs[1].id}, "note", "pulled").changes.empty());
    EXPECT_TRUE(setField(job, Kind::Run, all, "nothing", 1).changes.empty());
}
