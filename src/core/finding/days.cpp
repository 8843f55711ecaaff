#include "core/finding/days.h"
#include "core/base/moment.h"
#include "core/connector/card.h"
#include "core/units/render.h"
#include <algorithm>
#include <map>
#include <set>

namespace burin {
namespace {

using std::chrono::days;
using std::chrono::sys_days;

constexpr Wording theDay{"days.day", "day"};
constexpr Wording noDate{"days.no-date", "“{0}” is no date"};
constexpr Wording writeDate{"days.write-date", "Write year-month-day: 2026-11-26"};
constexpr Wording morePeople{"days.more-people", "With {0} people it is done on {1}"};
constexpr Wording longerDays{"days.longer-days", "With {0} hours a day it is done on {1}"};
constexpr Wording earlier{"days.earlier", "Begun on {0} it is done on {1}"};

constexpr Wording ownPace{"days.pace",
                          "By its own {0} days this job takes {1} of the plain minutes"};

constexpr int mostMorePeople = 3;
constexpr std::size_t paceDays = 3; ///< before a pace is told of them
constexpr std::size_t dayLength = std::string_view("2026-11-26").size();
constexpr double accounted = 0.5; ///< of a day, before it says anything

bool isWorkday(sys_days day) {
    return std::chrono::weekday(day).iso_encoding() <= 5;
}
sys_days nextWorkday(sys_days day) {
    while (!isWorkday(day))
        day += days(1);
    return day;
}

/// The crew and its time.
struct Hands {
    int crew = 2;
    double hours = 8;
    sys_days from;
};

class Layer {
public:
    Layer(const Job& job, const Catalogue& catalogue, const PullPlan& plan, const EndPlan& ends,
          const std::vector<Closing>& closings)
        : job_(job), catalogue_(catalogue), plan_(plan), work_(catalogue.work) {
        for (const auto& place : ends.places)
            for (const auto& end : place.ends)
                if (end.isLeft())
                    endMinutes_[end.runId] += end.minutes;
        for (const auto& test : job.measurements)
            measured_.insert(test.runId);
        for (const auto& closing : closings)
            toShow_.insert(closing.noPhotograph.begin(), closing.noPhotograph.end());
    }

    [[nodiscard]] double pullMinutes(const PullFinding& pull) const {
        double conduitM = 0;
        double wayM = 0;
        for (const auto& part : pull.way)
            if (part.kind == PullPart::Kind::Straight) {
                wayM += part.lengthM;
                conduitM += part.closed ? part.lengthM : 0;
            }
        if (pull.way.empty())
            wayM = pull.lengthM;
        return work_.pullSetMinutes +
               work_.pullCableMinutes * static_cast<double>(pull.runs.size()) +
               work_.pullMetreMinutes * wayM + work_.conduitMetreMinutes * conduitM;
    }

    /// By what was done before `today`.
    [[nodiscard]] WorkPace paceBy(const std::string& today, const Hands& hands) const {
        std::map<std::string, double> done; // minutes by the plain figures, by day
        for (const auto& pull : plan_.pulls)
            for (const auto& one : pull.runs)
                if (const Run* run = job_.run(one.runId);
                    run != nullptr && run->piece.isPulled() && !run->piece.pulledOn.empty())
                    done[run->piece.pulledOn] +=
                        pullMinutes(pull) / static_cast<double>(pull.runs.size());
        for (const auto& row : job_.terminations)
            if (!row.madeOn.empty())
                done[row.madeOn] +=
                    endMinutes(catalogue_.connection(row.connectionId), work_) / hands.crew;
        for (const auto& test : job_.measurements)
            done[test.takenAt.substr(0, dayLength)] += work_.testMinutes / hands.crew;
        WorkPace out;
        double plain = 0;
        double there = 0;
        for (const auto& [day, minutes] : done)
            if (calendarDay(day) && day < today && minutes >= accounted * hands.hours * 60) {
                plain += minutes;
                there += hands.hours * 60;
                ++out.days;
            }
        if (static_cast<std::size_t>(out.days) < paceDays)
            return {};
        out.factor = there / plain;
        out.said =
            sentence(ownPace, asCount(static_cast<std::size_t>(out.days)), asShare(out.factor));
        return out;
    }

    /// What is to be done, in its order, at that pace; shares out among so many people.
    [[nodiscard]] std::vector<DayWork> work(int crew, double pace) const {
        std::vector<DayWork> out;
        std::vector<DayWork> tests;
        const auto add = [&](std::vector<DayWork>& to, DayWork::What what, const PullFinding& pull,
                             std::vector<std::string> runs, double minutes) {
            if (minutes > 0)
                to.push_back({what, pull.id, std::move(runs), minutes * pace, pull.closesOn,
                              pull.closesName});
        };
        for (const auto& pull : plan_.pulls) {
            std::vector<std::string> toPull;
            std::vector<std::string> toEnd;
            std::vector<std::string> toTest;
            std::vector<std::string> toShow;
            double ends = 0;
            for (const auto& one : pull.runs) {
                const Run* run = job_.run(one.runId);
                if (run == nullptr)
                    continue;
                if (!one.there)
                    toPull.push_back(run->id);
                if (const auto left = endMinutes_.find(run->id); left != endMinutes_.end()) {
                    toEnd.push_back(run->id);
                    ends += left->second;
                }
                // What was made again is tested again.
                if (!run->leftCoiled &&
                    (!measured_.contains(run->id) || endMinutes_.contains(run->id)))
                    toTest.push_back(run->id);
                if (toShow_.contains(run->id))
                    toShow.push_back(run->id);
            }
            if (!toPull.empty())
                add(out, DayWork::What::Pull, pull, toPull,
                    pullMinutes(pull) * static_cast<double>(toPull.size()) /
                        static_cast<double>(pull.runs.size()));
            add(out, DayWork::What::Ends, pull, toEnd, ends / crew);
            const auto count = [](const auto& runs) { return static_cast<double>(runs.size()); };
            const double show = work_.photographMinutes * count(toShow) / crew;
            const double test = work_.testMinutes * count(toTest) / crew;
            add(out, DayWork::What::Photographs, pull, toShow, show);
            add(pull.closesOn.empty() ? tests : out, DayWork::What::Tests, pull, toTest, test);
        }
        // What closes first is done first, whatever order it is pulled in.
        std::stable_sort(out.begin(), out.end(), [](const DayWork& a, const DayWork& b) {
            const auto key = [](const DayWork& w) {
                return w.closesOn.empty() ? std::string("9999") : w.closesOn;
            };
            return key(a) < key(b);
        });
        out.insert(out.end(), tests.begin(), tests.end());
        return out;
    }

