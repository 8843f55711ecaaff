#include "app/frame/said.h"
#include "app/frame/session.h"
#include "app/look/painters.h"
#include "core/base/lookup.h"
#include "core/edit/removal.h"
#include "core/job/ports.h"
#include "files/measured_file.h"
#include "files/text_cursor.h"
#include <QFileInfo>
#include <algorithm>

namespace burin {

bool Session::addRun(const QString& text) {
    if (!hasJob())
        return false;
    if (const auto named = namedRoom(text.toStdString(), *pending_)) {
        commit(*named);
        return true;
    }
    auto parsed = parseNewRun(text.toStdString(), *pending_, catalogue(), units_);
    if (!parsed) {
        emit message(said(parsed.error(), *this), true);
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
    PortFinder ports(*pending_);
    const IdFinder<Run> runs(pending_->runs, selected_.size());
    std::vector<const Run*> copied;
    for (const auto& id : selected_) {
        const Run* run = runs.find(id);
        if (run == nullptr)
            continue;
        Run copy = likeOf(*run);
        copy.label = labels.next(run->label);
        copy.order = run->order + 1;
        ports.moveToFree(copy);
        wanted_ = copy.id;
        edit.changes.push_back(put(std::optional<Run>{}, std::optional(copy)));
        copied.push_back(run);
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
    Edit edit{"remove", removalOf(*pending_, selected_)};
    const Run* first = pending_->run(selected_.front());
    edit.title = selected_.size() == 1 && first != nullptr
                     ? "remove " + first->label
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
            emit message(said(bytes.error(), *this), true);
            continue;
        }
        Measurement m;
        m.fileName = QFileInfo(path).fileName().toStdString();
        const auto read = readMeasuredFile(*bytes, m.fileName, unit.toStdString());
        if (!read && read.error().code() == unitUnknown.key) {
            emit needUnit(q(runId), {path}, link, pair);
            continue;
        }
        if (!read) {
            emit message(said(read.error(), *this), true);
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
