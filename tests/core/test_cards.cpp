#include "core/connector/cut_text.h"
#include "core/edit/end_edit.h"
#include "core/finding/end_finding.h"
#include "core/units/render.h"
#include "says.h"
#include "shipped.h"
#include <fstream>
#include <random>
#include <set>
#include <sstream>

using namespace burin;

namespace {

CardFinding cardOf(const char* connection, const char* cable) {
    return findCard(*shipped().connection(connection), *shipped().cable(cable), shipped());
}
const CardCut* cutOf(const CardFinding& found, CutOf of) {
    for (const auto& cut : found.card->cuts)
        if (cut.of == of)
            return &cut;
    return nullptr;
}
std::string shippedCards() {
    std::ifstream in(std::string(BURIN_CATALOGUE) + "/terminations.json");
    std::stringstream text;
    text << in.rdbuf();
    return text.str();
}
/// The text with the first `from` made `to`, read.
std::string refusedAs(const std::string& from, const std::string& to) {
    std::string text = shippedCards();
    const auto at = text.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    text.replace(at, from.size(), to);
    const auto read = readEndCards(text, "terminations.json");
    return read ? "taken" : render(read.error(), {});
}

} // namespace

TEST(Cards, everyConnectorHasOneOnEveryCableItFits) {
    std::size_t fitting = 0;
    for (const auto& connection : shipped().connections) {
        if (!connection.fit)
            continue; // made in a factory: nothing is ended with it
        for (const auto& cable : shipped().cables) {
            const CardFinding found = findCard(connection, cable, shipped());
            if (!found.fits)
                continue;
            ++fitting;
            ASSERT_NE(found.card, nullptr) << connection.id << " on " << cable.id;
            const EndShape shape = findShape(found);
            EXPECT_FALSE(shape.parts.empty()) << connection.id << " on " << cable.id;
            EXPECT_EQ(shape.dimensions.size(), found.card->cuts.size()) << found.card->id;
            for (const auto& part : shape.parts)
                EXPECT_LT(part.fromMm, part.toMm) << found.card->id;
        }
    }
    EXPECT_GT(fitting, 150U);
    for (const auto& card : shipped().cards)
        EXPECT_FALSE(card.cuts.empty()) << card.id;
}

/// What no public figure is sure of stays empty: this is the whole list of it.
TEST(Cards, theLengthsThatOnlyThePartsSheetHas) {
    std::set<std::string> empty;
    for (const auto& card : shipped().cards)
        for (const auto& cut : card.cuts) {
            EXPECT_EQ(cut.source.empty(), !cut.leastMm && !cut.mostMm) << card.id;
            if (cut.source.empty())
                empty.insert(card.id + ": " + cut.name);
        }
    std::set<std::string> expected{"7-16-clamp: braid combed over the clamp",
                                   "7-16-corrugated: outer conductor bare",
                                   "7-16-clamp: dielectric bare",
                                   "f-push: foil and braid turned back",
                                   "iec: braid folded back",
                                   "f-compression-11: braid flared",
                                   "uhf: braid folded over the reducer",
                                   "uhf: jacket off",
                                   "uhf: centre bare"};
    for (const char* card : {"7-16-clamp", "7-16-corrugated", "f-push", "iec", "f-compression-11",
                             "n-crimp", "tnc-crimp", "bnc-crimp", "sma-crimp"})
        expected.insert(std::string(card) + ": centre bare");
    for (const char* card :
         {"f-push", "iec", "f-compression-11", "n-crimp", "tnc-crimp", "bnc-crimp", "sma-crimp"})
        expected.insert(std::string(card) + ": dielectric bare");
    for (const char* card : {"n-crimp", "tnc-crimp", "bnc-crimp", "sma-crimp"})
        expected.insert(std::string(card) + ": braid bare");
    for (const char* block : {"block-110", "block-66"})
        for (const char* cut : {"jacket off", "pairs untwisted"})
            expected.insert(std::string(block) + ": " + cut);
    EXPECT_EQ(empty, expected);
    // And the page has the same: "| card | name; name |".
    std::ifstream page(std::string(BURIN_CATALOGUE) + "/../docs/catalogue.md");
    std::set<std::string> listed;
    bool inTable = false;
    for (std::string line; std::getline(page, line);) {
        inTable = line.starts_with("|") && (inTable || says(line, "only the part's sheet has"));
        const auto bar = line.find(" | ");
        if (!inTable || bar == std::string::npos || says(line, "only the part's sheet has"))
            continue;
        std::stringstream names(line.substr(bar + 3, line.size() - bar - 5));
        for (std::string name; std::getline(names, name, ';');)
            listed.insert(line.substr(2, bar - 2) + ": " +
                          name.substr(name.front() == ' ' ? 1 : 0));
    }
    EXPECT_EQ(listed, expected);
}

