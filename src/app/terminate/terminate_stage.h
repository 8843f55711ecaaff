#pragma once
#include "app/frame/panel.h"
#include "app/frame/photograph_view.h"
#include "app/frame/stage.h"
#include "app/terminate/end_checks.h"
#include "app/terminate/end_list.h"
#include "app/terminate/end_view.h"
#include "app/terminate/own_lengths.h"
#include "app/terminate/pins_view.h"
#include "app/terminate/tools_view.h"
#include "core/finding/cable_choice.h"
#include <QComboBox>
#include <QScrollArea>
#include <QStackedWidget>
#include <array>

namespace burin {

/// Terminate: how each end is made, how it must look, which are made, by whom and with what.
class TerminateStage : public Stage {
    Q_OBJECT
public:
    explicit TerminateStage(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QList<KeyHelp> keys() const override;

protected:
    void resizeEvent(QResizeEvent* event) override;
    void showParts(unsigned parts) override;

private:
    [[nodiscard]] bool hasRoom() const;
    [[nodiscard]] End end() const { return far_ ? End::Far : End::Near; }
    [[nodiscard]] QWidget* makeList();
    [[nodiscard]] QWidget* makeCard();
    [[nodiscard]] QWidget* makeDrawing();
    [[nodiscard]] QWidget* makeSteps();
    [[nodiscard]] QWidget* makeProofs();
    void showHead(const Run& run, const EndFinding& end);
    void showConnectors(const Run& run, const EndFinding& end);
    void showPins(const Run& run, const EndFinding& end);
    void showCard(const EndFinding& end);
    void showChecks(const Run& run, const EndFinding& end);
    void showScale();
    void showList();
    void showTools(const EndFinding* end);
    void fitWidths();
    void turnTo(bool far);
    void bringPhotographs(const QStringList& files);
    void adopt(int index);
    void adoptAlike(Alike where);
    void print();
    [[nodiscard]] MadeWith with() const;
    void commit(const Edit& edit);
    void made();
    void spoiled();
    void unmade();
    void askPhotograph();
    void openOwn();

    QVBoxLayout* card_ = nullptr;
    QLabel *headline_, *which_;
    QPushButton *nearEnd_, *farEnd_;
    QComboBox* connector_;
    QPushButton *alike_, *inRoom_;
    EndView* view_;
    QLabel* scale_;
    QPushButton *trueSize_, *calibrate_, *print_, *own_;
    PinsView* pins_;
    QScrollArea* beside_ = nullptr;
    QLabel *pinsSaid_, *first_, *fit_;
    std::array<QVBoxLayout*, 2> steps_; ///< columns
    QLabel *said_, *schools_, *tools_, *care_;
    EndChecks* checks_;
    Panel* carePanel_;
    QStackedWidget* pages_; ///< card, tools, own lengths
    ToolsView* toolsView_;
    OwnLengths* ownLengths_;
    EndList* list_;
    QLabel *counts_, *due_;
    QPushButton *made_, *spoiled_, *unmade_, *bring_, *openTools_;
    QLineEdit* who_;
    QComboBox *strip_, *close_;
    PictureLoader* photographs_; ///< new ones
    PhotographView* photograph_; ///< of the end that is shown
    QLabel* record_;             ///< who made it
    Panel* listPanel_ = nullptr;
    bool far_ = false;
    std::string toolsFor_; ///< the connector that the tools are chosen for
};

} // namespace burin
