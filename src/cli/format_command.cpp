#include "cli/commands.h"
#include "core/job/tables.h"

namespace burin {
namespace {

const char* shapeName(const Field& field) {
    switch (field.shape) {
    case Shape::Text:
        return "text";
    case Shape::Number:
        return "number";
    case Shape::Whole:
        return "whole";
    case Shape::Flag:
        return "flag";
    case Shape::Word:
        return "word";
    case Shape::Nested:
        return field.list ? "list" : "object";
    case Shape::Children:
        break;
    }
    return "rows";
}

OutJson toJson(const Field& field) {
    OutJson out = {{"name", field.name}, {"shape", shapeName(field)}};
    if (field.shape != Shape::Children)
        out["column"] = field.column();
    if (field.shape == Shape::Number || field.shape == Shape::Whole) {
        out["least"] = field.least;
        out["most"] = field.most;
    }
    if (field.longest > 0)
        out["longest"] = field.longest;
    for (const auto word : field.words)
        out["words"].push_back(word);
    if (!field.refers.empty()) {
        constexpr const char* gone[] = {"cleared", "goes too", "cannot go"};
        out["refers"] = field.refers;
        out["whenItGoes"] = gone[static_cast<std::size_t>(field.gone)];
    }
    if (!field.owns.empty())
        out["owns"] = field.owns;
    if (field.mayLack)
        out["mayLack"] = true;
    if (field.since > 1)
        out["since"] = field.since;
    for (const auto& inner : field.inner)
        out["inner"].push_back(toJson(inner));
    return out;
}

void format() {
    OutJson out = {{"version", formatVersion}, {"kinds", OutJson::array()}};
    for (std::size_t k = 0; k < kindCount; ++k) {
        const Table& table = tableOf(static_cast<Kind>(k));
        OutJson kind = {{"kind", table.name()}, {"list", table.list}, {"table", table.sql}};
        if (table.owner) {
            kind["owner"] = kindWords[*table.owner];
            kind["ownerKey"] = table.ownerKey;
        }
        if (table.since > 1)
            kind["since"] = table.since;
        for (const auto& field : table.fields)
            kind["fields"].push_back(toJson(field));
        out["kinds"].push_back(std::move(kind));
    }
    print(out);
}

} // namespace

void addFormatCommand(CLI::App& app) {
    app.add_subcommand("format", "what a job keeps: kinds, fields, columns, ranges")
        ->callback(format);
}

} // namespace burin
