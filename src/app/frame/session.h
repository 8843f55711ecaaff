#pragma once
#include "app/frame/store_thread.h"
#include "core/edit/run_text.h"
#include "core/finding/cable_choice.h"
#include "core/finding/job_findings.h"
#include "core/units/render.h"
#include <QThreadPool>
#include <atomic>

namespace burin {

/// What all panels share: the job as kept, its findings, the selection, the units. Edits go
/// through here; what comes back has been written.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(Catalogue shipped);
    ~Session() override;

    [[nodiscard]] bool hasJob() const { return snapshot_.job != nullptr; }
    /// Its file was moved, replaced or changed by others: no edit is kept any more.
    [[nodiscard]] bool fileLost() const { return fileLost_; }
    [[nodiscard]] const Job& job() const { return *snapshot_.job; }
    /// What the plan tells of the job; never null while there is one.
    [[nodiscard]] const std::shared_ptr<const SitePlan>& site() const { return snapshot_.site; }
    [[nodiscard]] const Catalogue& catalogue() const { return *snapshot_.catalogue; }
    [[nodiscard]] const Snapshot& snapshot() const { return snapshot_; }
    StoreThread& store() { return store_; }

    [[nodiscard]] UnitSystem units() const { return units_; }
    void setUnits(UnitSystem units);
    /// How the core's sentences are written on screen.
    [[nodiscard]] Rendering rendering() const;
    /// The day that work is laid out from; without it the computer's.
    void setToday(const std::string& date) { today_ = date; }
    [[nodiscard]] std::string today() const;

    [[nodiscard]] const std::string& currentId() const { return current_; }
    [[nodiscard]] const Run* current() const { return hasJob() ? job().run(current_) : nullptr; }
    [[nodiscard]] const std::vector<std::string>& selected() const { return selected_; }
    void select(const std::string& current, std::vector<std::string> all);

    /// The finding of a run: fresh for the current one, the last known for others; null when none.
    [[nodiscard]] const RunFinding* finding(const std::string& runId) const;
    /// Of the current run, or of the preview while one is held.
    [[nodiscard]] const RunFinding* currentFinding() const;
    /// The current run as shown, preview or kept.
    [[nodiscard]] const Run* shown() const { return preview_ ? &*preview_ : current(); }
    /// Of every run, as last computed.
    [[nodiscard]] const std::vector<RunFinding>& findings() const;
    /// Of the job's systems, as last computed; nullptr while there are none yet.
    [[nodiscard]] std::shared_ptr<const JobFindings> jobFindings() const { return findings_; }
    /// What would cure the current run and its system has been looked for; it comes after the
    /// verdicts.
    [[nodiscard]] bool curesAreIn() const;

    /// Cables for the current run, as its way and service allow; nullptr until they are worked out.
    [[nodiscard]] const std::vector<CableChoice>* cableChoices() const;
    /// What will be closed, as last computed.
    [[nodiscard]] const std::vector<Closing>& closings() const;

    /// Shows a run as it would be, not kept, until `commit` or `dropPreview`.
    void preview(const Run& run);
    void dropPreview();
    [[nodiscard]] bool previewing() const { return preview_.has_value(); }

    /// Asks for an edit. Refused at once (message) when it makes no sense.
    void commit(const Edit& edit, std::vector<Attachment> attachments = {});
    /// The same, and the run it makes or changes is selected once it is kept.
    void commitAndSelect(const Edit& edit);
    /// The job with every edit asked for, kept yet or not: what the next edit starts from.
    [[nodiscard]] const Job& pending() const { return *pending_; }
    void undo();
    void redo();
    /// One edit that puts `change` on every selected run.
    void changeSelected(const QString& title, const std::function<void(Run&)>& change);
    /// What is to be typed over: a run that follows the plan as laid by it, following no more.
    [[nodiscard]] Run toType(const Run& kept) const;
    /// Adds a run from a typed line; false and a message when it cannot be read.
    bool addRun(const QString& text);
    void duplicateSelected();
    void removeSelected();
    void renameRun(const std::string& runId, const QString& label);
    void renameRoom(const std::string& roomId, const QString& name);
    /// Reads measured files and ties them to the run; a CSV without a unit asks through needUnit.
    void bringIn(const std::string& runId, const QStringList& files, LinkKind link,
                 const QString& pair, const QString& unit = {});
    void typeTester(const std::string& runId, LinkKind link, const TesterAnswer& answer);
    void removeMeasurement(const std::string& id);
    /// Says that a file whose loss looks like another run's is this run's.
    void confirmMeasurement(const std::string& id);

signals:
    void jobChanged();
    void jobOpened();
    void findingsChanged();
    void cableChoicesChanged();
    void selectionChanged();
    void previewChanged();
    void unitsChanged();
    void message(const QString& text, bool bad);
    void needUnit(const QString& runId, const QStringList& files, burin::LinkKind link,
                  const QString& pair);

private:
    void take(const Snapshot& snapshot);
    void recompute();
    void publish(int mine, const Snapshot& snapshot, const std::shared_ptr<const JobFindings>& all,
                 const std::string& curesOf);
    void lookForCures();
    void publishCures(int mine, const Snapshot& snapshot, const JobFindings& known,
                      const std::string& wanted, const std::function<bool()>& stop);
    void computeCurrent();
    void chooseCables();
    /// Does it beside the screen; what goes wrong is a message.
    void beside(const std::function<void()>& work);

    StoreThread store_;
    Snapshot snapshot_;
    std::shared_ptr<const Job> pending_; ///< the job with every edit asked for
    int waiting_ = 0;
    bool fileLost_ = false;
    UnitSystem units_ = UnitSystem::Metric;
    std::string today_;
    std::string current_, wanted_;
    std::vector<std::string> selected_;
    std::shared_ptr<const JobFindings> findings_;
    std::shared_ptr<const Catalogue> findingsCatalogue_; ///< they point into it
    std::map<std::string, std::size_t> findingOf_;
    std::shared_ptr<const Job> findingsFor_;
    std::shared_ptr<const std::vector<CableChoice>> choices_;
    std::string choicesOf_; ///< the run they are of
    RunFinding currentFinding_;
    std::optional<Run> preview_;
    RunFinding previewFinding_;
    QThreadPool pool_;
    std::shared_ptr<std::atomic<int>> generation_ = std::make_shared<std::atomic<int>>(0);
    std::shared_ptr<std::atomic<int>> choosing_ = std::make_shared<std::atomic<int>>(0);
};

} // namespace burin
