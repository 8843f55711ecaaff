#include "core/catalogue/end_card.h"
#include "core/catalogue/catalogue.h"
#include "core/catalogue/catalogue_file.h"
#include <algorithm>
#include <set>

namespace burin {
namespace {

using namespace catalogue_file;

constexpr double longestCutMm = 1000;

std::vector<std::string> texts(JsonObject& in, std::string_view key) {
    std::vector<std::string> out;
    for (const auto& text : in.array(key)) {
        if (!text.is_string() || text.get<std::string>().empty())
            in.fail(key, {"card.holds-something-no", "holds something that is no text"},
                    {"cure.write-sentence-each", "Write a sentence for each"});
        out.push_back(text.get<std::string>());
    }
    return out;
}

/// "mm", or "leastMm" and "mostMm", with the source they need.
template <typename T> void lengths(JsonObject& in, const Sources* sources, T& out) {
    const auto one = in.optionalNumber("mm", 0, longestCutMm);
    out.leastMm = in.optionalNumber("leastMm", 0, longestCutMm);
    out.mostMm = in.optionalNumber("mostMm", 0, longestCutMm);
    if (one && (out.leastMm || out.mostMm))
        in.fail("mm", {"card.stands-beside-leastmm", "stands beside leastMm or mostMm"},
                {"cure.give-figure-range", "Give one figure, or a range"});
    if (one)
        out.leastMm = out.mostMm = one;
    if (out.leastMm && out.mostMm && *out.leastMm > *out.mostMm)
        in.fail("leastMm", {"card.more-mostmm", "is more than mostMm"},
                {"cure.exchange-two", "Exchange the two"});
    const bool figure = out.leastMm || out.mostMm;
    const bool named = in.find("source") != nullptr;
    if (figure && !named)
        in.fail(
            "source", {"json.missing", "is missing"},
            {"cure.every-length-without", "Every length has one; without a figure leave both out"});
    if (!figure && named)
        in.fail("source", {"card.stands-without-figure", "stands without a figure"},
                {"cure.give-figure-leave", "Give the figure, or leave both out"});
    if (named)
        out.source = sources == nullptr ? in.string("source") : sourceOf(in, *sources);
    if (figure && out.source.empty())
        in.fail(
            "source", {"card.empty", "is empty"},
            {"cure.say-figure-part", "Say where the figure is from: the part's sheet, its date"});
}

CardCut cut(JsonObject in, const Sources* sources) {
    CardCut out;
    out.of = in.word("of", cutOfWords);
    out.name = in.string("name");
    out.from = in.word("from", datumWords);
    out.folded = in.booleanOr("folded", false);
    lengths(in, sources, out);
    in.close();
    return out;
}
CardProof proof(JsonObject in, const Sources* sources) {
    CardProof out;
    out.id = in.string("id");
    out.what = in.string("what");
    lengths(in, sources, out);
    in.close();
    return out;
}
CardSchool school(JsonObject in) {
    CardSchool out;
    out.what = in.string("what");
    out.ways = texts(in, "ways");
    if (out.ways.size() < 2)
        in.fail("ways", {"card.fewer-two", "are fewer than two"},
                {"cure.way-no-choice", "With one way there is no choice"});
    in.close();
    return out;
}

EndCard card(JsonObject in, const Sources* sources) {
    EndCard out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.connectionIds = texts(in, "connections");
    out.shields = in.optionalInteger("shields", 1, 8);
    if (in.find("corrugated") != nullptr)
        out.corrugated = in.booleanOr("corrugated", false);
    out.jacketFromMm = in.optionalNumber("jacketFromMm", 0, 100);
    out.jacketToMm = in.optionalNumber("jacketToMm", 0, 100);
    out.first = texts(in, "first");
    out.cuts = in.list("cuts", [&](JsonObject one) { return cut(std::move(one), sources); });
    out.steps = texts(in, "steps");
    out.proofs = in.list("proofs", [&](JsonObject one) { return proof(std::move(one), sources); });
    out.schools = in.list("schools", [](JsonObject one) { return school(std::move(one)); });
    out.tools = texts(in, "tools");
    out.die = in.stringOr("die", "");
    out.cautions = texts(in, "cautions");
    if (out.connectionIds.empty())
        in.fail("connections", {"card.none", "are none"},
                {"cure.name-connections-id", "Name the connections it is for, by id"});
    if (out.steps.empty() || out.proofs.empty())
        in.fail(out.steps.empty() ? "steps" : "proofs", {"card.none", "are none"},
                {"cure.card-says-do", "A card says what to do, and what shows that it is good"});
    std::set<std::string> ids;
    for (const auto& one : out.proofs)
        if (!ids.insert(one.id).second)
            in.fail("proofs", sentence({"card.twice", "have “{0}” twice"}, one.id),
                    {"cure.give-each-id", "Give each an id of its own"});
    in.close();
    return out;
}

} // namespace

std::string_view datumText(Datum datum) {
    constexpr std::array<std::string_view, datumWords.words.size()> texts{
        "from the cut end",    "from the jacket's edge", "from the braid's edge",
        "from the nut's face", "from the post's face",   "from the slot"};
    return texts.at(static_cast<std::size_t>(datum));
}

bool EndCard::isFor(const Cable& cable) const {
    const double jacket = cable.diameterMm ? cable.diameterMm->value : 0;
    const bool tube = !cable.shields.empty() && cable.shields.back() == Shield::Corrugated;
    return (!shields || static_cast<int>(cable.shields.size()) == *shields) &&
           (!corrugated || tube == *corrugated) && (!jacketFromMm || jacket >= *jacketFromMm) &&
           (!jacketToMm || (jacket > 0 && jacket <= *jacketToMm));
}

Outcome<std::vector<EndCard>> readEndCards(std::string_view text, const std::string& where) {
    return readFile<std::vector<EndCard>>(text, where, [](JsonObject& root) {
        const Sources sources = openRoot(root, "burin-terminations");
        auto out = root.list("cards", [&](JsonObject in) { return card(std::move(in), &sources); });
        std::set<std::string> ids;
        for (const auto& one : out)
            if (!ids.insert(one.id).second)
                root.fail("cards", sentence({"card.twice", "have “{0}” twice"}, one.id),
                          {"cure.give-each-id", "Give each an id of its own"});
        root.close();
        return out;
    });
}

Outcome<EndCard> readEndCard(std::string_view text, const std::string& where) {
    return readFile<EndCard>(text, where,
                             [](JsonObject& root) { return card(std::move(root), nullptr); });
}

namespace {

template <typename T> void putLengths(Json& out, const T& of) {
    if (of.leastMm && of.mostMm && *of.leastMm == *of.mostMm)
        out["mm"] = *of.mostMm;
    else {
        if (of.leastMm)
            out["leastMm"] = *of.leastMm;
        if (of.mostMm)
            out["mostMm"] = *of.mostMm;
    }
    if (of.leastMm || of.mostMm)
        out["source"] = of.source;
}

} // namespace

std::string toText(const EndCard& card) {
    Json out = {{"id", card.id}, {"name", card.name}, {"connections", card.connectionIds}};
    if (card.shields)
        out["shields"] = *card.shields;
    if (card.corrugated)
        out["corrugated"] = *card.corrugated;
    if (card.jacketFromMm)
        out["jacketFromMm"] = *card.jacketFromMm;
    if (card.jacketToMm)
        out["jacketToMm"] = *card.jacketToMm;
    out["first"] = card.first;
    Json& cuts = out["cuts"] = Json::array();
    for (const auto& cut : card.cuts) {
        Json one = {{"of", cutOfWords[cut.of]}, {"name", cut.name}, {"from", datumWords[cut.from]}};
        if (cut.folded)
            one["folded"] = true;
        putLengths(one, cut);
        cuts.push_back(std::move(one));
    }
    out["steps"] = card.steps;
    Json& proofs = out["proofs"] = Json::array();
    for (const auto& proof : card.proofs) {
        Json one = {{"id", proof.id}, {"what", proof.what}};
        putLengths(one, proof);
        proofs.push_back(std::move(one));
    }
    Json& schools = out["schools"] = Json::array();
    for (const auto& school : card.schools)
        schools.push_back({{"what", school.what}, {"ways", school.ways}});
    out["tools"] = card.tools;
    if (!card.die.empty())
        out["die"] = card.die;
    out["cautions"] = card.cautions;
    return out.dump();
}

Outcome<bool> checkCards(const std::vector<EndCard>& cards, const Catalogue& catalogue) {
    for (const auto& card : cards)
        for (const auto& id : card.connectionIds)
            if (catalogue.connection(id) == nullptr)
                return refuse(sentence({"where.card", "card {0}"}, card.id),
                              sentence({"card.names-connection-not",
                                        "names the connection “{0}”, which there is not"},
                                       id),
                              {"cure.take-id-connections", "Take an id of connections.json"});
    return true;
}

} // namespace burin
