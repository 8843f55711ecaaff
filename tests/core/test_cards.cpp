#include "core/finding/end_finding.h"
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
    return read ? "taken" : read.error().text();
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
    EXPECT_NE(checked.error().text().find("no-such"), std::string::npos);
}

/// Whatever stands in the file, it is read or refused with its place and a cure.
TEST(CardFile, mutated) {
    const std::string text = shippedCards();
    std::mt19937 random(12);
    const std::string signs = "{}[]\",:0123456789.-eE \nabcnultrue\\";
    int refusedCount = 0;
    // A file of 40 kB each: all of them with the other long trials.
    const int rounds = std::getenv("BURIN_TRIALS") != nullptr ? 10000 : trials(1000);
    for (int round = 0; round < rounds; ++round) {
        std::string hurt = text;
        for (int i = 0; i <= static_cast<int>(random() % 3); ++i) {
            const std::size_t at = random() % hurt.size();
            switch (random() % 4) {
            case 0:
                hurt[at] = signs[random() % signs.size()];
                break;
            case 1:
                hurt.erase(at, 1 + random() % 40);
                break;
            case 2:
                hurt.insert(at, 1, signs[random() % signs.size()]);
                break;
            default:
                hurt[at] = static_cast<char>(random() % 256);
            }
        }
        const auto read = readEndCards(hurt, "own.json");
        if (read)
            continue;
        ++refusedCount;
        EXPECT_NE(read.error().where.find("own.json"), std::string::npos) << read.error().text();
        EXPECT_FALSE(read.error().what.empty());
        EXPECT_FALSE(read.error().cure.empty()) << read.error().text();
    }
    EXPECT_GT(refusedCount, rounds / 4);
}

TEST(Cards, lengthsReadInBothSystems) {
    EXPECT_EQ(rangeText(6.4, 6.4), "6.4 mm · 0.25 in");
    EXPECT_EQ(rangeText(30, 50), "30–50 mm · 1.18–1.97 in");
    EXPECT_EQ(rangeText({}, 13), "at most 13 mm · 0.51 in");
    EXPECT_EQ(rangeText(2, {}), "at least 2 mm · 0.08 in");
    EXPECT_EQ(rangeText({}, {}), "from the part's sheet");
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
        EXPECT_NE(point.what, "band") << "nobody asked for one";
}
