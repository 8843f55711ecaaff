#include "cli/commands.h"
#include "core/connector/card.h"
#include "core/connector/pins.h"
#include "files/end_print.h"

namespace burin {
namespace {

const Connection& connectionOf(const Catalogue& catalogue, const std::string& id) {
    if (const Connection* connection = catalogue.connection(id))
        return *connection;
    throw BadInput{{"--connection", 0, 0, "there is no connection “" + id + "”",
                    "burin-cli connections lists them"}};
}
template <typename T> void putRange(OutJson& row, const T& of) {
    row["leastMm"] = of.leastMm ? OutJson(*of.leastMm) : OutJson();
    row["mostMm"] = of.mostMm ? OutJson(*of.mostMm) : OutJson();
}

struct CardOptions {
    std::string connection, cable, pdf, paper = "a4";
};
void card(const CardOptions& o) {
    const Catalogue catalogue = shippedCatalogue();
    const Connection& connection = connectionOf(catalogue, o.connection);
    const Cable& cable = cableOf(catalogue, o.cable);
    const CardFinding found = findCard(connection, cable, catalogue);
    OutJson out = {{"connection", connection.id}, {"cable", cable.id}, {"fits", found.fits}};
    out["fit"] = OutJson::array();
    for (const auto& point : found.fit)
        out["fit"].push_back(
            {{"what", point.what}, {"good", point.good}, {"reason", point.reason}});
    if (found.card == nullptr)
        throw BadInput{{o.connection + " on " + o.cable, 0, 0, "there is no card for it",
                        connection.fit ? "Take a cable it fits: burin-cli connectors --cable ID"
                                       : "It is made in a factory: nothing is ended with it"}};
    out["card"] = found.card->id;
    out["name"] = found.card->name;
    out["first"] = found.card->first;
    out["cuts"] = OutJson::array();
    for (const auto& cut : found.card->cuts) {
        // One figure where it is one; of a range, or of a most alone, both ends stand beside.
        const bool one = cut.leastMm && cut.mostMm && *cut.leastMm == *cut.mostMm;
        OutJson row = {{"name", cut.name}, {"mm", one ? OutJson(*cut.mostMm) : OutJson()}};
        putRange(row, cut);
        row["datum"] = datumText(cut.from);
        row["source"] = cut.source.empty() ? "from the part's sheet" : cut.source;
        out["cuts"].push_back(std::move(row));
    }
    out["steps"] = found.card->steps;
    out["proofs"] = OutJson::array();
    for (const auto& proof : found.card->proofs) {
        OutJson row = {{"what", proof.what}};
        putRange(row, proof);
        if (!proof.source.empty())
            row["source"] = proof.source;
        out["proofs"].push_back(std::move(row));
    }
    out["schools"] = OutJson::array();
    for (const auto& school : found.card->schools)
        out["schools"].push_back({{"what", school.what}, {"ways", school.ways}});
    out["tools"] = found.card->tools;
    if (!found.card->die.empty())
        out["die"] = found.card->die;
    if (connection.fit)
        out["minutes"] = connection.fit->minutes;
    out["cautions"] = found.card->cautions;
    if (o.pdf.empty())
        return print(out);
    loadFaces();
    writeWhole(o.pdf, cardPdf(found, "", *paperSizeWords.find(o.paper)), {});
    out["written"] = o.pdf;
    printBeside(o.pdf, out);
}

void pins(const std::string& word) {
    const auto wiring = wiringWords.find(word);
    OutJson out = {{"wiring", word}, {"pins", OutJson::array()}};
    for (const auto& row : pinsOf(wiring.value_or(Wiring::T568B))) {
        OutJson pin = {{"pin", row.pin}};
        if (!row.wire.empty())
            pin["wire"] = row.wire;
        if (!row.pair.empty())
            pin["pair"] = row.pair;
        if (!row.to.empty())
            pin["to"] = row.to;
        out["pins"].push_back(std::move(pin));
    }
    print(out);
}

} // namespace

void addEndCommands(CLI::App& app) {
    auto* command = app.add_subcommand("card", "how an end is made: lengths, steps, proofs");
    auto o = std::make_shared<CardOptions>();
    command->add_option("--connection", o->connection, "id, see `connections`")->required();
    command->add_option("--cable", o->cable, "id, see `cables`")->required();
    command->add_option("--pdf", o->pdf, "the same on paper, the end drawn as long as it is");
    command->add_option("--paper", o->paper)->check(CLI::IsMember({"a4", "letter"}));
    command->callback([o] { card(*o); });

    command = app.add_subcommand("pins", "which wire lies on which pin, or which pin on which");
    auto wiring = std::make_shared<std::string>();
    std::vector<std::string> words;
    for (const auto word : wiringWords.words)
        words.emplace_back(word);
    command->add_option("--wiring", *wiring)->required()->check(CLI::IsMember(words));
    command->callback([wiring] { pins(*wiring); });
}

} // namespace burin
