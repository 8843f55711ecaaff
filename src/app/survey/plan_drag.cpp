// What follows the pointer while a thing or a way is dragged on the plan.
#include "app/survey/plan_view.h"
#include "core/base/lookup.h"
#include "core/edit/apply.h"
#include "core/job/run_length.h"
#include <algorithm>

namespace burin {
namespace {

/// Metres along a way's drawn legs to the point nearest to `p`, and how far off that is.
double alongRoute(const RunRoute& route, const std::string& floorId, const PlanPoint& p,
                  double* away) {
    double before = 0;
    double best = 1e300;
    double at = 0;
    for (const auto& leg : route.legs) {
        if (leg.floorId == floorId && leg.kind == RouteLeg::Kind::Along) {
            const double share = nearestShare(p, leg.from, leg.to);
            const double off = distanceM(p, between(leg.from, leg.to, share));
            if (off < best) {
                best = off;
                at = before + share * leg.lengthM;
            }
        }
        before += leg.lengthM;
    }
    *away = best;
    return at;
}

} // namespace

/// Where in the run's list of points a new one would come, if `p` lies on its way.
std::optional<std::size_t> PlanView::viaUnder(const PlanPoint& p) const {
    const Run* run = session_.current();
    const RunRoute* route = run == nullptr ? nullptr : session_.site()->route(run->id);
    if (route == nullptr || route->fault)
        return std::nullopt;
    for (std::size_t i = 0; i < run->vias.size(); ++i)
        if (run->vias[i].floorId == floorId_ && distanceM(run->vias[i].at, p) < reachM())
            return i;
    double away = 0;
    const double at = alongRoute(*route, floorId_, p, &away);
    if (away > reachM())
        return std::nullopt;
    std::size_t index = 0;
    for (const auto& via : run->vias) {
        double off = 0;
        if (via.floorId == floorId_ && alongRoute(*route, floorId_, via.at, &off) < at)
            ++index;
    }
    return index;
}

void PlanView::dragVia() {
    const Run* run = session_.current();
    if (run == nullptr)
        return;
    const Run* before = session_.pending().run(run->id);
    const auto index = before == nullptr ? std::nullopt : viaUnder(pressed_);
    if (!index)
        return;
    Run other = *before;
    const bool on = *index < other.vias.size() && other.vias[*index].floorId == floorId_ &&
                    distanceM(other.vias[*index].at, pressed_) < reachM();
    const Via via{floorId_, cursor_};
    if (on)
        other.vias[*index] = via;
    else
        other.vias.insert(other.vias.begin() + static_cast<std::ptrdiff_t>(*index), via);
    drawInstead(put(std::optional(*before), std::optional(other)));
    draftRoute_ = routeOf(*draft_, other, *session_.site()->graph, session_.site()->route(run->id));
}

/// The draft is the job as kept with these changes, whatever was tried before them.
void PlanView::drawInstead(Changes changes) {
    (void)overwrite(*draft_, inverse({{}, dragged_}).changes);
    dragged_ = std::move(changes);
    (void)overwrite(*draft_, dragged_);
}

void PlanView::beginDrag() {
    grip_ = Grip::Thing;
    draft_ = session_.pending();
    dragged_.clear();
    movesMany_ = draft_->room(chosenId_) != nullptr;
}

void PlanView::drag() {
    // From the job as kept each time, so that nothing adds up.
    // A place or a corner goes to what it snaps to, anything else by whole steps of the grid.
    double dx = onGrid(cursor_.xM - pressed_.xM);
    double dy = onGrid(cursor_.yM - pressed_.yM);
    const Place* stands = byId(session_.pending().places, chosenId_);
    const auto* corners = pointsOfThing(session_.pending(), chosenId_);
    const PlanPoint* single =
        stands != nullptr ? &stands->at
        : corners != nullptr && corner_ >= 0 && corner_ < static_cast<int>(corners->size())
            ? &(*corners)[static_cast<std::size_t>(corner_)]
            : nullptr;
    if (single != nullptr) {
        const PlanPoint at =
            snapped(session_.job(), floorId_, cursor_, reachM(), std::nullopt, false, chosenId_);
        dx = at.xM - single->xM;
        dy = at.yM - single->yM;
    }
    drawInstead(movedBy(session_.pending(), chosenId_, corner_, dx, dy));
    const Run* run = session_.current();
    if (run == nullptr || dragged_.empty())
        return;
    const RunRoute* known = session_.site()->route(run->id);
    const bool ends = run->near.placeId == chosenId_ || run->far.placeId == chosenId_;
    if (byId(draft_->pathways, chosenId_) != nullptr) {
        draftRoute_ = routeOf(*draft_, *run, makeWayGraph(draft_->floors, draft_->pathways), known);
    } else if (ends) {
        draftRoute_ = routeOf(*draft_, *run, *session_.site()->graph, known);
    } else {
        return;
    }
    if (lengthFrom(*run) == LengthFrom::Plan && !draftRoute_->fault) {
        Run laid = *run;
        laid.stretches = draftRoute_->stretches;
        session_.preview(laid);
    }
}

void PlanView::endDrag() {
    if (dragged_.empty()) {
        draft_.reset();
        draftRoute_.reset();
        session_.dropPreview();
        return;
    }
    waiting_ = true;
    // What was dragged and nothing else: others may have changed the job meanwhile.
    session_.commit({"move on the plan", dragged_});
}

} // namespace burin
