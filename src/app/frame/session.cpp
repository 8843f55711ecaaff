#include "app/frame/session.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "core/base/lookup.h"
#include "core/job/run_length.h"
#include <QDate>
#include <algorithm>

namespace burin {
Session::Session(Catalogue shipped) : store_(std::move(shipped)) {
    pool_.setMaxThreadCount(2);
    connect(&store_, &StoreThread::opened, this, [this](const Snapshot& s) {
        preview_.reset();
        waiting_ = 0;
        fileLost_ = false;
        current_.clear();
        selected_.clear();
        findings_.reset();
        findingOf_.clear();
        findingsFor_.reset();
        take(s);
        if (!job().runs.empty())
            select(job().runs.front().id, {});
        emit jobOpened();
    });
    connect(&store_, &StoreThread::committed, this, [this](const Snapshot& s) {
        waiting_ = std::max(0, waiting_ - 1);
        preview_.reset();
        take(s);
    });
    connect(&store_, &StoreThread::failed, this, [this](const QString& text, bool lost) {
        if (lost && snapshot_.kept)
            pending_ = snapshot_.kept;
        emit message(text, true);
    });
    connect(&store_, &StoreThread::fileLost, this, [this] { fileLost_ = true; });
    connect(&store_, &StoreThread::done, this,
            [this](const QString& text) { emit message(text, false); });
}

Session::~Session() {
    ++*generation_;
    ++*choosing_;
    pool_.waitForDone();
}

void Session::take(const Snapshot& snapshot) {
    snapshot_ = snapshot;
    if (waiting_ == 0)
        pending_ = snapshot.kept;
    if (!wanted_.empty() && job().run(wanted_) != nullptr) {
        current_ = wanted_;
        selected_ = {wanted_};
        wanted_.clear();
    }
    if (job().run(current_) == nullptr)
        current_ = job().runs.empty() ? std::string() : job().runs.front().id;
    const IdFinder<Run> runs(job().runs, selected_.size());
    std::erase_if(selected_, [&](const auto& id) { return runs.find(id) == nullptr; });
    if (selected_.empty() && !current_.empty())
        selected_ = {current_};
    computeCurrent();
    for (const auto& fault : snapshot.faults)
        emit message(said(fault, *this), true);
    emit jobChanged();
    emit selectionChanged();
    recompute();
}

void Session::computeCurrent() {
    if (const Run* run = current()) {
        currentFinding_ = findRun(job(), *run, catalogue(), *snapshot_.files);
        // What its system says may be one edit old: recompute, under way, brings it up to date.
        // Not so what would cure it: that can be pressed.
        const std::vector<Cure> own = currentFinding_.cures;
        if (findings_)
            findings_->overlaySystems(currentFinding_, job(), catalogue());
        if (findingsFor_ != snapshot_.job)
            currentFinding_.cures = own;
        if (site())
            overlaySite(currentFinding_, *run, *site());
    } else {
        currentFinding_ = {};
    }
}

/// Called in the worker: the screen takes it, unless an edit has overtaken it.
void Session::publish(int mine, const Snapshot& snapshot,
                      const std::shared_ptr<const JobFindings>& all, const std::string& curesOf) {
    QMetaObject::invokeMethod(this, [this, mine, snapshot, all, curesOf] {
        if (*generation_ != mine)
            return;
        findings_ = all;
        findingsCatalogue_ = snapshot.catalogue;
        findingsFor_ = snapshot.job;
        findingOf_.clear();
        for (std::size_t i = 0; i < findings_->runs.size(); ++i)
            findingOf_[findings_->runs[i].runId] = i;
        findings_->overlaySystems(currentFinding_, job(), catalogue());
        if (const Run* run = current(); run != nullptr && site())
            overlaySite(currentFinding_, *run, *site());
        emit findingsChanged();
        chooseCables();
        // Another run was chosen while its own were looked for.
        if (curesOf != current_)
            lookForCures();
    });
}

std::string Session::today() const {
    return today_.empty() ? QDate::currentDate().toString(Qt::ISODate).toStdString() : today_;
}

void Session::recompute() {
    const int mine = ++*generation_;
    beside([this, mine, generation = generation_, snapshot = snapshot_, before = findingsFor_,
            known = findings_, wanted = current_, today = today()] {
        JobFindingOptions options;
        options.stop = [&generation, mine] { return *generation != mine; };
        options.cures = false; // verdicts first
        options.site = snapshot.site.get();
        options.kept = snapshot.kept.get();
        options.today = today;
        auto all = std::make_shared<JobFindings>(findJob(*snapshot.job, *snapshot.catalogue,
                                                         *snapshot.files, options,
                                                         {before.get(), known.get()}));
        if (all->stopped)
            return;
        publish(mine, snapshot, all, wanted);
        publishCures(mine, snapshot, *all, wanted, options.stop);
    });
}

/// What would cure a run where that takes its time, beside the screen, once the verdicts are in.
void Session::lookForCures() {
    if (!findings_ || curesAreIn())
        return;
    if (findingsFor_ != snapshot_.job) {
        recompute(); // the verdicts are still being worked out, for another run's cures
        return;
    }
    const int mine = ++*generation_;
    beside([this, mine, generation = generation_, snapshot = snapshot_, known = findings_,
            wanted = current_] {
        publishCures(mine, snapshot, *known, wanted,
                     [&generation, mine] { return *generation != mine; });
    });
}

/// In the worker.
void Session::publishCures(int mine, const Snapshot& snapshot, const JobFindings& known,
                           const std::string& wanted, const std::function<bool()>& stop) {
    auto with = std::make_shared<JobFindings>(known);
    findCures(*snapshot.job, *snapshot.catalogue, wanted, *with,
              {snapshot.kept.get(), snapshot.site.get(), stop});
    if (with->curesFor == wanted)
        publish(mine, snapshot, with, wanted);
}

void Session::chooseCables() {
    const int mine = ++*choosing_;
    if (current() == nullptr || !site() || !findings_)
        return;
    beside([this, mine, choosing = choosing_, snapshot = snapshot_, findings = findings_,
            wanted = current_] {
        const Run* run = snapshot.job->run(wanted);
        if (*choosing != mine || run == nullptr)
            return;
        auto choices = std::make_shared<const std::vector<CableChoice>>(
            chooseCable(*snapshot.job, *run, *snapshot.site, *snapshot.catalogue, findings.get()));
        QMetaObject::invokeMethod(this, [this, mine, wanted, choices] {
            if (*choosing_ != mine)
                return;
            choices_ = choices;
            choicesOf_ = wanted;
            emit cableChoicesChanged();
        });
    });
}

void Session::beside(const std::function<void()>& work) {
    pool_.start([this, work] {
        try {
            work();
        } catch (const std::exception& unforeseen) {
            // Rather no verdicts than the end of the program.
            const QString what = QString::fromUtf8(unforeseen.what());
            QMetaObject::invokeMethod(this, [this, what] {
                emit message(tr("The findings could not be worked out: %1").arg(what), true);
            });
        }
    });
}

const std::vector<CableChoice>* Session::cableChoices() const {
    return choicesOf_ == current_ && hasJob() ? choices_.get() : nullptr;
}

const std::vector<Closing>& Session::closings() const {
    static const std::vector<Closing> none;
    return findings_ ? findings_->closings : none;
}

void Session::setUnits(UnitSystem units) {
    units_ = units;
    emit unitsChanged();
}

void Session::select(const std::string& current, std::vector<std::string> all) {
    if (all.empty() && !current.empty())
        all = {current};
    if (current == current_ && all == selected_)
        return;
    preview_.reset();
    current_ = current;
    selected_ = std::move(all);
    computeCurrent();
    lookForCures();
    emit selectionChanged();
    chooseCables();
}

bool Session::curesAreIn() const {
    return !hasJob() || !hasLongCures(job(), currentFinding_) ||
           (findings_ && findings_->curesFor == current_);
}

const std::vector<RunFinding>& Session::findings() const {
    static const std::vector<RunFinding> none;
    return findings_ ? findings_->runs : none;
}

const RunFinding* Session::finding(const std::string& runId) const {
    if (runId == current_ && hasJob() && currentFinding_.runId == runId)
        return &currentFinding_;
    const auto it = findingOf_.find(runId);
    return it == findingOf_.end() ? nullptr : &findings_->runs[it->second];
}

Rendering Session::rendering() const {
    return spoken(units_);
}

const RunFinding* Session::currentFinding() const {
    if (preview_)
        return &previewFinding_;
    return current() != nullptr ? &currentFinding_ : nullptr;
}

void Session::preview(const Run& run) {
    preview_ = run;
    previewFinding_ = findRun(job(), run, catalogue(), *snapshot_.files, {.measurements = false});
    if (job().distributionOf(run.id) != nullptr || job().busOf(run.id) != nullptr) {
        // The whole system would have to be found anew at every step of a drag.
        previewFinding_.outlook = Outlook::Unknown;
        previewFinding_.outlookReason =
            sentence({"preview.later", "levels and waveforms follow once the length is kept"});
    }
    // Tests were made on the run as it is kept: their verdicts stand while its length is tried out.
    previewFinding_.measurements = currentFinding_.measurements;
    previewFinding_.serviceState = currentFinding_.serviceState;
    previewFinding_.classState = currentFinding_.classState;
    previewFinding_.serviceReason = currentFinding_.serviceReason;
    previewFinding_.classReason = currentFinding_.classReason;
    previewFinding_.classUnproven = currentFinding_.classUnproven;
    previewFinding_.measuredShare = currentFinding_.measuredShare;
    emit previewChanged();
}

void Session::dropPreview() {
    if (!preview_)
        return;
    preview_.reset();
    emit previewChanged();
}

void Session::commit(const Edit& edit, std::vector<Attachment> attachments) {
    if (!hasJob() || edit.changes.empty())
        return;
    auto next = apply(*pending_, edit);
    if (!next) {
        dropPreview();
        emit message(said(next.error(), *this), true);
        emit jobChanged();
        return;
    }
    pending_ = std::make_shared<const Job>(std::move(*next));
    ++waiting_;
    store_.commit(edit, std::move(attachments));
}

void Session::commitAndSelect(const Edit& edit) {
    for (const auto& change : edit.changes)
        if (change.kind == Kind::Run && change.op != Op::Remove)
            wanted_ = change.id;
    commit(edit);
}

void Session::undo() {
    ++waiting_;
    store_.undo();
}

void Session::redo() {
    ++waiting_;
    store_.redo();
}

void Session::changeSelected(const QString& title, const std::function<void(Run&)>& change) {
    if (!hasJob())
        return;
    Edit edit{title.toStdString(), {}};
    const IdFinder<Run> runs(pending_->runs, selected_.size());
    std::vector<const Run*> changed;
    for (const auto& id : selected_) {
        const Run* run = runs.find(id);
        if (run == nullptr)
            continue;
        Run after = *run;
        change(after);
        if (after == *run)
            continue;
        edit.changes.push_back(put(std::optional(*run), std::optional(after)));
        changed.push_back(run);
    }
    if (changed.size() > 1)
        edit.title += " on " + std::to_string(changed.size()) + " runs";
    else if (changed.size() == 1)
        edit.title += " of " + changed.front()->label;
    commit(edit);
}

Run Session::toType(const Run& kept) const {
    return typedOver(kept, job().run(kept.id));
}

} // namespace burin
