#pragma once
#include "app/frame/runs_panel.h"
#include "app/frame/stage_line.h"
#include "app/frame/strip.h"
#include <QLabel>
#include <QMainWindow>
#include <QPushButton>
#include <QStackedWidget>
#include <QTimer>
#include <QToolButton>

namespace burin {

/// A stage as the window knows it.
struct StageView {
    QString name;
    QWidget* widget = nullptr;
    Strip::Below below = Strip::Below::RunningLoss;
    bool worksEmpty = false; ///< shown for a job that has no runs yet
};

/// The frame around the stages: title, stage line, runs, strip, messages.
class Window : public QMainWindow {
    Q_OBJECT
public:
    /// `makeStages` builds the stages; they hear of the session, not of one another.
    Window(Session& session, const std::function<QList<StageView>(QWidget*)>& makeStages);
    void showStage(int index);
    [[nodiscard]] int stage() const { return stack_->currentIndex(); }
    RunsPanel* runs() { return runs_; }
    Strip* strip() { return strip_; }

signals:
    /// Files were dropped on a run of the list.
    void filesDropped(const QString& runId, const QStringList& files);

protected:
    void closeEvent(QCloseEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* makeHead();
    QWidget* makeEmpty();
    void makeMenu(QToolButton* button);
    void makeUserCableMenu(QMenu* menu);
    void makeShortcuts();
    void showJob();
    void showDone();
    void showOpen();
    void showMessage(const QString& text, bool bad);
    void placeMessage();
    void newJob();
    void openJob();
    void saveCopy();
    void joinCopy();
    void showOpenEnds();
    void exportJob();
    void importJob();
    void changeInfo(const QString& title, const std::function<void(JobInfo&)>& change);
    void addUserCable();
    [[nodiscard]] QString askPath(const QString& title, bool save, const QString& filter,
                                  const QString& suffix);

    Session& session_;
    QList<StageView> stages_;
    QLabel *title_, *path_, *message_, *first_;
    StageLine* line_;
    QToolButton *units_, *dark_, *menu_;
    QPushButton* decide_; ///< shown while something is
    QAction *undo_ = nullptr, *redo_ = nullptr;
    RunsPanel* runs_;
    QStackedWidget* stack_;
    QWidget* empty_ = nullptr;
    Strip* strip_;
    QTimer fade_; ///< of the message
};

} // namespace burin