TEST(Cards, figuresOfThoseThatArePublic) {
    const auto quad = cardOf("f-compression", "coax-s6-quad");
    EXPECT_EQ(quad.card->id, "f-compression-quad");
    EXPECT_EQ(cardOf("f-compression", "coax-s6-tri").card->id, "f-compression-tri");
    EXPECT_EQ(cardOf("f-compression", "coax-s6").card->id, "f-compression");
    EXPECT_EQ(cutOf(quad, CutOf::Centre)->leastMm, 6.4);
    EXPECT_EQ(cutOf(quad, CutOf::Dielectric)->mostMm, 6.4);
    EXPECT_EQ(cutOf(quad, CutOf::Braid)->mostMm, 6);
    EXPECT_TRUE(cutOf(quad, CutOf::Braid)->folded);
    const auto uhf = cardOf("uhf", "coax-rg213");
    EXPECT_EQ(uhf.card->id, "uhf-10");
    EXPECT_NEAR(*cutOf(uhf, CutOf::Centre)->mostMm + *cutOf(uhf, CutOf::Dielectric)->mostMm +
                    *cutOf(uhf, CutOf::Braid)->mostMm,
                *cutOf(uhf, CutOf::Jacket)->mostMm, 1e-9);
    EXPECT_EQ(cardOf("uhf", "coax-rg58").card->id, "uhf") << "a reducer";
    EXPECT_EQ(cardOf("7-16", "coax-half").card->id, "7-16-corrugated");
    EXPECT_EQ(cardOf("7-16", "coax-ll15").card->id, "7-16-clamp");
    EXPECT_EQ(cutOf(cardOf("conn-cat6", "cat6-utp"), CutOf::Untwist)->mostMm, 6);
    EXPECT_EQ(cutOf(cardOf("conn-cat5e", "cat5e-utp"), CutOf::Untwist)->mostMm, 13);
    EXPECT_EQ(cutOf(cardOf("screw", "bus-120"), CutOf::Conductors)->mostMm, 8);
    EXPECT_FALSE(cardOf("plug-cat6", "cord28-cat6").fits) << "solid plug, stranded wire";
    EXPECT_FALSE(cardOf("f-compression", "coax-rg58").fits) << "50 Ω";
    EXPECT_FALSE(cardOf("conn-cat6", "coax-s6").fits) << "pairs on coax";
    EXPECT_EQ(cardOf("conn-cat6", "coax-s6").card, nullptr);
}

