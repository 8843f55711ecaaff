#pragma once
#include "app/frame/loss_plot.h"
#include "app/frame/panel.h"
#include "app/frame/stage.h"
#include "app/test/tone_line.h"
#include <QComboBox>
#include <QLineEdit>

namespace burin {

/// The pairs as they lie, twisted, with what is open, short, crossed or reversed.
class PairsView : public QWidget {
    Q_OBJECT
public:
    PairsView(const Session& session, QWidget* parent);
    void setWires(const WireFinding* wires); ///< nullptr: none
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    const Session& session_;
    std::optional<WireFinding> wires_;
};

/// Margin of each parameter, left of the line beyond the limit, right of it spare. One line can be
/// chosen by click or arrow keys: it is the one that is plotted.
class MarginBars : public QWidget {
    Q_OBJECT
public:
    explicit MarginBars(QWidget* parent = nullptr);
    struct Row {
        ParameterResult result;
        std::optional<double> before; ///< the superseded test's margin
    };
    void setRows(std::vector<Row> rows, const QString& empty);
    [[nodiscard]] int chosen() const { return chosen_; }
    [[nodiscard]] const std::vector<Row>& rows() const { return rows_; }
    [[nodiscard]] QSize sizeHint() const override;

signals:
    void rowChosen(int row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    std::vector<Row> rows_;
    QString empty_;
    int chosen_ = 0;
};

/// A plain tester's answer, typed: eight pins and shield, metres, ohms, port speed.
class TesterEntry : public QWidget {
    Q_OBJECT
public:
    explicit TesterEntry(Session& session, QWidget* parent = nullptr);
    void focusPins();
    [[nodiscard]] LinkKind linkKind() const;
    [[nodiscard]] QString pair() const;

signals:
    void openFiles();

private:
    void keep();
    QLineEdit* field(const QString& name, const QString& tip, const char* id, int width);
    Session& session_;
    QLineEdit *pins_, *metres_, *ohms_, *speed_;
    QComboBox *link_, *pair_;
};

/// Test: bring in what was measured, see it against limit and prediction, and what it proves.
class TestStage : public Stage {
    Q_OBJECT
public:
    explicit TestStage(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QList<KeyHelp> keys() const override;
    TesterEntry* entry() { return entry_; }

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void showParts(unsigned parts) override;

private:
    void showCoverage();
    void showJudgement();
    void showHistory(const RunFinding& finding);
    void showPlot();
    void openFiles();
    void askUnit(const QString& runId, const QStringList& files, LinkKind link,
                 const QString& pair);
    /// The measurement the run is judged by; null when none.
    [[nodiscard]] const MeasurementFinding* judged() const;
    void showWorkingOfChosen();

    QLabel *finding_, *coverage_, *service_, *class_, *notes_;
    TesterEntry* entry_;
    ToneLine* tone_;
    Panel *pairsPanel_, *margins_, *notesPanel_, *unitPanel_;
    PairsView* pairs_;
    MarginBars* bars_;
    QPushButton *byService_, *byClass_, *working_, *ours_;
    QVBoxLayout* history_;
    LossPlot* plot_;
    bool classShown_ = false;
};

} // namespace burin
