#include "core/finding/end_work.h"
#include "core/base/lookup.h"
#include "core/connector/card.h"
#include "core/job/ports.h"
#include <algorithm>
#include <map>
#include <unordered_map>
#include <unordered_set>

namespace burin {
namespace {

constexpr double nearEndM = 3;         ///< cords and dressing
constexpr double wholeLength = 0.9;    ///< of a run: a tester's length is no better known
constexpr std::size_t enoughEnds = 20; ///< before a share is told of them

constexpr Wording testFailed{"end.test-failed", "{0}, tested after it was made"};
constexpr Wording eitherEnd{"end.either", "Which end is not known: look at {0} first, it is easier "
                                          "to reach"};
constexpr Wording eitherAlike{"end.either-alike", "Which end is not known: look at both"};
constexpr Wording thisEnd{"end.this", "The tester's length ends here: {0}"};
constexpr Wording onTheWay{"end.on-the-way",
                           "{0}, but the tester's length ends {1} along: not laid to this end"};
constexpr Wording cableWouldNot{"end.cable",
                                "{0}, but the run would not do with good ends either: see Budget"};
constexpr Wording lossAlone{"end.loss",
                            "{0}: loss alone, which ends seldom make: look at the cable first"};
constexpr Wording checkBad{"end.check-bad", "{0}: {1}, not {2}"};
constexpr Wording checkSeenBad{"end.check-not-good", "Not good: {0}"};
constexpr Wording bladesBlunt{
    "end.blunt", "Made with blades that were due: {0} {0?end|ends}, {1} {1?day|days} old"};
constexpr Wording otherPart{"end.other-part", "{0} went on, {1} is planned"};

/// What ends do, beside loss.
bool endsDo(const MeasurementFinding& test) {
    if (test.wires && !test.wires->whole())
        return true;
    for (const auto* judgement : {&test.service, &test.classJudgement})
        for (const auto& result : judgement->results)
            if (result.state == State::Fail && result.parameter != Parameter::InsertionLoss &&
                result.parameter != Parameter::Delay && result.parameter != Parameter::Skew)
                return true;
    return false;
}

/// Where a failed test says that the fault is.
enum class At { NotSaid, Near, OnTheWay };

class Ends {
public:
    Ends(const Job& job, const Catalogue& catalogue, const std::vector<RunFinding>& runs)
        : job_(job), catalogue_(catalogue), use_(job), tests_(job.measurements, job.runs.size()),
          places_(job.places, 2 * job.runs.size()) {
        for (const auto& run : job.runs)
            runs_.emplace(run.id, &run);
        for (const auto& one : runs)
            findings_.emplace(one.runId, &one);
        for (const auto& row : job.terminations)
            rows_[{row.runId, row.end}].push_back(&row);
        for (const auto& test : job.measurements)
            measured_.insert(test.runId);
    }
    EndPlan find(const std::string& today) {
        for (const auto& run : job_.runs)
            if (!run.leftCoiled)
                for (const End end : {End::Near, End::Far})
                    groupOf(run, end).ends.push_back(work(run, end));
        EndPlan out;
        const auto add = [&](auto& groups) {
            for (auto& [order, group] : groups)
                if (!group.ends.empty()) {
                    sort(group);
                    out.places.push_back(std::move(group));
                }
        };
        add(heads_);
        add(rooms_);
        if (!today.empty())
            out.tools = use_.on(today);
        return out;
    }

private:
    EndPlace& groupOf(const Run& run, End end) {
        const RunEnd& at = end == End::Near ? run.near : run.far;
        const Place* place = places_.find(at.placeId);
        if (place != nullptr && isHeadEnd(place->kind)) {
            EndPlace& out = heads_[static_cast<std::size_t>(place - job_.places.data())];
            out.placeId = place->id;
            out.name = place->name;
            return out;
        }
        // An outlet stands in its room, outdoors in that of its run; a near end that is not on the
        // plan stands nowhere.
        const std::string none;
        const std::string& roomId = place != nullptr && !place->roomId.empty() ? place->roomId
                                    : place != nullptr || end == End::Far      ? run.roomId
                                                                               : none;
        const Room* room = job_.room(roomId);
        const auto order = room == nullptr ? job_.rooms.size()
                                           : static_cast<std::size_t>(room - job_.rooms.data());
        EndPlace& out = rooms_[order];
        if (room != nullptr) {
            out.roomId = room->id;
            out.name = room->name.empty() ? room->letters : room->name;
        }
        return out;
    }
    void sort(EndPlace& group) const {
        const auto key = [&](const EndWork& work) {
            const Run* run = runs_.at(work.runId);
            const RunEnd& at = work.end == End::Near ? run->near : run->far;
            const Place* place = places_.find(at.placeId);
            return std::tuple(at.placeId, place == nullptr ? at.port : portOf(*place, at),
                              run - job_.runs.data(), work.end);
        };
        std::sort(group.ends.begin(), group.ends.end(),
                  [&](const EndWork& a, const EndWork& b) { return key(a) < key(b); });
    }