TEST(Shape, liesToScaleWhereTheFiguresAreKnown) {
    using Of = ShapePart::Of;
    const EndShape quad = findShape(cardOf("f-compression", "coax-s6-quad"));
    EXPECT_TRUE(quad.toScale());
    ASSERT_EQ(quad.parts.size(), 4U);
    EXPECT_EQ(quad.parts[0], (ShapePart{Of::Centre, 0, 6.4, 1.02, true}));
    EXPECT_EQ(quad.parts[1], (ShapePart{Of::Foil, 6.4, 12.8, 4.57, true}));
    EXPECT_EQ(quad.parts[2].of, Of::Jacket);
    EXPECT_EQ(quad.parts[2].fromMm, 12.8);
    EXPECT_EQ(quad.parts[2].acrossMm, 7.5);
    EXPECT_EQ(quad.parts[3].of, Of::FoldedBraid);
    EXPECT_NEAR(quad.parts[3].toMm, 18.8, 1e-9);
    const EndShape uhf = findShape(cardOf("uhf", "coax-rg213"));
    EXPECT_TRUE(uhf.toScale());
    EXPECT_NEAR(uhf.parts.back().fromMm, 28.6, 1e-9) << "jacket begins where it was taken off";
    EXPECT_NEAR(uhf.dimensions.front().toMm, 16, 1e-9);
    EXPECT_FALSE(findShape(cardOf("n", "coax-rg213")).toScale()) << "only the sheet knows";
    const EndShape jack = findShape(cardOf("conn-cat6", "cat6-utp"));
    EXPECT_EQ(jack.parts[0].toMm, 6);
    EXPECT_EQ(jack.parts[1].toMm, 40) << "between 30 and 50";
    EXPECT_TRUE(findShape({}).parts.empty());
}

TEST(CardFile, eachWrongOneNamesItsPlaceAndWhatToDo) {
    const auto says = [](const std::string& from, const std::string& to, const char* words) {
        const std::string said = refusedAs(from, to);
        EXPECT_NE(said.find(words), std::string::npos) << said;
    };
    says("\"mm\": 6.4", "\"mm\": -6.4", "cuts[1].mm");
    says("\"mm\": 6.4, \"source\": \"typical\"", "\"mm\": 6.4", "source is missing");
    says("\"mm\": 6.4, \"source\": \"typical\"", "\"source\": \"typical\"", "without a figure");
    says("\"mm\": 6.4, \"source\": \"typical\"", "\"mm\": 6.4, \"source\": \"heard\"",
         "not in the list");
    says("\"leastMm\": 1.6, \"mostMm\": 3.2", "\"leastMm\": 3.3, \"mostMm\": 3.2",
         "more than mostMm");
    says("\"of\": \"centre\"", "\"of\": \"center\"", "is not known");
    says("\"from\": \"cut-end\"", "\"from\": \"the end\"", "is not known");
    says("\"id\": \"f-compression-tri\"", "\"id\": \"f-compression-quad\"", "twice");
    says("\"steps\"", "\"stepps\"", "steps");
    says("burin-terminations", "burin-labels", "is not burin-terminations");
    EndCard card;
    card.id = "own";
    card.connectionIds = {"no-such"};
    const auto checked = checkCards({card}, shipped());
    ASSERT_FALSE(checked);
    EXPECT_NE(render(checked.error(), {}).find("no-such"), std::string::npos);
}

/// Whatever stands in the file, it is read or refused with its place and a cure.
namespace {

/// A text hurt in up to three places: a sign, some signs less, one more, any byte.
std::string hurt(std::string text, std::mt19937& random) {
    static const std::string signs = "{}[]\",:0123456789.-eE \nabcnultrue\\";
    for (int i = 0; i <= static_cast<int>(random() % 3); ++i) {
        const std::size_t at = random() % text.size();
        switch (random() % 4) {
        case 0:
            text[at] = signs[random() % signs.size()];
            break;
        case 1:
            text.erase(at, 1 + random() % 40);
            break;
        case 2:
            text.insert(at, 1, signs[random() % signs.size()]);
            break;
        default:
            text[at] = static_cast<char>(random() % 256);
        }
    }
    return text;
}
/// Reads it so often hurt; each refusal says where and what to do. How many were.
template <typename Read> int refusedOf(const std::string& text, int rounds, Read read) {
    std::mt19937 random(12);
    int out = 0;
    for (int round = 0; round < rounds; ++round) {
        const auto done = read(hurt(text, random));
        if (done)
            continue;
        ++out;
        EXPECT_NE(render(done.error().where, {}).find("own.json"), std::string::npos)
            << render(done.error(), {});
        EXPECT_FALSE(done.error().what.empty());
        EXPECT_FALSE(done.error().cure.empty()) << render(done.error(), {});
    }
    return out;
}
EndCard typedCard() {
    EndCard card = ownCard(*cardOf("f-compression-11", "coax-s11-quad").card, "f-compression-11");
    for (auto& cut : card.cuts) {
        cut.leastMm = cut.mostMm = 7.5;
        cut.source = "sheet of the part, 2026-03";
    }
    card.proofs.back().mostMm = 2;
    card.proofs.back().source = "the same";
    return card;
}

} // namespace

