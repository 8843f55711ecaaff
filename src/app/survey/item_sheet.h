#pragma once
#include "app/frame/panel.h"
#include "app/frame/session.h"
#include <QGridLayout>

namespace burin {

/// What a thing on the plan is, edited in place; the floor itself where nothing is chosen.
class ItemSheet : public Panel {
    Q_OBJECT
public:
    explicit ItemSheet(Session& session, QWidget* parent = nullptr);
    void show(const std::string& floorId, const std::string& chosenId);

private:
    Session& session_;
    void showEnds();
    void tie(bool far);
    QGridLayout* grid_;
    QPushButton *near_, *far_; ///< the selected run ends at the chosen place
    std::string floorId_, chosenId_;
    QString shown_; ///< what it reads like now
};

} // namespace burin
