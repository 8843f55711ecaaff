#pragma once
#include "app/frame/panel.h"
#include "app/frame/stage.h"
#include "app/terminate/end_view.h"
#include "app/terminate/pins_view.h"
#include "core/finding/cable_choice.h"
#include <QComboBox>
#include <array>

namespace burin {

/// Terminate: how each end is made, and how it must look.
class TerminateStage : public Stage {
    Q_OBJECT
public:
    explicit TerminateStage(Session& session, QWidget* parent = nullptr);

protected:
    void showParts(unsigned parts) override;

private:
    [[nodiscard]] End end() const { return far_ ? End::Far : End::Near; }
    [[nodiscard]] QWidget* makeDrawing();
    [[nodiscard]] QWidget* makeSteps();
    [[nodiscard]] QWidget* makeProofs();
    void showHead(const Run& run, const EndFinding& end);
    void showConnectors(const Run& run, const EndFinding& end);
    void showPins(const Run& run, const EndFinding& end);
    void showCard(const EndFinding& end);
    void showScale();
    void adopt(int index);
    void adoptAlike();
    void print();

    QVBoxLayout* all_ = nullptr;
    QLabel *headline_, *which_;
    QPushButton *nearEnd_, *farEnd_;
    QComboBox* connector_;
    QPushButton* alike_;
    EndView* view_;
    QLabel* scale_;
    QPushButton *trueSize_, *calibrate_, *print_;
    PinsView* pins_;
    QLabel *pinsSaid_, *first_, *fit_;
    std::array<QVBoxLayout*, 2> steps_; ///< columns
    QLabel *proofs_, *schools_, *tools_, *care_;
    Panel* carePanel_;
    bool far_ = false;
};

} // namespace burin
