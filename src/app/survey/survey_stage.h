#pragma once
#include "app/frame/photograph_view.h"
#include "app/frame/picture_loader.h"
#include "app/frame/stage.h"
#include "app/survey/item_sheet.h"
#include "app/survey/plan_view.h"
#include "app/survey/schedule_view.h"
#include "app/survey/way_panel.h"
#include <QComboBox>
#include <QScrollArea>
#include <QSpinBox>
#include <QTimer>
#include <QToolButton>

namespace burin {

/// Survey: the floor, what is drawn on it, what each room gets, and which way the runs go.
class SurveyStage : public Stage {
    Q_OBJECT
public:
    explicit SurveyStage(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QList<KeyHelp> keys() const override;
    [[nodiscard]] PlanView* plan() const { return plan_; }
    /// Puts a picture or a page of a PDF under the floor shown.
    void bringPicture(const QString& path, int page = 0);
    /// Pins photographs to a place of the floor shown, to its room and the wall beside it.
    void pinPhotographs(const QStringList& paths, const PlanPoint& at);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void showParts(unsigned parts) override;

private:
    QWidget* makeHead();
    QWidget* makeTools();
    QWidget* makeSide();
    enum Part : unsigned { PlanPart = 1, RunPart = 2, ProofPart = 4 };
    void showFloors();
    void showHeadline();
    void showPicture();
    void showTool();
    void showRunsFloor();
    void showSheets();
    void addFloor();
    void askPicture();
    void takePicture(const LoadedPicture& read, int page, const std::string& floorId);
    /// Another page of the PDF that lies under the floor, in the same place and scale.
    void turnTo(int page);
    void showPages(int pages, int page);
    /// Photographs being read, to be pinned as one edit.
    struct Pins {
        qsizetype left = 0;
        std::string floorId;
        PlanPoint at;
        std::vector<LoadedPicture> good;
        QStringList faults;
    };
    void takePhotographs(const Pins& pins);

    QLabel *headline_, *said_;
    QComboBox *floors_, *preset_;
    QSpinBox* page_;
    QList<QToolButton*> tools_;
    PlanView* plan_;
    ItemSheet *sheet_, *floorSheet_, *rules_;
    ScheduleView* schedule_;
    WayPanel* way_;
    MattersPanel* matters_;
    ClosingPanel* closing_;
    QScrollArea* side_;
    bool rulesWanted_ = false;
    PhotographView* photograph_;
    PictureLoader *loader_, *photographs_;
    std::vector<std::string> shownFloors_;
    std::string floorFor_;     ///< the run whose floor was shown
    std::string shownPicture_; ///< hash and page of what lies under the plan now
};

} // namespace burin
