#include "app/frame/session.h"
#include "app/look/painters.h"
#include "core/job/removal.h"
#include "files/measured_file.h"
#include "files/text_cursor.h"
#include <QFileInfo>
#include <algorithm>
#include <unordered_map>

namespace burin {
namespace {

/// For a look at many of them: finding one in the list takes as long as the list.
std::unordered_map<std::string_view, const Run*> runsById(const Job& job) {
    std::unordered_map<std::string_view, const Run*> out;
    out.reserve(job.runs.size());
    for (const auto& run : job.runs)
        out.emplace(run.id, &run);
    return out;
}

} // namespace

QString inUnits(const std::string& text, const Session& session) {
    return q(inUnits(text, session.units()));
}

Session::Session(Catalogue shipped) : store_(std::move(shipped)) {
    pool_.setMaxThreadCount(1);
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
    const auto runs = runsById(job());
    std::erase_if(selected_, [&](const auto& id) { return !runs.contains(id); });
    if (selected_.empty() && !current_.empty())
        selected_ = {current_};
    computeCurrent();
    for (const auto& fault : snapshot.faults)
        emit message(q(fault.text()), true);
    emit jobChanged();
    emit selectionChanged();
    recompute();
}

void Session::computeCurrent() {
    if (const Run* run = current()) {
        currentFinding_ = findRun(job(), *run, catalogue(), *snapshot_.files);
        // What its system says may be one edit old: recompute, under way, brings it up to date.
        if (findings_)
            findings_->overlaySystems(currentFinding_, job(), catalogue());
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
        // Another run was chosen while its own were looked for.
        if (curesOf != current_ && !curesAreIn())
            recompute();
    });
}

void Session::recompute() {
    const int mine = ++*generation_;
    pool_.start([this, mine, generation = generation_, snapshot = snapshot_, before = findingsFor_,
                 known = findings_, wanted = current_] {
        JobFindingOptions options;
        options.stop = [&generation, mine] { return *generation != mine; };
        options.cures = false; // verdicts first
        options.site = snapshot.site.get();
        try {
            auto all = std::make_shared<JobFindings>(findJob(*snapshot.job, *snapshot.catalogue,
                                                             *snapshot.files, options,
                                                             {before.get(), known.get()}));
            if (all->stopped)
                return;
            publish(mine, snapshot, all, wanted);
            auto with = std::make_shared<JobFindings>(*all);
            findCures(*snapshot.job, *snapshot.catalogue, wanted, *with, options.stop);
            if (with->curesFor == wanted)
                publish(mine, snapshot, with, wanted);
        } catch (const std::exception& unforeseen) {
            // Rather no verdicts than the end of the program.
            const QString what = QString::fromUtf8(unforeseen.what());
            QMetaObject::invokeMethod(this, [this, what] {
                emit message(tr("The findings could not be worked out: %1").arg(what), true);
            });
        }
    });
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
    // What would cure a run of a system is worked out beside the screen.
    if (findings_ && !curesAreIn())
        recompute();
    emit selectionChanged();
}