    EndWork work(const Run& run, End end) const {
        EndWork out;
        out.runId = run.id;
        out.end = end;
        const Termination* last = nullptr;
        if (const auto it = rows_.find({run.id, end}); it != rows_.end())
            for (const auto* row : it->second) {
                last = row;
                out.spoiled += row->spoiled ? 1 : 0;
            }
        if (last == nullptr && measured_.contains(run.id)) {
            out.state = EndState::Unrecorded;
        } else if (last != nullptr && !last->spoiled) {
            out.state = EndState::Made;
            out.terminationId = last->id;
            judge(out, run, *last);
        }
        if (out.isLeft())
            out.minutes = endMinutes(connectorFor(run, end, catalogue_), catalogue_.work);
        return out;
    }

    void judge(EndWork& out, const Run& run, const Termination& row) const {
        bool again = judgeChecks(out, run, row);
        if (const auto it = findings_.find(run.id); it != findings_.end() && it->second->isProven())
            out.unchecked.clear();
        again = judgeTests(out, run, row) || again;
        if (const BladeWear* wear = use_.wearOf(row.id); wear != nullptr && wear->over) {
            out.blunt = true;
            out.said.push_back(sentence(bladesBlunt, asCount(static_cast<std::size_t>(wear->ends)),
                                        asCount(static_cast<std::size_t>(wear->days))));
        }
        const Connection* went = catalogue_.connection(row.connectionId);
        const Connection* chosen = chosenConnector(run, out.end, catalogue_);
        if (chosen != nullptr && went != nullptr && went != chosen)
            out.said.push_back(sentence(otherPart, asText(went->name), asText(chosen->name)));
        if (again)
            out.state = EndState::Again;
    }
    /// True: one of the card's proofs was found not good.
    bool judgeChecks(EndWork& out, const Run& run, const Termination& row) const {
        const Connection* connection = catalogue_.connection(row.connectionId);
        const Cable* cable = catalogue_.cable(run.cableId);
        if (connection == nullptr || cable == nullptr)
            return false;
        const EndCard* card = cardFor(*connection, *cable, catalogue_);
        if (card == nullptr)
            return false;
        bool bad = false;
        for (const auto& proof : card->proofs) {
            const auto check =
                std::find_if(row.checks.begin(), row.checks.end(),
                             [&](const EndCheck& one) { return one.proofId == proof.id; });
            if (check == row.checks.end() || (proof.isMeasured() && check->good && !check->mm)) {
                out.unchecked.push_back(proof.what);
                continue;
            }
            if (check->mm && proof.isMeasured() && !proof.takes(*check->mm)) {
                bad = true;
                out.said.push_back(sentence(checkBad, asTerm(proof.what),
                                            asMillimetres(*check->mm, 1),
                                            rangeOf(proof.leastMm, proof.mostMm)));
            } else if (!check->good) {
                bad = true;
                out.said.push_back(sentence(checkSeenBad, asTerm(proof.what)));
            }
        }
        return bad;
    }
    /// True: a test that came later lays its failure to the ends, this one or either.
    bool judgeTests(EndWork& out, const Run& run, const Termination& row) const {
        const auto it = findings_.find(run.id);
        const MeasurementFinding* test = it == findings_.end() ? nullptr : it->second->judged();
        const Measurement* kept = test == nullptr ? nullptr : tests_.find(test->id);
        if (kept == nullptr || kept->entry <= row.tests || test->state() != State::Fail)
            return false;
        const RunFinding& finding = *it->second;
        const Sentence& why = !test->failures.empty()              ? test->failures.front()
                              : test->service.state == State::Fail ? test->service.reason
                                                                   : test->classJudgement.reason;
        if (!endsDo(*test)) {
            out.said.push_back(sentence(lossAlone, why));
            return false;
        }
        // A cable that is wrong explains no wire that is.
        const bool wires = test->wires && !test->wires->whole();
        if (!wires && finding.outlook == Outlook::Fails) {
            out.said.push_back(sentence(cableWouldNot, why));
            return false;
        }
        const auto shown = kept->tester.lengthM;
        const At at = !wires || !shown || finding.lengthM <= 0               ? At::NotSaid
                      : *shown <= nearEndM && finding.lengthM > 2 * nearEndM ? At::Near
                      : *shown < wholeLength * finding.lengthM - nearEndM    ? At::OnTheWay
                                                                             : At::NotSaid;
        if (at == At::OnTheWay) {
            out.said.push_back(sentence(onTheWay, why, asMetres(*shown)));
            return false;
        }
        if (at == At::Near) {
            if (out.end != End::Near)
                return false;
            out.said.push_back(sentence(thisEnd, why));
            return true;
        }
        out.said.push_back(sentence(testFailed, why));
        out.said.push_back(either(run));
        return true;
    }
    [[nodiscard]] Sentence either(const Run& run) const {
        const Place* near = places_.find(run.near.placeId);
        const Place* far = places_.find(run.far.placeId);
        if (near == nullptr || far == nullptr || near->access == far->access)
            return sentence(eitherAlike);
        const bool nearFirst = near->access < far->access;
        return sentence(eitherEnd, asText(endName(job_, nearFirst ? run.near : run.far)));
    }