TEST(CardFile, mutated) {
    // A file of 40 kB each: all of them with the other long trials.
    const int rounds = std::getenv("BURIN_TRIALS") != nullptr ? 10000 : trials(1000);
    EXPECT_GT(refusedOf(shippedCards(), rounds,
                        [](const std::string& text) { return readEndCards(text, "own.json"); }),
              rounds / 4);
}

TEST(OwnCard, mutated) {
    EXPECT_GT(refusedOf(toText(typedCard()), 10000,
                        [](const std::string& text) { return readEndCard(text, "own.json"); }),
              5000);
}

TEST(OwnCard, isWrittenAndReadBack) {
    for (const auto& card : shipped().cards) {
        const auto again = readEndCard(toText(card), "own.json");
        ASSERT_TRUE(again) << card.id << render(again.error(), {});
        EXPECT_EQ(*again, card) << card.id;
    }
}

TEST(OwnCard, liesOverTheCatalogues) {
    Job job;
    job.info.name = "own";
    const auto edit = keptCard(job, typedCard());
    const auto kept = apply(job, edit);
    ASSERT_TRUE(kept) << render(kept.error(), {});
    std::vector<Fault> faults;
    const Catalogue with = catalogueOf(shipped(), *kept, &faults);
    EXPECT_TRUE(faults.empty());
    const auto on = [&](const char* connection, const char* cable) {
        return findCard(*with.connection(connection), *with.cable(cable), with).card;
    };
    EXPECT_EQ(on("f-compression-11", "coax-s11-quad")->cuts.front().mostMm, 7.5);
    // On another connector the catalogue's stands, and typing again takes its place.
    EXPECT_FALSE(on("f-compression", "coax-s6")->id.starts_with("own "));
    EXPECT_EQ(ownCard(*on("f-compression-11", "coax-s11-quad"), "f-compression-11").id,
              typedCard().id);
    const auto again = apply(*kept, keptCard(*kept, typedCard()));
    ASSERT_TRUE(again);
    EXPECT_EQ(again->cards.size(), 1U);
    // One that cannot be read, or is for nothing, is said and left out.
    Job hurtJob = *kept;
    hurtJob.cards.front().json = "{";
    EXPECT_EQ(catalogueOf(shipped(), hurtJob, &faults).cards.size(), shipped().cards.size());
    ASSERT_EQ(faults.size(), 1U);
    EndCard stray = typedCard();
    stray.connectionIds = {"no such"};
    hurtJob.cards.front().json = toText(stray);
    EXPECT_EQ(catalogueOf(shipped(), hurtJob, &faults).cards.size(), shipped().cards.size());
    ASSERT_EQ(faults.size(), 2U);
    EXPECT_NE(render(faults.back(), {}).find("no such"), std::string::npos);
}

