#include "core/job/table_parts.h"

namespace burin {
namespace {

constexpr int mostDays = 200; ///< that are kept of a tool
constexpr int highestEntry = 1000000000;

/// Days, each as the log writes one.
template <typename T>
FieldOf<T, std::vector<std::string>> daysField(std::string name,
                                               std::vector<std::string> T::*member) {
    auto out = textsField(name, member, mostDays);
    out.field.read = [name, member, read = out.field.read](void* thing, JsonObject& in) {
        read(thing, in);
        for (const auto& day : detail::as<T>(thing).*member)
            checkDay(in, name, day);
    };
    return std::move(out).leftOut();
}

std::vector<Field> checkFields() {
    using T = EndCheck;
    return fieldsOf<T>(textField("proofId", &T::proofId), numberField("mm", &T::mm, -1000, 1000),
                       flagField("good", &T::good));
}

} // namespace

std::vector<Field> toolFields() {
    using T = HandTool;
    return fieldsOf<T>(
        textField("id", &T::id), textField("name", &T::name),
        wordField("kind", &T::kind, toolKindWords), daysField("bladesOn", &T::bladesOn),
        wholeField("bladeDays", &T::bladeDays, 1, 10000),
        wholeField("bladeEnds", &T::bladeEnds, 1, 1000000), daysField("gaugedOn", &T::gaugedOn),
        wholeField("gaugeDays", &T::gaugeDays, 1, 10000), flagField("gone", &T::gone).leftOut(),
        orderField(&T::order), textField("note", &T::note).longest(longestNote).leftOut());
}

std::vector<Field> terminationFields() {
    using T = Termination;
    auto end = wordField("end", &T::end, endWords);
    end.field.words.pop_back(); // "inline"
    end.field.read = [](void* thing, JsonObject& in) {
        auto& row = detail::as<T>(thing);
        row.end = in.word("end", endWords);
        if (row.end == End::Inline)
            in.fail("end", {"job.inline", "is “inline”"},
                    {"cure.end-near-far", "An end is near or far; a coupler is a connection"});
    };
    return fieldsOf<T>(
        textField("id", &T::id), textField("runId", &T::runId).refers("run", Gone::Remove),
        std::move(end), textField("connectionId", &T::connectionId).leftOut(),
        dateField("madeOn", &T::madeOn), textField("madeBy", &T::madeBy).leftOut(),
        textField("stripToolId", &T::stripToolId).refers("tool", Gone::Refuse).leftOut(),
        textField("closeToolId", &T::closeToolId).refers("tool", Gone::Refuse).leftOut(),
        flagField("spoiled", &T::spoiled).leftOut(),
        wholeField("entry", &T::entry, 1, highestEntry),
        wholeField("tests", &T::tests, 0, highestEntry).leftOut(),
        textField("photographId", &T::photographId).refers("photograph", Gone::Clear).leftOut(),
        objectsField("checks", &T::checks, checkFields()).leftOut(),
        textField("note", &T::note).longest(longestNote).leftOut());
}

} // namespace burin
