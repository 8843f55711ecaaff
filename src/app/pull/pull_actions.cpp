#include "app/frame/said.h"
#include "app/pull/pull_stage.h"
#include "app/pull/pull_words.h"
#include "core/base/lookup.h"
#include "core/edit/apply.h"
#include "core/edit/box_line.h"

/// What is done in the Pull stage; what it shows is in pull_stage.cpp.
namespace burin {

void PullStage::commit(const Outcome<Edit>& edit) {
    if (!edit)
        emit session_.message(said(edit.error(), session_), true);
    else
        session_.commit(*edit);
}

/// A new box, or the one that is typed over.
void PullStage::keepBox() {
    const std::string text = newBox_->text().toStdString();
    Outcome<Edit> edit = Edit{};
    if (boxId_.empty()) {
        const auto box = readBox(text, session_.pending(), session_.catalogue());
        edit = box ? Outcome<Edit>(Edit{"add box " + box->name,
                                        put(std::optional<Box>(), std::optional(*box))})
                   : Outcome<Edit>(refuse(box.error()));
    } else {
        edit = retypedBox(text, boxId_, session_.pending(), session_.catalogue());
    }
    if (edit)
        if (const auto tried = apply(session_.pending(), *edit); !tried)
            edit = refuse(tried.error());
    if (!edit) {
        emit session_.message(said(edit.error(), session_), true);
        if (edit.error().column > 0)
            newBox_->setCursorPosition(edit.error().column - 1);
        return;
    }
    session_.commit(*edit);
    newBox_->clear();
    boxId_.clear();
}

void PullStage::typeOver(const QString& boxId) {
    if (const Box* box = byId(session_.pending().boxes, boxId.toStdString())) {
        boxId_ = box->id;
        newBox_->setText(q(boxText(*box)));
        newBox_->setFocus(Qt::OtherFocusReason);
    }
}

void PullStage::change(const QString& title, const std::function<void(Pull&)>& change) {
    if (pull() != nullptr)
        session_.commit(changedPull(session_.pending(), pullOf(*pull(), session_.pending()),
                                    title.toStdString(), change));
}

void PullStage::move(int by) {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    if (chosen == nullptr)
        return;
    const auto at = chosen - now->pulls.data();
    const auto to = at + by;
    if (to >= 0 && to < static_cast<std::ptrdiff_t>(now->pulls.size()))
        place(static_cast<std::size_t>(at), static_cast<std::size_t>(to));
}

/// The pull at that place of the order is done at the other; those between make room.
void PullStage::place(std::size_t at, std::size_t to) {
    const PullPlan* now = plan();
    std::vector<const PullFinding*> all;
    for (const auto& one : now->pulls)
        all.push_back(&one);
    const auto from = all.begin() + static_cast<std::ptrdiff_t>(at);
    const auto onto = all.begin() + static_cast<std::ptrdiff_t>(to);
    if (at < to)
        std::rotate(from, from + 1, onto + 1);
    else
        std::rotate(onto, from, from + 1);
    std::vector<PullOf> order;
    for (std::size_t i = 0; i <= std::max(at, to); ++i)
        if (all[i]->state == PullState::Planned)
            order.push_back(pullOf(*all[i], session_.pending()));
    session_.commit(orderedPulls(session_.pending(), order));
}

/// Drawn by mouse: before or after another pull.
void PullStage::placeBy(const QString& runId, const QString& ofPull, bool after) {
    const PullPlan* now = plan();
    const PullFinding* moved = now == nullptr ? nullptr : now->pullOf(runId.toStdString());
    const PullFinding* other = now == nullptr ? nullptr : now->pullOf(ofPull.toStdString());
    if (moved == nullptr || other == nullptr)
        return;
    const auto at = moved - now->pulls.data();
    auto to = other - now->pulls.data() + (after ? 1 : 0);
    if (to > at)
        --to;
    if (to != at)
        place(static_cast<std::size_t>(at), static_cast<std::size_t>(to));
}

void PullStage::moveRunTo(const QString& runId, const QString& ofPull) {
    if (const PullFinding* to = plan() == nullptr ? nullptr : plan()->pullOf(ofPull.toStdString()))
        commit(
            movedToPull(session_.pending(), runId.toStdString(), pullOf(*to, session_.pending())));
}

void PullStage::joinBy(const QString& runId, const QString& ofPull) {
    const PullPlan* now = plan();
    const PullFinding* moved = now == nullptr ? nullptr : now->pullOf(runId.toStdString());
    const PullFinding* other = now == nullptr ? nullptr : now->pullOf(ofPull.toStdString());
    if (moved != nullptr && other != nullptr)
        commit(joinedPulls(session_.pending(), pullOf(*other, session_.pending()),
                           pullOf(*moved, session_.pending())));
}

void PullStage::moveRun(int by) {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    if (chosen == nullptr)
        return;
    const auto to = chosen - now->pulls.data() + by;
    if (to >= 0 && to < static_cast<std::ptrdiff_t>(now->pulls.size()))
        commit(movedToPull(session_.pending(), session_.currentId(),
                           pullOf(now->pulls[static_cast<std::size_t>(to)], session_.pending())));
}

void PullStage::join() {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    if (chosen == nullptr || chosen == &now->pulls.back())
        return;
    commit(joinedPulls(session_.pending(), pullOf(*chosen, session_.pending()),
                       pullOf(*(chosen + 1), session_.pending())));
}

void PullStage::nextPull() {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    for (const auto& one : now->pulls)
        if (&one != chosen && one.state != PullState::Pulled && !one.runs.empty()) {
            std::vector<std::string> all;
            for (const auto& run : one.runs)
                all.push_back(run.runId);
            goingOn_ = true;
            session_.select(all.front(), all);
            return;
        }
}

QList<KeyHelp> PullStage::keys() const {
    return {{tr("Ctrl+B"), tr("a box or reel by a typed line")},
            {tr("Ctrl+M, Enter"), tr("marks of the pull, Enter after Enter")},
            {tr("Alt+Up, Alt+Down"), tr("the pull earlier, or later")},
            {tr("Alt+Left, Alt+Right"), tr("the run into the pull before, or the next")}};
}

} // namespace burin
