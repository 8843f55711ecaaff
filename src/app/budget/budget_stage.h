#pragma once
#include "app/budget/bus_view.h"
#include "app/budget/feedline_view.h"
#include "app/budget/system_sheet.h"
#include "app/budget/tree_view.h"
#include "app/frame/loss_plot.h"
#include "app/frame/panel.h"
#include "app/frame/run_sheet.h"
#include "app/frame/stage.h"
#include "core/finding/expected.h"
#include <QComboBox>

namespace burin {

/// How far this cable goes for each service, the run's own length across.
class ReachBars : public QWidget {
    Q_OBJECT
public:
    explicit ReachBars(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {300, sizeHint().height()}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Session& session_;
};

/// Where the dB go: one bar to the limit and a line for each part.
class DbBar : public QWidget {
    Q_OBJECT
public:
    explicit DbBar(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Session& session_;
};

/// What would make the run hold; a click or Enter adopts one.
class Cures : public QWidget {
    Q_OBJECT
public:
    explicit Cures(Session& session, QWidget* parent = nullptr);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void show();
    void adopt(const Cure& cure);
    Session& session_;
    QVBoxLayout* list_;
    struct Row {
        QPushButton* adopt;
        QLabel* cost;
        QBoxLayout* line;
    };
    std::vector<Row> rows_;
};

/// Budget: will it hold, how far does the cable go, where do the dB go, what would cure it.
class BudgetStage : public Stage {
    Q_OBJECT
public:
    explicit BudgetStage(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QList<KeyHelp> keys() const override;
    RunSheet* sheet() { return sheet_; }

protected:
    void showParts(unsigned parts) override;

private:
    void showPlot(const RunFinding& finding);
    QWidget* makePlotHead();
    void showParameters(const RunFinding& finding, const Expected& expected);
    [[nodiscard]] PlotContent lossContent(const RunFinding& finding) const;
    [[nodiscard]] PlotContent expectedContent(const RunFinding& finding, const Expected& expected,
                                              Parameter parameter);
    void showVerdict(const RunFinding& finding);
    void showReachWorking();
    void showLossWorking();
    void showConnectors();
    void showSystem(const RunFinding& finding);
    static void arrange(std::initializer_list<std::pair<QWidget*, bool>> parts);
    void showSystemWorking();
    void showSystemCures(const RunFinding& run, const DistributionFinding* levels,
                         const BusChainFinding* wave);

    QLabel *question_, *answer_, *reason_, *judged_;
    RunSheet* sheet_;
    LossPlot* plot_;
    QWidget* plotHead_;
    QComboBox* parameter_;                         ///< that is plotted
    QLabel* binding_;                              ///< what binds, where it is not what is plotted
    Parameter plotted_ = Parameter::InsertionLoss; ///< that was asked for
    Panel *verdict_, *reach_, *parts_, *curesPanel_;
    QLabel* costs_;
    Panel* feedline_;
    FeedlineView* feedlineView_;
    Panel* system_;
    SystemSheet* systemSheet_;
    TreeView* tree_;
    BusView* bus_;
    QScrollArea *treeScroll_, *busScroll_;
    QPushButton* instead_; ///< the loss plot in place of the system's picture, and back
    QLabel* systemCures_;
    QPushButton* expectedLink_;
    bool lossWanted_ = false;
};

} // namespace burin
