// What follows the pointer while a thing or a way is dragged on the plan.
#include "app/survey/plan_view.h"
#include "core/lookup.h"
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
    for (auto& other : draft_->runs) {
        if (other.id != run->id || before == nullptr)
            continue;
        other = *before;
        const auto index = viaUnder(pressed_);
        if (!index)
            return;
        const bool on = *index < other.vias.size() && other.vias[*index].floorId == floorId_ &&
                        distanceM(other.vias[*index].at, pressed_) < reachM();
        const Via via{floorId_, cursor_};
        if (on)
            other.vias[*index] = via;
        else
            other.vias.insert(other.vias.begin() + static_cast<std::ptrdiff_t>(*index), via);
        draftRoute_ =
            routeOf(*draft_, other, *session_.site()->graph, session_.site()->route(run->id));
        return;
    }
}

void PlanView::beginDrag() {
    grip_ = Grip::Thing;
    draft_ = session_.pending();
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
    const auto changes = movedBy(session_.pending(), chosenId_, corner_, dx, dy);
    for (const auto& change : changes) {
        if (const auto* place = std::get_if<Change<Place>>(&change)) {
            for (auto& p : draft_->places)
                if (p.id == place->id())
                    p = *place->after;
        } else if (const auto* way = std::get_if<Change<Pathway>>(&change)) {
            for (auto& w : draft_->pathways)
                if (w.id == way->id())
                    w = *way->after;
        } else if (const auto* mains = std::get_if<Change<MainsRoute>>(&change)) {
            for (auto& m : draft_->mains)
                if (m.id == mains->id())
                    m = *mains->after;
        } else if (const auto* surface = std::get_if<Change<Surface>>(&change)) {
            for (auto& s : draft_->surfaces)
                if (s.id == surface->id())
                    s = *surface->after;
        } else if (const auto* room = std::get_if<Change<Room>>(&change)) {
            for (auto& r : draft_->rooms)
                if (r.id == room->id())
                    r = *room->after;
        } else if (const auto* photo = std::get_if<Change<Photograph>>(&change)) {
            for (auto& p : draft_->photographs)
                if (p.id == photo->id())
                    p = *photo->after;
        }
    }
    const Run* run = session_.current();
    if (run == nullptr || changes.empty())
        return;
    const RunRoute* known = session_.site()->route(run->id);
    const bool ends = run->nearPlaceId == chosenId_ || run->farPlaceId == chosenId_;
    if (byId(draft_->pathways, chosenId_) != nullptr) {
        draftRoute_ = routeOf(*draft_, *run, makeWayGraph(draft_->floors, draft_->pathways), known);
    } else if (ends) {
        draftRoute_ = routeOf(*draft_, *run, *session_.site()->graph, known);
    } else {
        return;
    }
    if (run->followsPlan && !draftRoute_->fault) {
        Run laid = *run;
        laid.stretches = draftRoute_->stretches;
        session_.preview(laid);
    }
}

void PlanView::endDrag() {
    Edit edit{"move on the plan", {}};
    const auto compare = [&](const auto& before, const auto& after) {
        for (std::size_t i = 0; i < std::min(before.size(), after.size()); ++i)
            if (!(before[i] == after[i]) && before[i].id == after[i].id)
                edit.changes.push_back(put(std::optional(before[i]), std::optional(after[i])));
    };
    const Job& kept = session_.pending();
    compare(kept.places, draft_->places);
    compare(kept.pathways, draft_->pathways);
    compare(kept.mains, draft_->mains);
    compare(kept.surfaces, draft_->surfaces);
    compare(kept.rooms, draft_->rooms);
    compare(kept.photographs, draft_->photographs);
    compare(kept.runs, draft_->runs);
    if (edit.changes.empty()) {
        draft_.reset();
        draftRoute_.reset();
        session_.dropPreview();
        return;
    }
    waiting_ = true;
    session_.commit(edit);
}

} // namespace burin
