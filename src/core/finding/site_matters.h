#pragma once
#include "core/finding/site_finding.h"
#include "core/site/separation.h"

/// Parts of planSite; screens and commands want core/finding/site_finding.h.
namespace burin {

/// A run in a pathway.
struct Use {
    const Run* run;
    const Cable* cable; ///< may be null
    double fromM, toM;  ///< along the pathway, rising
    double runAtFromM;  ///< metres of the run's fixed cable at fromM
    bool forward;
    [[nodiscard]] SiteFinding::OnRun onRun(double from, double to) const {
        const double a = runAtFromM + (forward ? from - fromM : toM - to);
        return {run->id, a, a + (to - from)};
    }
    [[nodiscard]] double overlapM(double from, double to) const {
        return std::min(toM, to) - std::max(fromM, from);
    }
};

/// A piece of a way that lies in no pathway: through the open, or straight up or down.
struct OpenUse {
    const Run* run;
    const Cable* cable;
    const RouteLeg* leg;
    double runAtM;
};

/// What a cable lies too near to, with all that is asked of it.
class MainsMatters {
public:
    MainsMatters(const Job& job, const Catalogue& catalogue, const SitePlan& plan);
    /// Mains beside a pathway and the runs in it.
    void beside(const Pathway& way, const std::vector<Use>& uses,
                std::vector<SiteFinding>& out) const;
    /// Mains beside cable in the open, lying or coming down: it is nobody's pathway, and each run
    /// answers for itself; those that cross the same mains, or come down beside it at one place,
    /// are told together.
    void inTheOpen(const OpenUse& use, std::vector<SiteFinding>& out) const;

private:
    /// Cables that are to lie equally far from a mains route.
    struct Class {
        Apart apart;
        std::vector<Exposure> exposures;
        [[nodiscard]] bool holds(const Cable* cable) const;
        [[nodiscard]] Sentence word() const;
    };
    [[nodiscard]] std::vector<Class> classesOf(const MainsRoute& mains) const;

    /// A mains route with how far cables are to lie from it, and the box it lies in.
    struct Source {
        const MainsRoute* mains;
        std::vector<Class> classes;
        double farthestM;
        PlanPoint low, high;
        [[nodiscard]] bool mayReach(const PlanPoint& a, const PlanPoint& b) const;
    };
    [[nodiscard]] const std::vector<Source>& mainsOn(const std::string& floorId) const;
    void say(SiteFinding& f, const Sentence& where, const MainsRoute& mains, const Class& cables,
             const Beside& part, double gapM) const;
    void besidePart(const Pathway& way, const std::vector<Use>& uses, const MainsRoute& mains,
                    const Class& cables, const Beside& part, std::vector<SiteFinding>& out) const;
    void openPart(const OpenUse& use, const MainsRoute& mains, const Class& cables,
                  const Beside& part, std::span<const PlanPoint> points, double gapM,
                  std::vector<SiteFinding>& out) const;
    const Job& job_;
    const Catalogue& catalogue_;
    const SitePlan& plan_;
    std::map<std::string, std::vector<Source>> mains_; ///< by floor
};

/// "1 run", "3 runs".
Sentence runsWord(std::size_t count);
Sentence nameOf(const Pathway& way);
/// Marks a finding on a pathway, between two places along it.
void placeOn(SiteFinding& f, const Pathway& way, double fromM, double toM);

/// Everything found along the routes of `plan`, the worst first.
std::vector<SiteFinding> siteFindings(const Job& job, const Catalogue& catalogue,
                                      const SitePlan& plan, std::vector<WayFill>& fills);
/// What is found of a run as a whole: its jacket, and whether it has a way at all.
void addRunMatters(const Job& job, const SitePlan& plan, std::vector<SiteFinding>& out);

} // namespace burin
