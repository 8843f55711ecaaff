#pragma once
#include "app/frame/panel.h"
#include "app/frame/save_dialog.h"
#include "app/frame/stage.h"
#include "app/pull/box_bars.h"
#include "app/pull/marks_entry.h"
#include "app/pull/pull_list.h"
#include "files/pull_print.h"

namespace burin {

/// Pull: what goes together, from which boxes, and what came of it.
class PullStage : public Stage {
    Q_OBJECT
public:
    explicit PullStage(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QList<KeyHelp> keys() const override;

protected:
    void showParts(unsigned parts) override;

private:
    [[nodiscard]] const PullPlan* plan() const;
    [[nodiscard]] const PullFinding* pull() const;
    QWidget* makeBoxes();
    QWidget* makeSheet();
    void showHead();
    void showSheet();
    void showCures();
    void keepBox();
    void typeOver(const QString& boxId);
    [[nodiscard]] std::vector<SaveKind>
    onPaper(const std::function<std::string(PaperSize)>& bytes) const;
    void print(const QString& title, const std::vector<SaveKind>& kinds);
    void printLabels();
    void showMaterials();
    QWidget* makePrints();
    void move(int by);
    void place(std::size_t at, std::size_t to);
    void placeBy(const QString& runId, const QString& ofPull, bool after);
    void moveRun(int by);
    void moveRunTo(const QString& runId, const QString& ofPull);
    void joinBy(const QString& runId, const QString& ofPull);
    void join();
    void change(const QString& title, const std::function<void(Pull&)>& change);
    void commit(const Outcome<Edit>& edit);
    void nextPull();

    QLabel *headline_, *counts_, *force_, *notes_, *cautions_, *short_, *cures_, *boxes_, *left_;
    Panel* sheet_;
    PullList* list_;
    BoxBars* bars_;
    QLineEdit* newBox_;
    MarksEntry* marks_;
    QPushButton *working_, *boxWorking_, *otherEnd_, *lubricate_, *grip_, *alone_, *join_,
        *release_;
    QLabel* late_;
    std::string boxId_;    ///< that is typed over; empty: a new one is typed
    bool goingOn_ = false; ///< the next pull was asked for: its first mark gets the focus
};

} // namespace burin
