// No English with a figure in it leaves the core: every sentence of every finding is walked.
#include "core/describe/json_reader.h"
#include "core/random_job.h"
#include "core/shipped.h"
#include "core/told.h"
#include "says.h"
#include <fstream>
#include <gtest/gtest.h>
#include <map>
#include <regex>
#include <set>
#include <sstream>

using namespace burin;

namespace {

/// A figure with a unit that other people write otherwise.
const std::regex measured("[0-9] ?(mm|m|°C|kg|N|km)($|[^A-Za-z0-9/²·])");

void stringsOf(const Json& json, std::set<std::string>& out) {
    if (json.is_string())
        out.insert(json.get<std::string>());
    if (json.is_structured())
        for (const auto& one : json)
            stringsOf(one, out);
}

/// Lengths of a part's card stand in both units, for every reader: "1.6–3.2 mm · 0.06–0.13 in".
bool inBoth(const std::string& text) {
    static const std::regex both("[0-9.–]+ mm · [0-9.–]+ in");
    return std::regex_match(text, both);
}

class Walk {
public:
    explicit Walk(const Job& job) {
        stringsOf(toJson(job), own_);
        for (const auto& cable : shipped().cables)
            own_.insert(cable.name);
        for (const auto& connection : shipped().connections)
            own_.insert(connection.name);
    }
    void operator()(const Sentence& sentence) {
        ++sentences;
        look(sentence);
        // Where nobody's own text has metres in it, none are left for a reader in feet.
        if (!named_) {
            static const std::regex both(" mm · ");
            const std::string feet =
                std::regex_replace(render(sentence, UnitSystem::Imperial), both, " · ");
            EXPECT_FALSE(std::regex_search(feet, measured)) << sentence.key() << ": " << feet;
        }
        named_ = false;
    }
    std::size_t sentences = 0;
    std::map<std::string, std::string, std::less<>> wordings; ///< by key

private:
    void look(const Sentence& sentence) {
        const std::string english(sentence.wording.english);
        EXPECT_FALSE(sentence.key().empty()) << "in " << around_;
        const std::string around = std::exchange(around_, std::string(sentence.key()));
        // Of one key there is one wording.
        const auto it = wordings.emplace(sentence.key(), english).first;
        EXPECT_EQ(it->second, english) << sentence.key();
        EXPECT_FALSE(std::regex_search(english, measured)) << english;
        EXPECT_EQ(render(sentence, UnitSystem::Metric).find("…"), std::string::npos) << english;
        for (const auto& q : sentence.of)
            look(q);
        around_ = around;
    }
    void look(const Quantity& q) {
        for (const auto& one : q.said)
            look(one);
        if ((q.of != Quantity::Of::Text && q.of != Quantity::Of::Term) ||
            !std::regex_search(q.text, measured) || inBoth(q.text))
            return;
        named_ = true;
        EXPECT_TRUE(std::any_of(own_.begin(), own_.end(), [&](const std::string& own) {
            return own.size() > 2 && q.text.find(own) != std::string::npos;
        })) << q.text;
    }
    std::set<std::string> own_;
    bool named_ = false;
    std::string around_;
};

} // namespace

TEST(Said, everySentenceOfTheDemoIsData) {
    std::ifstream file(std::string(BURIN_CATALOGUE) + "/../demo/kittiwake.json");
    std::stringstream text;
    text << file.rdbuf();
    const auto json = parseJson(text.str(), "demo");
    ASSERT_TRUE(json);
    const auto job = readJob((*json)["job"], "demo");
    ASSERT_TRUE(job) << render(job.error(), {});
    Walk walk(*job);
    Told(*job, shipped(), [&](const Sentence& said) { walk(said); }).all();
    // Fewer, and something is not walked any more.
    EXPECT_GT(walk.sentences, 1000U);
    EXPECT_GT(walk.wordings.size(), 150U);
}

TEST(Said, everySentenceOfRandomJobsIsData) {
    const std::string figures = writeCable(*shipped().cable("coax-s6"));
    std::size_t sentences = 0;
    for (unsigned seed = 1; seed <= 300 && !HasFailure(); ++seed) {
        RandomEditor editor(seed, figures);
        Job job;
        for (int edits = 20 + editor.upTo(60); edits > 0; --edits)
            if (auto next = apply(job, editor.next(job)))
                job = std::move(*next);
        Walk walk(job);
        Told(job, shipped(), [&](const Sentence& said) { walk(said); }).all();
        sentences += walk.sentences;
    }
    EXPECT_GT(sentences, 5000U);
}

TEST(Said, quantitiesInEveryUnitAndNoFigureTwice) {
    std::mt19937 random(9);
    std::uniform_real_distribution<double> figure(-1000, 1000);
    for (int i = 0; i < 10000; ++i) {
        const double value = figure(random);
        const auto both = sentence({"test.both", "{0} and {1}"}, asMetres(value), asCelsius(value));
        EXPECT_EQ(render(both, UnitSystem::Metric),
                  formatFixed(value, 1) + " m and " + formatFixed(value, 0) + " °C");
        EXPECT_EQ(render(both, UnitSystem::Imperial), formatFixed(value / 0.3048, 1) + " ft and " +
                                                          formatFixed(value * 1.8 + 32, 0) + " °F");
        Rendering comma;
        comma.point = ',';
        EXPECT_EQ(render(sentence({"test.one", "a. {0}."}, asDecibel(2.5)), comma), "a. 2,5 dB.");
    }
}
