#pragma once
#include "app/survey/item_sheet.h"
#include "app/survey/picture_loader.h"
#include "app/survey/plan_view.h"
#include "app/survey/schedule_view.h"
#include "app/survey/way_panel.h"
#include <QComboBox>
#include <QScrollArea>
#include <QToolButton>

namespace burin {

/// Survey: the floor, what is drawn on it, what each room gets, and which way the runs go.
class SurveyStage : public QWidget {
    Q_OBJECT
public:
    explicit SurveyStage(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] PlanView* plan() const { return plan_; }
    /// Puts a picture or a page of a PDF under the floor shown.
    void bringPicture(const QString& path, int page = 0);
    /// Pins photographs to a place of the floor shown, to its room and the wall beside it.
    void pinPhotographs(const QStringList& paths, const PlanPoint& at);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    QWidget* makeHead();
    QWidget* makeTools();
    QWidget* makeSide();
    void show();
    void showFloors();
    void showHeadline();
    void showPicture();
    void showTool();
    void showRunsFloor();
    void showSheets();
    void addFloor();
    void askPicture();
    void takePicture(const QString& path, const QImage& image, int pages, bool scaled);
    void changeRules(const QString& title, const std::function<void(SurveyRules&)>& change);
    void makeRulesMenu(QToolButton* button);
    void askLabels();

    Session& session_;
    QLabel *headline_, *said_;
    QComboBox *floors_, *preset_;
    QList<QToolButton*> tools_;
    PlanView* plan_;
    ItemSheet *sheet_, *floorSheet_;
    ScheduleView* schedule_;
    WayPanel* way_;
    MattersPanel* matters_;
    ClosingPanel* closing_;
    QScrollArea* side_;
    PictureLoader* loader_;
    std::vector<std::string> shownFloors_;
    std::string shownPicture_; ///< hash and page of what lies under the plan now
    bool bringing_ = false;    ///< the picture being read is a new one
    std::string bringingTo_;   ///< the floor it is for
    int bringingPage_ = 0;
};

} // namespace burin
