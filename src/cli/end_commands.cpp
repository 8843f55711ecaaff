#include "cli/commands.h"
#include "core/base/lookup.h"
#include "core/base/moment.h"
#include "core/connector/card.h"
#include "core/connector/pins.h"
#include "core/job/ports.h"
#include "files/end_print.h"
#include "files/job_store.h"
#include <QDate>

namespace burin {
namespace {

const Connection& connectionOf(const Catalogue& catalogue, const std::string& id) {
    if (const Connection* connection = catalogue.connection(id))
        return *connection;
    throw BadInput{{named("--connection"),
                    0,
                    0,
                    sentence({"command.no-connection", "there is no connection “{0}”"}, id),
                    {"cure.burin-cli-connections", "burin-cli connections lists them"}}};
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
            {{"what", fitWords[point.of]}, {"good", point.good}, {"reason", point.reason}});
    if (found.card == nullptr)
        throw BadInput{{sentence({"where.on", "{0} on {1}"}, o.connection, o.cable),
                        0,
                        0,
                        {"command.no-card", "there is no card for it"},
                        connection.fit
                            ? sentence({"cure.take-cable-fits",
                                        "Take a cable it fits: burin-cli connectors --cable ID"})
                            : sentence({"cure.made-factory-nothing",
                                        "It is made in a factory: nothing is ended with it"})}};
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
    loadShippedFaces();
    writeWhole(o.pdf, cardPdf(found, "", UnitSystem::Metric, *paperSizeWords.find(o.paper)), {});
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

/// A day as it is typed; throws BadInput.
void checkDay(const std::string& on) {
    if (!calendarDay(on))
        throw BadInput{{named("--on"),
                        0,
                        0,
                        sentence({"days.no-date", "“{0}” is no date"}, on),
                        {"days.write-date", "Write year-month-day: 2026-11-26"}}};
}

/// An end as `ends` lists it.
OutJson toJson(const EndWork& end, const Job& job, const Catalogue& catalogue) {
    const Run* run = job.run(end.runId);
    const RunEnd& at = end.end == End::Near ? run->near : run->far;
    OutJson out = {{"run", run->label},
                   {"end", endWords[end.end]},
                   {"name", endName(job, at)},
                   {"state", endStateWords[end.state]},
                   {"spoiled", end.spoiled}};
    if (const Termination* made = byId(job.terminations, end.terminationId)) {
        const auto nameOfTool = [&](const std::string& id) {
            const HandTool* tool = byId(job.tools, id);
            return tool == nullptr ? std::string() : tool->name;
        };
        const Connection* connection = catalogue.connection(made->connectionId);
        out["connection"] = made->connectionId;
        if (connection != nullptr)
            out["connector"] = connection->name;
        for (const auto& [key, text] : std::initializer_list<std::pair<const char*, std::string>>{
                 {"madeOn", made->madeOn},
                 {"madeBy", made->madeBy},
                 {"stripTool", nameOfTool(made->stripToolId)},
                 {"closeTool", nameOfTool(made->closeToolId)},
                 {"note", made->note}})
            if (!text.empty())
                out[key] = text;
        if (const Photograph* photo = byId(job.photographs, made->photographId))
            out["photograph"] = photo->name;
        if (end.blunt)
            out["bladesOverdue"] = true;
        for (const auto& check : made->checks) {
            OutJson one = {{"proof", check.proofId}, {"good", check.good}};
            if (check.mm)
                one["mm"] = *check.mm;
            out["checks"].push_back(std::move(one));
        }
        if (!end.unchecked.empty())
            out["unchecked"] = end.unchecked;
    }
    if (end.minutes > 0)
        out["minutes"] = end.minutes;
    for (const auto& sentence : end.said)
        out["says"].push_back(sentence);
    return out;
}

/// A job with all that is told of its ends.
struct KnownEnds {
    KnownEnds(const std::string& path, const std::string& day)
        : store(openJob(path)), job(store->job()),
          catalogue(catalogueOf(shippedCatalogue(), job, &faults)), site(planSite(job, catalogue)),
          plan(endPlanOf(*store, laidJob(job, site), catalogue, site, day)) {}
    std::unique_ptr<JobStore> store;
    const Job& job;
    std::vector<Fault> faults;
    Catalogue catalogue;
    SitePlan site;
    EndPlan plan;

