#include "core/catalogue/site_rules.h"
#include "core/base/lookup.h"
#include "core/describe/json_reader.h"
#include <algorithm>

namespace burin {
namespace {

PresetHeight readHeight(JsonObject& in) {
    if (const auto above = in.optionalNumber("aboveCeilingM", 0, 100))
        return {*above, true};
    return {in.number("heightM", -100, 1000), false};
}

SeparationRule readSeparation(JsonObject in) {
    SeparationRule out;
    out.source = in.string("source");
    out.steps = in.list("steps", [](JsonObject step) {
        const SeparationStep read{step.number("upToKva", 0, 1e9), step.number("apartMm", 0, 1e5)};
        step.close();
        return read;
    });
    for (std::size_t i = 1; i < out.steps.size(); ++i)
        if (out.steps[i].upToKva <= out.steps[i - 1].upToKva)
            in.fail("steps", {"site-rules.do-not-rise", "do not rise"},
                    {"cure.order-uptokva", "Order them by upToKva"});
    if (out.steps.empty())
        in.fail("steps", {"card.empty", "is empty"}, {"cure.give-least", "Give at least one"});
    out.metalFactor = in.number("metalFactor", 0, 1);
    out.ballastMm = in.number("ballastMm", 0, 1e5);
    out.motorMm = in.number("motorMm", 0, 1e5);
    out.neverUnderMm = in.number("neverUnderMm", 0, 1e5);
    out.houseUpToKva = in.number("houseUpToKva", 0, 1e6);
    out.houseLeastMm = in.number("houseLeastMm", 0, 1e5);
    out.houseMm = in.number("houseMm", 0, 1e5);
    out.coaxFactor = in.number("coaxFactor", 0, 1);
    out.squareDeg = in.number("squareDeg", 0, 90);
    in.close();
    return out;
}

MainsPreset readMainsPreset(JsonObject in) {
    MainsPreset out;
    out.route.name = in.string("name");
    out.route.kind = in.word("kind", mainsKindWords);
    out.route.kva = in.number("kva", 0, 1e6);
    out.route.enclosed = in.booleanOr("enclosed", false);
    out.height = readHeight(in);
    in.close();
    return out;
}

PathwayPreset readPathwayPreset(JsonObject in) {
    PathwayPreset out;
    Pathway& p = out.pathway;
    p.name = in.string("name");
    p.kind = in.word("kind", pathwayKindWords);
    p.temperatureC = in.number("temperatureC", -60, 200);
    p.boreMm = in.optionalNumber("boreMm", 1, 1e4);
    p.perHook = in.optionalInteger("perHook", 1, 10000);
    p.supportM = in.optionalNumber("supportM", 0.01, 1000);
    p.cornerRadiusMm = in.optionalNumber("cornerRadiusMm", 0, 1e5);
    if (in.booleanOr("insulated", false))
        p.around = Surroundings::Insulation;
    else if (isClosed(p.kind))
        p.around = Surroundings::Conduit;
    out.height = readHeight(in);
    in.close();
    return out;
}

RunKind readKind(JsonObject in) {
    RunKind out{in.string("id"),
                in.string("name"),
                in.string("letter"),
                {},
                in.string("cable"),
                in.string("service"),
                {}};
    for (const auto& service : in.array("services"))
        out.services.push_back(service.is_string() ? service.get<std::string>() : "");
    for (const auto& head : in.array("heads")) {
        const auto kind = placeKindWords.find(head.is_string() ? head.get<std::string>() : "");
        if (!kind)
            in.fail("heads", {"site-rules.names-no-kind", "names no kind of place"},
                    {"cure.use-those-docs", "Use those of docs/job-format.md"});
        out.heads.push_back(*kind);
    }
    in.close();
    return out;
}

} // namespace

const RunKind* SiteRules::kindOf(std::string_view serviceId) const {
    const auto it = std::find_if(kinds.begin(), kinds.end(), [&](const RunKind& k) {
        return std::find(k.services.begin(), k.services.end(), serviceId) != k.services.end();
    });
    return it == kinds.end() ? nullptr : &*it;
}

const RunKind* SiteRules::kind(std::string_view id) const {
    return byId(kinds, id);
}

Outcome<SiteRules> readSiteRules(std::string_view text, const std::string& where) {
    auto json = parseJson(text, where);
    if (!json)
        return refuse(json.error());
    try {
        JsonObject in(*json, where, "");
        if (in.string("format") != "burin-site")
            in.fail("format", {"site-rules.not-burin-site", "is not burin-site"},
                    {"cure.restore-shipped-file", "Restore the shipped file"});
        in.integer("version", 1, 1);
        in.stringOr("note", "");
        SiteRules out;
        out.separation = readSeparation(in.object("separation"));
        JsonObject fill = in.object("fill");
        out.fill = {fill.number("oneShare", 0.01, 1), fill.number("twoShare", 0.01, 1),
                    fill.number("moreShare", 0.01, 1), fill.string("source")};
        fill.close();
        JsonObject bend = in.object("bend");
        out.bend = {bend.number("unscreened", 0.1, 100), bend.number("screened", 0.1, 100),
                    bend.number("coax", 0.1, 100), bend.string("source")};
        bend.close();
        JsonObject hooks = in.object("hooks");
        out.hooks = {hooks.integer("perHook", 1, 10000), hooks.number("supportM", 0.01, 1000),
                     hooks.string("source")};
        hooks.close();
        out.mains = in.list("mainsPresets", readMainsPreset);
        out.pathways = in.list("pathwayPresets", readPathwayPreset);
        out.voids = in.list("voidPresets", [](JsonObject preset) {
            VoidPreset v{preset.string("name"), preset.number("voidM", 0, 100)};
            preset.close();
            return v;
        });
        out.kinds = in.list("kinds", readKind);
        in.close();
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
