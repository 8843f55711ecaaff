#pragma once
#include "core/describe/json_reader.h"
#include <map>

/// What every file of the catalogue begins with. Used by the readers of the catalogue alone.
namespace burin::catalogue_file {

using Sources = std::map<std::string, std::string>;

/// Reads "format", "version", "note" and "sources"; throws FaultThrown.
inline Sources openRoot(JsonObject& root, const std::string& format) {
    if (root.string("format") != format)
        root.fail("format", sentence({"catalogue.not", "is not {0}"}, format),
                  {"cure.give-file-meant", "Give the file meant for this place"});
    root.integer("version", 1, 1);
    root.stringOr("note", "");
    Sources out;
    JsonObject sources = root.object("sources");
    for (const auto& [key, value] : root.need("sources").items())
        out[key] = sources.string(key);
    return out;
}
/// The sentence that a source's short name stands for.
inline std::string sourceOf(JsonObject& in, const Sources& sources) {
    const std::string source = in.string("source");
    const auto it = sources.find(source);
    if (it == sources.end())
        in.fail("source",
                sentence({"catalogue.not-list", "is “{0}”, which is not in the list"}, source),
                {"cure.add-sources", "Add it to “sources”"});
    return it->second;
}
template <typename T, typename Read>
Outcome<T> readFile(std::string_view text, const std::string& where, Read read) {
    const auto parsed = parseJson(text, where);
    if (!parsed)
        return refuse(parsed.error());
    try {
        JsonObject root(*parsed, where, "");
        return read(root);
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin::catalogue_file