bool Session::curesAreIn() const {
    if (!hasJob() ||
        (job().distributionOf(current_) == nullptr && job().busOf(current_) == nullptr))
        return true;
    return findings_ && findings_->curesFor == current_;
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
        previewFinding_.outlookReason = "levels and waveforms follow once the length is kept";
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
        emit message(q(next.error().text()), true);
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
    const auto runs = runsById(*pending_);
    std::vector<const Run*> changed;
    for (const auto& id : selected_) {
        const auto it = runs.find(id);
        if (it == runs.end())
            continue;
        const Run* run = it->second;
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
    Run out = kept;
    if (const Run* laid = job().run(kept.id); kept.followsPlan && laid != nullptr) {
        out.stretches = laid->stretches;
        out.followsPlan = false;
    }
    return out;
}

bool Session::addRun(const QString& text) {
    if (!hasJob())
        return false;
    auto parsed = parseNewRun(text.toStdString(), *pending_, catalogue(), units_);
    if (!parsed) {
        emit message(q(parsed.error().text()), true);
        return false;
    }
    Edit edit{"add " + parsed->run.label, {}};
    if (parsed->room)
        edit.changes.push_back(put(std::optional<Room>{}, parsed->room));
    edit.changes.push_back(put(std::optional<Run>{}, std::optional(parsed->run)));
    commitAndSelect(edit);
    return true;
}

void Session::duplicateSelected() {
    if (!hasJob() || selected_.empty())
        return;
    Edit edit{"duplicate", {}};
    LabelMaker labels(*pending_);
    const auto runs = runsById(*pending_);
    std::vector<const Run*> copied;
    for (const auto& id : selected_) {
        const auto it = runs.find(id);
        if (it == runs.end())
            continue;
        Run copy = likeOf(*it->second);
        copy.label = labels.next(it->second->label);
        copy.order = it->second->order + 1;
        wanted_ = copy.id;
        edit.changes.push_back(put(std::optional<Run>{}, std::optional(copy)));
        copied.push_back(it->second);
    }
    if (copied.size() == 1)
        edit.title += " " + copied.front()->label;
    else
        edit.title += " " + std::to_string(copied.size()) + " runs";
    commit(edit);
}

void Session::removeSelected() {
    if (!hasJob() || selected_.empty())
        return;
    const auto known = runsById(*pending_);
    Edit edit{"remove", removalOf(*pending_, selected_)};
    const auto first = known.find(selected_.front());
    edit.title = selected_.size() == 1 && first != known.end()
                     ? "remove " + first->second->label
                     : "remove " + std::to_string(selected_.size()) + " runs";
    // The next run in the list takes the selection.
    const auto& runs = pending_->runs;
    const auto it = std::find_if(runs.begin(), runs.end(),
                                 [&](const Run& r) { return r.id == selected_.back(); });
    if (it != runs.end() && it + 1 != runs.end())
        wanted_ = (it + 1)->id;
    commit(edit);
    emit message(tr("%1: Ctrl+Z brings it back").arg(q(edit.title)), false);
}

void Session::renameRun(const std::string& runId, const QString& label) {
    const Run* run = hasJob() ? pending_->run(runId) : nullptr;
    if (run == nullptr || q(run->label) == label.trimmed())
        return;
    Run after = *run;
    after.label = label.trimmed().toStdString();
    commit({"rename " + run->label, {put(std::optional(*run), std::optional(after))}});
}

void Session::renameRoom(const std::string& roomId, const QString& name) {
    const Room* room = hasJob() ? pending_->room(roomId) : nullptr;
    if (room == nullptr || name.trimmed().isEmpty() || q(room->name) == name.trimmed())
        return;
    Room after = *room;
    after.name = name.trimmed().toStdString();
    commit({"rename room " + room->name, {put(std::optional(*room), std::optional(after))}});
}

void Session::bringIn(const std::string& runId, const QStringList& paths, LinkKind link,
                      const QString& pair, const QString& unit) {
    const Run* run = hasJob() ? pending_->run(runId) : nullptr;
    if (run == nullptr)
        return;
    Edit edit{"bring in", {}};
    std::vector<Attachment> attachments;
    int entry = nextEntry(pending_->measurements);
    for (const auto& path : paths) {
        auto bytes = readWholeFile(path.toStdString());
        if (!bytes) {
            emit message(q(bytes.error().text()), true);
            continue;
        }
        Measurement m;
        m.fileName = QFileInfo(path).fileName().toStdString();
        const auto read = readMeasuredFile(*bytes, m.fileName, unit.toStdString());
        if (!read && read.error().what.starts_with("the unit of frequency")) {
            emit needUnit(q(runId), {path}, link, pair);
            continue;
        }
        if (!read) {
            emit message(q(read.error().text()), true);
            continue;
        }
        m.id = newId();
        m.runId = runId;
        m.takenAt = momentNow();
        m.entry = entry++;
        m.link = link;
        m.pair = pair.toStdString();
        m.frequencyUnit = unit.toStdString();
        attachments.push_back(attach(m.fileName, std::move(*bytes)));
        m.fileHash = attachments.back().hash;
        edit.title += " " + m.fileName;
        edit.changes.push_back(put(std::optional<Measurement>{}, std::optional(m)));
    }
    if (edit.changes.empty())
        return;
    edit.title += " for " + run->label;
    commit(edit, std::move(attachments));
}

void Session::typeTester(const std::string& runId, LinkKind link, const TesterAnswer& answer) {
    const Run* run = hasJob() ? pending_->run(runId) : nullptr;
    if (run == nullptr)
        return;
    Measurement m;
    m.id = newId();
    m.runId = runId;
    m.takenAt = momentNow();
    m.entry = nextEntry(pending_->measurements);
    m.link = link;
    m.tester = answer;
    commit({"typed test of " + run->label, {put(std::optional<Measurement>{}, std::optional(m))}});
}

void Session::removeMeasurement(const std::string& id) {
    for (const auto& m : pending_->measurements)
        if (m.id == id) {
            commit({"remove a test", {put(std::optional(m), std::optional<Measurement>{})}});
            return;
        }
}

void Session::confirmMeasurement(const std::string& id) {
    for (const auto& m : pending_->measurements)
        if (m.id == id) {
            Measurement after = m;
            after.confirmed = true;
            commit({"say that " + m.fileName + " is this run's",
                    {put(std::optional(m), std::optional(after))}});
            return;
        }
}

} // namespace burin
