#pragma once
#include "app/frame/beginnings.h"
#include "app/frame/file_dialog.h"
#include "app/frame/runs_panel.h"
#include "app/frame/stage.h"
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
    Stage* widget = nullptr;
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
    /// Stands where that one stood, on the same stage.
    void takePlaceOf(const Window& old);
    /// Whether jobs that are opened here are among the recent ones.
    void setRemembers(bool remembers) { remembers_ = remembers; }
    RunsPanel* runs() { return runs_; }
    Strip* strip() { return strip_; }

signals:
    /// Files were dropped on a run of the list.
    void filesDropped(const QString& runId, const QStringList& files);
    /// Another language was asked for, by its code.
    void languageChosen(const QString& code);

protected:
    void closeEvent(QCloseEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* makeHead();
    void makeMenu(QToolButton* button);
    void fillLanguages(QMenu* menu);
    void makeShortcuts();
    void showKeys();
    void showJob();
    void showDone();
    void showOpen();
    void showMessage(const QString& text, bool bad);
    void placeMessage();
    void fitTitle();
    void newJob();
    void openJob();
    void saveCopy();
    void joinCopy();
    void showOpenEnds();
    void exportJob();
    void importJob();
    void changeInfo(const QString& title, const std::function<void(JobInfo&)>& change);
    void addUserCable();
    void openSample();
    void drawSite();
    void fillRecent(QMenu* menu);
    void reopenLast();
    /// Asks for the file of a job; empty: none was chosen.
    [[nodiscard]] QString askJob(Ask what, const QString& title);

    Session& session_;
    QList<StageView> stages_;
    QLabel *title_, *path_, *message_;
    QStringList kept_; ///< what is said beside the name: whole, and where there is less room
    StageLine* line_;
    QToolButton *units_, *dark_, *menu_;
    QPushButton* decide_; ///< shown while something is
    QAction *undo_ = nullptr, *redo_ = nullptr;
    RunsPanel* runs_;
    QStackedWidget* stack_;
    Beginnings* beginnings_;
    bool beginning_ = false; ///< the job that was opened is empty, and no stage was asked for yet
    bool remembers_ = true;
    Strip* strip_;
    QTimer fade_; ///< of the message
};

} // namespace burin
