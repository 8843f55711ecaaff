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
    QGridLayout* grid_;
    std::string floorId_, chosenId_;
    QString shown_; ///< what it reads like now
};

} // namespace burin