    const Job& job_;
    const Catalogue& catalogue_;
    ToolUse use_;
    IdFinder<Measurement> tests_;
    IdFinder<Place> places_;
    std::unordered_map<std::string_view, const Run*> runs_;
    std::unordered_map<std::string_view, const RunFinding*> findings_;
    std::map<std::pair<std::string_view, End>, std::vector<const Termination*>> rows_;
    std::unordered_set<std::string_view> measured_;
    std::map<std::size_t, EndPlace> heads_, rooms_; ///< in the order of the job's lists
};

} // namespace

std::size_t EndPlace::left() const {
    return static_cast<std::size_t>(
        std::count_if(ends.begin(), ends.end(), [](const EndWork& end) { return end.isLeft(); }));
}

std::size_t EndPlan::wanted() const {
    std::size_t out = 0;
    for (const auto& place : places)
        out += place.ends.size();
    return out;
}
std::size_t EndPlan::made() const {
    std::size_t out = wanted();
    for (const auto& place : places)
        out -= place.left();
    return out;
}
const EndWork* EndPlan::find(std::string_view runId, End end) const {
    for (const auto& place : places)
        for (const auto& work : place.ends)
            if (work.runId == runId && work.end == end)
                return &work;
    return nullptr;
}

EndPlan findEndPlan(const Job& job, const Catalogue& catalogue, const std::vector<RunFinding>& runs,
                    const std::string& today) {
    return Ends(job, catalogue, runs).find(today);
}

std::optional<double> spoiledShare(const Job& job, std::string_view connectionId) {
    std::size_t made = 0;
    std::size_t spoiled = 0;
    for (const auto& row : job.terminations)
        if (row.connectionId == connectionId)
            ++(row.spoiled ? spoiled : made);
    return made + spoiled < enoughEnds || made == 0
               ? std::nullopt
               : std::optional(static_cast<double>(spoiled) / static_cast<double>(made));
}

} // namespace burin
