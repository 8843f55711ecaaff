#pragma once
#include "app/frame/panel.h"
#include "app/frame/sheet_field.h"

namespace burin {

/// Where nothing was numbered: at which port the tone of the chosen run is heard. Enter keeps it
/// and goes on to the next that is not told apart. Hidden where there is nothing to tell.
class ToneLine : public Panel {
    Q_OBJECT
public:
    explicit ToneLine(Session& session, QWidget* parent = nullptr);
    /// After the job or the selection changed.
    void showRun();

private:
    void keep();

    Session& session_;
    QLabel *said_, *left_;
    SheetField* at_;
    QPushButton *keep_, *again_;
    std::string runId_;
};

} // namespace burin
