#include "core/line/chain_json.h"

namespace burin {
namespace {

constexpr double mostOhm = 1e9;
constexpr double mostChainM = 1e6;

Branch readBranch(JsonObject& part) {
    Branch out;
    out.ohm = part.numberOr("ohm", 0, mostOhm, 0);
    out.nanohenry = part.numberOr("nanohenry", 0, 1e9, 0);
    out.picofarad = part.optionalNumber("picofarad", 1e-9, 1e12);
    return out;
}

double readEnd(JsonObject& part) {
    const auto& end = part.need("end");
    if (end == "open")
        return std::numeric_limits<double>::infinity();
    if (end == "short")
        return 0;
    if (!end.is_number())
        part.fail("end", {"chain.neither-open-short", "is neither open, short nor ohms"},
                  {"cure.write-open-short", "Write \"open\", \"short\" or a number"});
    return part.number("end", 0, mostOhm);
}

const Connection& readConnection(JsonObject& part, const Catalogue& catalogue) {
    const std::string id = part.string("connection");
    const Connection* connection = catalogue.connection(id);
    if (connection == nullptr)
        part.fail(
            "connection",
            sentence({"tree.catalogue-does-not", "is “{0}”, which the catalogue does not have"},
                     id),
            {"cure.list-burin-cli-connections", "List them with burin-cli connections"});
    return *connection;
}

void readPart(JsonObject& part, const Catalogue& catalogue, Chain& out) {
    const std::string kind = part.string("kind");
    if (kind == "line") {
        const Line line = readLine(part, catalogue);
        out.parts.push_back(LinePart{line, part.number("lengthM", 0, mostChainM)});
    } else if (kind == "stub") {
        const Line line = readLine(part, catalogue);
        const double length = part.number("lengthM", 0, mostChainM);
        out.parts.push_back(StubPart{line, length, readEnd(part)});
    } else if (kind == "series") {
        out.parts.push_back(SeriesPart{readBranch(part)});
    } else if (kind == "shunt") {
        out.parts.push_back(ShuntPart{readBranch(part)});
    } else if (kind == "connection") {
        const Connection& c = readConnection(part, catalogue);
        const auto parts =
            connectionParts(c, part.numberOr("impedanceOhm", 1, 1000, out.referenceOhm));
        out.parts.insert(out.parts.end(), parts.begin(), parts.end());
    } else if (kind == "splitter") {
        const auto split = splitterPart(part.integer("ways", 1, 1000), out.referenceOhm);
        if (!split)
            part.fail("ways", split.error().what, split.error().cure);
        out.parts.push_back(*split);
    } else if (kind == "pad") {
        out.parts.push_back(PadPart{out.referenceOhm, part.number("lossDb", 0, 200)});
    } else if (kind == "amplifier") {
        out.parts.push_back(AmplifierPart{out.referenceOhm, part.number("gainDb", 0, 100),
                                          part.numberOr("isolationDb", 0, 200, 40)});
    } else {
        part.fail("kind", sentence({"json.word-unknown", "is “{0}”, which is not known"}, kind),
                  {"cure.use-line-stub",
                   "Use line, stub, series, shunt, connection, splitter, pad or amplifier"});
    }
    part.close();
}

} // namespace

Line readLine(JsonObject& part, const Catalogue& catalogue) {
    if (part.find("cable") == nullptr) {
        const double impedance = part.number("impedanceOhm", 1e-3, mostOhm);
        const double velocity = part.number("velocity", 1e-3, 1);
        return plainLine(impedance, velocity, part.numberOr("lossDbPer100m", 0, 1e4, 0));
    }
    const std::string id = part.string("cable");
    const Cable* cable = catalogue.cable(id);
    if (cable == nullptr)
        part.fail(
            "cable",
            sentence({"tree.catalogue-does-not", "is “{0}”, which the catalogue does not have"},
                     id),
            {"cure.list-burin-cli-cables", "List them with burin-cli cables"});
    return lineOf(*cable, catalogue.temperature, part.numberOr("temperatureC", -60, 200, 20));
}

std::vector<ChainPart> connectionParts(const Connection& connection, double impedanceOhm) {
    PadPart loss{impedanceOhm};
    loss.perSqrtGhzDb = connection.kind == CableKind::Coax
                            ? connection.at1GhzDb.value
                            : connection.perSqrtMhzDb.value * std::sqrt(1000.0);
    loss.lossAtDb = connection.flatDb.value;
    std::vector<ChainPart> out{loss};
    if (connection.impedanceOhm && connection.electricalMm)
        out.emplace_back(LinePart{plainLine(connection.impedanceOhm->value, 1, 0),
                                  connection.electricalMm->value / 1000});
    return out;
}

Outcome<Chain> readChain(std::string_view json, const std::string& where,
                         const Catalogue& catalogue) {
    const auto parsed = parseJson(json, where);
    if (!parsed)
        return refuse(parsed.error());
    Chain out;
    try {
        JsonObject file(*parsed, where, "");
        out.referenceOhm = file.number("referenceOhm", 1e-3, mostOhm);
        const auto& parts = file.array("parts");
        for (std::size_t i = 0; i < parts.size(); ++i) {
            JsonObject part = file.item("parts", parts[i], i);
            readPart(part, catalogue, out);
        }
        file.close();
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
    if (auto good = checkChain(out); !good) {
        Fault fault = good.error();
        fault.what =
            sentence({"where.what", "{0}: {1}"}, std::move(fault.where), std::move(fault.what));
        fault.where = named(where);
        return refuse(fault);
    }
    return out;
}

} // namespace burin
