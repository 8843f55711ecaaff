#include "core/finding/alternatives.h"
#include "core/finding/trial.h"
#include "core/job/run_length.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <set>

namespace burin {
namespace {

constexpr double leastCordM = 1; ///< shorter ones do not reach from port to port
constexpr double shorterByM = 0.5;

/// The greatest n below `most` for which `good(n)`; none where not even 0 is. What is good for some
/// number is taken to be so for every smaller one.
template <typename Good> std::optional<int> greatest(int most, Good good) {
    if (most <= 0 || !good(0))
        return std::nullopt;
    int low = 0;
    int high = most;
    while (high - low > 1) {
        const int middle = (low + high) / 2;
        (good(middle) ? low : high) = middle;
    }
    return low;
}

/// Looks for the least that has to be changed of one run's parts, its cable staying.
class PartCures {
public:
    PartCures(const Job& job, const Run& run, const Cable& cable, const Catalogue& catalogue)
        : job_(job), run_(run), cable_(cable), catalogue_(catalogue) {}

    std::vector<Cure> all() {
        connections();
        cords();
        bundle();
        return std::move(out_);
    }

private:
    [[nodiscard]] bool holds(const Run& other) const {
        return tryRun(job_, other, catalogue_).holds;
    }
    /// Puts it in place; what does not hold is no change worth showing.
    bool add(CureOf of, const Run& other, Sentence title, Cost cost) {
        Cure cure = cureBy(of, job_, other, run_, catalogue_);
        if (!cure.holds)
            return false;
        cure.title = std::move(title);
        cure.cost = cost;
        out_.push_back(std::move(cure));
        return true;
    }

    void connections() {
        const Run other = withConnectionsFor(run_, catalogue_, cable_);
        int changed = 0;
        std::set<std::string> then;
        for (std::size_t i = 0; i < other.connections.size(); ++i)
            if (other.connections[i].connectionId != run_.connections[i].connectionId) {
                ++changed;
                then.insert(other.connections[i].connectionId);
            }
        if (changed == 0)
            return;
        std::vector<Sentence> names;
        names.reserve(then.size());
        for (const auto& id : then)
            names.push_back(alone(asTerm(catalogue_.connection(id)->name)));
        add(CureOf::Connections, other,
            sentence({"cure.connections", "{0} instead, at {1} {1?connection|connections}"},
                     joined(std::move(names), ", "), asCount(changed)),
            {changed * catalogue_.costs.connector, changed * catalogue_.costs.hoursToPutIn});
    }

    [[nodiscard]] Cost costOfCords(const Run& other) const {
        Cost out;
        for (std::size_t i = 0; i < other.cords.size(); ++i)
            if (!(other.cords[i] == run_.cords[i]))
                out += partCost(catalogue_.costs, 2 * catalogue_.costs.connector);
        return out;
    }
    [[nodiscard]] static Run noLonger(Run run, double lengthM) {
        for (auto& cord : run.cords)
            cord.lengthM = std::min(cord.lengthM, lengthM);
        return run;
    }
    void cords() {
        if (run_.cords.empty())
            return;
        Run better = withCordsFor(run_, cable_, catalogue_);
        bool raised = false;
        for (std::size_t i = 0; i < better.cords.size(); ++i) {
            raised = raised || better.cords[i].cableId != run_.cords[i].cableId;
            better.cords[i].awg26 = false;
        }
        const bool changed = better.cords != run_.cords;
        if (changed && add(CureOf::Cords, better,
                           raised ? sentence({"cure.cords", "Cords of {0}"}, asTerm(cable_.name))
                                  : sentence({"cure.cords-thicker", "Cords of thicker wire"}),
                           costOfCords(better)))
            return;
        double longest = 0;
        for (const auto& cord : run_.cords)
            longest = std::max(longest, cord.lengthM);
        const auto length = [](int step) { return leastCordM + step * shorterByM; };
        const auto steps = static_cast<int>(std::ceil((longest - leastCordM) / shorterByM - 1e-9));
        const auto shorter = [&](const Run& with) {
            return greatest(steps, [&](int step) { return holds(noLonger(with, length(step))); });
        };
        if (const auto step = shorter(run_)) {
            const Run other = noLonger(run_, length(*step));
            add(CureOf::Cords, other,
                sentence({"cure.cords-short", "No cord longer than {0}"}, asMetres(length(*step))),
                costOfCords(other));
        } else if (const auto both = changed ? shorter(better) : std::nullopt) {
            const Run other = noLonger(better, length(*both));
            add(CureOf::Cords, other,
                raised ? sentence({"cure.cords-and-short", "Cords of {0}, none longer than {1}"},
                                  asTerm(cable_.name), asMetres(length(*both)))
                       : sentence({"cure.cords-thicker-short",
                                   "Cords of thicker wire, none longer than {0}"},
                                  asMetres(length(*both))),
                costOfCords(other));
        }
    }

    void bundle() {
        const auto apart = [&](int most) {
            Cure with;
            with.neighbours = most;
            return cured(run_, with);
        };
        const auto most =
            greatest(run_.neighbours(), [&](int beside) { return holds(apart(beside)); });
        if (!most)
            return;
        // Where the plan lays it, how its ways are bundled is for who pulls them.
        const bool laid = isLaidByPlan(run_);
        const double metres =
            job_.isMeasured(run_.id) || lengthFrom(run_) == LengthFrom::Marks ? run_.lengthM() : 0;
        if (add(CureOf::Bundle, apart(*most),
                laid ? sentence({"cure.bundle-laid",
                                 "Bundles of {0} {0?cable|cables} on its way, apart from others"},
                                asCount(*most + 1))
                     : sentence({"cure.bundle", "In a bundle of {0} {0?cable|cables}"},
                                asCount(*most + 1)),
                {0,
                 catalogue_.costs.hoursToPutIn + metres * catalogue_.costs.hoursToPullPerMetre}) &&
            !laid)
            out_.back().neighbours = most;
    }

    const Job& job_;
    const Run& run_;
    const Cable& cable_;
    const Catalogue& catalogue_;
    std::vector<Cure> out_;
};

} // namespace

std::vector<Cure> partCures(const Job& job, const Run& run, const Catalogue& catalogue) {
    const Cable* cable = catalogue.cable(run.cableId);
    return cable == nullptr ? std::vector<Cure>() : PartCures(job, run, *cable, catalogue).all();
}

} // namespace burin
