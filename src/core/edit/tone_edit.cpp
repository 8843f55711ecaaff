#include "core/edit/tone_edit.h"
#include "core/job/ports.h"
#include "core/pull/stock.h"
#include "core/units/render.h"
#include <algorithm>

namespace burin {
namespace {

constexpr Wording toneOf{"tone.of", "the tone of {0}"};
constexpr Wording noPort{"tone.no-port", "{0} has no port “{1}”"};
constexpr Wording typePort{"tone.type-port", "Type its number, 1 to {0}, or what it is called"};
constexpr Wording tonedThere{"tone.toned-there",
                             "{0} is where {1} ends: its own tone told so on {2}"};
constexpr Wording measuredThere{"tone.measured-there",
                                "{0} is where {1} ends: it was measured there"};
constexpr Wording toneAgain{"tone.again",
                            "Tone both again. If {0} was wrong, take its tone away first"};
constexpr Wording wrongTest{"tone.wrong-test",
                            "Tone again. If the test of {0} was another run's, remove it first"};

bool waits(const Job& job, const Run& run) {
    return hasMarks(run) && !isToldApart(job, run);
}
/// Both are the same port, or the same words where no place tells ports apart.
bool sameEnd(const Job& job, const RunEnd& a, const RunEnd& b) {
    if (a.placeId != b.placeId)
        return false;
    if (const Place* place = byId(job.places, a.placeId))
        if (const int port = portOf(*place, a); port > 0)
            return portOf(*place, b) == port;
    return !a.text.empty() && a.text == b.text;
}

/// Whoever made the end on a port made that of the run which is there now.
void swapMadeEnds(const Job& job, const std::string& a, const std::string& b, Changes& changes) {
    for (const auto& made : job.terminations) {
        if (made.end != End::Near || (made.runId != a && made.runId != b))
            continue;
        Termination after = made;
        after.runId = made.runId == a ? b : a;
        changes.push_back(put(std::optional(made), std::optional(after)));
    }
}

} // namespace

Outcome<Edit> tonedEdit(const Job& job, const Run& run, std::string_view at,
                        const std::string& day) {
    Run after = run;
    if (!at.empty())
        after.near = typedEnd(job, run.near, at);
    const Place* place = byId(job.places, run.near.placeId);
    if (place != nullptr && place->ports > 1 &&
        ((!at.empty() && !after.near.text.empty()) || portOf(*place, after.near) == 0))
        return refuse(sentence(toneOf, asText(run.label)),
                      sentence(noPort, asText(place->name), asText(std::string(at))),
                      sentence(typePort, asCount(static_cast<std::size_t>(place->ports))));
    after.piece.tonedOn = day;
    Edit out{"tone of " + run.label, put(std::optional(run), std::optional(after))};
    for (const auto& other : job.runs) {
        if (other.id == run.id || !sameEnd(job, other.near, after.near))
            continue;
        const auto refused = [&](const Sentence& what, const Wording& cure) {
            return refuse(sentence(toneOf, asText(run.label)), what,
                          sentence(cure, asText(other.label)));
        };
        const auto there = asText(endName(job, after.near));
        if (!other.piece.tonedOn.empty())
            return refused(
                sentence(tonedThere, there, asText(other.label), asDay(other.piece.tonedOn)),
                toneAgain);
        if (job.isMeasured(other.id))
            return refused(sentence(measuredThere, there, asText(other.label)), wrongTest);
        // One that is not told apart, or not pulled at all, was only planned to be there.
        Run moved = other;
        moved.near = run.near;
        out.changes.push_back(put(std::optional(other), std::optional(moved)));
        swapMadeEnds(job, run.id, other.id, out.changes);
    }
    return out;
}

Edit untonedEdit(const Run& run) {
    Run after = run;
    after.piece.tonedOn.clear();
    return {"tone of " + run.label + " again", put(std::optional(run), std::optional(after))};
}

const Run* nextToTone(const Job& job, std::string_view after) {
    const auto from =
        std::find_if(job.runs.begin(), job.runs.end(), [&](const Run& r) { return r.id == after; });
    const std::size_t start =
        from == job.runs.end() ? 0 : static_cast<std::size_t>(from - job.runs.begin()) + 1;
    for (std::size_t i = 0; i < job.runs.size(); ++i)
        if (const Run& run = job.runs[(start + i) % job.runs.size()];
            run.id != after && waits(job, run))
            return &run;
    return nullptr;
}

std::size_t leftToTone(const Job& job) {
    return static_cast<std::size_t>(std::count_if(job.runs.begin(), job.runs.end(),
                                                  [&](const Run& run) { return waits(job, run); }));
}

} // namespace burin