    void finish(OutJson& out) const {
        for (const auto& fault : faults)
            out["faults"].push_back(told(fault));
        print(out);
    }
};

struct EndsOptions {
    std::string job, place, on = today();
};
void ends(const EndsOptions& o) {
    checkDay(o.on);
    const KnownEnds known(o.job, o.on);
    OutJson out = {
        {"wanted", known.plan.wanted()}, {"made", known.plan.made()}, {"places", OutJson::array()}};
    std::string names;
    for (const auto& place : known.plan.places) {
        names += (names.empty() ? "" : ", ") + (place.name.empty() ? "“”" : place.name);
        if (!o.place.empty() && place.name != o.place && place.placeId != o.place &&
            place.roomId != o.place)
            continue;
        OutJson one = {{"place", place.name}, {"left", place.left()}, {"ends", OutJson::array()}};
        for (const auto& end : place.ends)
            one["ends"].push_back(toJson(end, known.job, known.catalogue));
        out["places"].push_back(std::move(one));
    }
    if (!o.place.empty() && out["places"].empty())
        throw BadInput{
            {named("--place"), 0, 0,
             sentence({"command.no-ends-made", "no ends are to be made at “{0}”"}, o.place),
             sentence({"cure.name-one-of", "Name one of {0}"}, names)}};
    known.finish(out);
}

struct ToolsOptions {
    std::string job, on = today();
};
void tools(const ToolsOptions& o) {
    checkDay(o.on);
    const KnownEnds known(o.job, o.on);
    OutJson out = {{"on", o.on}, {"tools", OutJson::array()}};
    for (const auto& found : known.plan.tools) {
        const HandTool& tool = *byId(known.job.tools, found.toolId);
        OutJson one = {{"id", tool.id},
                       {"name", tool.name},
                       {"kind", toolKindWords[tool.kind]},
                       {"made", found.made},
                       {"spoiled", found.spoiled}};
        if (tool.gone)
            one["gone"] = true;
        if (hasBlades(tool.kind)) {
            one["blades"] = {{"state", dueWords[found.blades]},
                             {"ends", found.ends},
                             {"mostEnds", tool.bladeEnds},
                             {"mostDays", tool.bladeDays}};
            if (!found.bladesOn.empty())
                one["blades"].update({{"since", found.bladesOn}, {"dueOn", found.bladesDueOn}});
        }
        if (hasGauge(tool.kind)) {
            one["gauge"] = {{"state", dueWords[found.gauge]}, {"mostDays", tool.gaugeDays}};
            if (!found.gaugedOn.empty())
                one["gauge"].update({{"last", found.gaugedOn}, {"dueOn", found.gaugeDueOn}});
        }
        for (const auto& sentence : found.said)
            one["says"].push_back(sentence);
        out["tools"].push_back(std::move(one));
    }
    known.finish(out);
}

} // namespace

EndPlan endPlanOf(const JobStore& store, const Job& laid, const Catalogue& catalogue,
                  const SitePlan& site, const std::string& today) {
    JobFindings all;
    // Tests are held against what was made before them.
    if (!store.job().terminations.empty()) {
        JobFindingOptions options;
        options.site = &site;
        options.cures = false;
        all = findJob(laid, catalogue, filesOf(store), options);
    }
    return findEndPlan(store.job(), catalogue, all.runs, today);
}

std::string today() {
    return QDate::currentDate().toString(Qt::ISODate).toStdString();
}

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

    command = app.add_subcommand("ends", "which ends are made, by whom and with what, by place");
    auto e = std::make_shared<EndsOptions>();
    command->add_option("job", e->job, "job file")->required();
    command->add_option("--place", e->place, "a panel, block or room, by name or id");
    command->add_option("--on", e->on, "the day, 2026-11-26; without it today");
    command->callback([e] { ends(*e); });

    command = app.add_subcommand("tools", "blades and gauges, what is due, what was spoiled");
    auto t = std::make_shared<ToolsOptions>();
    command->add_option("job", t->job, "job file")->required();
    command->add_option("--on", t->on, "the day, 2026-11-26; without it today");
    command->callback([t] { tools(*t); });
}

} // namespace burin