    [[nodiscard]] std::vector<WorkDay> lay(const std::vector<DayWork>& work,
                                           const Hands& hands) const {
        std::vector<WorkDay> out;
        sys_days day = nextWorkday(hands.from);
        const double most = hands.hours * 60;
        for (DayWork one : work) {
            while (one.minutes > 1e-6) {
                if (out.empty() || out.back().minutes >= most - 1e-6) {
                    if (!out.empty())
                        day = nextWorkday(day + days(1));
                    out.push_back({dayText(day), 0, most, {}});
                }
                WorkDay& now = out.back();
                const double room = most - now.minutes;
                // A pull that would fit a day is not torn over two.
                if (one.what == DayWork::What::Pull && one.minutes > room && one.minutes <= most &&
                    now.minutes > 0) {
                    day = nextWorkday(day + days(1));
                    out.push_back({dayText(day), 0, most, {}});
                    continue;
                }
                DayWork part = one;
                part.minutes = std::min(room, one.minutes);
                one.minutes -= part.minutes;
                now.minutes += part.minutes;
                now.work.push_back(std::move(part));
            }
        }
        return out;
    }

private:
    const Job& job_;
    const Catalogue& catalogue_;
    const PullPlan& plan_;
    const WorkRules& work_;
    std::set<std::string_view> measured_;
    std::map<std::string_view, double> endMinutes_; ///< of runs with ends to make
    std::set<std::string> toShow_; ///< behind something that closes, and not photographed
};

/// The last day on which something is done before it closes, by what closes.
std::map<std::pair<std::string, std::string>, std::string>
doneBy(const std::vector<WorkDay>& laid) {
    std::map<std::pair<std::string, std::string>, std::string> out;
    for (const auto& day : laid)
        for (const auto& work : day.work)
            if (!work.closesOn.empty())
                out[{work.closesOn, work.closesName}] = day.date;
    return out;
}

} // namespace

Outcome<DayPlan> planDays(const Job& job, const Catalogue& catalogue, const PullPlan& plan,
                          const EndPlan& ends, const std::vector<Closing>& closings,
                          const std::string& today) {
    const auto now = calendarDay(today);
    if (!now)
        return refuse(sentence(theDay), sentence(noDate, asText(today)), sentence(writeDate));
    DayPlan out;
    const auto starts = calendarDay(job.info.pull.startsOn);
    Hands hands{job.info.pull.crew, job.info.pull.hoursADay,
                starts && *starts > *now ? *starts : *now};
    const Layer layer(job, catalogue, plan, ends, closings);
    out.pace = layer.paceBy(today, hands);
    out.days = layer.lay(layer.work(hands.crew, out.pace.factor), hands);
    if (!out.days.empty())
        out.doneOn = out.days.back().date;
    for (const auto& entry : doneBy(out.days)) {
        const auto& what = entry.first;
        const std::string& doneOn = entry.second;
        if (doneOn < what.first)
            continue;
        LateWork late{what.first, what.second, doneOn, {}};
        const auto tryHands = [&](const Hands& other, auto told) {
            const auto laid = layer.lay(layer.work(other.crew, out.pace.factor), other);
            const auto done = doneBy(laid);
            if (const auto it = done.find(what); it != done.end() && it->second < what.first) {
                late.cures.push_back(told(it->second));
                return true;
            }
            return false;
        };
        for (int more = 1; more <= mostMorePeople; ++more) {
            Hands other = hands;
            other.crew += more;
            if (tryHands(other, [&](const std::string& done) {
                    return sentence(morePeople, asCount(static_cast<std::size_t>(other.crew)),
                                    asDay(done));
                }))
                break;
        }
        for (const double more : {1.0, 2.0, 3.0}) {
            Hands other = hands;
            other.hours += more;
            if (tryHands(other, [&](const std::string& done) {
                    return sentence(longerDays, asCount(static_cast<std::size_t>(other.hours)),
                                    asDay(done));
                }))
                break;
        }
        if (hands.from > *now) {
            Hands other = hands;
            other.from = *now;
            tryHands(other, [&](const std::string& done) {
                return sentence(earlier, asDay(dayText(nextWorkday(*now))), asDay(done));
            });
        }
        out.late.push_back(std::move(late));
    }
    return out;
}

} // namespace burin