TEST(CutText, isReadInBothSystems) {
    const auto read = [](const char* text, UnitSystem bare = UnitSystem::Metric) {
        const auto range = parseMillimetreRange(text, bare);
        EXPECT_TRUE(range) << text << (range ? "" : render(range.error(), {}));
        return range.value_or(MillimetreRange{});
    };
    EXPECT_EQ(read(""), MillimetreRange{});
    EXPECT_EQ(read("6.4"), (MillimetreRange{6.4, 6.4}));
    EXPECT_EQ(read(" 6.4 mm "), (MillimetreRange{6.4, 6.4}));
    EXPECT_NEAR(*read("1/4 in").mostMm, 6.35, 1e-9);
    EXPECT_NEAR(*read("1/4", UnitSystem::Imperial).mostMm, 6.35, 1e-9);
    EXPECT_NEAR(*read("5/8", UnitSystem::Imperial).leastMm, 15.875, 1e-9);
    EXPECT_NEAR(*read("1.6-3.2 mm").leastMm, 1.6, 1e-9);
    // With a comma, where a bare figure is in inches: both are of the unit behind the second.
    EXPECT_NEAR(*read("1,6-3,2 mm", UnitSystem::Imperial).leastMm, 1.6, 1e-9);
    EXPECT_NEAR(*read("1,6-3,2 mm", UnitSystem::Imperial).mostMm, 3.2, 1e-9);
    EXPECT_NEAR(*read("0,5-1", UnitSystem::Imperial).leastMm, 12.7, 1e-9);
    EXPECT_NEAR(*read("1/16–1/8 in").leastMm, 1.5875, 1e-9);
    EXPECT_NEAR(*read("1/16–1/8 in").mostMm, 3.175, 1e-9);
    EXPECT_NEAR(*read("30–50").mostMm, 50, 1e-9);
    EXPECT_EQ(read("at most 13 mm"), (MillimetreRange{{}, 13}));
    EXPECT_EQ(read("at least 8"), (MillimetreRange{8, {}}));
    for (const char* wrong : {"soon", "-3", "3-", "5–2", "1e9", "2000 mm", "at most", "6,4 mm x",
                              "3 m", "6.4.2", "nan"}) {
        const auto range = parseMillimetreRange(wrong);
        ASSERT_FALSE(range) << wrong;
        EXPECT_FALSE(range.error().cure.empty()) << wrong;
    }
    // What is written is read back the same, to what is shown.
    for (const auto& range : {MillimetreRange{6.4, 6.4}, MillimetreRange{1.6, 3.2},
                              MillimetreRange{{}, 13}, MillimetreRange{8, {}}})
        for (const auto units : {UnitSystem::Metric, UnitSystem::Imperial}) {
            const auto again = read(rangeAsTyped(range, units).c_str(), units);
            EXPECT_NEAR(again.leastMm.value_or(-1), range.leastMm.value_or(-1), 2e-3);
            EXPECT_NEAR(again.mostMm.value_or(-1), range.mostMm.value_or(-1), 2e-3);
        }
}

TEST(Cards, lengthsReadInBothSystems) {
    EXPECT_EQ(rangeOf(6.4, 6.4), "6.4 mm · 0.25 in");
    EXPECT_EQ(rangeOf(30, 50), "30–50 mm · 1.18–1.97 in");
    EXPECT_EQ(rangeOf({}, 13), "at most 13 mm · 0.51 in");
    EXPECT_EQ(rangeOf(2, {}), "at least 2 mm · 0.08 in");
    EXPECT_EQ(rangeOf({}, {}), "from the part's sheet");
}

/// An end is judged where it is: at the frequency of its service, and in its weather.
TEST(Ends, fitAsTheyAreUsed) {
    burin::Run run;
    run.cableId = "coax-s6";
    run.serviceId = "sat-if";
    RunConnection near;
    near.end = End::Near;
    near.connectionId = "f-crimp";
    run.connections = {near};
    EXPECT_TRUE(findEnd(run, End::Near, shipped()).card.fits);
    run.connections[0].outdoors = true;
    EXPECT_FALSE(findEnd(run, End::Near, shipped()).card.fits) << "water creeps in";
    const EndFinding far = findEnd(run, End::Far, shipped());
    EXPECT_EQ(far.row, nullptr);
    EXPECT_EQ(far.card.connection, usualConnection(shipped(), *shipped().cable("coax-s6")));
    for (const auto& point : cardOf("f-crimp", "coax-s6").fit)
        EXPECT_NE(point.of, FitOf::Band) << "nobody asked for one";
}
